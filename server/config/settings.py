"""Settings of the one process that serves the product. What differs by place comes as YT_*."""

import os
from pathlib import Path

from common.bounds import LARGEST_DOCUMENT
from config.apps import APPS

ROOT = Path(__file__).resolve().parents[2]

SECRET_KEY = os.environ.get("YT_SECRET_KEY", "only for tools that serve nobody")
DEBUG = False

KEY = os.environ.get("YT_KEY", "")
"""What a browser or script shows to be answered; empty where only tests and tools ask."""

STATUS = os.environ.get("YT_STATUS", "")
"""Where whoever keeps the database running writes down how it stands."""

# Bound to loopback, for one person. The host header is checked so that a page elsewhere can't
# reach in under a name of its own (DNS rebinding).
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "ninja",
    "procrastinate.contrib.django",
    *APPS,
]

MIDDLEWARE = [
    "config.guard.guard",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.common.CommonMiddleware",
    "serving.middleware.heavy_apart",
    "accounts.personal.sign_in_the_owner",
]

ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
APPEND_SLASH = False

STATEMENT_TIMEOUT_S = float(os.environ.get("YT_DB_STATEMENT_TIMEOUT_S", "30"))

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": os.environ.get("YT_DB_NAME", "young_torrent"),
        "USER": os.environ.get("YT_DB_USER", "young_torrent"),
        "PASSWORD": os.environ.get("YT_DB_PASSWORD", ""),
        "HOST": "127.0.0.1",
        "PORT": os.environ.get("YT_DB_PORT", "5432"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "connect_timeout": 3,
            "options": f"-c statement_timeout={STATEMENT_TIMEOUT_S * 1000:.0f}"
            " -c idle_in_transaction_session_timeout=120000",
        },
    }
}

if os.environ.get("YT_DB_POOL"):
    # Many threads answer; few of them speak to the database at a time.
    DATABASES["default"] |= {"CONN_MAX_AGE": 0}
    DATABASES["default"]["OPTIONS"] |= {  # type: ignore[operator]
        "pool": {"min_size": 1, "max_size": 16, "timeout": 3, "reconnect_timeout": 3}
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
DATA_UPLOAD_MAX_MEMORY_SIZE = LARGEST_DOCUMENT

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
        "waitress": {"level": "WARNING"},
        "waitress.queue": {"level": "ERROR"},
        "procrastinate": {"level": "WARNING"},
    },
}
