"""The first screen."""

from django.urls import path

from web.today import views

app_name = "today"
urlpatterns = [path("", views.today, name="today")]
