"""Studies: contenders, outputs, line-ups, patches, readings, folders of outputs."""

from glenhail.server.studies.models.audit import Decided, Decision, Examined, HandPoints
from glenhail.server.studies.models.folders import (
    FileUse,
    Folder,
    FolderFile,
    FolderState,
    NamingPattern,
)
from glenhail.server.studies.models.outputs import HotFolder, LineUp, Outcome, Output, Run
from glenhail.server.studies.models.readings import Patch, Reading, Suggested
from glenhail.server.studies.models.study import (
    LETTERS,
    TRUTH_LETTER,
    UNPROCESSED_LETTER,
    Contender,
    Factor,
    Kind,
    Study,
    StudyFrame,
)

__all__ = [
    "LETTERS",
    "TRUTH_LETTER",
    "UNPROCESSED_LETTER",
    "Contender",
    "Decided",
    "Decision",
    "Examined",
    "Factor",
    "FileUse",
    "Folder",
    "FolderFile",
    "FolderState",
    "HandPoints",
    "HotFolder",
    "Kind",
    "LineUp",
    "NamingPattern",
    "Outcome",
    "Output",
    "Patch",
    "Reading",
    "Run",
    "Study",
    "StudyFrame",
    "Suggested",
]
