"""Visits."""

from django.urls import path

from web.visits import views

app_name = "visits"
urlpatterns = [
    path("entries/", views.entries, name="entries"),
    path("what-if/", views.what_if, name="what_if"),
    path("what-if/past/", views.what_if_past, name="what_if_past"),
    path("start/<uuid:system_id>/", views.start, name="start"),
    path("of/<uuid:system_id>/", views.of_system, name="of_system"),
    path("of/<uuid:system_id>/photos/", views.add_nameplate, name="add_nameplate"),
    path("of/<uuid:system_id>/plates/", views.plates_of, name="plates_of"),
    path("photos/<uuid:public_id>/<str:size>/", views.photo, name="photo"),
    path("follow-ups/<uuid:public_id>/close/", views.close_follow_up, name="close_follow_up"),
    path("<uuid:public_id>/", views.sheet, name="sheet"),
    path("<uuid:public_id>/next-round/", views.next_round, name="next_round"),
    path("<uuid:public_id>/hand-over/", views.hand_over, name="hand_over"),
    path("<uuid:public_id>/follow-ups/", views.open_follow_up, name="open_follow_up"),
    path("<uuid:public_id>/pair/", views.pair, name="pair"),
    path("<uuid:public_id>/live/", views.live, name="live"),
    path("<uuid:public_id>/<int:number>/", views.sheet, name="round"),
    path("<uuid:public_id>/<int:number>/preview/", views.preview, name="preview"),
    path("<uuid:public_id>/<int:number>/current/", views.current, name="current"),
    path("<uuid:public_id>/<int:number>/photos/", views.add_photo, name="add_photo"),
]
