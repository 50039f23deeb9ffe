"""What the shop knows of sound machines."""

from django.urls import path

from web.kinds import views

app_name = "kinds"
urlpatterns = [
    path("", views.page, name="page"),
    path("learn/", views.learn_now, name="learn_now"),
    path("leave-out/<uuid:public_id>/", views.leave_out, name="leave_out"),
    path("take-back/<uuid:public_id>/", views.take_back, name="take_back"),
    path("<int:number>/file/", views.exported, name="file"),
]
