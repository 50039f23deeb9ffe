"""Houses."""

from django.urls import path

from web.houses import views

app_name = "houses"
urlpatterns = [
    path("", views.house_list, name="list"),
    path("<uuid:public_id>/", views.house, name="house"),
]
