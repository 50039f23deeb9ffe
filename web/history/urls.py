"""A machine over the years."""

from django.urls import path

from web.history import views

app_name = "history"
urlpatterns = [
    path("was-it-right/", views.right, name="right"),
    path("<uuid:public_id>/", views.system, name="system"),
    path("<uuid:public_id>/said/", views.said, name="said"),
    path("<uuid:public_id>/csv/", views.as_csv, name="csv"),
]
