"""Settings of the one process that serves the product. What differs by place comes as YT_*."""

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]

SECRET_KEY = os.environ.get("YT_SECRET_KEY", "only for tools that serve nobody")
DEBUG = False

# Bound to loopback, for one person. The host header is checked so that a page elsewhere can't
# reach in under a name of its own (DNS rebinding).
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "ninja",
    "procrastinate.contrib.django",
    "accounts",
    "builds",
    "shelf",
    "matching",
]

MIDDLEWARE = [
    "config.guard.guard",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.common.CommonMiddleware",
    "accounts.personal.sign_in_the_owner",
]

ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
APPEND_SLASH = False

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": os.environ.get("YT_DB_NAME", "young_torrent"),
        "USER": os.environ.get("YT_DB_USER", "app"),
        "PASSWORD": os.environ.get("YT_DB_PASSWORD", ""),
        "HOST": "127.0.0.1",
        "PORT": os.environ.get("YT_DB_PORT", "5432"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {"connect_timeout": 3},
    }
}

DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False

WEB_DIST = ROOT / "web" / "dist"
STATIC_URL = "static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
WHITENOISE_MAX_AGE = 0

# A build document is a few kilobytes; see powertrain.documents.text for the exact bound.
DATA_UPLOAD_MAX_MEMORY_SIZE = 2_000_000

LARGEST_TABLE = 100_000_000
"""Bytes of a table or a whole shelf that is brought in; tables are read row by row."""

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {
        "line": {"format": "{asctime} {levelname} {name} {message}", "style": "{"},
    },
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "line"}},
    "root": {"handlers": ["console"], "level": os.environ.get("YT_LOG_LEVEL", "INFO")},
    "loggers": {
        "django": {"handlers": ["console"], "level": "ERROR", "propagate": False},
        "waitress.queue": {"level": "ERROR"},
        "procrastinate": {"level": "WARNING"},
    },
}
