"""Houses."""

from django.urls import path

from web.houses import views

app_name = "houses"
urlpatterns = [
    path("", views.house_list, name="list"),
    path("new/", views.edit_house, name="new"),
    path("instruments/", views.instruments, name="instruments"),
    path("instruments/new/", views.edit_instrument, name="new_instrument"),
    path("instruments/<uuid:public_id>/", views.edit_instrument, name="instrument"),
    path("plate/", views.plate_help, name="plate_help"),
    path("systems/<uuid:public_id>/", views.system, name="system"),
    path("systems/<uuid:public_id>/rooms/", views.rooms, name="rooms"),
    path("systems/<uuid:public_id>/tables/", views.tables, name="tables"),
    path("systems/<uuid:public_id>/tables/<str:kind>/", views.tables, name="tables_of"),
    path("systems/<uuid:public_id>/tables/<str:kind>/check/", views.check_table, name="check_table"),
    path("<uuid:public_id>/", views.house, name="house"),
    path("<uuid:public_id>/edit/", views.edit_house, name="edit"),
    path("<uuid:house_id>/systems/new/", views.add_system, name="add_system"),
]
