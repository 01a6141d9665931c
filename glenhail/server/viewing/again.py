"""Display copies that are gone are asked for by whoever misses one."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager

from glenhail.server.accounts.permissions import Actor, membership
from glenhail.server.common.errors import Missing
from glenhail.server.material import display
from glenhail.server.material.models import Picture
from glenhail.server.viewing.tiles import NoDisplay


@contextmanager
def made_again(actor: Actor, picture: Callable[[], Picture]) -> Iterator[None]:
    """Have a picture's display copy made again where its lack is met, and pass on that
    it is not there yet.

    Raises
    ------
    Missing
        If there never was one: the picture is still being taken in, or was refused.
    """
    try:
        yield
    except NoDisplay:
        if not display.ask_for(membership(actor).bench, picture()):
            raise Missing("This picture's display copy is not there yet.") from None
        raise
