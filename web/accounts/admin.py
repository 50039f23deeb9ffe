"""The pages of the host's own staff: shops and the people in them, nothing of a customer. Off unless the setting
HOST_PAGES names an address; the door is everybody's, with a second factor.
"""

from django.contrib import admin
from django.contrib.auth.views import redirect_to_login
from django.core.exceptions import PermissionDenied

from web.accounts import second
from web.accounts.models import Deed, Shop, User


class HostSite(admin.AdminSite):
    """Django's admin behind our own door."""

    site_header = site_title = "Ruddy Draft, the host's pages"
    index_title = "Shops and people"
    site_url = None

    def has_permission(self, request):
        person = request.user
        return person.is_active and person.is_staff and person.shop_id is None and second.is_on(person)

    def login(self, request, extra_context=None):
        if request.user.is_authenticated:
            raise PermissionDenied("for the host's staff, who belong to no shop and have a second factor")
        return redirect_to_login(request.get_full_path())


class Looked(admin.ModelAdmin):
    """Rows that are neither made nor deleted here; what is changed of them is in the site's own log."""

    def has_add_permission(self, request):
        return False

    def has_delete_permission(self, request, obj=None):
        return False


class ShopPage(Looked):
    list_display = ("name", "time_zone", "keeps_years")
    search_fields = ("name",)
    fields = ("name", "time_zone")


class PersonPage(Looked):
    list_display = ("username", "first_name", "last_name", "shop", "role", "is_active", "last_login")
    list_filter = ("role", "is_active")
    search_fields = ("username", "first_name", "last_name", "email")
    fields = ("username", "first_name", "last_name", "email", "shop", "role", "is_active")
    readonly_fields = ("username", "shop", "role")


class DeedPage(Looked):
    list_display = ("at", "shop", "by", "did", "detail")
    list_filter = ("did",)

    def has_change_permission(self, request, obj=None):
        return False


host = HostSite(name="admin")
host.register(Shop, ShopPage)
host.register(User, PersonPage)
host.register(Deed, DeedPage)
