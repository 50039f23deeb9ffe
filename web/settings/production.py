"""Behind TLS on a shop's own host. What must be set comes from the environment."""

import os

from web.settings.base import *  # noqa: F403
from web.settings.base import LOGGING, PUBLIC_ADDRESS, STORAGES, Path, required

ALLOWED_HOSTS = required("RUDDY_HOSTS").split(",")
PUBLIC_ADDRESS = PUBLIC_ADDRESS or f"https://{ALLOWED_HOSTS[0]}"
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS]
STATIC_ROOT = Path(required("RUDDY_STATE")) / "static"
STORAGES["staticfiles"] = {"BACKEND": "whitenoise.storage.CompressedManifestStaticFilesStorage"}
if os.environ.get("RUDDY_BUCKET"):
    from web.settings.bucket import bucket

    STORAGES["default"] = bucket(os.environ)
SECURE_SSL_REDIRECT = True
SECURE_REDIRECT_EXEMPT = [r"^-/"]  # asked by the machine itself, or by a proxy beside it
SECURE_HSTS_SECONDS = 31_536_000
# Other names under the same domain are not ours to promise for, nor is the browsers' own list.
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True

# A line of JSON each, so that a log can be asked: by request, person, level.
LOGGING["formatters"]["line"] = {"()": "web.shell.trace.JsonLine"}
