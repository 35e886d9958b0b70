"""What a volume keeps when a hand changes it: its roundness, what is on its faces, its pin."""

from dataclasses import replace

from isometron.framework.bodies.edging import same_edge
from isometron.framework.face_rings import rings_kept
from isometron.framework.skins import skin_kept
from isometron.framework.volume import Volume
from isometron.perspective.errors import CopyError, VolumeError
from isometron.words import _


def kept_round(before: Volume, after: Volume) -> Volume:
    """A volume turned about an axis whose two sides across no longer agree: the side that was
    changed leads, the other follows."""
    axle = after.shape.axle
    if axle is None:
        return after
    first, second = (axis for axis in range(3) if axis != axle)
    if after.sides[first] == after.sides[second]:
        return after
    lead = second if after.sides[first] == before.sides[first] else first
    sides, counts = list(after.sides), list(after.counts)
    sides[first] = sides[second] = sides[lead]
    counts[first] = counts[second] = counts[lead]
    width, depth, height = sides
    return replace(
        after.with_sides((width, depth, height)), counts=(counts[0], counts[1], counts[2])
    )


def turns_of(volume: Volume) -> tuple[float, float, float]:
    """Its yaw, pitch and roll, degrees."""
    return volume.yaw_deg, volume.pitch_deg, volume.roll_deg


def with_faces_kept(before: Volume, after: Volume) -> Volume:
    """A volume whose shape has changed, with the outlines and skins of its faces where these now
    are."""
    reshaped = before.shape != after.shape or before.cuts != after.cuts
    if not reshaped and before.edgings == after.edgings:
        return after
    if reshaped and before.edgings and after.edgings == before.edgings:
        edges = [(one, same_edge(before.sharp, one.edge, after.sharp)) for one in before.edgings]
        left = tuple(replace(one, edge=edge) for one, edge in edges if edge >= 0)
        after = replace(after, edgings=left)
    if not (after.face_rings or after.skins):
        return after
    if (before.face_rings, before.skins) != (after.face_rings, after.skins):
        return after
    then, now = before.unopened, after.unopened
    skins = (skin_kept(one, then, now) for one in before.skins)
    rings = rings_kept(before.face_rings, then, now)
    return replace(after, face_rings=rings, skins=tuple(one for one in skins if one is not None))


def _form(volume: Volume) -> tuple[object, ...]:
    """What a copy has from its source, and a locked volume keeps."""
    return (
        volume.sides,
        volume.place,
        turns_of(volume),
        volume.shape,
        volume.cuts,
        volume.circles,
        volume.face_rings,
        volume.skins,
        volume.edgings,
    )


def refuse_unless_free(before: Volume, after: Volume) -> None:
    """Refuse a change by hand of a volume that is locked, or that follows its source."""
    if _form(before) == _form(after):
        return
    if before.locked and after.locked:
        raise VolumeError(
            _("{name} is pinned: take its pin out in the list first.").format(name=before.name)
        )
    if before.like is not None and after.like == before.like:
        raise CopyError(
            _("{name} is a copy that follows its source: change the source, or let it go.").format(
                name=before.name
            )
        )
