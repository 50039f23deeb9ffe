"""Gateways and their samples."""

from django.urls import path

from web.probes import views

app_name = "probes"
urlpatterns = [
    path("", views.gateways, name="gateways"),
    path("samples/", views.samples, name="samples"),
    path("heard/", views.heard, name="heard"),
    path("<uuid:public_id>/revoke/", views.revoke, name="revoke"),
]
