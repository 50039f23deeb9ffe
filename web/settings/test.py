"""Tests: a database of their own, quick password hashing."""

from web.settings.base import *  # noqa: F403
from web.settings.base import INSTALLED_APPS

INSTALLED_APPS = ["web.demo", *INSTALLED_APPS]
PUBLIC_ADDRESS = "http://testserver"
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
WHITENOISE_AUTOREFRESH = True

# The database of a test is none that another process would find.
BACKGROUND_PROCESSES = 1
