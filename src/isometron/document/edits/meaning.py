"""Ties between parts: what they were meant to be to each other, kept, told and let go."""

from dataclasses import replace
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.places import standing
from isometron.document.edits.proportioning import countable
from isometron.document.edits.shapes.arches import ROOM, arch_over
from isometron.framework.box import AXES
from isometron.framework.intentions.apart import Apart
from isometron.framework.intentions.between import Between
from isometron.framework.intentions.centred import Centred
from isometron.framework.intentions.flush import Flush
from isometron.framework.intentions.in_arch import InArch, arches_of, outlined
from isometron.framework.intentions.intention import middle_of, own_place
from isometron.framework.intentions.on_ground import OnGround
from isometron.framework.intentions.square_to import SquareTo
from isometron.framework.intentions.within import Within
from isometron.framework.modules import Count, read_dimension, write_count
from isometron.framework.placing import Mirrored
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, quoted


def keep_in_arch(document: Document, body: int) -> Document:
    """The wheel in work kept in an arch of another volume: the one over it, or a new one. Raises
    VolumeError for what takes none."""
    index, wheel = in_work(document)
    if wheel.shape.axle is None:
        raise VolumeError(_("Only something round turns in an arch: pick a wheel."))
    at = _arch_over(document.volumes[body], wheel)
    if at is None:
        axle = wheel.pose[1][wheel.shape.axle]
        along = int(np.abs(document.volumes[body].pose[1] @ axle).argmax())
        cross = ((1, 2), (0, 2), (0, 1))[along]
        cut = arch_over(replace(document, selected=body), wheel, along, cross)
        document = replace(cut, selected=index)
        at = _arch_over(document.volumes[body], wheel)
    if at is None:
        raise VolumeError(_("There is no room for an arch over that wheel: move it along."))
    there = document.volumes[body]
    return document.with_intention(InArch(wheel.key, there.key, at, (ROOM - 1) / 2))


def _arch_over(body: Volume, wheel: Volume) -> int | None:
    """The number of the arch that a wheel stands in."""
    shape = outlined(body)
    if shape is None:
        return None
    first = shape.cross[0]
    along = float(own_place(body, middle_of(wheel))[first]) / body.sides[first]
    ring = shape.rings[0]
    for number, at in enumerate(arches_of(ring)):
        ends = sorted((ring[at].x, ring[(at + 1) % len(ring)].x))
        if ends[0] < along < ends[1]:
            return number
    return None


def keep_within(document: Document, other: int, axis: int) -> Document:
    """The volume in work kept between the ends of another one along that one's axis."""
    _index, volume = in_work(document)
    return document.with_intention(Within(volume.key, document.volumes[other].key, axis))


def keep_centred(document: Document, other: int, axis: int) -> Document:
    """The volume in work kept in the middle of another one along that one's axis."""
    _index, volume = in_work(document)
    return document.with_intention(Centred(volume.key, document.volumes[other].key, axis))


def keep_flush(document: Document, other: int, axis: int, *, far: bool) -> Document:
    """The volume in work kept flush with the begin or the far end of another one along that one's
    axis."""
    _index, volume = in_work(document)
    return document.with_intention(Flush(volume.key, document.volumes[other].key, axis, far))


def keep_square_to(document: Document, other: int) -> Document:
    """The volume in work turned square to another one, seen from above, and kept so."""
    _index, volume = in_work(document)
    return document.with_intention(SquareTo(volume.key, document.volumes[other].key))


def keep_on_ground(document: Document) -> Document:
    """The volume in work kept standing on the ground, whatever it carries."""
    _index, volume = in_work(document)
    return document.with_intention(OnGround(volume.key))


def keep_cube(document: Document) -> Document:
    """The volume in work kept a cube of its width: depth and height are counted in it."""
    index, volume = in_work(document)
    if volume.counts[1:] == (ONCE, ONCE):
        return document
    width, _depth, _height = volume.counts
    if volume.shape.axle is not None:
        raise VolumeError(_("Something round is no cube: pick a box."))
    return document.with_volume(index, replace(volume, counts=(width, ONCE, ONCE)))


ONCE = Count(1.0, AXES[0])
"""As long as it is wide."""


def keep_square(document: Document, first: int, second: int) -> Document:
    """Two sides of the volume in work kept alike: the second is counted in the first."""
    index, volume = in_work(document)
    counts = list(volume.counts)
    counts[second] = Count(1.0, AXES[first])
    base = counts[first]
    if base is not None and AXES[second] in base.names:
        counts[first] = None
    return document.with_volume(index, replace(volume, counts=(counts[0], counts[1], counts[2])))


def keep_as_long(document: Document, own: int, other: int, axis: int) -> Document:
    """A side of the volume in work kept as long as a side of another one."""
    index, volume = in_work(document)
    counts = list(volume.counts)
    counts[own] = Count(1.0, f"{document.volumes[other].name}.{AXES[axis]}")
    return document.with_volume(index, replace(volume, counts=(counts[0], counts[1], counts[2])))


def keep_between(document: Document, one: int, other: int, axis: int) -> Document:
    """The volume in work kept half-way between the middles of two others, along an axis of the
    first. Raises VolumeError where they are one and the same."""
    _index, volume = in_work(document)
    if one == other:
        raise VolumeError(_("Half-way needs two others: choose a second one."))
    keys = document.volumes[one].key, document.volumes[other].key
    return document.with_intention(Between(volume.key, *keys, axis))


def keep_spread(document: Document, axis: int) -> Document:
    """The chosen volumes kept at even distances along an axis of the volume in work, between the
    first and the last of them. Raises VolumeError for fewer than three."""
    _index, lead = in_work(document)
    middle = {n: own_place(lead, middle_of(document.volumes[n]))[axis] for n in document.chosen}
    order = sorted(middle, key=lambda n: middle[n])
    if len(order) < 3:
        raise VolumeError(_("Choose three volumes or more: click one, then others with Ctrl."))
    first, *between, last = (document.volumes[n].key for n in order)
    for number, key in enumerate(between, start=1):
        share = number / (len(between) + 1)
        document = document.with_intention(Between(key, first, last, axis, share))
    return document


def keep_apart(
    document: Document, other: int, axis: int, places: tuple[int, int], text: str = ""
) -> Document:
    """A place of the volume in work (begin, middle, far end: 0, 1, 2) kept at a distance from one
    of another volume along that one's axis: as it is now, or as typed (2 w, 30 cm, below 0 before
    it). One counted in a module goes with the volume that carries it. Raises LengthError or
    VolumeError."""
    _index, volume = in_work(document)
    on = document.volumes[other]
    at, start = places
    asked = Apart(volume.key, on.key, on.key, axis, axis, 0.0, 0.0, at, start)
    now = asked.off_mm(document.parts)
    counted = _counted(document, text.strip(), now)
    return document.with_intention(replace(asked, **counted))


def _counted(document: Document, text: str, now_mm: float) -> dict[str, Any]:
    """A distance along a line as fields of `Apart`. now_mm: what it is, where nothing is typed."""
    if not text:
        module = document.modules[0].name if document.modules else ""
        carried = _carrier(document, module)
        if carried is None:
            return {"mm": now_mm}
        key, side, mm = carried
        return {"of": key, "side": side, "times": now_mm / mm}
    way, text = (-1.0, text[1:]) if text[0] in "-−" else (1.0, text)
    names = [name for name in countable(document) if name not in AXES]
    found = read_dimension(text, document.choices.unit, names, nothing=True)
    if not isinstance(found, Count):
        return {"mm": way * found}
    carried = None if found.plus else _carrier(document, found.of)
    if carried is None:
        raise VolumeError(
            _(
                "“{text}” is counted in no side of a volume: type a length, or say 2 Wheel.width."
            ).format(text=quoted(text))
        )
    key, side, _mm = carried
    return {"of": key, "side": side, "times": way * found.number, "mm": way * found.plus_mm}


def _carrier(document: Document, name: str) -> tuple[int, int, float] | None:
    """The volume, its side and that one's length, mm, that something counted in goes with: what
    measures one of a module, or the side itself that is named."""
    for volume in document.volumes:
        for side, count in enumerate(volume.counts):
            if count == Count(1.0, name) or f"{volume.name}.{AXES[side]}" == name:
                return volume.key, side, volume.sides[side]
    return None


STANDS, COPIES, COUNTED = -1, -2, (-3, -4, -5)
"""What stands for a tie of the volume itself: what it stands on, what it is a copy of, what its
width, depth and height are counted in. An intention is told by its number on the sheet."""


def let_go(document: Document, tie: int) -> Document:
    """A tie of the volume in work let go; nothing moves."""
    if tie >= 0:
        kept = [one for n, one in enumerate(document.intentions) if n != tie]
        return replace(document, intentions=tuple(kept))
    index, volume = in_work(document)
    if tie == STANDS:
        return standing.let_stand_free(document)
    if tie == COPIES:
        return document.with_volume(index, replace(volume, like=None))
    counts = list(volume.counts)
    counts[COUNTED.index(tie)] = None
    return document.with_volume(index, replace(volume, counts=(counts[0], counts[1], counts[2])))


def ties_of(document: Document) -> list[tuple[str, int]]:
    """All that the volume in work hangs on and what is kept with it: each in a sentence, and what
    stands for it."""
    volume = document.volume
    if volume is None:
        return []
    parts = document.parts
    found = []
    if volume.like is not None:
        source = parts[volume.like.source].name
        twin = isinstance(volume.like, Mirrored)
        words = _("is the twin of {name}") if twin else _("is like {name}")
        found.append((words.format(name=source), COPIES))
    if volume.on is not None:
        stands = _("stands on {name}").format(name=parts[volume.on.parent].name)
        found.append((stands, STANDS))
    for axis, count in enumerate(volume.counts):
        if count is not None:
            told = _("{axis} = {count}").format(axis=_(AXES[axis]), count=write_count(count))
            found.append((told, COUNTED[axis]))
    return [
        *found,
        *(
            (one.told(parts), number)
            for number, one in enumerate(document.intentions)
            if volume.key in one.keys
        ),
    ]
