"""What an action may raise, as one small tree.

::

    ActionError (400)
    ├── NotAllowed (403)
    ├── Missing (404)
    ├── Conflict (409)
    ├── Outdated (412)
    ├── NotYet (503)
    └── NoRoom (507)
"""


class ActionError(Exception):
    """A request that can not be carried out; the text says what is wrong and what to
    do.
    """

    status = 400
    title = "That can not be done"


class NotAllowed(ActionError):
    """The actor's role does not reach that far."""

    status = 403
    title = "Not allowed"


class Missing(ActionError):
    """No such thing, or none that the actor may know of."""

    status = 404
    title = "Not found"


class Conflict(ActionError):
    """What is asked for contradicts the present state."""

    status = 409
    title = "That contradicts what is there"


class Outdated(ActionError):
    """What is to be changed was changed by somebody else;

    ``current`` is how it is now, under ``tag``.
    """

    status = 412
    title = "Changed meanwhile"

    def __init__(self, text: str, current: object, tag: str) -> None:
        super().__init__(text)
        self.current, self.tag = current, tag


class NotYet(ActionError):
    """It is being made, or its maker is away for a moment: ask again after so many
    seconds.
    """

    status = 503
    title = "Not yet"
    after_s = 2


class NoRoom(ActionError):
    """The disk is full."""

    status = 507
    title = "No room left"
