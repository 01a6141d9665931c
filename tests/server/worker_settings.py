"""Settings of a worker process that a test starts: the test's own files, and jobs slow
enough to be killed.
"""

import os
import time

os.environ["GLENHAIL_VAR"] = os.environ["GLENHAIL_TEST_VAR"]

from glenhail.server.settings import *  # noqa: E402, F403

SECRET_KEY = "tests"


def _slowly() -> None:
    """Stretch decoding to seconds, so that the signal finds it at work."""
    from glenhail.core.files import pyramid

    write = pyramid.write_pyramid

    def slow(picture, path):  # type: ignore[no-untyped-def]
        time.sleep(2)
        write(picture, path)

    pyramid.write_pyramid = slow


_slowly()
