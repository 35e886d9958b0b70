"""Edits of profiles: the outline of an extrusion, drawn flat or on its plane in the framework."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from isometron.document.document import Document, Edit
from isometron.document.edits.choosing import in_work
from isometron.document.edits.places.places_along import place_along, read_pairs, read_shares
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.marks import Mark
from isometron.framework.outlines import Flat, Knot, Ring, centre_of, flat
from isometron.framework.volume import Volume
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.errors import LengthError, SetupError, VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import sight_ray
from isometron.words import _

LEAST_KNOTS = 2
"""Two knots with arcs between them still close an outline."""


def profile_of(volume: Volume | None) -> Extruded | None:
    """The profile of a volume; None for one that has none."""
    shape = None if volume is None else volume.shape
    return shape if isinstance(shape, Extruded) else None


def profile_in_work(document: Document) -> tuple[int, Volume, Extruded]:
    """Number, volume and shape of the profile in work. Raises VolumeError when it is none."""
    index, volume = in_work(document)
    return index, volume, _profile(volume)


def _profile(volume: Volume) -> Extruded:
    shape = profile_of(volume)
    if shape is None:
        raise VolumeError(_("{name} has no profile: begin one first.").format(name=volume.name))
    return shape


def begin_profile(document: Document, axis: int) -> Document:
    """The box in work as a profile across an own axis, beginning from its rectangle."""
    from isometron.document.edits.shapes.arches import extrude_box

    made = extrude_box(document, axis)
    index, volume, shape = profile_in_work(made)
    return made.with_volume(index, replace(volume, shape=replace(shape, name="profile")))


def refitted(volume: Volume) -> Volume:
    """An extrusion whose box is what its outline fills: nothing of it moves in the world."""
    shape = _profile(volume)
    first, second = shape.cross
    size = np.array([volume.sides[first], volume.sides[second]])
    low, high = extents(flat(shape.rings[0], *size.tolist()))
    span = high - low
    if not (span > 0).all():
        raise VolumeError(_("That outline has no area: pull its points apart."))
    if np.abs(low).max() < SAME * size.max() and np.abs(high - size).max() < SAME * size.max():
        return volume
    rings = tuple(
        tuple(
            replace(
                knot,
                x=float((knot.x * size[0] - low[0]) / span[0]),
                y=float((knot.y * size[1] - low[1]) / span[1]),
            )
            for knot in ring
        )
        for ring in shape.rings
    )
    slant = (shape.slant[0] * float(size[0] / span[0]), shape.slant[1] * float(size[1] / span[1]))
    axes = volume.pose[1]
    x, y, z = (
        float(v) for v in np.array(volume.place) + low[0] * axes[first] + low[1] * axes[second]
    )
    sides = list(volume.sides)
    sides[first], sides[second] = (float(v) for v in span)
    counts = list(volume.counts)
    for axis, before in ((first, size[0]), (second, size[1])):
        if sides[axis] != before:
            counts[axis] = None
    grown = replace(
        volume.with_sides((sides[0], sides[1], sides[2])),
        shape=replace(shape, rings=rings, slant=slant),
        counts=(counts[0], counts[1], counts[2]),
    )
    return replace(grown, x_mm=x, y_mm=y, z_mm=z)


def extents(ring: Flat) -> tuple[Array, Array]:
    """Lower left and upper right (2,) of a ring, its arcs taken into account."""
    points = [*ring.corners]
    for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
        if bulge == 0:
            continue
        centre, radius, first, turn = centre_of(start, end, bulge)
        for quarter in range(4):
            angle = quarter * math.pi / 2
            if (angle - first) * math.copysign(1.0, turn) % (2 * math.pi) < abs(turn):
                points.append(centre + radius * np.array([math.cos(angle), math.sin(angle)]))
    table = np.array(points)
    return table.min(axis=0), table.max(axis=0)


def _with_ring(document: Document, number: int, ring: Ring) -> Document:
    index, volume, shape = profile_in_work(document)
    rings = (*shape.rings[:number], ring, *shape.rings[number + 1 :])
    return document.with_volume(index, refitted(replace(volume, shape=replace(shape, rings=rings))))


def move_knot(document: Document, ring: int, knot: int, place_mm: Place) -> Document:
    """A knot of the profile in work moved to a place in mm along its two directions, from the lower
    left of its box. Raises VolumeError for an outline that crosses itself."""
    _unused, volume, shape = profile_in_work(document)
    first, second = shape.cross
    knots = list(shape.rings[ring])
    x, y = place_mm[0] / volume.sides[first], place_mm[1] / volume.sides[second]
    knots[knot] = replace(knots[knot], x=x, y=y)
    return _with_ring(document, ring, tuple(knots))


def move_knot_on_sheet(document: Document, ring: int, knot: int, to: Place) -> Document:
    """A knot moved on the profile's own plane in the framework to a place of the sheet."""
    return move_knot(document, ring, knot, on_plane(document, to))


def on_plane(document: Document, to: Place) -> Place:
    """The place on the plane of the profile in work that a place of the sheet shows, mm along its
    two directions. Raises SetupError when the sight line misses the plane."""
    _unused, volume, shape = profile_in_work(document)
    place, axes = volume.pose
    normal = axes[shape.axis]
    foot = place + shape.at * volume.sides[shape.axis] * normal
    ray, eye = sight_ray(document.eye, to), np.array(document.eye.place)
    run = float(ray @ normal)
    depth = float((foot - eye) @ normal) / run if abs(run) > ROUNDING else -1.0
    if depth <= 0:
        raise SetupError(_("From here that plane is not seen there: move the other way."))
    first, second = shape.cross
    own = axes @ (eye + depth * ray - place)
    shift = np.array(shape.slant) * shape.at * (volume.sides[first], volume.sides[second])
    return float(own[first] - shift[0]), float(own[second] - shift[1])


def knot_world(volume: Volume, ring: int, knot: int) -> Array:
    """World place (3,) of a knot on the profile's own plane."""
    shape = _profile(volume)
    first, second = shape.cross
    one = shape.rings[ring][knot]
    own = np.zeros(3)
    own[first] = (one.x + shape.at * shape.slant[0]) * volume.sides[first]
    own[second] = (one.y + shape.at * shape.slant[1]) * volume.sides[second]
    own[shape.axis] = shape.at * volume.sides[shape.axis]
    place, axes = volume.pose
    return np.asarray(place + own @ axes)


def add_knot(document: Document, ring: int, after: int, place_mm: Place) -> Document:
    """A new knot after another, at a place in mm; the arc it stands on becomes straight."""
    _unused, volume, shape = profile_in_work(document)
    first, second = shape.cross
    knots = list(shape.rings[ring])
    x, y = place_mm[0] / volume.sides[first], place_mm[1] / volume.sides[second]
    smooth = knots[after].smooth and knots[(after + 1) % len(knots)].smooth
    knots[after] = replace(knots[after], bulge=0.0)
    knots.insert(after + 1, Knot(x, y, 0.0, smooth))
    return _with_ring(document, ring, tuple(knots))


def remove_knot(document: Document, ring: int, knot: int) -> Document:
    """The profile in work without a knot; a hole with no knots left goes."""
    index, volume, shape = profile_in_work(document)
    knots = list(shape.rings[ring])
    del knots[knot]
    if ring > 0 and len(knots) < LEAST_KNOTS:
        rings = (*shape.rings[:ring], *shape.rings[ring + 1 :])
        return document.with_volume(index, replace(volume, shape=replace(shape, rings=rings)))
    if len(knots) < 3 and not any(k.bulge for k in knots):
        raise VolumeError(_("An outline keeps at least three points: move it instead."))
    return _with_ring(document, ring, tuple(knots))


def smooth_knot(document: Document, ring: int, knot: int, smooth: bool) -> Document:
    """Whether the outline runs smoothly through a knot, or turns a corner there."""
    _index, _volume, shape = profile_in_work(document)
    knots = list(shape.rings[ring])
    knots[knot] = replace(knots[knot], smooth=smooth)
    if smooth:  # arcs of one's own give way to the smooth run
        knots[knot] = replace(knots[knot], bulge=0.0)
        knots[knot - 1] = replace(knots[knot - 1], bulge=0.0)
    return _with_ring(document, ring, tuple(knots))


def bring_outline(document: Document, rings_mm: Sequence[Ring], axis: int) -> Document:
    """Outlines in mm (largest first) as the profile of the volume in work; its two sides across
    become theirs, its lower left corner and its thickness stay."""
    index, volume = in_work(document)
    first, second = CROSS[axis]
    low, high = extents(flat(rings_mm[0], 1.0, 1.0))
    span = high - low
    if not (span > 0).all():
        raise VolumeError(_("That outline has no area: choose another file."))
    rings = tuple(
        tuple(
            replace(k, x=float((k.x - low[0]) / span[0]), y=float((k.y - low[1]) / span[1]))
            for k in ring
        )
        for ring in rings_mm
    )
    sides = list(volume.sides)
    sides[first], sides[second] = (float(v) for v in span)
    sized = volume.with_sides((sides[0], sides[1], sides[2]))
    shape = Extruded(rings, axis=axis, name="profile")
    made = replace(sized, shape=shape, cuts=(), marks=(), circles=())
    return document.with_volume(index, made)


def show_plane(document: Document, share: float) -> Document:
    """The plane on which the profile in work is shown and moved."""
    index, volume, shape = profile_in_work(document)
    return document.with_volume(index, replace(volume, shape=replace(shape, at=share)))


def set_thickness(document: Document, mm: float) -> Document:
    """The full width of the profile in work, the same on both sides of its centre plane."""
    index, volume, shape = profile_in_work(document)
    axes = volume.pose[1]
    before = volume.sides[shape.axis]
    sides = list(volume.sides)
    sides[shape.axis] = mm
    shift = (before - mm) / 2 * axes[shape.axis]
    x, y, z = (float(v) for v in np.array(volume.place) + shift)
    grown = replace(volume.with_sides((sides[0], sides[1], sides[2])), x_mm=x, y_mm=y, z_mm=z)
    return document.with_volume(index, grown)


def set_widths(document: Document, widths: tuple[tuple[float, float], ...]) -> Document:
    """Where the profile in work is how wide, as shares; () makes it straight."""
    index, volume, shape = profile_in_work(document)
    return document.with_volume(index, replace(volume, shape=replace(shape, widths=widths)))


def read_widths(
    text: str, length_mm: float | None = None, width_mm: float | None = None, unit: str = "mm"
) -> tuple[tuple[float, float], ...]:
    """Places along a length and widths there from what a person typed, as shares of both (mm):
    ``0 60%, 1/2 100%, 1 80%``; one word (``straight``, or nothing) makes it straight. Raises
    LengthError."""
    pairs = read_pairs(text)
    if not pairs or (len(pairs) == 1 and len(pairs[0]) == 1):
        return ()
    try:
        return tuple(
            (place_along(place, length_mm, unit), place_along(width, width_mm, unit))
            for place, width in pairs
        )
    except (ValueError, LengthError) as error:
        raise LengthError(
            _("Type places with their widths, from one end to the other, such as 0 60%, 1 100%.")
        ) from error


def write_widths(widths: Sequence[tuple[float, float]]) -> str:
    """Places and widths as a person writes them."""
    return ", ".join(f"{place:.3g} {100 * width:.3g}%" for place, width in widths) or "straight"


def set_contours(document: Document, shares: tuple[float, ...]) -> Document:
    """Cross-contours of the round volume in work at stations along its length: across the axle of a
    turned form, along the first direction of a profile. () takes them away."""
    index, volume = in_work(document)
    axis = _contour_axis(volume)
    kept = tuple(m for m in volume.marks if (m.kind, m.axis) != ("section", axis))
    marks = (*kept, Mark("section", 0, axis, shares)) if shares else kept
    return document.with_volume(index, replace(volume, marks=marks))


def _contour_axis(volume: Volume) -> int:
    """The own axis along which cross-contours are counted: the axle, or the first direction of a
    profile."""
    shape = profile_of(volume)
    return shape.cross[0] if shape is not None else volume.shape.axle or 0


def contours_as_typed(text: str) -> Edit:
    """The edit that draws cross-contours where a person typed; blank takes them away."""

    def draw(document: Document) -> Document:
        _index, volume = in_work(document)
        whole = volume.sides[_contour_axis(volume)]
        shares = read_shares(text, whole, document.choices.unit) if text.strip() else ()
        return set_contours(document, shares)

    return draw


def widths_as_typed(text: str) -> Edit:
    """The edit that gives a profile the widths a person typed."""

    def give(document: Document) -> Document:
        _index, volume, shape = profile_in_work(document)
        length, width = volume.sides[shape.cross[0]], volume.sides[shape.axis]
        return set_widths(document, read_widths(text, length, width, document.choices.unit))

    return give


def set_centre_line(document: Document, drawn: bool) -> Document:
    """The outline of the profile in work drawn on its centre plane, or not."""
    index, volume, shape = profile_in_work(document)
    kept = tuple(m for m in volume.marks if (m.kind, m.axis) != ("section", shape.axis))
    marks = (*kept, Mark("section", 0, shape.axis, (0.5,))) if drawn else kept
    return document.with_volume(index, replace(volume, marks=marks))


def contours_of(volume: Volume) -> tuple[float, ...]:
    """The stations of the cross-contours of a round volume."""
    axis = _contour_axis(volume)
    marks = [m for m in volume.marks if (m.kind, m.axis) == ("section", axis)]
    return marks[0].shares if marks else ()


def has_centre_line(volume: Volume) -> bool:
    """Whether the outline of a profile is drawn on its centre plane."""
    shape = profile_of(volume)
    if shape is None:
        return False
    return any((m.kind, m.axis) == ("section", shape.axis) for m in volume.marks)
