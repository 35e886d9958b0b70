"""Edits of rounds: circles on faces, round volumes, wheels, arches, holes and lids."""

import itertools
import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from isometron.document.choosing import free_name, in_work, with_new
from isometron.document.document import Document
from isometron.document.volume_edits import add_box
from isometron.framework import turned as lathe
from isometron.framework.circles import FaceCircle
from isometron.framework.extruded import CROSS, Extruded
from isometron.framework.outlines import Knot, Ring, rectangle
from isometron.framework.placing import Anchor, Mirrored
from isometron.framework.shapes import BLOCK, Block, RoundShape
from isometron.framework.turned import Loop, Station, Turned
from isometron.framework.turning import turns_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.lengths import read_length

FORMS: dict[str, RoundShape] = {
    "cylinder": lathe.CYLINDER,
    "cone": lathe.CONE,
    "frustum": lathe.FRUSTUM,
    "tube": lathe.TUBE,
    "sphere": lathe.SPHERE,
    "dome": lathe.DOME,
    "circle": Loop(),
    "wheel": lathe.wheel(),
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


def _rounded(volume: Volume, shape: RoundShape) -> Volume:
    """A volume given a round shape; its box is narrowed to the round one it holds, standing where
    it stood."""
    assert not isinstance(shape, Extruded)
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
    shape = volume.shape
    if not isinstance(shape, Turned | Loop):
        raise VolumeError(f"{volume.name} is not turned about an axle: make it round first.")
    sides, counts = list(volume.sides), list(volume.counts)
    sides[shape.axis], sides[axis] = sides[axis], sides[shape.axis]
    counts[shape.axis], counts[axis] = counts[axis], counts[shape.axis]
    laid = replace(
        volume, shape=replace(shape, axis=axis), counts=(counts[0], counts[1], counts[2])
    )
    return document.with_volume(index, laid.with_sides((sides[0], sides[1], sides[2])))


def _turned_in_work(document: Document) -> tuple[int, Volume, Turned]:
    index, volume = in_work(document)
    if not isinstance(volume.shape, Turned):
        raise VolumeError(f"{volume.name} is not turned: make it a cylinder or a wheel first.")
    return index, volume, volume.shape


def radius_of(volume: Volume) -> float:
    """The largest radius of a turned volume, mm."""
    assert isinstance(volume.shape, Turned | Loop)
    first, second = CROSS[volume.shape.axis]
    return min(volume.sides[first], volume.sides[second]) / 2


def set_diameter(document: Document, mm: float) -> Document:
    """The largest diameter of the round volume in work; its foot and its axle stay in place."""
    index, volume = in_work(document)
    if not isinstance(volume.shape, Turned | Loop):
        raise VolumeError(f"{volume.name} has no diameter: make it round first.")
    first, second = CROSS[volume.shape.axis]
    sides = list(volume.sides)
    before = sides[first]
    sides[first] = sides[second] = mm
    grown = volume.with_sides((sides[0], sides[1], sides[2]))
    axes = volume.frame[1]
    shift = np.zeros(3)
    for axis in (first, second):
        if (
            abs(axes[axis][2]) < 1e-9
        ):  # level directions grow about the middle, others from the foot
            shift += (before - mm) / 2 * axes[axis]
    x, y, z = (float(v) for v in np.array(volume.place) + shift)
    return document.with_volume(index, replace(grown, x_mm=x, y_mm=y, z_mm=z))


def set_stations(
    document: Document, stations_mm: Sequence[tuple[float, float]], join: str | None = None
) -> Document:
    """The turned volume in work given radii by height, both in mm from its base up: its length and
    its largest diameter become theirs. Raises VolumeError for radii that give no form."""
    index, volume, shape = _turned_in_work(document)
    heights = [h for h, _ in stations_mm]
    radii = [r for _, r in stations_mm]
    if len(stations_mm) < 2 or not all(math.isfinite(v) for v in (*heights, *radii)):
        raise VolumeError("A turned form needs at least two heights, each with its radius.")
    if min(radii) < 0 or max(radii) <= 0:
        raise VolumeError("A radius is 0 at a tip and more elsewhere: type a larger one.")
    low, length, radius = min(heights), max(heights) - min(heights), max(radii)
    if not length > 0:
        raise VolumeError("A turned form needs some height: type heights that differ.")
    bore = shape.bore * radius_of(volume) / radius
    shares = tuple(((h - low) / length, r / radius) for h, r in stations_mm)
    rings = tuple(
        (
            min(h * volume.sides[shape.axis] / length, 1.0),
            min(r * radius_of(volume) / radius, 1.0),
        )
        for h, r in shape.rings
    )
    form = replace(
        shape, stations=shares, join=join or shape.join, bore=bore, rings=rings, name="turned form"
    )
    sides = list(volume.sides)
    sides[shape.axis] = length
    placed = document.with_volume(
        index, replace(volume.with_sides((sides[0], sides[1], sides[2])), shape=form)
    )
    return set_diameter(placed, 2 * radius)


def set_join(document: Document, join: str) -> Document:
    """The stations of the turned volume in work joined straight or smoothly."""
    index, volume, shape = _turned_in_work(document)
    return document.with_volume(index, replace(volume, shape=replace(shape, join=join)))


def stations_mm(volume: Volume) -> tuple[Station, ...]:
    """Heights and radii of a turned volume in mm."""
    assert isinstance(volume.shape, Turned)
    length, radius = volume.sides[volume.shape.axis], radius_of(volume)
    return tuple((h * length, r * radius) for h, r in volume.shape.stations)


def read_stations(text: str, unit: str) -> tuple[Station, ...]:
    """Heights and radii from what a person typed: pairs such as ``0 40, 30 45, 80 20``; lengths may
    carry a unit. Raises LengthError with the sentence to show."""
    pairs = [pair.split() for pair in text.replace(";", ",").split(",") if pair.strip()]
    if len(pairs) < 2 or any(len(pair) != 2 for pair in pairs):
        raise LengthError("Type heights with their radii from the base up, such as 0 40, 80 20.")
    found = tuple((read_length(h, unit), read_length(r, unit)) for h, r in pairs)
    if any(b[0] < a[0] for a, b in itertools.pairwise(found)):
        raise LengthError("Heights go up from the base: put them in order.")
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
        raise VolumeError("An inner circle is smaller than the wheel: type a smaller diameter.")
    ends = (shape.stations[0][0], shape.stations[-1][0])
    rings = tuple((h, d / 2 / radius) for h in ends for d in diameters_mm)
    return document.with_volume(index, replace(volume, shape=replace(shape, rings=rings)))


def add_axles(document: Document, offsets_mm: Sequence[float]) -> Document:
    """More wheels like the one in work, their axles so far along its width from its own: each holds
    to the wheel, so the wheelbase stays what was typed. With a twin, twins come too."""
    index, wheel, _ = _turned_in_work(document)
    if not 1 <= len(offsets_mm) <= MOST_AXLES:
        raise VolumeError(f"Set 1 to {MOST_AXLES} more axles.")
    twin = next((v.like for v in document.volumes if _twin_of(v, wheel)), None)
    made: list[Volume] = []
    named = document
    for number, offset in enumerate(offsets_mm, start=1):
        axle = replace(
            wheel,
            name=free_name(named, "Wheel"),
            key=-number,
            like=None,
            on=Anchor(wheel.key, (0.0, 0.0, 0.0), (offset, 0.0, 0.0)),
        )
        made.append(axle)
        named = replace(named, volumes=(*named.volumes, replace(axle, key=named.free_key)))
        if isinstance(twin, Mirrored):
            other = replace(
                axle,
                name=free_name(named, "Wheel twin"),
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
        raise VolumeError("The track is wider than one wheel: type more.")
    offsets = [0.0, 0.0, 0.0]
    offsets[shape.axis] = track_mm
    other = replace(
        wheel,
        name=free_name(document, f"{wheel.name.rstrip('0123456789 ') or 'Wheel'} pair"),
        key=-1,
        like=None,
        on=Anchor(wheel.key, (0.0, 0.0, 0.0), (offsets[0], offsets[1], offsets[2])),
    )
    grown = with_new(document, [other])
    return replace(grown, selected=index, also=frozenset())


def slide_along_axle(document: Document, mm: float) -> Document:
    """The round volume in work slid along its own axle."""
    index, volume = in_work(document)
    if not isinstance(volume.shape, Turned | Loop):
        raise VolumeError(f"{volume.name} has no axle: make it round first.")
    x, y, z = (float(v) for v in np.array(volume.place) + mm * volume.frame[1][volume.shape.axis])
    return document.with_volume(index, replace(volume, x_mm=x, y_mm=y, z_mm=z))


def add_circle(document: Document, circle: FaceCircle) -> Document:
    """One more circle (or concentric ones, an arc, a hole) on the volume in work."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, circles=(*volume.circles, circle)))


def clear_circles(document: Document) -> Document:
    """The volume in work without circles and round holes."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, circles=()))


def extrude_box(document: Document, axis: int) -> Document:
    """The box in work as an extrusion of its rectangle along an own axis, ready to be shaped."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, shape=_as_extrusion(volume, axis), cuts=()))


def _as_extrusion(volume: Volume, axis: int) -> Extruded:
    if isinstance(volume.shape, Extruded):
        if volume.shape.axis != axis:
            raise VolumeError(
                f"{volume.name} is an extrusion the other way: choose its near or far end."
            )
        return volume.shape
    if not isinstance(volume.shape, Block):
        raise VolumeError(f"A {volume.kind} takes no arch: make it a whole box first.")
    if volume.cuts:
        raise VolumeError("A volume with cuts takes no arch: fill its cuts first.")
    return Extruded((rectangle(),), axis=axis)


def cut_arch(
    document: Document, axis: int, middle_mm: float, width_mm: float, straight_mm: float
) -> Document:
    """An arched opening up from the base of the volume in work, right through it along an own axis:
    straight sides and half a circle on top. With no straight sides it is a wheel's arch.

    middle_mm is counted along the first cross axis. Raises VolumeError when it does not fit.
    """
    index, volume = in_work(document)
    shape = _as_extrusion(volume, axis)
    first, second = CROSS[axis]
    wide, high = volume.sides[first], volume.sides[second]
    low, far = (middle_mm - width_mm / 2) / wide, (middle_mm + width_mm / 2) / wide
    rise = straight_mm / high
    if not (width_mm > 0 and 0 < low < far < 1 and straight_mm >= 0):
        raise VolumeError("That arch runs out of the side: make it narrower or move it.")
    if straight_mm + width_mm / 2 >= high:
        raise VolumeError("That arch is higher than the volume: make it lower or narrower.")
    notch: list[Knot] = [Knot(low, 0.0), Knot(low, rise, -1.0), Knot(far, rise), Knot(far, 0.0)]
    if rise == 0:
        notch = [Knot(low, 0.0, -1.0), Knot(far, 0.0)]
    ring = _notched(shape.rings[0], low, far, notch)
    grown = replace(shape, rings=(ring, *shape.rings[1:]))
    return document.with_volume(index, replace(volume, shape=grown))


def cut_wheel_arch(
    document: Document, axis: int, middle_mm: float, rise_mm: float, radius_mm: float
) -> Document:
    """A guard arc over a wheel cut into the base of the volume in work: part of a circle whose
    middle lies `rise_mm` above the base (below it when negative)."""
    index, volume = in_work(document)
    shape = _as_extrusion(volume, axis)
    first, _ = CROSS[axis]
    if not radius_mm > 0 or abs(rise_mm) >= radius_mm:
        raise VolumeError("That wheel does not reach the base: make the arc larger or move it.")
    half = math.sqrt(radius_mm**2 - rise_mm**2)
    low, far = ((middle_mm + side * half) / volume.sides[first] for side in (-1.0, 1.0))
    if not 0 < low < far < 1:
        raise VolumeError("That arc runs out of the side: make it smaller or move it.")
    turn = 2 * (math.pi - math.acos(rise_mm / radius_mm))
    notch = [Knot(low, 0.0, -math.tan(turn / 4)), Knot(far, 0.0)]
    ring = _notched(shape.rings[0], low, far, notch)
    grown = replace(shape, rings=(ring, *shape.rings[1:]))
    return document.with_volume(index, replace(volume, shape=grown))


def _notched(ring: Ring, low: float, far: float, notch: list[Knot]) -> Ring:
    """A ring with a notch let into the straight piece of its base that spans low … far."""
    for i, knot in enumerate(ring):
        after = ring[(i + 1) % len(ring)]
        on_base = abs(knot.y) < 1e-9 and abs(after.y) < 1e-9 and knot.bulge == 0
        if on_base and knot.x < low and after.x > far and not (knot.smooth or after.smooth):
            return (*ring[: i + 1], *notch, *ring[i + 1 :])
        if on_base and after.x < low and knot.x > far:
            turned = [replace(k, bulge=0.0) for k in reversed(notch)]
            for at, k in enumerate(notch[:-1]):
                turned[len(notch) - 2 - at] = replace(turned[len(notch) - 2 - at], bulge=-k.bulge)
            return (*ring[: i + 1], *turned, *ring[i + 1 :])
    raise VolumeError("There is no straight base there to let an arch into: move it along.")


def round_end(document: Document, axis: int, far: bool) -> Document:
    """One end of the box in work rounded to half a circle, seen along an own axis: the near or far
    side of its first cross axis."""
    index, volume = in_work(document)
    if not isinstance(volume.shape, Block) or volume.cuts:
        raise VolumeError("Only a whole box gets a round end: make it one first.")
    first, second = CROSS[axis]
    half = volume.sides[second] / 2 / volume.sides[first]
    if half >= 1:
        raise VolumeError("It is too short for half a circle: make it longer.")
    if far:
        ring = (Knot(0, 0), Knot(1 - half, 0, 1.0), Knot(1 - half, 1), Knot(0, 1))
    else:
        ring = (Knot(half, 0), Knot(1, 0), Knot(1, 1), Knot(half, 1, 1.0))
    shaped = Extruded((ring,), axis=axis, name="round end")
    return document.with_volume(index, replace(volume, shape=shaped))


LIDS = ("lid", "knob", "button", "dial")
_LID_SHAPES = {
    "lid": Turned(((0.0, 1.0), (1.0, 1.0)), name="lid"),
    "knob": Turned(((0.0, 0.45), (0.35, 0.4), (0.7, 1.0), (1.0, 0.7)), join="smooth", name="knob"),
    "button": Turned(((0.0, 1.0), (0.6, 1.0), (1.0, 0.82)), name="button"),
    "dial": Turned(
        ((0.0, 1.0), (0.25, 1.0), (0.25, 0.7), (1.0, 0.62)), rings=((1.0, 0.4),), name="dial"
    ),
}


def set_on_face(
    document: Document,
    what: str,
    face: int,
    place: tuple[float, float],
    size_mm: tuple[float, float],
) -> Document:
    """A lid, knob, button or dial set on a face of the box of the volume in work (x=0, x=1, y=0,
    y=1, base, top), at shares across it, of a diameter and a height; it follows the volume."""
    _, parent = in_work(document)
    diameter, height = size_mm
    if not (diameter > 0 and height > 0):
        raise VolumeError("A knob needs a diameter and a height: type both.")
    axis, positive = divmod(face, 2)
    own = np.eye(3)
    outward = own[axis] * (1.0 if positive else -1.0)
    first, second = CROSS[axis]
    across = own[first]
    axes = np.stack([across, np.cross(outward, across), outward])
    shares = [0.0, 0.0, 0.0]
    shares[axis], shares[first], shares[second] = float(positive), *place
    offset = -diameter / 2 * (axes[0] + axes[1])
    x, y, z = (float(v) for v in offset)
    made = Volume(
        free_name(document, what.capitalize()),
        diameter,
        diameter,
        height,
        shape=_LID_SHAPES[what],
        on=Anchor(parent.key, (shares[0], shares[1], shares[2]), (x, y, z), turns_of(axes)),
        group=parent.group,
        key=-1,
    )
    return with_new(document, [made])


def make_flat(document: Document) -> Document:
    """The volume in work as a whole box again."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, shape=BLOCK, circles=()))


def show_ellipse_aids(document: Document, shown: bool) -> Document:
    """Whether the aids of the ellipse in work are drawn."""
    return replace(document, choices=replace(document.choices, ellipse_aids=shown))


def choose_circle(document: Document, number: int | None) -> Document:
    """Another circle of the volume in work to read and to draw aids for."""
    return replace(document, circle=number)


def set_guides(
    document: Document, degrees: tuple[float, ...] | None, sizes_mm: tuple[float, ...] | None
) -> Document:
    """The person's own ellipse guides; None keeps that list."""
    choices = document.choices
    return replace(
        document,
        choices=replace(
            choices,
            guide_degrees=choices.guide_degrees if degrees is None else degrees,
            guide_sizes_mm=choices.guide_sizes_mm if sizes_mm is None else sizes_mm,
        ),
    )


def read_list(text: str) -> tuple[float, ...]:
    """Numbers from a list such as ``10-80/5, 85`` (from 10 to 80 in steps of 5, and 85).

    Raises LengthError with the sentence to show.
    """
    found: list[float] = []
    try:
        for word in text.replace(";", ",").split(","):
            spell, _, step = word.strip().partition("/")
            low, dash, high = spell.partition("-")
            if not dash:
                found.append(float(low))
                continue
            by = float(step or "1")
            count = int((float(high) - float(low)) / by + 1e-9)
            if not (by > 0 and 0 <= count < 500):
                raise ValueError
            found += [float(low) + i * by for i in range(count + 1)]
    except (ValueError, ZeroDivisionError, OverflowError) as error:
        raise LengthError(
            f"“{text.strip()}” is no list: type, say, 10-80/5 or 12, 20, 32."
        ) from error
    return tuple(sorted(set(found)))


def write_list(values: Sequence[float]) -> str:
    """A list of numbers as a person writes it, even runs as from-to/step."""
    words: list[str] = []
    i = 0
    while i < len(values):
        end = i + 1
        step = values[end] - values[i] if end < len(values) else 0.0
        while end + 1 < len(values) and abs(values[end + 1] - values[end] - step) < 1e-9:
            end += 1
        if end - i >= 3:
            words.append(f"{values[i]:g}-{values[end]:g}/{step:g}")
            i = end + 1
        else:
            words.append(f"{values[i]:g}")
            i += 1
    return ", ".join(words)


def arch_over(
    document: Document, wheel: Volume, axis: int, cross: tuple[int, int], room: float = 1.1
) -> Document:
    """A guard arc in the volume in work over a wheel, `room` times as large as the wheel."""
    _, body = in_work(document)
    place, axes = body.frame
    middle = np.array(wheel.place) + np.array(wheel.sides) / 2 @ wheel.frame[1]
    own = axes @ (middle - place)
    return cut_wheel_arch(
        document, axis, float(own[cross[0]]), float(own[cross[1]]), room * radius_of(wheel)
    )
