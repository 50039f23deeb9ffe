"""Settings common to every place the product runs in. Secrets and places come from the environment."""

import os
from pathlib import Path
from typing import Any

from csp.constants import NONE, SELF
from django.core.exceptions import ImproperlyConfigured

BASE_DIR = Path(__file__).resolve().parent.parent.parent


def required(name: str) -> str:
    """A setting from the environment that has no default."""
    value = os.environ.get(name)
    if not value:
        raise ImproperlyConfigured(f"{name} is not set. Start with ./ruddy demo or ./ruddy test, which set it.")
    return value


SECRET_KEY = required("RUDDY_SECRET_KEY")
DEBUG = False
ALLOWED_HOSTS: list[str] = []
ROOT_URLCONF = "web.urls"
WSGI_APPLICATION = "web.wsgi.application"

INSTALLED_APPS = [
    "web.today",
    "web.exchange",
    "web.practice",
    "web.reassess",
    "web.kinds",
    "web.history",
    "web.visits",
    "web.probes",
    "web.houses",
    "web.houserules",
    "web.retention",
    "web.background",
    "web.accounts",
    "web.shell",
    "django.contrib.admin.apps.SimpleAdminConfig",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django.forms",
    "csp",
    "django_tasks",
    "django_tasks_db",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
]

MIDDLEWARE = [
    "web.shell.trace.RequestNumber",
    "web.shell.counters.Counted",
    "django.middleware.security.SecurityMiddleware",
    # Django masks the CSRF token anew in every page, so that compression tells nothing of it.
    "django.middleware.gzip.GZipMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "web.shell.uploads.LargestUpload",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.auth.middleware.LoginRequiredMiddleware",
    "web.accounts.middleware.Rights",
    "web.accounts.middleware.ShopTimeZone",
    "web.accounts.middleware.Seen",
    "web.accounts.middleware.NotKept",
    "web.visits.middleware.PersonsScale",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
]

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "web.shell.context.theme",
            ],
        },
    },
]

FORM_RENDERER = "web.shell.forms.SheetRenderer"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("RUDDY_DB_NAME", "ruddy"),
        "USER": os.environ.get("RUDDY_DB_USER", "ruddy"),
        "PASSWORD": required("RUDDY_DB_PASSWORD"),
        "HOST": required("RUDDY_DB_HOST"),
        "PORT": required("RUDDY_DB_PORT"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "init_command": "SET sql_mode='TRADITIONAL', default_storage_engine=INNODB",
            "isolation_level": "read committed",
            "connect_timeout": 5,
            # Of a web server's: a database that hangs is said, and holds no thread for good. 0: work may take its time.
            "read_timeout": int(os.environ.get("RUDDY_DB_READ_TIMEOUT", "0")),
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "accounts.User"
AUTHENTICATION_BACKENDS = ["web.accounts.backends.PersonBackend"]
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.Argon2PasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}", "OPTIONS": options}
    for name, options in (
        ("MinimumLengthValidator", {"min_length": 10}),
        ("CommonPasswordValidator", {}),
        ("NumericPasswordValidator", {}),
        ("UserAttributeSimilarityValidator", {"user_attributes": ("username", "first_name", "last_name")}),
    )
]
LOGIN_URL = "accounts:sign_in"
LOGIN_REDIRECT_URL = "today:today"
LOGOUT_REDIRECT_URL = "accounts:sign_in"

OTP_TOTP_ISSUER = "Ruddy Draft"  # what the app on the phone calls it

# The addresses of our own proxies: whose word is taken on where a request comes from.
TRUSTED_PROXIES = os.environ.get("RUDDY_PROXIES", "").split()

# What links that leave the installation begin with: calendars, and what is printed.
PUBLIC_ADDRESS = os.environ.get("RUDDY_PUBLIC_ADDRESS", "")

# What a monitor shows to read the counters; '' for no counters.
MONITOR_TOKEN = os.environ.get("RUDDY_MONITOR_TOKEN", "")

# The address of the pages for the host's own staff, 'keepers-7f3a/'; '' for none.
HOST_PAGES = os.environ.get("RUDDY_HOST_PAGES", "")

# Letters: links into a shop are sent where a mail server is named, and shown elsewhere.
EMAIL_HOST = os.environ.get("RUDDY_MAIL_HOST", "")
EMAIL_PORT = int(os.environ.get("RUDDY_MAIL_PORT", "587"))
EMAIL_HOST_USER = os.environ.get("RUDDY_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("RUDDY_MAIL_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("RUDDY_MAIL_TLS", "yes") == "yes"
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = os.environ.get("RUDDY_MAIL_FROM", "")

WEATHER_SERVICE = ""  # the path of a function, see web.houses.weather

TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
# What may run in the background, and where it is done: see web.background.kinds.
# Processes that a step of background work may use at once, beside its worker.
BACKGROUND_PROCESSES = int(os.environ.get("RUDDY_BACKGROUND_PROCESSES", os.cpu_count() or 1))
BACKGROUND_KINDS = {
    "thin_samples": "web.probes.tasks.THIN_SAMPLES",
    "thin_assessments": "web.visits.tasks.THIN_ASSESSMENTS",
    "reassess": "web.reassess.tasks.REASSESS",
    "learn_kinds": "web.kinds.tasks.LEARN",
    "summarise": "web.history.tasks.SUMMARISE",
    "export": "web.exchange.tasks.EXPORT",
    "reports": "web.exchange.tasks.REPORTS",
    "take_in": "web.exchange.tasks.TAKE_IN",
    "tidy_exports": "web.exchange.tasks.TIDY_EXPORTS",
    "tidy_photos": "web.visits.tasks.TIDY_PHOTOS",
    "erase_past": "web.exchange.erasing.ERASE_PAST",
    "tidy": "web.background.tidy.TIDY",
}

LANGUAGE_CODE = "en-us"
TIME_ZONE = "UTC"
USE_TZ = True
USE_I18N = False

STATIC_URL = "static/"
WHITENOISE_KEEP_ONLY_HASHED_FILES = True  # pages name no others, and compressing is what takes the time
STATICFILES_DIRS = [BASE_DIR / "web" / "static"]

SESSION_ENGINE = "web.accounts.sessions"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "web.shell.views.csrf_failure"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 256 * 1024
MEDIA_ROOT = Path(required("RUDDY_STATE")) / "media"  # pictures; served by a view that checks the shop
STORAGES = {
    "default": {
        "BACKEND": "django.core.files.storage.FileSystemStorage",
        "OPTIONS": {"allow_overwrite": True},  # a step that is done again writes the same file
    },
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
LARGEST_PHOTO_BYTES = 15 * 1024 * 1024
LARGEST_UPLOADS = {"exchange:archives": 100 * 1024 * 1024}  # by address; elsewhere a picture is the largest

# To the standard error, which whoever starts the server keeps: in every setting, DEBUG or not.
LOGGING: dict[str, Any] = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request": {"()": "web.shell.trace.AboutTheRequest"}},
    "formatters": {
        "line": {
            "format": "{asctime} {levelname} request={number} person={person} {where} {name}: {message}",
            "style": "{",
        }
    },
    "handlers": {"stderr": {"class": "logging.StreamHandler", "filters": ["request"], "formatter": "line"}},
    "root": {"handlers": ["stderr"], "level": "WARNING"},
    "loggers": {
        "django": {"handlers": ["stderr"], "level": "WARNING", "propagate": False},
        "django.request": {"handlers": ["stderr"], "level": "ERROR", "propagate": False},
    },
}

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "font-src": [SELF],
        "img-src": [SELF],
        "connect-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
        "manifest-src": [SELF],
    }
}
