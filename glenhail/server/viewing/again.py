"""Display copies that are gone are asked for by whoever misses one."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager

from glenhail.server.accounts.permissions import Actor, membership
from glenhail.server.common.errors import Missing
from glenhail.server.material.display import PYRAMID, DisplayCopy, ask_for
from glenhail.server.material.models import Picture
from glenhail.server.viewing.tiles import NoDisplay


@contextmanager
def made_again(
    actor: Actor, picture: Callable[[], Picture], copy: DisplayCopy = PYRAMID
) -> Iterator[None]:
    """Have a picture's copy made where its lack is met, and pass on that it is not
    there yet.

    Raises
    ------
    Missing
        If there never was one: the picture is still being taken in, or was refused.
    """
    try:
        yield
    except NoDisplay:
        if not ask_for(membership(actor).bench, picture(), copy=copy):
            raise Missing("This picture's display copy is not there yet.") from None
        raise
