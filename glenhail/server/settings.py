"""Settings of a bench.

Everything that differs between machines comes from GLENHAIL_* variables.
"""

from __future__ import annotations

import os
import secrets
from datetime import timedelta
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
VAR = Path(os.environ.get("GLENHAIL_VAR", ROOT / "var"))


def _secret() -> str:
    """This bench's own key, made on the first start and kept beside its data."""
    path = VAR / "secret"
    if not path.exists():
        VAR.mkdir(parents=True, exist_ok=True)
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(48))
    return path.read_text()


SECRET_KEY = os.environ.get("GLENHAIL_SECRET") or _secret()
DEBUG = False
ALLOWED_HOSTS = os.environ.get("GLENHAIL_HOSTS", "localhost,127.0.0.1,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("GLENHAIL_ORIGINS", "").split(",") if o]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "rest_framework",
    "drf_spectacular",
    "procrastinate.contrib.django",
    "glenhail.server.accounts",
    "glenhail.server.storage",
    "glenhail.server.jobs",
    "glenhail.server.material",
    "glenhail.server.tools",
    "glenhail.server.studies",
    "glenhail.server.outputs",
    "glenhail.server.measuring",
    "glenhail.server.sensors",
    "glenhail.server.inquiries",
    "glenhail.server.audit",
    "glenhail.server.viewing",
    "glenhail.server.judging",
    "glenhail.server.publishing",
    "glenhail.server.hooks",
    "glenhail.server.operations",
    "glenhail.demo",
]

MIDDLEWARE = [
    "glenhail.server.common.logs.RequestLog",
    "glenhail.server.common.addresses.PlainAddresses",
    "glenhail.server.common.busy.NotAllAtOnce",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "glenhail.server.common.policy.ContentPolicy",
    "glenhail.server.common.outage.Outage",
    "axes.middleware.AxesMiddleware",
]

ROOT_URLCONF = "glenhail.server.urls"
WSGI_APPLICATION = "glenhail.server.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": os.environ.get("GLENHAIL_DB_NAME", "glenhail"),
        "USER": os.environ.get("GLENHAIL_DB_USER", "app"),
        "PASSWORD": os.environ.get("GLENHAIL_DB_PASSWORD", ""),
        "HOST": os.environ.get("GLENHAIL_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("GLENHAIL_DB_PORT", "54329"),
        # For workers on other machines: verify-full, with the certificate's authority in
        # PGSSLROOTCERT.
        "OPTIONS": {"sslmode": os.environ.get("GLENHAIL_DB_SSLMODE", "prefer")},
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}", "OPTIONS": options}
    for name, options in (
        ("MinimumLengthValidator", {"min_length": 10}),
        ("CommonPasswordValidator", {}),
        ("NumericPasswordValidator", {}),
        ("UserAttributeSimilarityValidator", {}),
    )
]
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
# Five wrong passwords for a name from one address, and that pair waits.
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = timedelta(minutes=15)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
AXES_LOCKOUT_CALLABLE = "glenhail.server.accounts.lockout.told"
LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True

WEB_DIST = ROOT / "web" / "dist"
STATIC_URL = "static/"
STATICFILES_DIRS = [WEB_DIST] if WEB_DIST.exists() else []
STATIC_ROOT = VAR / "static"
# The built web part carries a hash in every file name; Django need not add another.
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False


def _files(folder: str) -> dict[str, object]:
    return {
        "BACKEND": "django.core.files.storage.FileSystemStorage",
        "OPTIONS": {"location": VAR / "files" / folder},
    }


STORAGES = {
    "default": _files("other"),
    "originals": _files("originals"),
    "derived": _files("derived"),
    "editions": _files("editions"),
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
FILE_UPLOAD_TEMP_DIR = VAR / "files" / "incoming"
FILE_UPLOAD_TEMP_DIR.mkdir(parents=True, exist_ok=True)
# Every upload is streamed to disk, however small: one way in.
FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]
MAX_UPLOAD_BYTES = int(os.environ.get("GLENHAIL_MAX_UPLOAD_BYTES", "4294967296"))
# Full-depth copies are eight bytes a pixel; those of a hundred pictures of 24 MP.
FULL_DEPTH_BYTES = int(os.environ.get("GLENHAIL_FULL_DEPTH_BYTES", "20000000000"))
# Pictures as they are seen in uses, three bytes a pixel and less.
SEEN_BYTES = int(os.environ.get("GLENHAIL_SEEN_BYTES", "4000000000"))
EVIDENCE_BYTES = int(os.environ.get("GLENHAIL_EVIDENCE_BYTES", "2000000000"))

# Programs that a release may be run by: an owner of the machine puts them, or links to them, here.
TOOLS_DIR = Path(os.environ.get("GLENHAIL_TOOLS", VAR / "tools"))
# Inputs for tools that are run by hand, and where their outputs are picked up.
HOT_DIR = Path(os.environ.get("GLENHAIL_HOT", VAR / "hot"))

# A layered file holds each output at this size or smaller.
MOST_LAYER_PIXELS = 120_000_000

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": [
        "glenhail.server.accounts.authentication.ByToken",
        "rest_framework.authentication.SessionAuthentication",
    ],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": [
        "glenhail.server.common.parsers.KeepableJSON",
        "rest_framework.parsers.MultiPartParser",
    ],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "glenhail.server.common.problems.handler",
    "UNAUTHENTICATED_USER": "django.contrib.auth.models.AnonymousUser",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Glenhail",
    "DESCRIPTION": (
        "What the web part asks of the server. Everything but editions needs a session or a token."
    ),
    "VERSION": "1",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": False,
    "COMPONENT_NO_READ_ONLY_REQUIRED": False,
    "ENUM_GENERATE_CHOICE_DESCRIPTION": False,
    "ENUM_NAME_OVERRIDES": {
        "MemberRoleEnum": "glenhail.server.accounts.models.Role.choices",
        "RoleEnum": "glenhail.core.measures.catalogue.ROLES",
        "DecidedEnum": "glenhail.server.audit.models.Decided.choices",
        "ToolKindEnum": "glenhail.server.tools.models.ToolKind.choices",
        "RemarkKindEnum": "glenhail.server.judging.api.remarks.KINDS",
        "DifferenceKindEnum": "glenhail.server.publishing.api.views.DIFFERENCES",
        "SittingKindEnum": "glenhail.server.judging.api.sittings.KINDS",
        "EvidenceKindEnum": "glenhail.server.judging.api.verdicts.SOURCES",
        "JudgedEnum": "glenhail.server.judging.api.verdicts.MARKS",
        "SittingStateEnum": "glenhail.server.judging.models.SittingState.choices",
        "FrameKindEnum": "glenhail.server.material.models.FrameKind.choices",
        "MeasuredStateEnum": "glenhail.server.sensors.api.shapes.STATES",
        "SeenEnum": "glenhail.server.inquiries.api.shapes.SEEN",
        "WayEnum": "glenhail.server.inquiries.api.shapes.WAYS",
        "AboutEnum": "glenhail.server.inquiries.api.shapes.ABOUT",
        "SeriesBasisEnum": "glenhail.server.sensors.api.shapes.BASES",
        "SeriesSizeEnum": "glenhail.server.sensors.api.shapes.SIZES",
        "EventEnum": "glenhail.server.hooks.models.Event.choices",
        "FolderStateEnum": "glenhail.server.outputs.models.FolderState.choices",
    },
}

# On a public address: TLS ends at a proxy, and nothing is sent without it. See docs/operations.md.
PUBLIC = os.environ.get("GLENHAIL_PUBLIC") == "1"
# Where readers find the editions; what leaves the site has links to there.
ADDRESS = os.environ.get("GLENHAIL_ADDRESS", "").rstrip("/")
# Whom readers tell of an error; and whether search engines are to keep away.
ERRATA_ADDRESS = os.environ.get("GLENHAIL_ERRATA", "")
# Where the public site is brought after each edition, and the store's address if it is not AWS's.
PUSH = os.environ.get("GLENHAIL_PUSH", "")
PUSH_S3 = os.environ.get("GLENHAIL_PUSH_S3", "")
# Whether programs on this machine may be told of events: whoever owns a bench could else reach
# what listens here for this machine alone.
HOOKS_LOCAL = os.environ.get("GLENHAIL_HOOKS_LOCAL") == "1"
NOINDEX = os.environ.get("GLENHAIL_NOINDEX") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = PUBLIC
SECURE_HSTS_SECONDS = 31_536_000 if PUBLIC else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = PUBLIC
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if PUBLIC else None
SESSION_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
X_FRAME_OPTIONS = "DENY"

# Mail for links, where a server is named; without one, owners hand links over themselves.
EMAIL_HOST = os.environ.get("GLENHAIL_MAIL_HOST", "")
EMAIL_PORT = int(os.environ.get("GLENHAIL_MAIL_PORT", "587"))
EMAIL_HOST_USER = os.environ.get("GLENHAIL_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("GLENHAIL_MAIL_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("GLENHAIL_MAIL_TLS", "1") == "1"
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = os.environ.get("GLENHAIL_MAIL_FROM", "glenhail@localhost")

# Figures for Prometheus at /metrics, told to these addresses only.
METRICS = os.environ.get("GLENHAIL_METRICS") == "1"
METRICS_FROM = os.environ.get("GLENHAIL_METRICS_FROM", "127.0.0.1,::1").split(",")
if METRICS:
    INSTALLED_APPS.append("django_prometheus")
    MIDDLEWARE.insert(0, "django_prometheus.middleware.PrometheusBeforeMiddleware")
    MIDDLEWARE.append("django_prometheus.middleware.PrometheusAfterMiddleware")

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {
        "json": {"()": "glenhail.server.common.logs.JsonLines"},
        "plain": {"format": "%(asctime)s %(levelname)s %(name)s: %(message)s"},
    },
    "handlers": {
        "console": {
            "class": "logging.StreamHandler",
            "formatter": os.environ.get("GLENHAIL_LOG_FORMAT", "plain"),
        }
    },
    "root": {"handlers": ["console"], "level": os.environ.get("GLENHAIL_LOG", "WARNING")},
    # Each request is a line of its own; where that is too much, GLENHAIL_LOG_REQUESTS=WARNING.
    "loggers": {"glenhail.requests": {"level": os.environ.get("GLENHAIL_LOG_REQUESTS", "WARNING")}},
}
