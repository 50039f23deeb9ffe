"""House rules."""

from django.urls import path

from web.houserules import views

app_name = "houserules"
urlpatterns = [path("", views.rules, name="rules"), path("change/", views.change, name="change")]
