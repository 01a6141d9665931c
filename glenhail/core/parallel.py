"""Run a pixel kernel over horizontal strips of a picture on all processors; hand on
pieces in their order as they are made.
"""

from __future__ import annotations

import os
import threading
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from functools import cache
from itertools import pairwise
from typing import TypeVar

Item = TypeVar("Item")
Made = TypeVar("Made")

MIN_ROWS = 256
FEW_ROWS = 64  # worth a thread of their own where each pixel takes powers
# Asked for once: the answer takes longer than a small picture does.
STRIPS = "strips"
PROCESSORS = os.cpu_count() or 1


@cache
def pool() -> ThreadPoolExecutor:
    """One shared pool; the kernels release the interpreter lock, so threads do run side
    by side.
    """
    return ThreadPoolExecutor(max_workers=PROCESSORS, thread_name_prefix=STRIPS)


def in_strips(height: int, work: Callable[[int, int], None], least: int = MIN_ROWS) -> None:
    """Call ``work(first_row, end_row)`` so that every row of 0..height is covered once,
    in strips of at least so many rows.

    Errors raised by any strip are raised here.

    Parameters
    ----------
    height : int
        Pixels down, at least 1.
    work : callable
        Does rows first to end.
    least : int
        Rows a strip has at least.
    """
    # A strip's own work is not handed on: it would wait for the thread it runs in.
    nested = threading.current_thread().name.startswith(STRIPS)
    parts = 1 if nested else max(1, min(PROCESSORS, height // least))
    if parts == 1:
        work(0, height)
        return
    cuts = [height * i // parts for i in range(parts + 1)]
    for done in [pool().submit(work, a, b) for a, b in pairwise(cuts)]:
        done.result()


def in_order(work: Callable[[Item], Made], items: Iterable[Item]) -> Iterator[Made]:
    """What `work` makes of each item, in their order; only a few more than there are
    processors are in the making or waiting.

    Parameters
    ----------
    work : callable
        Makes something of one item.
    items : iterable
        What there is to do.
    """
    with ThreadPoolExecutor(PROCESSORS, thread_name_prefix="pieces") as own:
        waiting: deque[Future[Made]] = deque()
        for item in items:
            waiting.append(own.submit(work, item))
            if len(waiting) > PROCESSORS:
                yield waiting.popleft().result()
        while waiting:
            yield waiting.popleft().result()
