"""What the machine asks of itself: is the process alive, is it ready for people, and the counters for a monitor."""

from django.contrib.auth.decorators import login_not_required
from django.urls import path

from web.shell import health

app_name = "shell"
urlpatterns = [
    path("alive/", login_not_required(health.alive), name="alive"),
    path("ready/", login_not_required(health.ready), name="ready"),
    path("counters/", login_not_required(health.counters), name="counters"),
]
