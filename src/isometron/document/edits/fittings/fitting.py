"""Edits that put fittings on the volume in work, which stays in work."""

from collections.abc import Sequence
from dataclasses import replace

from isometron.document.document import Document
from isometron.document.edits import meaning
from isometron.document.edits.choosing import in_work, own_name, select, with_new
from isometron.document.edits.fittings.facing import face_extents
from isometron.document.edits.fittings.legs import Legs, legs_under, standing, twin_of
from isometron.document.edits.fittings.on_faces import (
    Handle,
    Lid,
    Louvre,
    handle_on,
    lid_over,
    louvre_on,
)
from isometron.document.edits.shapes.arches import arch_over
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.intentions.intention import Intention
from isometron.framework.kinds import turned as lathe
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.errors import VolumeError
from isometron.words import _

MOST_AXLES = 12


def _with_fitting(
    document: Document, made: Sequence[Volume], meant: Sequence[Intention] = ()
) -> Document:
    """The sheet with parts of a fitting, under names of their own; what was in work stays so."""
    named: list[Volume] = []
    for one in made:
        there = replace(document, volumes=(*document.volumes, *named))
        named.append(replace(one, name=own_name(there, one.name)))
    done = with_new(document, named, meant)
    return replace(done, selected=document.selected, also=document.also)


def _raised(document: Document, index: int, high: float) -> Document:
    """The sheet with a volume that hangs on nothing and stands level so high above the ground."""
    volume = document.volumes[index]
    low = float(volume.corners()[:, 2].min())
    if volume.on is not None or volume.like is not None or abs(low - high) <= SAME * max(high, 1.0):
        return document
    return document.with_volume(index, replace(volume, z_mm=volume.z_mm + high - low))


def _level(volume: Volume) -> bool:
    return not (volume.pitch_deg or volume.roll_deg)


def put_legs(document: Document, legs: Legs) -> Document:
    """Four legs or feet under the volume in work; one that hangs on nothing and stands level is
    raised, or lowered, onto them, and they stay on the ground. Raises VolumeError."""
    index, volume = in_work(document)
    made = legs_under(volume, legs, document.free_key)
    if _level(volume):
        document = _raised(document, index, legs.high)
    return _with_fitting(document, made, standing(made))


def _flat(volume: Volume, face: int) -> None:
    """Raise VolumeError for a side of the box of a volume in which it has no flat face."""
    body, (axis, far) = volume.unopened, divmod(face, 2)
    level = volume.sides[axis] if far else 0.0
    for own in range(body.faces):
        square = abs(body.normals[own][axis]) > 1.0 - SAME
        if square and abs(float(body.middle_of(own)[axis]) - level) <= SAME * max(volume.sides):
            return
    raise VolumeError(
        _("{name} has no flat side there: choose another side, or stand a box there first.").format(
            name=volume.name
        )
    )


def put_handle(
    document: Document, face: int, middle: tuple[float, float], handle: Handle
) -> Document:
    """A handle on a face of the volume in work (x=0, x=1, y=0, y=1, base, top). Raises
    VolumeError."""
    _index, volume = in_work(document)
    _flat(volume, face)
    made = handle_on(volume, face, middle, handle, document.free_key)
    _unused = made.body  # refuses a bar that folds
    return _with_fitting(document, [made])


def put_lid(document: Document, lid: Lid) -> Document:
    """A lid on the volume in work. Raises VolumeError."""
    _index, volume = in_work(document)
    return _with_fitting(document, [lid_over(volume, lid, document.free_key)])


def put_louvre(
    document: Document, face: int, middle: tuple[float, float], louvre: Louvre
) -> Document:
    """The slats of a louvre on a face of the volume in work. Raises VolumeError."""
    _index, volume = in_work(document)
    _flat(volume, face)
    return _with_fitting(document, louvre_on(volume, face, middle, louvre, document.free_key))


def put_wheels(
    document: Document,
    axis: int,
    middles_mm: Sequence[float],
    size_mm: tuple[float, float],
    clear_mm: float,
) -> Document:
    """Wheels flush in the sides of the volume in work that are square to an own axis, the twin of
    each on the other side, in arches that are let into its base; it is raised so far above the
    ground, and the wheels stay in their arches. middles_mm: where axles lie along the side; size:
    diameter and width. Raises VolumeError where wheels or arches have no room."""
    index, volume = in_work(document)
    diameter, wide = size_mm
    if not (diameter > 0 and 0 < wide <= volume.sides[axis] / 2):
        raise VolumeError(_("Those wheels have no room between its sides: make them narrower."))
    if not 1 <= len(middles_mm) <= MOST_AXLES:
        raise VolumeError(_("Type where 1 to {most} axles lie.").format(most=MOST_AXLES))
    if any(
        b - a < diameter for a, b in zip(sorted(middles_mm), sorted(middles_mm)[1:], strict=False)
    ):
        raise VolumeError(_("Those wheels run into each other: set their axles farther apart."))
    if not _level(volume) or volume.on is not None or volume.like is not None:
        raise VolumeError(
            _("Wheels carry what stands level and hangs on nothing: let it go first.")
        )
    document = _raised(document, index, clear_mm)
    volume = document.volumes[index]
    if not volume.group:  # what rolls on its own wheels is one body with them
        document = document.with_volume(index, replace(volume, group=volume.name))
    for middle in middles_mm:
        key = document.free_key
        wheel = _wheel(document.volumes[index], axis, middle, (diameter, wide), clear_mm, key)
        document = _with_fitting(document, [wheel, twin_of(wheel, volume.key, 1, axis)])
        at = next(i for i, one in enumerate(document.volumes) if one.key == key)
        cut = arch_over(document, document.volumes[at], axis, CROSS[axis])
        kept = meaning.keep_in_arch(select(cut, at), index)
        document = replace(kept, selected=document.selected, also=document.also)
    return document


def _wheel(
    body: Volume, axis: int, middle: float, size: tuple[float, float], clear: float, key: int
) -> Volume:
    """A wheel in the near side of a body square to an own axis (0, 1), on the ground."""
    diameter, wide = size
    if axis == 1:
        off, turns = (middle - diameter / 2, 0.0, -clear), (0.0, 0.0, 0.0)
    else:
        off, turns = (wide, middle - diameter / 2, -clear), (90.0, 0.0, 0.0)
    return Volume(
        _("Wheel"),
        *(diameter, wide, diameter),
        shape=lathe.wheel(),
        on=Anchor(body.key, (0.0, 0.0, 0.0), off, turns),
        key=key,
        group=body.group,
    )


def axles_along(volume: Volume, axis: int) -> float:
    """How long the sides are along which axles lie, mm."""
    return face_extents(volume, 2 * axis)[0]
