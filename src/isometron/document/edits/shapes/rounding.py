"""Edits of rounds: circles on faces, round volumes, wheels, arches, holes and lids."""

import itertools
import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, in_work, with_new
from isometron.document.edits.places.laying import add_box
from isometron.document.edits.places.places_along import place_along, read_pairs
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.bodies.lathe import Station
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.loop import Loop
from isometron.framework.kinds.turned import Turned
from isometron.framework.placing import Anchor, Mirrored
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import LengthError, VolumeError
from isometron.words import _, said

FORMS: dict[str, Turned | Loop] = {
    said("cylinder"): lathe.CYLINDER,
    said("cone"): lathe.CONE,
    said("frustum"): lathe.FRUSTUM,
    said("tube"): lathe.TUBE,
    said("sphere"): lathe.SPHERE,
    said("dome"): lathe.DOME,
    said("circle"): Loop(),
    said("wheel"): lathe.wheel(),
}
"""Round forms to begin from."""

SIZES: dict[str, tuple[float, float, float]] = {
    "dome": (1.0, 1.0, 0.5),
    "wheel": (1.0, 0.32, 1.0),
    "circle": (1.0, 1.0, 0.001),
}
"""Their sides in heights of the near edge, where they are not a cube's."""

MOST_AXLES = 12


def make_round(document: Document, name: str) -> Document:
    """The volume in work as one of FORMS, as large as its box holds."""
    index, volume = in_work(document)
    shape = FORMS[name]
    return document.with_volume(index, _rounded(replace(volume, cuts=(), marks=()), shape))


def _rounded(volume: Volume, shape: Turned | Loop) -> Volume:
    """A volume given a round shape; its box is narrowed to the round one it holds, standing where
    it stood."""
    first, second = CROSS[shape.axis]
    across = min(volume.sides[first], volume.sides[second])
    sides = list(volume.sides)
    sides[first] = sides[second] = across
    counts = list(volume.counts)
    if volume.sides[first] != volume.sides[second]:
        lead = first if volume.sides[first] == across else second
        counts[first] = counts[second] = counts[lead]
    made = replace(volume, shape=shape, circles=(), counts=(counts[0], counts[1], counts[2]))
    return made.with_sides((sides[0], sides[1], sides[2]))


def add_round(document: Document, name: str) -> Document:
    """A new round volume on the ground in the lower middle of the sheet."""
    grown = add_box(document)
    index, volume = in_work(grown)
    width, depth, height = (share * volume.height_mm for share in SIZES.get(name, (1.0, 1.0, 1.0)))
    sized = volume.with_sides((width, depth, height))
    named = replace(sized, name=free_name(document, name.capitalize()), shape=FORMS[name])
    return grown.with_volume(index, named)


def turn_axle(document: Document, axis: int) -> Document:
    """The axle of the round volume in work laid along its width (0), depth (1) or height (2); its
    length and its diameter stay."""
    index, volume = in_work(document)
    shape, axle = volume.shape, volume.shape.axle
    if axle is None or not isinstance(shape, Turned | Loop):
        raise VolumeError(
            _("{name} is not turned about an axle: make it round first.").format(name=volume.name)
        )
    sides, counts = list(volume.sides), list(volume.counts)
    sides[axle], sides[axis] = sides[axis], sides[axle]
    counts[axle], counts[axis] = counts[axis], counts[axle]
    laid = replace(
        volume, shape=replace(shape, axis=axis), counts=(counts[0], counts[1], counts[2])
    )
    return document.with_volume(index, laid.with_sides((sides[0], sides[1], sides[2])))


def turned_of(volume: Volume | None) -> Turned | None:
    """The turned form of a volume; None for one that is none."""
    shape = None if volume is None else volume.shape
    return shape if isinstance(shape, Turned) else None


def _turned_in_work(document: Document) -> tuple[int, Volume, Turned]:
    index, volume = in_work(document)
    return index, volume, _turned(volume)


def _turned(volume: Volume) -> Turned:
    shape = turned_of(volume)
    if shape is None:
        raise VolumeError(
            _("{name} is not turned: make it a cylinder or a wheel first.").format(name=volume.name)
        )
    return shape


def _cross(volume: Volume) -> tuple[int, int]:
    """The two own axes across the axle of a round volume."""
    axle = volume.shape.axle
    if axle is None:
        raise VolumeError(_("{name} has no axle: make it round first.").format(name=volume.name))
    return CROSS[axle]


def radius_of(volume: Volume) -> float:
    """The largest radius of a turned volume, mm."""
    first, second = _cross(volume)
    return min(volume.sides[first], volume.sides[second]) / 2


def set_diameter(document: Document, mm: float) -> Document:
    """The largest diameter of the round volume in work; its foot and its axle stay in place."""
    index, volume = in_work(document)
    return document.with_volume(index, _of_diameter(volume, mm))


def _of_diameter(volume: Volume, mm: float) -> Volume:
    """A round volume of another diameter; level directions grow about the middle, others from the
    foot."""
    first, second = _cross(volume)
    sides = list(volume.sides)
    before = sides[first]
    sides[first] = sides[second] = mm
    grown = volume.with_sides((sides[0], sides[1], sides[2]))
    axes = volume.pose[1]
    shift = np.zeros(3)
    for axis in (first, second):
        if abs(axes[axis][2]) < SAME:
            shift += (before - mm) / 2 * axes[axis]
    x, y, z = (float(v) for v in np.array(volume.place) + shift)
    return replace(grown, x_mm=x, y_mm=y, z_mm=z)


def set_stations(
    document: Document, stations_mm: Sequence[tuple[float, float]], join: str | None = None
) -> Document:
    """The turned volume in work given radii by height, both in mm from its base up: its length and
    its largest diameter become theirs. Raises VolumeError for radii that give no form."""
    index, volume, shape = _turned_in_work(document)
    heights = [h for h, _unused in stations_mm]
    radii = [r for _unused, r in stations_mm]
    if len(stations_mm) < 2 or not all(math.isfinite(v) for v in (*heights, *radii)):
        raise VolumeError(_("A turned form needs at least two heights, each with its radius."))
    if min(radii) < 0 or max(radii) <= 0:
        raise VolumeError(_("A radius is 0 at a tip and more elsewhere: type a larger one."))
    low, length, radius = min(heights), max(heights) - min(heights), max(radii)
    if not length > 0:
        raise VolumeError(_("A turned form needs some height: type heights that differ."))
    bore = shape.bore * radius_of(volume) / radius
    shares = tuple(((h - low) / length, r / radius) for h, r in stations_mm)
    rings = tuple(
        (
            min(h * volume.sides[shape.axis] / length, 1.0),
            min(r * radius_of(volume) / radius, 1.0),
        )
        for h, r in shape.rings
    )
    name = shape.name if shape.wheel else "turned form"
    join = join or shape.join
    form = replace(shape, stations=shares, join=join, bore=bore, rings=rings, name=name)
    sides = list(volume.sides)
    sides[shape.axis] = length
    formed = replace(volume.with_sides((sides[0], sides[1], sides[2])), shape=form)
    return document.with_volume(index, _of_diameter(formed, 2 * radius))


def set_join(document: Document, join: str) -> Document:
    """The stations of the turned volume in work joined straight or smoothly."""
    index, volume, shape = _turned_in_work(document)
    return document.with_volume(index, replace(volume, shape=replace(shape, join=join)))


def stations_mm(volume: Volume) -> tuple[Station, ...]:
    """Heights and radii of a turned volume in mm."""
    shape = _turned(volume)
    length, radius = volume.sides[shape.axis], radius_of(volume)
    return tuple((h * length, r * radius) for h, r in shape.stations)


def read_stations(text: str, unit: str, sides: tuple[float, float]) -> tuple[Station, ...]:
    """Heights and radii, mm, from what a person typed: pairs such as ``0 40, 30 45, 80 20``; each a
    length, or a share of how high it is and of its widest radius (sides, mm): ``50% 1/2``. Raises
    LengthError with the sentence to show."""
    pairs = read_pairs(text)
    if len(pairs) < 2 or any(len(pair) != 2 for pair in pairs):
        raise LengthError(_("Type heights with their radii from the base up, such as 0 40, 80 20."))
    high, wide = sides
    found = tuple(
        (
            place_along(height, high, unit, bare_mm=True) * high,
            place_along(radius, wide, unit, bare_mm=True) * wide,
        )
        for height, radius in pairs
    )
    if any(b[0] < a[0] for a, b in itertools.pairwise(found)):
        raise LengthError(_("Heights go up from the base: put them in order."))
    return found


def set_bore(document: Document, diameter_mm: float) -> Document:
    """A hole along the axle of the turned volume in work; 0 fills it."""
    index, volume, shape = _turned_in_work(document)
    bore = diameter_mm / 2 / radius_of(volume)
    return document.with_volume(index, replace(volume, shape=replace(shape, bore=bore)))


def set_rings(document: Document, diameters_mm: Sequence[float]) -> Document:
    """Further circles on both ends of the turned volume in work (rim and hub of a wheel)."""
    index, volume, shape = _turned_in_work(document)
    radius = radius_of(volume)
    if any(not 0 < d <= 2 * radius for d in diameters_mm):
        raise VolumeError(_("An inner circle is smaller than the wheel: type a smaller diameter."))
    ends = (shape.stations[0][0], shape.stations[-1][0])
    rings = tuple((h, d / 2 / radius) for h in ends for d in diameters_mm)
    return document.with_volume(index, replace(volume, shape=replace(shape, rings=rings)))


def add_axles(document: Document, offsets_mm: Sequence[float]) -> Document:
    """More wheels like the one in work, their axles so far along its width from its own: each holds
    to the wheel, so the wheelbase stays what was typed. With a twin, twins come too."""
    index, wheel, _unused = _turned_in_work(document)
    if not 1 <= len(offsets_mm) <= MOST_AXLES:
        raise VolumeError(_("Set 1 to {most_axles} more axles.").format(most_axles=MOST_AXLES))
    twin = next((v.like for v in document.volumes if _twin_of(v, wheel)), None)
    made: list[Volume] = []
    named = document
    for number, offset in enumerate(offsets_mm, start=1):
        axle = replace(
            wheel,
            name=free_name(named, _("Wheel")),
            key=-number,
            like=None,
            on=Anchor(wheel.key, (0.0, 0.0, 0.0), (offset, 0.0, 0.0)),
        )
        made.append(axle)
        named = replace(named, volumes=(*named.volumes, replace(axle, key=named.free_key)))
        if isinstance(twin, Mirrored):
            other = replace(
                axle,
                name=free_name(named, _("Wheel twin")),
                key=-100 - number,
                on=None,
                like=Mirrored(axle.key, twin.about, twin.axis),
            )
            made.append(other)
            named = replace(named, volumes=(*named.volumes, replace(other, key=named.free_key)))
    grown = with_new(document, made)
    return replace(grown, selected=index, also=frozenset())


def _twin_of(volume: Volume, wheel: Volume) -> bool:
    return isinstance(volume.like, Mirrored) and volume.like.source == wheel.key


def pair_wheel(document: Document, track_mm: float) -> Document:
    """The other wheel on the axle of the wheel in work: middle to middle so far along the axle."""
    index, wheel, shape = _turned_in_work(document)
    if not abs(track_mm) >= wheel.sides[shape.axis]:
        raise VolumeError(_("The track is wider than one wheel: type more."))
    offsets = [0.0, 0.0, 0.0]
    offsets[shape.axis] = track_mm
    bare = wheel.name.rstrip("0123456789 ") or _("Wheel")
    other = replace(
        wheel,
        name=free_name(document, _("{name} pair").format(name=bare)),
        key=-1,
        like=None,
        on=Anchor(wheel.key, (0.0, 0.0, 0.0), (offsets[0], offsets[1], offsets[2])),
    )
    grown = with_new(document, [other])
    return replace(grown, selected=index, also=frozenset())


def slide_along_axle(document: Document, mm: float) -> Document:
    """The round volume in work slid along its own axle."""
    index, volume = in_work(document)
    axle = volume.shape.axle
    if axle is None:
        raise VolumeError(_("{name} has no axle: make it round first.").format(name=volume.name))
    x, y, z = (float(v) for v in np.array(volume.place) + mm * volume.pose[1][axle])
    return document.with_volume(index, replace(volume, x_mm=x, y_mm=y, z_mm=z))


def add_circle(document: Document, circle: FaceCircle) -> Document:
    """One more circle (or concentric ones, an arc, a hole) on the volume in work."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, circles=(*volume.circles, circle)))


def face_picked(volume: Volume, face: int) -> int:
    """How circles number a face of the body of a volume. Raises VolumeError for a face that takes
    none."""
    for number in range(max(volume.bare.faces, 2)):
        try:
            if volume.shape.face_plane(volume.bare, volume.sides, FaceCircle(number))[1] == face:
                return number
        except VolumeError:
            continue
    raise VolumeError(_("That face takes no circle: choose one of its ends."))


def face_named(volume: Volume, face: int) -> int:
    """How circles number a side of the box of a volume (x=0, x=1, y=0, y=1, base, top): of a volume
    that has them on its ends only, the near or the far one."""
    try:
        volume.shape.face_plane(volume.bare, volume.sides, FaceCircle(face))
    except VolumeError:
        return face % 2
    return face


def clear_circles(document: Document) -> Document:
    """The volume in work without circles and round holes."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, circles=()))
