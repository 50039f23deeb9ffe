"""Signing in and out."""

from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from web.accounts import views

app_name = "accounts"
sign_in = login_not_required(LoginView.as_view(template_name="accounts/sign_in.html", redirect_authenticated_user=True))
urlpatterns = [
    path("sign-in/", sign_in, name="sign_in"),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
    path("shop/", views.shop, name="shop"),
    path("people/<uuid:public_id>/certificate/", views.certificate, name="certificate"),
    path("preferences/", views.preferences, name="preferences"),
]
