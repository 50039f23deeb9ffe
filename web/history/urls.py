"""A machine over the years."""

from django.urls import path

from web.history.views import calendars, deeds, due, lead, machine, plans, refrigerant

app_name = "history"
urlpatterns = [
    path("was-it-right/", machine.right, name="right"),
    path("due/", due.page, name="due"),
    path("refrigerant/", refrigerant.page, name="refrigerant"),
    path("refrigerant/csv/", refrigerant.as_csv, name="refrigerant_csv"),
    path("cylinders/", refrigerant.cylinders, name="cylinders"),
    path("cylinders/<uuid:public_id>/", refrigerant.cylinder, name="cylinder"),
    path("calendar/", calendars.page, name="calendar"),
    path("calendar/<str:token>.ics", calendars.feed, name="feed"),
    path("who-did-what/", deeds.page, name="deeds"),
    path("lead/", lead.page, name="lead"),
    path("lead/visits/", lead.visits, name="lead_visits"),
    path("lead/csv/", lead.as_csv, name="lead_csv"),
    path("plans/<uuid:public_id>/", plans.one, name="plan"),
    path("plans/<uuid:public_id>/event.ics", plans.event, name="plan_event"),
    path("<uuid:public_id>/plan/", plans.new, name="plan_new"),
    path("<uuid:public_id>/plan/ahead/", plans.ahead, name="plan_ahead"),
    path("<uuid:public_id>/", machine.system, name="system"),
    path("<uuid:public_id>/said/", machine.said, name="said"),
    path("<uuid:public_id>/csv/", machine.as_csv, name="csv"),
]
