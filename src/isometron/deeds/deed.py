"""A deed: what it is called, what it acts on, what it asks for, and the edit it is.

Pages, menus, keys and help read deeds; none of them says a second time what stands here. A deed is
declared in a file of this room, in its DEEDS."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import Enum

from isometron.deeds.example import Example, box
from isometron.document.document import Document, Edit
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick
from isometron.drawing.small import Small, small_of
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM
from isometron.words import _


class Measured(Enum):
    """What the value of a parameter is: mm, degrees, a whole number, a share from 0 to 1, or the
    number of a choice."""

    LENGTH = "length"
    ANGLE = "angle"
    COUNT = "count"
    SHARE = "share"
    CHOICE = "choice"


RANGES = {
    Measured.LENGTH: (0.0, LARGEST_MM),
    Measured.ANGLE: (-360.0, 360.0),
    Measured.COUNT: (0.0, 10_000.0),
    Measured.SHARE: (0.0, 1.0),
}
"""What any value of a parameter may be, where it says nothing narrower."""


@dataclass(frozen=True)
class Parameter:
    """What a deed asks for: its key (the English of what it is called), a sentence about it, what
    it is measured in, what is proposed, the range it may have, or what there is to choose from."""

    key: str
    tip: str
    measured: Measured
    default: float = 0.0
    least: float | None = None
    most: float | None = None
    choices: tuple[str, ...] = ()

    @property
    def range(self) -> tuple[float, float]:
        """The least and the largest value."""
        if self.measured is Measured.CHOICE:
            return 0.0, len(self.choices) - 1.0
        least, most = RANGES[self.measured]
        return (
            least if self.least is None else self.least,
            most if self.most is None else self.most,
        )


class ActsOn(Enum):
    """What must be there for a deed: nothing, a volume in work, several chosen volumes, one that is
    in a group, an edge or a face that is picked, a picture in work."""

    SHEET = "sheet"
    VOLUME = "volume"
    VOLUMES = "volumes"
    GROUP = "group"
    EDGE = "edge"
    FACE = "face"
    PICTURE = "picture"


READY: Mapping[ActsOn, Callable[[Document, Pick | None], bool]] = {
    ActsOn.SHEET: lambda document, pick: True,
    ActsOn.VOLUME: lambda document, pick: document.volume is not None,
    ActsOn.VOLUMES: lambda document, pick: len(document.chosen) > 1,
    ActsOn.GROUP: lambda document, pick: any(document.volumes[i].group for i in document.chosen),
    ActsOn.EDGE: lambda document, pick: isinstance(pick, EdgePick),
    ActsOn.FACE: lambda document, pick: isinstance(pick, FacePick),
    ActsOn.PICTURE: lambda document, pick: bool(document.pictures),
}


@dataclass(frozen=True)
class Given:
    """What a deed is given: values by the keys of its parameters, and what is picked."""

    values: Mapping[str, float] = field(default_factory=dict)
    pick: Pick | None = None

    def __getitem__(self, parameter: Parameter) -> float:
        value = self.values.get(parameter.key, parameter.default)
        least, most = parameter.range
        if not least <= value <= most:
            raise VolumeError(
                _("“{what}” goes from {least} to {most}: give a value between them.").format(
                    what=_(parameter.key), least=f"{least:g}", most=f"{most:g}"
                )
            )
        return value

    def whole(self, parameter: Parameter) -> int:
        """A whole number, or the number of a choice."""
        return round(self[parameter])

    def chosen(self, parameter: Parameter) -> str:
        """What is chosen, in English."""
        return parameter.choices[self.whole(parameter)]


@dataclass(frozen=True)
class Deed:
    """One deed. key: what it is known by; text: the words of its button or menu entry; tip: a whole
    sentence; name: what undo calls it; edit: document and what is given → document, raising an
    IsometronError that says what to change; parameters; acts_on: any of these will do; keys; shows:
    the example that its drawing is made from."""

    key: str
    text: str
    tip: str
    name: str
    edit: Callable[[Document, Given], Document]
    parameters: tuple[Parameter, ...] = ()
    acts_on: tuple[ActsOn, ...] = (ActsOn.VOLUME,)
    keys: tuple[str, ...] = ()
    shows: Callable[[], Example] = box

    def ready(self, document: Document, pick: Pick | None) -> bool:
        """Whether what it acts on is there."""
        return any(READY[what](document, pick) for what in self.acts_on)

    def with_given(self, given: Given) -> Edit:
        """The edit, with what is given for its parameters. Raises VolumeError for a value out of
        its range."""
        for parameter in self.parameters:
            given[parameter]
        return lambda document: self.edit(document, given)


def plain(edit: Edit) -> Callable[[Document, Given], Document]:
    """The edit of a deed that asks for nothing."""
    return lambda document, given: edit(document)


def drawing_of(deed: Deed) -> Small:
    """What a deed's drawing shows: what it makes of its example."""
    example = deed.shows()
    return small_of(deed.with_given(Given(example.values, example.pick))(example.document))
