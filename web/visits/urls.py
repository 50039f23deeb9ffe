"""Visits."""

from django.urls import path

from web.visits import views

app_name = "visits"
urlpatterns = [
    path("entries/", views.entries, name="entries"),
    path("start/<uuid:system_id>/", views.start, name="start"),
    path("<uuid:public_id>/", views.sheet, name="sheet"),
    path("<uuid:public_id>/preview/", views.preview, name="preview"),
    path("<uuid:public_id>/current/", views.current, name="current"),
]
