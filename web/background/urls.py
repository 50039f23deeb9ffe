"""Background work."""

from django.urls import path

from web.background import views

app_name = "background"
urlpatterns = [
    path("", views.page, name="page"),
    path("list/", views.listed, name="listed"),
    path("<uuid:public_id>/stop/", views.stop, name="stop"),
    path("<uuid:public_id>/go-on/", views.go_on, name="go_on"),
    path("<uuid:public_id>/progress/", views.progress, name="progress"),
]
