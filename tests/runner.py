"""The test runner: Django's own, which also says where its time went."""

from __future__ import annotations

import time
import unittest
from collections import Counter
from typing import Any

from django.test.runner import DiscoverRunner

from tests.remembered import remember

MOST = 25
LONGEST = 700


class Timed(unittest.TextTestResult):
    """A result that knows how long each test took, what it set up included."""

    def __init__(self, *arguments: Any, **named: Any) -> None:
        super().__init__(*arguments, **named)
        self.took: Counter[str] = Counter()
        self.failed: list[str] = []
        self._ended = time.monotonic()

    def addError(self, test: Any, err: Any) -> None:
        super().addError(test, err)
        self._failed(test, err)

    def addFailure(self, test: Any, err: Any) -> None:
        super().addFailure(test, err)
        self._failed(test, err)

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:
        super().addSubTest(test, subtest, err)
        if err is not None:
            self._failed(subtest, err)

    def _failed(self, test: Any, err: Any) -> None:
        """One line that says enough where what was printed before it is cut short."""
        self.failed.append(f"{test.id()}: {' '.join(str(err[1]).split())[:LONGEST]}")

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        now = time.monotonic()
        # From the end of the one before: what its class set up belongs to the first that needs it.
        self.took[test.id()] = round(now - self._ended, 1)  # type: ignore[assignment]
        self._ended = now


class Runner(DiscoverRunner):
    """Prints the slowest modules and tests when all have run, and what failed in a line each."""

    def setup_test_environment(self, **named: Any) -> None:
        super().setup_test_environment(**named)
        remember()

    def get_resultclass(self) -> Any:
        return Timed

    def suite_result(self, suite: Any, result: Any, **named: Any) -> int:
        modules: Counter[str] = Counter()
        for name, took in result.took.items():
            modules[".".join(name.split(".")[:3])] += took
        for title, spent in (("modules", modules), ("tests", result.took)):
            print(
                f"slowest {title}: "
                + ", ".join(f"{n} {s:.0f} s" for n, s in spent.most_common(MOST))
            )
        for line in result.failed:
            print(f"failed: {line}")
        return super().suite_result(suite, result, **named)
