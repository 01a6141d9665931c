"""Nobody holds all threads of the server, neither by asking much at once nor by reading
slowly.
"""

from __future__ import annotations

import threading
import unittest
from collections.abc import Iterator

from django.http import (
    FileResponse,
    HttpRequest,
    HttpResponse,
    HttpResponseBase,
    StreamingHttpResponse,
)

from glenhail.server.common.busy import MOST, MOST_STREAMS, NotAllAtOnce


def asked(who: str, path: str = "/api/session") -> HttpRequest:
    request = HttpRequest()
    request.path = path
    request.META["REMOTE_ADDR"] = who
    return request


class Busy(unittest.TestCase):
    def test_one_persons_further_requests_come_again_and_others_are_not_kept_waiting(self) -> None:
        go, begun = threading.Event(), threading.Barrier(MOST + 1)

        def slow(request: HttpRequest) -> HttpResponseBase:
            if request.path.startswith("/api/") and not go.is_set():
                begun.wait(10)
                go.wait(10)
            return HttpResponse("done")

        busy, answers = NotAllAtOnce(slow), list[int]()
        threads = [
            threading.Thread(target=lambda: answers.append(busy(asked("a")).status_code))
            for _ in range(MOST)
        ]
        for thread in threads:
            thread.start()
        begun.wait(10)
        turned_away = busy(asked("a"))
        self.assertEqual((turned_away.status_code, turned_away["Retry-After"]), (429, "1"))
        for path in ("/reports/mill/1/reader.js", "/static/app.js", "/studies/1"):
            self.assertEqual(busy(asked("a", path)).status_code, 200, path)
        go.set()
        self.assertEqual(busy(asked("b")).status_code, 200)
        for thread in threads:
            thread.join()
        self.assertEqual(answers, [200] * MOST)
        self.assertEqual((busy(asked("a")).status_code, dict(busy.under_way)), (200, {}))

    def test_answers_that_are_written_while_they_are_read_are_few_until_they_are_read_or_given_up(
        self,
    ) -> None:
        def long(request: HttpRequest) -> HttpResponseBase:
            def parts() -> Iterator[bytes]:
                yield b"a"
                yield b"b"

            return StreamingHttpResponse(parts())

        busy = NotAllAtOnce(long)
        held = [busy(asked(str(i))) for i in range(MOST_STREAMS)]
        self.assertEqual(busy(asked("late")).status_code, 429)
        held[0].close()  # as the server does at the end, or when the reader goes away
        self.assertEqual(busy(asked("late")).status_code, 200)
        self.assertEqual(busy(asked("later")).status_code, 429)

    def test_files_are_sent_by_the_front_and_do_not_count(self) -> None:
        busy = NotAllAtOnce(lambda request: FileResponse(open(__file__, "rb")))  # noqa: SIM115, PTH123  (closed with the response)
        for i in range(3 * MOST_STREAMS):
            answer = busy(asked(str(i)))
            self.assertEqual(answer.status_code, 200)
            self.addCleanup(answer.close)
