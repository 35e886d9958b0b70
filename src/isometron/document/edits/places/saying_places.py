"""Places said in words, by another volume: “1.3 w behind Front axle, on the centre plane”.

What is said is kept as it was said (`Anchor`): along each of the other's three directions a place
of the volume in work lies so far from a place of the other, and follows it from then on.
"""

import re
from dataclasses import dataclass, replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.proportioning import known_lengths, read_side
from isometron.framework.modules import Count, write_count
from isometron.framework.placing import Anchor
from isometron.framework.settling import anchored
from isometron.framework.volume import Volume
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.eye import sight_axes
from isometron.perspective.lengths import write_length
from isometron.perspective.projection import project
from isometron.words import _, quoted

WAYS = {
    "right of": (0, 1),
    "left of": (0, -1),
    "behind": (1, 1),
    "in front of": (1, -1),
    "before": (1, -1),
    "above": (2, 1),
    "over": (2, 1),
    "below": (2, -1),
    "under": (2, -1),
}
"""Directions in words: the axis of the other volume, and which way along it."""

SIDES = {
    "left": (0, 0.0),
    "right": (0, 1.0),
    "front": (1, 0.0),
    "back": (1, 1.0),
    "base": (2, 0.0),
    "bottom": (2, 0.0),
    "top": (2, 1.0),
}
"""Sides in words: their axis, and the share of the side they lie at."""

MIDDLES = ("middle", "centre", "center", "axle", "centre line", "centre plane")
GROUND = ("ground", "the ground")
GIVEN = _(
    "say, for example, 10 cm behind Bench; 1.3 w left of the middle of Body; flush with the front "
    "of Body; on the centre plane of Body; on top of Bench; 5 cm above ground"
)

TURNED = 1e-12
"""A volume whose axes differ by more than this from the other's is turned against it: then it is
placed by how far it reaches, not by its own sides."""

_FAR = re.compile(
    r"(?P<length>.+?)\s+(?P<way>" + "|".join(sorted(WAYS, key=len)[::-1]) + r")\s+", re.IGNORECASE
)


@dataclass(frozen=True)
class _Said:
    """Along one axis: which place of the other (a share) a place of the volume (a share) lies so
    far from, and which way."""

    share: float
    own: float
    far: float | Count = 0.0
    sign: int = 1


def say_place(document: Document, text: str) -> Document:
    """The volume in work put where a sentence says, and kept there as it was said. Raises
    IsometronError saying what would be understood."""
    index, volume = in_work(document)
    reader = _Reader(document, volume)
    for clause in filter(None, (part.strip() for part in re.split(r"[,;]", text))):
        reader.take(clause)
    return reader.placed(index)


CENTRES = ("middle", "width", "depth", "axle", "side", "near edge")
"""What of another volume one can be centred on."""


def centre_on(document: Document, parent: int, what: str, face: int = 0) -> Document:
    """The volume in work centred on something of another, which it follows from now on; where that
    leaves it free it stays.

    what: its "middle" across and away; the middle of its "width" or "depth" alone (its centre
    planes); its "axle"; a "side" (face 0…5 of its box: along both directions of the face), or that
    side's "near edge". Raises VolumeError for a volume without an axle.
    """
    index, volume = in_work(document)
    if parent == index or not 0 <= parent < len(document.volumes):
        raise VolumeError(_("Choose another volume to centre it on."))
    other = document.volumes[parent]
    reader = _Reader(document, volume)
    reader.centre(other, _axes_of(other, what, face // 2))
    return reader.placed(index)


def _axes_of(other: Volume, what: str, across: int) -> tuple[int, ...]:
    """The axes of the other along which middles meet."""
    if what == "axle":
        axle = other.shape.axle
        if axle is None:
            raise VolumeError(
                _("{name} has no axle: choose something turned.").format(name=other.name)
            )
        return tuple(axis for axis in range(3) if axis != axle)
    if what == "side":
        return tuple(axis for axis in range(3) if axis != across)
    if what == "near edge":
        return (1,) if across == 0 else (0,)
    return {"width": (0,), "depth": (1,)}.get(what, (0, 1))


def centre_on_sheet(document: Document) -> Document:
    """The volume in work moved along the picture plane, truly across and not up, until the middle
    of the box it fills is drawn on the middle of the sheet's width. Raises VolumeError for one that
    lies behind us."""
    index, volume = in_work(document)
    eye = document.eye
    corners = volume.corners()
    middle = (corners[0] + corners[7]) / 2
    seen = project(eye, middle[None])
    if not np.isfinite(seen.sheet).all():
        raise VolumeError(_("{name} lies behind us: move it first.").format(name=volume.name))
    aside = document.sheet.width_mm / 2 - float(seen.sheet[0, 0])
    right = sight_axes(eye)[0].astype(float)
    run = aside * float(seen.depth[0]) / eye.station_distance_mm * right
    x, y, z = (float(v) for v in np.array(volume.place) + run)
    return document.with_volume(index, replace(volume, x_mm=x, y_mm=y, z_mm=z, on=None))


class _Reader:
    """Takes the clauses of a sentence."""

    def __init__(self, document: Document, volume: Volume) -> None:
        self._document, self._volume = document, volume
        self._other: Volume | None = None
        self._said: dict[int, _Said] = {}
        self._plane = False
        self._above_ground: float | None = None

    def take(self, clause: str) -> None:
        """One clause. Raises IsometronError."""
        words = " ".join(clause.split())
        low = words.casefold()
        if low in ("on the ground", "on ground"):
            self._above_ground = 0.0
        elif low.startswith("on the centre plane"):
            self._refer(words[len("on the centre plane") :].removeprefix(" of"))
            self._plane = True
        elif low.startswith(("centred on ", "centered on ")):
            self._refer(words.split(" on ", 1)[1])
            for axis in (0, 1):
                self._said.setdefault(axis, _Said(0.5, 0.5))
        elif low.startswith(("on top of ", "on ")):
            self._refer(words[len("on top of " if low.startswith("on top") else "on ") :])
            self._said[2] = _Said(1.0, 0.0)
        elif low.startswith(("flush with ", "against ")):
            self._beside(words, flush=low.startswith("flush"))
        else:
            self._far(words)

    def centre(self, other: Volume, axes: tuple[int, ...]) -> None:
        """Middles meet along some axes of the other."""
        self._other = other
        self._said |= {axis: _Said(0.5, 0.5) for axis in axes}

    def _beside(self, words: str, *, flush: bool) -> None:
        """flush with / against the <side> of <volume>."""
        rest = words.split(" ", 2 if flush else 1)[-1]
        side, _of, name = _article(rest).partition(" of ")
        if side.casefold() not in SIDES or not name:
            raise self._wrong(words)
        self._refer(name)
        axis, share = SIDES[side.casefold()]
        self._said[axis] = _Said(share, share if flush else 1.0 - share)

    def _far(self, words: str) -> None:
        """<length> <direction> <place>."""
        found = _FAR.match(words + " ")
        if found is None:
            raise self._wrong(words)
        axis, sign = WAYS[found["way"].casefold()]
        place = _article(words[found.end() :].strip())
        far = read_side(self._document, axis, found["length"], nothing=True)
        if place.casefold() in GROUND and axis == 2 and sign > 0:
            far = self._mm(far, axis)
            self._above_ground = far
            return
        share, own = self._feature(place, axis, sign)
        self._said[axis] = _Said(share, own, far, sign)

    def _mm(self, far: float | Count, axis: int) -> float:
        if isinstance(far, Count):
            return far.length(known_lengths(self._document, axis))
        return far

    def _feature(self, place: str, axis: int, sign: int) -> tuple[float, float]:
        """The share of the other, and of the volume, that a distance lies between."""
        feature, of, name = place.partition(" of ")
        low = feature.casefold()
        if of and low in MIDDLES:
            self._refer(name)
            return 0.5, 0.5
        if of and SIDES.get(low, (-1,))[0] == axis:
            self._refer(name)
            share = SIDES[low][1]
            return share, 0.0 if sign > 0 else 1.0
        if place.casefold().endswith(" axle") and self._named(place[: -len(" axle")]):
            self._refer(place[: -len(" axle")])
            return 0.5, 0.5
        self._refer(place)
        assert self._other is not None
        axle = self._other.shape.axle
        if axle in (0, 1) and axis not in (axle, 2):  # a level axle: the trade measures from it
            return 0.5, 0.5
        return (1.0, 0.0) if sign > 0 else (0.0, 1.0)

    def _named(self, name: str) -> Volume | None:
        wanted = _article(name.strip()).casefold()
        others = (v for v in self._document.volumes if v.key != self._volume.key)
        return next((v for v in others if v.name.casefold() == wanted), None)

    def _refer(self, name: str) -> None:
        """The other volume all clauses speak of."""
        if not name.strip():
            return
        other = self._named(name)
        if other is None:
            raise VolumeError(
                _("There is no volume “{name}” to stand by: {given}.").format(
                    name=quoted(name), given=GIVEN
                )
            )
        if self._other is not None and self._other.key != other.key:
            raise VolumeError(
                _("One place speaks of one volume: {one} or {other}, not both.").format(
                    one=self._other.name, other=other.name
                )
            )
        self._other = other

    def _wrong(self, words: str) -> LengthError:
        told = _("“{words}” is no place: {given}.")
        return LengthError(told.format(words=quoted(words), given=GIVEN))

    def placed(self, index: int) -> Document:
        """The document with the volume put where all clauses say."""
        document, volume, other = self._document, self._volume, self._other
        if self._plane:
            free = [axis for axis in (0, 1) if axis not in self._said]
            self._said[free[0] if free else 0] = _Said(0.5, 0.5)
        if other is None and self._said and volume.on is not None:
            other = document.by_key(volume.on.parent)
        if other is None:
            if self._said or self._above_ground is None:
                raise self._wrong(_("nothing"))
            low = volume.reach_along(np.array([0.0, 0.0, 1.0]))[0]
            lifted = volume.z_mm - low + self._above_ground
            return document.with_volume(index, replace(volume, on=None, z_mm=lifted))
        return document.with_volume(index, self._anchored(volume, other))

    def _anchored(self, volume: Volume, other: Volume) -> Volume:
        if self._above_ground is not None:
            low = volume.reach_along(np.array([0.0, 0.0, 1.0]))[0]
            volume = replace(volume, on=None, z_mm=volume.z_mm - low + self._above_ground)
        turned = abs(volume.pose[1] @ other.pose[1].T - np.eye(3)).max() > TURNED
        free = replace(volume, on=None)
        stands = anchored(free, other, (0.0, 0.0, 0.0), of_extent=bool(turned))
        anchor = stands.on
        assert anchor is not None
        shares, offsets, own = list(anchor.shares), list(anchor.offsets_mm), list(anchor.own)
        counts: list[Count | None] = [None, None, None]
        for axis, said in self._said.items():
            shares[axis], own[axis] = said.share, said.own
            offsets[axis] = said.sign * self._mm(said.far, axis)
            counts[axis] = said.far if isinstance(said.far, Count) else None
        kept = Anchor(
            anchor.parent,
            (shares[0], shares[1], shares[2]),
            (offsets[0], offsets[1], offsets[2]),
            anchor.turns_deg,
            (own[0], own[1], own[2]),
            (counts[0], counts[1], counts[2]),
            anchor.of_extent,
        )
        return replace(stands, on=kept)


def _article(words: str) -> str:
    return words[4:] if words.casefold().startswith("the ") else words


NAMES_OF_WAYS = {
    (axis, sign): way
    for (axis, sign), way in (
        ((0, 1), _("right of")),
        ((0, -1), _("left of")),
        ((1, 1), _("behind")),
        ((1, -1), _("in front of")),
        ((2, 1), _("above")),
        ((2, -1), _("below")),
    )
}
NAMES_OF_SIDES = ((_("left"), _("right")), (_("front"), _("back")), (_("base"), _("top")))


def said_place(document: Document, index: int) -> str:
    """Where a volume was said to stand by another, as it could be said again; "" for one that
    stands free."""
    volume = document.volumes[index]
    anchor = volume.on
    other = None if anchor is None else document.by_key(anchor.parent)
    if anchor is None or other is None:
        return ""
    unit = document.choices.unit
    told = [_said_along(anchor, axis, other.name, unit) for axis in range(3)]
    if told[0] and told[0] == told[1]:
        told[:2] = [_("centred on {name}").format(name=other.name)]
    return ", ".join(filter(None, told))


def _said_along(anchor: Anchor, axis: int, name: str, unit: str) -> str:
    share, own, mm = anchor.shares[axis], anchor.own[axis], anchor.offsets_mm[axis]
    count, sign = anchor.counts[axis], 1 if mm >= 0 else -1
    far = write_length(abs(mm), unit) if count is None else write_count(count, unit)
    way = NAMES_OF_WAYS[axis, sign]
    if share == own == 0.5:
        far = f"{far} {way}" if mm or axis == 2 else ""
        told = _("{far} the middle of {name}") if far else _("on the centre plane of {name}")
        return told.format(far=far, name=name)
    gap = 1 if (share, own) == (1.0, 0.0) else -1 if (share, own) == (0.0, 1.0) else 0
    if gap and mm == 0:
        side = NAMES_OF_SIDES[axis][int(share)]
        told = _("on top of {name}") if (axis, gap) == (2, 1) else _("against the {side} of {name}")
        return told.format(side=side, name=name)
    if gap == sign:
        return _("{far} {way} {name}").format(far=far, way=way, name=name)
    if share not in (0.0, 1.0) or (mm and own != (0.0 if sign > 0 else 1.0)) or own not in (0, 1):
        return ""  # where it stands already
    side = NAMES_OF_SIDES[axis][int(share)]
    told = _("flush with the {side} of {name}")
    if mm or share != own:
        told = _("{far} {way} the {side} of {name}")
    return told.format(far=far, way=way, side=side, name=name)
