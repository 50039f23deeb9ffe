"""Signing in and out, the shop and the people in it."""

from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.views import LogoutView
from django.urls import path

from web.accounts.views import door, own, people, shop

app_name = "accounts"
sign_in = login_not_required(door.SignIn.as_view())
urlpatterns = [
    path("sign-in/", sign_in, name="sign_in"),
    path("sign-in/forgotten/", door.forgotten, name="forgotten"),
    path("sign-in/code/", door.ask_code, name="second"),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
    path("shop/", shop.shop, name="shop"),
    path("preferences/", shop.preferences, name="preferences"),
    path("preferences/second-factor/", own.second_factor, name="second_factor"),
    path("preferences/sessions/", own.sessions, name="sessions"),
    path("preferences/password/", own.OwnPassword.as_view(), name="password"),
    path("preferences/mail/", own.email, name="email"),
    path("people/", people.page, name="people"),
    path("people/<uuid:public_id>/", people.change, name="change_person"),
    path("people/links/<uuid:public_id>/end/", people.end, name="end_door"),
    path("come-in/<str:token>/", people.come_in, name="come_in"),
]
