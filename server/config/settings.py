"""Settings. Everything that differs between machines comes from the environment (see README)."""

import sys
from pathlib import Path

import environ  # type: ignore[import-untyped]
from csp.constants import NONCE, NONE, SELF
from django.core.management.utils import get_random_secret_key

ROOT = Path(__file__).resolve().parents[2]
sys.path.insert(0, str(ROOT / "core"))

env = environ.Env()
DATA = Path(env("JURATA_DATA", default=str(ROOT / "var"))).resolve()
MEDIA_ROOT = Path(env("JURATA_CLIPS", default=str(DATA / "clips")))
MEDIA_ROOT.mkdir(mode=0o700, parents=True, exist_ok=True)


def _secret() -> str:
    """A key of this installation's own, made at the first start."""
    path = DATA / "secret-key"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(get_random_secret_key())
    return path.read_text()


def _database_password() -> str:
    """Made with the database by ./start and ./test."""
    path = DATA / "db-password"
    return path.read_text() if path.exists() else ""


SECRET_KEY = env("JURATA_SECRET_KEY", default="") or _secret()
DEBUG = False
ALLOWED_HOSTS = env.list("JURATA_HOSTS", default=["localhost", "127.0.0.1", "[::1]"])
CSRF_TRUSTED_ORIGINS = env.list("JURATA_ORIGINS", default=[])

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "rest_framework",
    "drf_spectacular",
    "procrastinate.contrib.django",
    "accounts",
    "roster",
    "rulebook",
    "drills",
    "footage",
    "matches",
    "reviews",
    "demo",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [Path(__file__).parent / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": ["django.template.context_processors.request", "csp.context_processors.nonce"]
        },
    }
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": env("JURATA_DB_NAME", default="jurata"),
        "USER": env("JURATA_DB_USER", default="jurata"),
        "PASSWORD": env("JURATA_DB_PASSWORD", default="") or _database_password(),
        "HOST": env("JURATA_DB_HOST", default="127.0.0.1"),
        "PORT": env("JURATA_DB_PORT", default="54817"),
        "CONN_MAX_AGE": 300,
        "CONN_HEALTH_CHECKS": True,
        # A statement that comes again is neither read nor planned again.
        "OPTIONS": {"server_side_binding": True, "prepare_threshold": 5},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AUTHENTICATION_BACKENDS = ["accounts.backend.RemembersUsers"]
# Who is signed in is asked at every key. In memory that is right for one server process; several need one place
# for all, such as dbcache://a-table or redis://its-address.
CACHES = {"default": env.cache_url("JURATA_CACHE", default="locmemcache://")}
SESSION_ENGINE = "django.contrib.sessions.backends.cached_db"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30
SESSION_COOKIE_SAMESITE = "Lax"
SECURE_REFERRER_POLICY = "same-origin"

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "/static/"
WEB_DIST = ROOT / "web" / "dist"
WEB_DIST.mkdir(parents=True, exist_ok=True)
STATICFILES_DIRS = [WEB_DIST]
STATIC_ROOT = DATA / "static"
STATIC_ROOT.mkdir(parents=True, exist_ok=True)
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
WHITENOISE_USE_FINDERS = True
# The front end's build puts a content hash before the ending: those files never change.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/.+-[0-9a-zA-Z_-]{8}\..+$"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:"],
        "frame-ancestors": [NONE],
        "base-uri": [NONE],
        "object-src": [NONE],
    }
}

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["rest_framework.authentication.SessionAuthentication"],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["config.rendering.Json"],
    "DEFAULT_PARSER_CLASSES": ["rest_framework.parsers.JSONParser"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "config.errors.answer",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Jurata",
    "OAS_VERSION": "3.1.1",
    "VERSION": "1",
    "COMPONENT_SPLIT_REQUEST": True,
    "SERVE_INCLUDE_SCHEMA": False,
    "POSTPROCESSING_HOOKS": [
        "drf_spectacular.hooks.postprocess_schema_enums",
        "matches.schema.add_core_shapes",
    ],
    "ENUM_NAME_OVERRIDES": {
        "BeltEnum": "config.choices.BELTS",
        "AttireEnum": "config.choices.ATTIRES",
        "SideEnum": "config.choices.SIDES",
        "PositionEnum": "config.choices.POSITIONS",
        "TallyEnum": "config.choices.TALLIES",
        "StatusEnum": "config.choices.STATUSES",
        "ErrorStandingEnum": "reviews.models.Remark.Standing",
    },
}

LARGEST_CLIP = env.int("JURATA_LARGEST_CLIP", default=4 * 1024**3)
"""The largest clip that is taken, in bytes."""

TOOLS_USER = env("JURATA_TOOLS_USER", default="www-data")
"""The user without rights that ffmpeg and nginx run as where Jurata itself runs as root."""

NGINX_SENDS_FILES = env.bool("JURATA_BEHIND_NGINX", default=False)
"""Whether the project's own nginx is in front: it sends clips, and says from which address somebody asks."""

PROCRASTINATE_IMPORT_PATHS = ["footage.upkeep"]

TABLE = env("JURATA_TABLE", default="")
"""The address of a scoreboard table that calls are read from; none where empty."""

TEST_RUNNER = "config.runner.Runner"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {"django.request": {"level": "ERROR"}},  # what a user got wrong is answered, not logged
}
