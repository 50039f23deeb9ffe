"""All addresses, an app each."""

from django.conf import settings
from django.urls import include, path

from web.accounts.admin import host
from web.exchange.api import urls as api_urls

urlpatterns = [
    path("", include("web.today.urls")),
    path("-/", include("web.shell.urls")),
    path("visits/", include("web.visits.urls")),
    path("history/", include("web.history.urls")),
    path("houses/", include("web.houses.urls")),
    path("probes/", include("web.probes.urls")),
    path("api/v1/", api_urls()),
    path("exchange/", include("web.exchange.urls")),
    path("practice/", include("web.practice.urls")),
    path("house-rules/", include("web.houserules.urls")),
    path("known-kinds/", include("web.kinds.urls")),
    path("judging-again/", include("web.reassess.urls")),
    path("background/", include("web.background.urls")),
    path("", include("web.accounts.urls")),
]
if settings.HOST_PAGES:
    urlpatterns.insert(0, path(settings.HOST_PAGES, host.urls))
handler400 = "web.shell.views.bad_request"
handler403 = "web.shell.views.forbidden"
handler404 = "web.shell.views.not_found"
handler500 = "web.shell.views.server_error"
