"""Practice on a simulated house."""

from django.urls import path

from web.practice import views

app_name = "practice"
urlpatterns = [
    path("", views.houses, name="houses"),
    path("<uuid:visit_id>/panel/", views.panel, name="panel"),
    path("<uuid:visit_id>/look/", views.look, name="look"),
    path("<uuid:visit_id>/turn/", views.turn, name="turn"),
    path("<uuid:visit_id>/forward/", views.forward, name="forward"),
]
