"""Edits of what lies on the faces of a volume: outlines drawn, and openings cut in."""

from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.places.places_along import places_in
from isometron.document.edits.shapes.cutting import cut_by_fractions, piece_of
from isometron.document.edits.shapes.shaping import read_outline
from isometron.framework.bent_sides import BentSide, bent_numbers, drawing_plane
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.box import FACE_NORMALS
from isometron.framework.circles import FacePlane, flat_plane
from isometron.framework.face_rings import (
    FaceRing,
    extent_of,
    ring_of,
    told_shape,
)
from isometron.framework.outlines import Knot, Ring
from isometron.framework.volume import Volume
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.errors import IsometronError, LengthError, SetupError, VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.lengths import read_length, write_length
from isometron.perspective.projection import sight_ray
from isometron.words import _, quoted, said

SIDE_WORDS = (
    said("left"),
    said("right"),
    said("front"),
    said("back"),
    said("base"),
    said("top"),
)
FRONT = 2
LOOKS = 0.5
"""A face looks to a side when its normal turns away from it by less than 60° (its cosine)."""

EDGE_SHARE = 1e-9
"""Share of a face within which an opening comes to its edge."""

MOST_ALIKE = 12
"""More alike side by side than this are a pattern, not openings."""


class Wanted(NamedTuple):
    """What is put on a face, as a person types it: one of OPENINGS; from its left and its lower
    edge; width and height; how deep; how many across and up, and the gap between; across
    which side (0 width, 1 depth) it is mirrored too; each: whether width and height are those of
    each of them, not of all together."""

    shape: str
    left: str
    up: str
    wide: str
    high: str
    deep: str = "through"
    across: int = 1
    upward: int = 1
    gap_mm: float = 0.0
    twin: int | None = None
    each: bool = False


def face_to(volume: Volume, side: int) -> int:
    """The largest flat face of a volume that looks to a side (x=0, x=1, y=0, y=1, base, top).
    Raises VolumeError when none does."""
    body = volume.unopened
    looks = body.normals @ FACE_NORMALS[side] if body.faces else np.empty(0)
    faces = [int(i) for i in np.flatnonzero(looks > LOOKS)]
    if not faces:
        raise VolumeError(
            _("{name} has no flat face there: choose another side.").format(name=volume.name)
        )
    return max(faces, key=body.area_of)


def whole_face(volume: Volume, face: int) -> int:
    """A picked face, when it is one of the volume's own and not within an opening. Raises
    VolumeError otherwise."""
    if not 0 <= face < volume.unopened.faces:
        raise VolumeError(_("That face lies in an opening: pick the face it is cut into."))
    return face


def bent_side(volume: Volume, surface: int) -> int:
    """The bent side a picked surface of a volume is of: −1 − n. Raises VolumeError for one within
    an opening."""
    side = bent_numbers(volume.bare).get(surface, 0)
    if side not in bent_numbers(volume.unopened).values():
        raise VolumeError(_("That side lies in an opening: pick the side of the volume itself."))
    return side


def front_or_side(volume: Volume) -> int:
    """Where something is put when nothing is picked: on the front, or round what has none."""
    round_one = volume.unopened.surfaces is not None and volume.unopened.surfaces.turned
    return -1 if round_one and volume.shape.axle == 2 else face_to(volume, FRONT)


def read_depth(text: str, unit: str) -> tuple[float, bool]:
    """How deep an opening goes, mm, and whether right through, from what was typed: ``drawn``,
    ``through``, or a length. Raises VolumeError."""
    word = text.strip().casefold()
    if word in ("through", _("through")):
        return 0.0, True
    if word in ("drawn", _("drawn"), "0", ""):
        return 0.0, False
    try:
        mm = read_length(text, unit)
    except IsometronError:
        mm = -1.0
    if mm <= 0:
        raise VolumeError(
            _("“{text}” is no depth: type through, drawn, or a length such as 4cm.").format(
                text=quoted(text)
            )
        )
    return mm, False


def write_depth(one: FaceRing, unit: str) -> str:
    """How deep an outline goes, as it could be typed."""
    if one.through:
        return _("through")
    return write_length(one.deep_mm, unit) if one.deep_mm else _("drawn")


def place_in(text: str, whole_mm: float, size_mm: float, unit: str) -> float:
    """Where something of a size begins along a whole, mm: a length or a share; ``middle`` centres
    it. Raises VolumeError."""
    if text.strip().casefold() in ("", "middle", _("middle")):
        return (whole_mm - size_mm) / 2
    try:
        (share,) = places_in([text.strip()], whole_mm, unit)
        return share * whole_mm
    except LengthError as error:
        raise VolumeError(
            _("“{text}” is no place on it: {why}").format(text=quoted(text), why=error)
        ) from error


def size_in(text: str, whole_mm: float, unit: str, *, none: bool = False) -> float:
    """How large something is, mm: a length or a share of a whole; nothing only where there may be
    none. Raises VolumeError."""
    try:
        (share,) = places_in([text.strip()], whole_mm, unit)
        size = share * whole_mm
    except LengthError as error:
        raise VolumeError(str(error)) from error
    if size < 0 or (size == 0 and not none):
        raise VolumeError(
            _("“{text}” is no size: type a length such as 30cm, or a share such as 1/3.").format(
                text=quoted(text)
            )
        )
    return size


class Laid(NamedTuple):
    """Outlines as they will lie on a face, mm from its lower left: the first one, the size of each,
    from one to the next, how deep."""

    first: tuple[float, float]
    size: tuple[float, float]
    step: tuple[float, float]
    deep: float
    through: bool


def _laid(plane: FacePlane | BentSide, wanted: Wanted, unit: str) -> Laid:
    """Where outlines will lie. Raises VolumeError for numbers that give none."""
    typed = zip((wanted.wide, wanted.high), plane.extents, strict=True)
    whole = [size_in(text, extent, unit) for text, extent in typed]
    if wanted.shape == "round" and wanted.across == wanted.upward == 1:
        whole[1] = whole[0]
    counts, gap = (wanted.across, wanted.upward), wanted.gap_mm
    if not all(1 <= n <= MOST_ALIKE for n in counts):
        raise VolumeError(
            _("So many fit no face: type 1 to {most} each way.").format(most=MOST_ALIKE)
        )
    if wanted.each:
        whole = [n * w + (n - 1) * gap for w, n in zip(whole, counts, strict=True)]
    size = [(w - (n - 1) * gap) / n for w, n in zip(whole, counts, strict=True)]
    if min(size) <= 0:
        raise VolumeError(_("The gaps leave nothing between them: type a smaller gap."))
    begun = (wanted.left, wanted.up)
    first = [place_in(t, e, w, unit) for t, e, w in zip(begun, plane.extents, whole, strict=True)]
    deep, through = read_depth(wanted.deep, unit)
    return Laid(
        (first[0], first[1]),
        (size[0], size[1]),
        (size[0] + gap, size[1] + gap),
        deep,
        through,
    )


def wanted_in_words(volume: Volume, face: int, wanted: Wanted, unit: str) -> str:
    """What is understood of outlines to be put on a face: how large each is, where the first lies,
    how far from one to the next, how deep. Raises VolumeError for numbers that give none."""
    laid = _laid(drawing_plane(volume.unopened, face), wanted, unit)
    (left, up), (wide, high) = (
        [write_length(mm, unit) for mm in pair] for pair in (laid.first, laid.size)
    )
    deep = _("{deep} deep").format(deep=write_length(laid.deep, unit))
    deep = _("through") if laid.through else deep if laid.deep else _("drawn")
    told = _("{wide} × {high}, {left} from left, {up} up, {deep}").format(
        wide=wide, high=high, left=left, up=up, deep=deep
    )
    count = wanted.across * wanted.upward
    return _("{count} of {told}").format(count=count, told=told) if count > 1 else told


def put_on(document: Document, face_of: Callable[[Volume], int], wanted: Wanted) -> Document:
    """Outlines of one kind on a face of the volume in work, `across` by `upward` of them, gaps
    between. Raises VolumeError for numbers that give none, and for openings that do not fit."""
    index, volume = in_work(document)
    face = face_of(volume)
    plane = drawing_plane(volume.unopened, face)
    laid = _laid(plane, wanted, document.choices.unit)
    rings, cuts = list(volume.face_rings), list(volume.cuts)
    doors: list[Array] = []
    for step in np.ndindex(wanted.upward, wanted.across):
        low = np.array(laid.first) + np.array(step[::-1]) * laid.step
        if (
            wanted.shape == "square"
            and isinstance(plane, FacePlane)
            and _leads_out(plane, laid, low)
        ):
            ends = np.array([plane.place(*low), plane.place(*(low + laid.size))])
            piece = piece_of(volume, face, ends, None if laid.through else laid.deep)
            cuts += [piece] if wanted.twin is None else [piece, piece.across(wanted.twin)]
            continue
        if isinstance(plane, FacePlane) and _stands_arched(wanted, plane, laid, low):
            doors.append(low)
            continue
        ring = ring_of(wanted.shape, plane, (float(low[0]), float(low[1])), laid.size)
        rings.append(FaceRing(face, ring, laid.deep, laid.through, wanted.twin))
    if len(cuts) > len(volume.cuts):
        document = cut_by_fractions(document, tuple(cuts[len(volume.cuts) :]))
    done = _with_rings(document, index, tuple(rings)) if rings or not doors else document
    for door in doors:
        assert isinstance(plane, FacePlane)
        done = _with_door(done, plane, laid, door)
    return done


def _stands_arched(wanted: "Wanted", plane: FacePlane, laid: Laid, low: Array) -> bool:
    """Whether an arched opening stands on the foot of its face. Raises VolumeError for one that is
    only sunk there: its head would be no arc where it is cut."""
    on_foot = abs(low[1]) <= EDGE_SHARE * max(plane.extents)
    if wanted.shape != "arched" or not on_foot or not (laid.through or laid.deep):
        return False
    if not laid.through or wanted.twin is not None:
        raise VolumeError(
            _("An arched opening on the foot of its face goes right through: type “through”.")
        )
    return True


def _with_door(document: Document, plane: FacePlane, laid: Laid, low: Array) -> Document:
    """An arched opening on the foot of a face, as part of the outline of its volume: exact."""
    from isometron.document.edits.shapes.arches import let_door_in

    _index, volume = in_work(document)
    axis = int(np.abs(np.cross(plane.across, plane.along)).argmax())
    first, second = CROSS[axis]
    wide, high = laid.size
    feet = [plane.place(low[0] + x, 0.0) / volume.sides for x in (0.0, wide)]
    spring = plane.place(low[0], high - wide / 2) / volume.sides
    upright = abs(feet[0][second]) < SAME and spring[second] > 0
    if not upright or high <= wide / 2:
        raise VolumeError(
            _("An arched door stands on the base, higher than half its width: change either.")
        )
    ends = float(feet[0][first]), float(feet[1][first])
    return let_door_in(document, axis, ends, float(spring[second]))


def _leads_out(plane: FacePlane, laid: Laid, low: Array) -> bool:
    """Whether an opening so placed comes to the edge of its face, as a door that stands on the
    ground: it is cut, for no wall is left there. One that reaches beyond does not fit."""
    if not (laid.through or laid.deep):
        return False
    room = np.concatenate([low, np.array(plane.extents) - low - laid.size])
    slack = EDGE_SHARE * max(plane.extents)
    return bool(abs(room.min()) <= slack)


def outline_on(
    document: Document,
    face_of: Callable[[Volume], int],
    points: str,
    deep: str,
    *,
    smooth: bool,
    twin: int | None = None,
) -> Document:
    """A closed outline through points of a face of the volume in work, typed from its lower left
    (``0 0, 60 0, 60 40``): a free curve through them, or straight between them. Raises VolumeError
    for fewer than three."""
    index, volume = in_work(document)
    face, unit = face_of(volume), document.choices.unit
    mm, through = read_depth(deep, unit)
    ring = _through(points, drawing_plane(volume.unopened, face), unit, smooth=smooth)
    one = FaceRing(face, ring, mm, through, twin)
    return _with_rings(document, index, (*volume.face_rings, one))


def _through(points: str, plane: FacePlane | BentSide, unit: str, *, smooth: bool) -> Ring:
    wide, high = plane.extents
    return tuple(Knot(x / wide, y / high, 0.0, smooth) for x, y in read_outline(points, unit))


def change_points(document: Document, number: int, points: str) -> Document:
    """One of the outlines on the volume in work through other points, curved if it was."""
    index, volume = in_work(document)
    one = ring_at(volume, number)
    plane = drawing_plane(volume.unopened, one.face)
    smooth = any(knot.smooth for knot in one.ring)
    ring = _through(points, plane, document.choices.unit, smooth=smooth)
    return _changed(document, index, number, replace(one, ring=ring))


def points_of(volume: Volume, number: int, unit: str) -> str:
    """The points of a free outline as they could be typed; "" of one that has a shape."""
    one = ring_at(volume, number)
    if told_shape(one):
        return ""
    wide, high = drawing_plane(volume.unopened, one.face).extents
    return ", ".join(
        " ".join(write_length(mm, unit, with_unit=False) for mm in (k.x * wide, k.y * high))
        for k in one.ring
    )


def change_ring(document: Document, number: int, field: str, text: str) -> Document:
    """One of the outlines on the volume in work, its place (left, up), size (wide, high) or depth
    (deep) typed anew. Raises VolumeError."""
    index, volume = in_work(document)
    one = ring_at(volume, number)
    unit, plane = document.choices.unit, drawing_plane(volume.unopened, one.face)
    if field == "deep":
        deep, through = read_depth(text, unit)
        return _changed(document, index, number, replace(one, deep_mm=deep, through=through))
    low, size = extent_of(one, plane)
    axis = 0 if field in ("left", "wide") else 1
    new_low, new_size = low.copy(), size.copy()
    if field in ("left", "up"):
        new_low[axis] = place_in(text, plane.extents[axis], float(size[axis]), unit)
    else:
        new_size[axis] = size_in(text, plane.extents[axis], unit)
    made = _resized(one, plane, low, size, new_low, new_size)
    return _changed(document, index, number, replace(one, ring=made))


def _resized(
    one: FaceRing,
    plane: FacePlane | BentSide,
    low: Array,
    size: Array,
    new_low: Array,
    new_size: Array,
) -> Ring:
    """An outline at another place and size; one that is square, arched or round stays so."""
    shape = told_shape(one)
    if shape:
        (x, y), (wide, high) = new_low.tolist(), new_size.tolist()
        return ring_of(shape, plane, (x, y), (wide, wide if shape == "round" else high))
    extents = np.array(plane.extents)
    moved = []
    for knot in one.ring:
        at = np.array([knot.x, knot.y]) * extents
        x, y = (new_low + (at - low) / size * new_size) / extents
        moved.append(replace(knot, x=float(x), y=float(y)))
    return tuple(moved)


def move_ring(document: Document, number: int, by: tuple[float, float]) -> Document:
    """One of the outlines on the volume in work moved over its face by shares of it."""
    index, volume = in_work(document)
    one = ring_at(volume, number)
    ring = tuple(replace(k, x=k.x + by[0], y=k.y + by[1]) for k in one.ring)
    return _changed(document, index, number, replace(one, ring=ring))


def grip_of(volume: Volume, number: int, *, corner: bool) -> Array:
    """The middle of an outline on a volume, or the upper right corner round it: world mm (3,)."""
    one = ring_at(volume, number)
    plane = flat_plane(volume.unopened, one.face)
    low, size = extent_of(one, plane)
    place, axes = volume.pose
    return np.asarray(plane.place(*(low + size * (1.0 if corner else 0.5))) @ axes + place)


def place_on_face(document: Document, face: int, to: tuple[float, float]) -> Array:
    """The place (2,) mm from its lower left of a face of the volume in work that a place of the
    sheet shows. Raises SetupError when the sight line misses its plane."""
    _index, volume = in_work(document)
    plane, body = flat_plane(volume.unopened, face), volume.unopened
    place, axes = volume.pose
    ray = axes @ sight_ray(document.eye, to)
    eye = axes @ (np.array(document.eye.place) - place)
    normal = body.normals[face]
    run = float(ray @ normal)
    deep = (float(body.offsets[face]) - float(eye @ normal)) / run if abs(run) > ROUNDING else -1.0
    if deep <= 0:
        raise SetupError(_("From here that face is not seen there: move the other way."))
    off = eye + deep * ray - plane.corner
    return np.array([float(off @ plane.across), float(off @ plane.along)])


def drag_ring(
    document: Document, number: int, to: tuple[float, float], *, corner: bool
) -> Document:
    """An outline on the volume in work dragged by its middle, or made larger by its upper right
    corner, to a place of the sheet."""
    index, volume = in_work(document)
    one = ring_at(volume, number)
    plane = flat_plane(volume.unopened, one.face)
    low, size = extent_of(one, plane)
    at = place_on_face(document, one.face, to)
    if not corner:
        across, up = (at - low - size / 2) / np.array(plane.extents)
        return move_ring(document, number, (float(across), float(up)))
    if (at - low).min() <= 0:
        raise VolumeError(_("An opening has a width and a height: drag the other way."))
    resized = replace(one, ring=_resized(one, plane, low, size, low, at - low))
    return _changed(document, index, number, resized)


def twin_ring(document: Document, number: int, twin: int | None) -> Document:
    """One of the outlines on the volume in work with the mirrored one, across its width (0) or
    depth (1), or without."""
    index, volume = in_work(document)
    return _changed(document, index, number, replace(ring_at(volume, number), twin=twin))


def take_ring(document: Document, number: int) -> Document:
    """The volume in work without one of its outlines."""
    index, volume = in_work(document)
    ring_at(volume, number)
    rings = volume.face_rings
    return _with_rings(document, index, rings[:number] + rings[number + 1 :])


def ring_at(volume: Volume, number: int) -> FaceRing:
    """One of the outlines on a volume. Raises VolumeError when it is gone."""
    if not 0 <= number < len(volume.face_rings):
        raise VolumeError(_("That opening is gone: choose one that is there."))
    return volume.face_rings[number]


def _changed(document: Document, index: int, number: int, one: FaceRing) -> Document:
    rings = document.volumes[index].face_rings
    return _with_rings(document, index, (*rings[:number], one, *rings[number + 1 :]))


def _with_rings(document: Document, index: int, rings: tuple[FaceRing, ...]) -> Document:
    return document.with_volume(index, replace(document.volumes[index], face_rings=rings))


def typed_of(volume: Volume, number: int, unit: str) -> dict[str, str]:
    """Place, size and depth of one of the outlines, by field, as they could be typed."""
    one = ring_at(volume, number)
    low, size = extent_of(one, drawing_plane(volume.unopened, one.face))
    lengths = dict(zip(("left", "up", "wide", "high"), (*low, *size), strict=True))
    told = {name: write_length(float(mm), unit) for name, mm in lengths.items()}
    return told | {"deep": write_depth(one, unit)}


def rings_in_words(volume: Volume, unit: str) -> list[str]:
    """Every outline on a volume in few words: its number, shape, side and depth."""
    told = []
    for number, one in enumerate(volume.face_rings):
        shape = told_shape(one) or _("free")
        side = _side_of(volume, one.face)
        told.append(f"{number + 1}: {_(shape)} · {side} · {write_depth(one, unit)}")
    return told


def _side_of(volume: Volume, face: int) -> str:
    if face < 0:
        return _("round side")
    if face >= volume.unopened.faces:
        return _("gone")
    looks = FACE_NORMALS @ volume.unopened.normals[face]
    return _(SIDE_WORDS[int(looks.argmax())])


SHAPE_WORDS = {"square": said("square"), "arched": said("arched"), "round": said("round")}
