"""What a remark is, and what a rule sees."""

from collections.abc import Callable
from enum import IntEnum
from functools import cache, wraps
from typing import NamedTuple

from isometron.document.document import Document, Edit
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.folders import modules_of
from isometron.perspective.eye import Eye
from isometron.perspective.lengths import write_length


class Severity(IntEnum):
    """How much a remark matters: worse sorts first."""

    SERIOUS = 0
    """The drawing will look wrong."""
    DOUBTFUL = 1
    """The drawing may look forced or ambiguous."""
    NOTE = 2
    """Good to know before the pencil touches the paper."""

    @property
    def word(self) -> str:
        """The word used in reports."""
        return ("serious", "doubtful", "note")[self]


class Remedy(NamedTuple):
    """An ordinary undoable edit that puts a remark right: what its button says, and the edit."""

    label: str
    edit: Edit


def no_remedy() -> Remedy | None:
    """For remarks that only the pencil can answer."""
    return None


class Remark(NamedTuple):
    """One remark: how serious, a short title, a sentence, a number with its unit
    ("mm" or "deg"), a place on the sheet (mm) and the volume it is about.

    `excess` orders remarks of one severity: how far beyond its limit the number is. `remedy` finds
    the edit that puts it right (it may have to solve for a number, so it is asked for only when
    shown); it gives None when there is none.
    """

    severity: Severity
    title: str
    text: str
    value: float
    unit: str
    sheet_mm: tuple[float, float]
    volume: int | None
    excess: float
    remedy: Callable[[], Remedy | None] = no_remedy
    rule: str = ""
    """What it is known by: the name of its rule, unless the rule says it more narrowly."""


class Look(NamedTuple):
    """What a rule looks at: the document and its scene."""

    document: Document
    scene: Scene
    only: int | None = None
    """The one volume to look at; all of them without it."""

    @property
    def eye(self) -> Eye:
        """The eye of the document."""
        return self.document.eye

    def volumes(self) -> list[tuple[int, VolumePicture]]:
        """Number and picture of each volume that is shown and no ghost."""
        every = enumerate(self.scene.pictures)
        some = every if self.only is None else [(self.only, self.scene.pictures[self.only])]
        return [(i, p) for i, p in some if p.volume.shown and not p.volume.ghost]

    def cornered(self) -> list[tuple[int, VolumePicture]]:
        """Those volumes that have corners."""
        return [(i, p) for i, p in self.volumes() if len(p.body.vertices)]

    def length(self, mm: float) -> str:
        """A length in the sheet's own unit."""
        return write_length(mm, self.document.choices.unit)


Rule = Callable[[Look], list[Remark]]
RULES: dict[str, Rule] = {}


def rule(function: Rule) -> Rule:
    """Makes a function one of the rules; its name is the rule's name in reports and files."""
    return rule_called(function.__name__)(function)


def rule_called(name: str) -> Callable[[Rule], Rule]:
    """Makes a function one of the rules, by a name that files hold of it."""

    def add(function: Rule) -> Rule:
        @wraps(function)
        def named(look: Look) -> list[Remark]:
            return [one if one.rule else one._replace(rule=name) for one in function(look)]

        RULES[name] = named
        return named

    return add


OF_ONE: set[str] = set()
"""Rules that look at one volume at a time: what they say of it stands while its picture does."""


def rule_of_one(function: Rule) -> Rule:
    """Makes a function a rule that says of each volume what it would say if it stood alone; asked
    of one volume it looks at `Look.only`."""
    OF_ONE.add(function.__name__)
    return rule(function)


@cache
def _load() -> None:
    from isometron import remarks as folder

    modules_of(folder)


def rules() -> dict[str, Rule]:
    """Every rule by its name: every file of this folder adds those it knows, and so does who looks
    at what lies in another room."""
    _load()
    return dict(sorted(RULES.items(), key=lambda one: one[1].__module__))
