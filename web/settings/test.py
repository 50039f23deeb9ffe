"""Tests: a database of their own, quick password hashing, sign-in throttling switched on where a test asks."""

from web.settings.base import *  # noqa: F403
from web.settings.base import INSTALLED_APPS

INSTALLED_APPS = ["web.demo", *INSTALLED_APPS]
PUBLIC_ADDRESS = "http://testserver"
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
AXES_ENABLED = False
WHITENOISE_AUTOREFRESH = True

# The database of a test is none that another process would find.
BACKGROUND_PROCESSES = 1
