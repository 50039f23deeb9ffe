"""A machine over the years."""

from django.urls import path

from web.history.views import due, machine, refrigerant

app_name = "history"
urlpatterns = [
    path("was-it-right/", machine.right, name="right"),
    path("due/", due.page, name="due"),
    path("refrigerant/", refrigerant.page, name="refrigerant"),
    path("refrigerant/csv/", refrigerant.as_csv, name="refrigerant_csv"),
    path("cylinders/", refrigerant.cylinders, name="cylinders"),
    path("cylinders/<uuid:public_id>/", refrigerant.cylinder, name="cylinder"),
    path("<uuid:public_id>/", machine.system, name="system"),
    path("<uuid:public_id>/said/", machine.said, name="said"),
    path("<uuid:public_id>/csv/", machine.as_csv, name="csv"),
]
