"""What can go wrong in the core, as one small tree."""


class CoreError(Exception):
    """Root of every error the core raises on purpose."""


class BadFile(CoreError):
    """A file that can not be taken in.

    Parameters
    ----------
    name : str
        The file's name as its owner knows it.
    problem : str
        What is wrong, as a clause without a full stop.
    remedy : str
        What the owner can do, as a sentence.
    """

    def __init__(self, name: str, problem: str, remedy: str) -> None:
        super().__init__(f"{name}: {problem}. {remedy}")
        self.name = name
        self.problem = problem
        self.remedy = remedy


class NoLineUp(CoreError):
    """An output that does not line up with its frame; the text says why."""


class NotMeasurable(CoreError):
    """A measure that can not be had here; the text is the reason shown in place of a
    number.
    """


class NotConcerned(NotMeasurable):
    """A measure that asks what this output was never meant to do: one that is not
    enlarged is neither faithful nor not. Told, but no gap in what is known.
    """


class BadRequest(CoreError):
    """Arguments that make no sense: an unknown measure, a patch outside the picture."""
