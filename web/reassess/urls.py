"""Judging again."""

from django.urls import path

from web.reassess import views

app_name = "reassess"
urlpatterns = [
    path("", views.page, name="page"),
    path("trial/", views.trial, name="trial"),
    path("<uuid:public_id>/", views.result, name="result"),
]
