"""Reading a file in a process of its own with a bound on its memory: no file can end,
fill or hold up the one that asks.

A process that has everything imported stands by and is copied for each file, which
takes some milliseconds. Pixels come back in memory that both share, so they are not
copied.
"""

from __future__ import annotations

import math
import mmap
import multiprocessing
import os
import resource
import threading
from collections.abc import Callable
from functools import cache
from multiprocessing import reduction
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

import numpy as np
import psutil

from glenhail.core.errors import BadFile
from glenhail.core.files import decoding as reading
from glenhail.core.files.coded import AGAIN
from glenhail.core.picture import Facts, Floats, Picture

PATIENCE = 600.0  # seconds; a picture of the largest size that is taken takes a tenth
MOST_EVER = 6_000_000_000
Answer = Callable[[Connection, Path, str, int], None]


@cache
def most_memory() -> int:
    """Bytes that reading one file may take: half for its pixels, half for the decoder.

    ``GLENHAIL_PICTURE_MB``, else a third of the machine's memory and at most 6 GB.
    """
    told = os.environ.get("GLENHAIL_PICTURE_MB", "")
    return (
        int(told) * 1_000_000
        if told.isdigit()
        else min(MOST_EVER, psutil.virtual_memory().total // 3)
    )


def read_picture(path: Path, name: str | None = None, most: int | None = None) -> Picture:
    """As `reading.read_picture`, apart; `most` is the memory in bytes that it may take.

    Parameters
    ----------
    path : Path
        The file.
    name : str, optional
        What messages call the file; its own name else.
    most : int, optional
        Bytes of memory that it may take; as much as there is else.

    Raises
    ------
    BadFile
        Also if it takes more memory or time than it may, or ends the decoder.
    """
    facts, shape, fd = _asked(_pixels, path, name or path.name, most or most_memory())
    try:
        shared = mmap.mmap(fd, math.prod(shape) * np.dtype(np.float32).itemsize)
    finally:
        os.close(fd)
    return Picture(np.frombuffer(shared, dtype=np.float32).reshape(shape), facts)


def read_facts(path: Path, name: str | None = None, most: int | None = None) -> Facts:
    """As `reading.read_facts`, apart.

    Parameters
    ----------
    path : Path
        The file.
    name : str, optional
        What messages call the file; its own name else.
    most : int, optional
        Bytes of memory that it may take; as much as there is else.
    """
    facts: Facts = _asked(_facts, path, name or path.name, most or most_memory())[0]
    return facts


@cache
def _standing_by() -> Any:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload([__name__])
    return context


def _asked(answer: Answer, path: Path, name: str, most: int) -> tuple[Any, ...]:
    context = _standing_by()
    ours, theirs = context.Pipe()
    child = context.Process(target=_answered, args=(answer, theirs, path, name, most), daemon=True)
    child.start()
    theirs.close()
    with ours:
        try:
            if not ours.poll(PATIENCE):
                raise BadFile(
                    name, "it takes too long to decode", "Crop it, or save it in another format."
                )
            kind, *told = ours.recv()
            if kind == "bad":
                raise BadFile(*told)
            return (*told, reduction.recv_handle(ours)) if kind == "pixels" else tuple(told)
        except (EOFError, ConnectionResetError) as error:
            # Ended by the system or by a fault in the decoder, without a word.
            raise BadFile(name, "its picture data is damaged", AGAIN) from error
        finally:
            child.kill()
            child.join()


def _answered(answer: Answer, ours: Connection, path: Path, name: str, most: int) -> None:
    """The child's work: answer, or say why not."""
    threading.Thread(
        target=_end_with, args=(multiprocessing.parent_process(),), daemon=True
    ).start()
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    taken = psutil.Process().memory_info().data
    resource.setrlimit(resource.RLIMIT_DATA, (taken + most // 2,) * 2)
    try:
        answer(ours, path, name, most // 2)
    except BadFile as error:
        ours.send(("bad", error.name, error.problem, error.remedy))
    except MemoryError:
        ours.send(("bad", name, *reading.no_room(most)))


def _end_with(asking: Any) -> None:
    """Nobody needs an answer any more whose asker is gone."""
    asking.join()
    os._exit(1)


def _facts(ours: Connection, path: Path, name: str, most: int) -> None:
    ours.send(("facts", reading.read_facts(path, name, most)))


def _pixels(ours: Connection, path: Path, name: str, most: int) -> None:
    made: list[int] = []

    def room(shape: tuple[int, ...]) -> Floats:
        made.append(os.memfd_create("pixels"))
        size = math.prod(shape) * np.dtype(np.float32).itemsize
        os.truncate(made[-1], size)
        return np.frombuffer(mmap.mmap(made[-1], size), dtype=np.float32).reshape(shape)

    picture = reading.read_picture(path, name, most, room)
    ours.send(("pixels", picture.facts, picture.pixels.shape))
    reduction.send_handle(ours, made[-1], os.getppid())


reading.load_kernels()
