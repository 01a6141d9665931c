"""Settings for tests: the real ones, with files in a folder that goes away."""

import atexit
import os
import shutil
import tempfile

_folder = tempfile.mkdtemp(prefix="glenhail-tests-")
atexit.register(shutil.rmtree, _folder, ignore_errors=True)
os.environ["GLENHAIL_VAR"] = _folder
# Playwright keeps an event loop in the thread that drives the browser.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"

from glenhail.server.settings import *  # noqa: E402, F403

SECRET_KEY = "tests"
DATABASES["default"]["TEST"] = {"NAME": os.environ.get("GLENHAIL_TEST_DB")}  # noqa: F405
# A test's rows need not survive the machine: its commits do not wait for the disk. Rows that
# somebody else keeps locked are an error with a name, not a run that never ends.
DATABASES["default"]["OPTIONS"]["options"] = "-c synchronous_commit=off -c lock_timeout=60s"  # noqa: F405
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
ALLOWED_HOSTS = ["*"]
LOGGING = {"version": 1, "disable_existing_loggers": True}
TEST_RUNNER = "tests.runner.Runner"
