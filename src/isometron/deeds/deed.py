"""A deed: what it is called, what it acts on, what it asks for, and the edit it is.

Slip, menus, keys, finder and help read deeds; none of them says a second time what stands here. A
deed is declared in a file of this room, in its DEEDS; MATTER says what they are about."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import Enum
from typing import Any, TypeVar

from isometron.deeds.example import Example, box
from isometron.document.document import Document, Edit
from isometron.document.edits.shapes import bending, profiles, rounding
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick
from isometron.drawing.picks.surface import SurfacePick
from isometron.drawing.picks.twin import on_source
from isometron.framework.placing import Mirrored
from isometron.framework.volume import Volume
from isometron.perspective.errors import CopyError, VolumeError
from isometron.perspective.eye import LARGEST_MM
from isometron.words import _

P = TypeVar("P", bound=Pick)


class Matter(Enum):
    """What deeds are about, in the order in which a slip shows them."""

    SIZE = _("Size")
    PLACE = _("Place")
    MEANT = _("What stays true")
    PROPORTION = _("Does it look right")
    SHAPE = _("Shape")
    BUILDING = _("Roof, steps, legs, lids, bars")
    CUTS = _("Cuts")
    OPENINGS = _("Openings")
    CIRCLES = _("Circles, arches, knobs")
    ROUNDS = _("Rounds")
    PROFILE = _("Profile")
    LINES = _("Lines and skins")
    COPIES = _("Copies and groups")
    VARIANTS = _("Variants")
    ADD = _("Add")
    EYE = _("Eye and points")
    LIGHT = _("Light and values")
    PICTURE = _("Picture")
    AIDS = _("Drawing aids")


class Measured(Enum):
    """What the value of a parameter is: mm, degrees, a whole number, a share from 0 to 1, the
    number of a choice; a side (mm, a Count or a NewModule); mm or a TypedAngle of a lean; words as
    they were typed; or what stands for one of those that a document offers."""

    LENGTH = "length"
    ANGLE = "angle"
    COUNT = "count"
    SHARE = "share"
    CHOICE = "choice"
    SIDE = "side"
    LEAN = "lean"
    WORDS = "words"
    LISTED = "listed"


RANGES = {
    Measured.LENGTH: (0.0, LARGEST_MM),
    Measured.ANGLE: (-360.0, 360.0),
    Measured.COUNT: (0.0, 10_000.0),
    Measured.SHARE: (0.0, 1.0),
}
"""What any value of a parameter may be, where it says nothing narrower."""

Offered = Sequence[tuple[str, int | None]]
"""What there is to choose from on a sheet: in words, and what stands for it."""


@dataclass(frozen=True)
class Parameter:
    """What a deed asks for: its key (the English of what it is called), a sentence about it, what
    it is measured in, what is proposed, the range it may have, what there is to choose from
    (always, or as a document `offers` it). label: the word before its field; now: what it is on a
    sheet now, with what else is given (None: there is none)."""

    key: str
    tip: str
    measured: Measured
    default: Any = 0.0
    least: float | None = None
    most: float | None = None
    choices: tuple[str, ...] = ()
    label: str = ""
    now: "Callable[[Document, Given], Any] | None" = None
    offers: Callable[[Document], Offered] | None = None
    upright: bool = False
    """Whether a length is measured upward."""
    shown_by: "Callable[[int], Document] | None" = None
    """A framework whose volume in work shows one of its choices, where the deed draws nothing."""

    @property
    def called(self) -> str:
        """What a person calls it."""
        return self.label or _(self.key)

    @property
    def range(self) -> tuple[float, float] | None:
        """The least and the largest value; None of what is no number."""
        if self.measured is Measured.CHOICE:
            return 0.0, len(self.choices) - 1.0
        if self.measured not in RANGES:
            return None
        least, most = RANGES[self.measured]
        return (
            least if self.least is None else self.least,
            most if self.most is None else self.most,
        )


def length(key: str, tip: str, default: float = 0.0, **own: Any) -> Parameter:
    """A length that a deed asks for."""
    return Parameter(key, tip, Measured.LENGTH, default, **own)


def choice(key: str, tip: str, choices: Sequence[str], default: int = 0, **own: Any) -> Parameter:
    """One of a few, by its number."""
    return Parameter(key, tip, Measured.CHOICE, default, choices=tuple(choices), **own)


def words(key: str, tip: str, default: str = "", **own: Any) -> Parameter:
    """Words that the deed reads itself."""
    return Parameter(key, tip, Measured.WORDS, default, **own)


def listed(key: str, tip: str, offers: Callable[[Document], Offered], **own: Any) -> Parameter:
    """One of those that the sheet has."""
    return Parameter(key, tip, Measured.LISTED, None, offers=offers, **own)


def other_volumes(document: Document) -> Offered:
    """The volumes that are not in work."""
    return [(v.name, i) for i, v in enumerate(document.volumes) if i != document.selected]


class ActsOn(Enum):
    """What must be there for a deed: nothing, a volume in work, another one besides it, several
    chosen volumes, one in a group, a copy; of the volume in work a cut, an opening, an axle, a
    profile or a bent line; an edge or a face that is picked; a module, a picture in work or
    one laid under the sheet, or a light that is on."""

    SHEET = "sheet"
    VOLUME = "volume"
    OTHER = "another volume"
    VOLUMES = "volumes"
    GROUP = "group"
    COPY = "copy"
    CUT = "cut"
    OPENING = "opening"
    ROUND = "round"
    PROFILE = "profile"
    BAR = "bar"
    EDGE = "edge"
    FACE = "face"
    MODULE = "module"
    PICTURE = "picture"
    LAID = "picture under the sheet"
    LIGHT = "light"


PARTS = (ActsOn.EDGE, ActsOn.FACE)
"""Parts of a volume that are picked: deeds with them come first."""


def _of_volume(
    what: Callable[[Volume], object],
) -> Callable[[Document, Pick | None], bool]:
    return lambda document, pick: document.volume is not None and bool(what(document.volume))


READY: Mapping[ActsOn, Callable[[Document, Pick | None], bool]] = {
    ActsOn.SHEET: lambda document, pick: True,
    ActsOn.VOLUME: lambda document, pick: document.volume is not None,
    ActsOn.OTHER: lambda document, pick: document.volume is not None and len(document.volumes) > 1,
    ActsOn.VOLUMES: lambda document, pick: len(document.chosen) > 1,
    ActsOn.GROUP: lambda document, pick: any(document.volumes[i].group for i in document.chosen),
    ActsOn.COPY: lambda document, pick: any(document.volumes[i].like for i in document.chosen),
    ActsOn.CUT: _of_volume(lambda volume: volume.cuts),
    ActsOn.OPENING: _of_volume(lambda volume: volume.face_rings),
    ActsOn.ROUND: _of_volume(rounding.turned_of),
    ActsOn.PROFILE: _of_volume(profiles.profile_of),
    ActsOn.BAR: _of_volume(bending.bar_of),
    ActsOn.EDGE: lambda document, pick: isinstance(pick, EdgePick),
    ActsOn.FACE: lambda document, pick: isinstance(pick, FacePick | SurfacePick),
    ActsOn.MODULE: lambda document, pick: bool(document.modules),
    ActsOn.PICTURE: lambda document, pick: bool(document.pictures),
    ActsOn.LAID: lambda document, pick: document.laid is not None,
    ActsOn.LIGHT: lambda document, pick: document.light is not None,
}


LACKING: Mapping[ActsOn, str] = {
    ActsOn.SHEET: "",
    ActsOn.VOLUME: _("No volume is picked: pick one first."),
    ActsOn.OTHER: _("This needs another volume besides the one picked: add one."),
    ActsOn.VOLUMES: _("Choose several volumes first: click one, then others with Ctrl."),
    ActsOn.GROUP: _("Nothing that is chosen is in a group."),
    ActsOn.COPY: _("Nothing that is chosen is a copy."),
    ActsOn.CUT: _("Nothing is cut out of the picked volume."),
    ActsOn.OPENING: _("The picked volume has no opening: put one on a face first."),
    ActsOn.ROUND: _("No round volume is picked: pick one, or make it round first."),
    ActsOn.PROFILE: _("The picked volume has no profile: begin one first."),
    ActsOn.BAR: _("The picked volume is no bent bar: bend one first."),
    ActsOn.EDGE: _("No edge is picked: click one on the sheet first."),
    ActsOn.FACE: _("No face is picked: click one on the sheet first."),
    ActsOn.MODULE: _("The sheet has no module yet."),
    ActsOn.PICTURE: _("Pin a photograph first."),
    ActsOn.LAID: _("No sheet lies over this picture: lay one over it first."),
    ActsOn.LIGHT: _("No light is on: put the sun on, or a lamp."),
}
"""What to do first, where what a deed acts on is missing."""


@dataclass(frozen=True)
class Given:
    """What a deed is given: values by the keys of its parameters, and what is picked."""

    values: Mapping[str, Any] = field(default_factory=dict)
    pick: Pick | None = None

    def typed(self, parameter: Parameter) -> Any:
        """What is given for a parameter, as it was typed, else what is proposed."""
        return self.values.get(parameter.key, parameter.default)

    def __getitem__(self, parameter: Parameter) -> float:
        """A number that is given, within its range. Raises VolumeError."""
        value: float = self.typed(parameter)
        least, most = parameter.range or (value, value)
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

    def text(self, parameter: Parameter) -> str:
        """The words that are given."""
        return str(self.typed(parameter))

    def one(self, parameter: Parameter, document: Document, otherwise: str) -> int:
        """What stands for the one that is chosen of those a document offers. Raises VolumeError,
        saying `otherwise`, where none is."""
        number = self.typed(parameter)
        offered = [one for _words, one in parameter.offers(document)] if parameter.offers else []
        if number is None or number not in offered:
            raise VolumeError(otherwise)
        return int(number)

    def picked(self, kind: type[P], otherwise: str) -> P:
        """What is picked, of a kind. Raises VolumeError, saying `otherwise`, when it is not."""
        if not isinstance(self.pick, kind):
            raise VolumeError(otherwise)
        return self.pick


@dataclass(frozen=True)
class Deed:
    """One deed. key: what it is known by; text: the words of its button or menu entry; tip: a whole
    sentence; name: what undo calls it; edit: document and what is given → document, raising an
    IsometronError that says what to change; parameters; acts_on: any of these will do; keys; shows:
    the example that its drawing is made from; told: what it will give, in words, before it is done;
    finds: other words it is found by; in_place: whether it is one value of what is in work, typed
    where it is read."""

    key: str
    text: str
    tip: str
    name: str
    edit: Callable[[Document, Given], Document]
    parameters: tuple[Parameter, ...] = ()
    acts_on: tuple[ActsOn, ...] = (ActsOn.VOLUME,)
    keys: tuple[str, ...] = ()
    shows: Callable[[], Example] = box
    told: Callable[[Document, Given], str] | None = None
    finds: str = ""
    in_place: bool = False
    more: tuple[Parameter, ...] = ()
    """What may be given besides when it is said in a line (`isometron.deeds.line`)."""

    @property
    def asking_all(self) -> "Deed":
        """The same deed, asking for all that may be given."""
        return replace(self, parameters=(*self.parameters, *self.more), more=())

    def ready(self, document: Document, pick: Pick | None) -> bool:
        """Whether what it acts on is there."""
        return any(READY[what](document, pick) for what in self.acts_on)

    def lacking(self, document: Document, pick: Pick | None) -> str:
        """What to do first, where what it acts on is not there; nothing where it is."""
        return "" if self.ready(document, pick) else LACKING[self.acts_on[0]]

    def with_given(self, given: Given) -> Edit:
        """The edit, with what is given for its parameters. Raises VolumeError for a value out of
        its range."""
        for parameter in self.parameters:
            if parameter.range is not None:
                given[parameter]
        return lambda document: self._done(document, given)

    def _done(self, document: Document, given: Given) -> Document:
        """The deed done; what a copy in work cannot take is done to what it follows."""
        try:
            return self.edit(document, given)
        except CopyError:
            source = source_of(document, given.pick)
            if source is None:
                raise
        pick = _on_source(document, given.pick)
        lead = replace(document, selected=source, also=frozenset())
        done = self.edit(lead, Given(given.values, pick))
        if len(done.volumes) != len(document.volumes):
            return done
        return replace(done, selected=document.selected, also=document.also)


def source_of(document: Document, pick: Pick | None = None) -> int | None:
    """The number of the volume that the one in work is a copy of; of a mirrored twin whose part is
    picked only where that part is found on it."""
    found = _sources(document)
    if not found or (pick is not None and pick.of_volume and _followed(document, pick) is None):
        return None
    return found[-1]


def _sources(document: Document) -> list[int]:
    """Numbers of the volumes that the one in work follows, one after the other."""
    numbers = {one.key: number for number, one in enumerate(document.volumes)}
    volume, found = document.volume, list[int]()
    while volume is not None and volume.like is not None:
        found.append(numbers[volume.like.source])
        volume = document.volumes[found[-1]]
    return found


def _followed(document: Document, pick: Pick) -> Pick | None:
    """What is picked of the volume in work, on the volume it follows in the end; None where it is
    not found there."""
    if pick.volume != document.selected:
        return pick
    at: Pick | None = pick
    for number in _sources(document):
        if at is None:
            return None
        copy = document.volumes[at.volume]
        if isinstance(copy.like, Mirrored):
            at = on_source(at, copy, document.volumes[number], number)
        else:
            at = replace(at, volume=number)
    return at


def _on_source(document: Document, pick: Pick | None) -> Pick | None:
    """What is picked, on the source where it is of the volume in work."""
    return pick if pick is None or not pick.of_volume else _followed(document, pick)


def plain(edit: Edit) -> Callable[[Document, Given], Document]:
    """The edit of a deed that asks for nothing."""
    return lambda document, given: edit(document)


def in_place(
    parameter: Parameter,
    edit: Callable[[Document, Any], Document],
    sample: Any,
    *,
    name: str = "",
    acts_on: tuple[ActsOn, ...] = (ActsOn.VOLUME,),
    shows: Callable[[], Example] = box,
    finds: str = "",
) -> Deed:
    """One value of what is in work as a deed. sample: what its drawing gives it, on what `shows`
    shows."""

    def example() -> Example:
        made = shows()
        return Example(made.document, made.pick, {parameter.key: sample})

    return Deed(
        parameter.key,
        parameter.called,
        parameter.tip,
        name or parameter.called,
        lambda document, given: edit(document, given.typed(parameter)),
        (parameter,),
        acts_on,
        shows=example,
        finds=finds,
        in_place=True,
    )


def of_volume(what: Callable[[Volume], Any]) -> Callable[[Document, Given], Any]:
    """A value of the volume in work, for a parameter's `now`."""
    return lambda document, given: None if document.volume is None else what(document.volume)
