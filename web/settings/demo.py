"""The demo on this machine: loopback only, plain HTTP, the demo shop's data."""

from web.settings.base import *  # noqa: F403
from web.settings.base import BASE_DIR, INSTALLED_APPS, STORAGES, Path, os

INSTALLED_APPS = ["web.demo", *INSTALLED_APPS]
WEATHER_SERVICE = "web.demo.weather.at"
ALLOWED_HOSTS = ["127.0.0.1", "localhost", *filter(None, [os.environ.get("RUDDY_LAN")])]
STATIC_ROOT = Path(os.environ.get("RUDDY_STATE", BASE_DIR / ".ruddy" / "demo")) / "static"
STORAGES["staticfiles"] = {"BACKEND": "whitenoise.storage.CompressedManifestStaticFilesStorage"}
