"""Edits of chosen edges: chamfered or rounded, given back again, a body narrowed along its
length."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.framework.bodies.edging import Edging, outer, same_edge
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.outlines import Knot, Ring, rectangle
from isometron.framework.volume import Volume
from isometron.nearness import CLOSE, SAME
from isometron.perspective.errors import VolumeError
from isometron.words import _


def edges_of_face(volume: Volume, face: int) -> list[int]:
    """The edges round a flat face of a volume, as its body numbers them."""
    return [int(e) for e in np.flatnonzero((volume.body.edge_faces == face).any(axis=1))]


def take_off(
    document: Document, edges: list[int], mm: float, other_mm: float, *, rounded: bool
) -> Document:
    """Some edges of the volume in work (as its body numbers them) chamfered or rounded by a length
    on the one and the other face. A profile that bends takes it at its corners, as true arcs; inner
    edges and rims of what bends are passed over. Raises VolumeError when none is left."""
    index, volume = in_work(document)
    if not volume.sharp.parts and (along := _along_the_way(volume, edges)):
        return document.with_volume(index, _off_profile(volume, along, mm, rounded=rounded))
    known = {one.edge: one for one in volume.edgings}
    for edge in edges:
        number = same_edge(volume.bare, edge, volume.sharp)
        if number < 0 or (len(edges) > 1 and not outer(volume.sharp, number)):
            continue
        one = Edging(number, mm, mm if rounded else other_mm, rounded)
        if len(edges) > 1 and not _fits(volume, {**known, number: one}):
            continue  # of all round a face, those that can be
        known[number] = one
    if not known or (len(known) == len(volume.edgings) and not _changed(known, volume)):
        raise VolumeError(_("That edge has been taken off already, or is within a round one."))
    return document.with_volume(index, replace(volume, edgings=tuple(known.values())))


def _fits(volume: Volume, known: dict[int, Edging]) -> bool:
    """Whether a body that bends can be made with what is taken off its edges."""
    if volume.sharp.parts:
        return True
    try:
        _unused = replace(volume, edgings=tuple(known.values())).bare
    except VolumeError:
        return False
    return True


def _changed(known: dict[int, Edging], volume: Volume) -> bool:
    return tuple(known.values()) != volume.edgings


def give_back(document: Document) -> Document:
    """The volume in work with all of its edges sharp again."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, edgings=()))


def _along_the_way(volume: Volume, edges: list[int]) -> list[int]:
    """Those edges that run the way a profile is carried."""
    shape = volume.shape
    if not isinstance(shape, Extruded) or any(shape.slant):
        return []
    ends = volume.bare.vertices[volume.bare.edges[edges]]
    run = np.abs(ends[:, 1] - ends[:, 0])
    across = run[:, list(CROSS[shape.axis])].max(axis=1)
    level = across <= SAME * max(volume.sides)
    return [edge for edge, one in zip(edges, level.tolist(), strict=True) if one]


def _off_profile(volume: Volume, edges: list[int], mm: float, *, rounded: bool) -> Volume:
    shape = volume.shape
    if not isinstance(shape, Extruded):
        raise VolumeError(_("{name} is round there: its edges are rims.").format(name=volume.name))
    rings, done = list(shape.rings), 0
    first, second = CROSS[shape.axis]
    size = np.array([volume.sides[first], volume.sides[second]])
    for edge in edges:
        place = volume.bare.vertices[volume.bare.edges[edge, 0]][[first, second]]
        for number, ring in enumerate(rings):
            corners = np.array([(knot.x, knot.y) for knot in ring]) * size
            near = np.linalg.norm(corners - place, axis=1)
            if float(near.min()) <= CLOSE * float(size.max()):
                rings[number] = _corner_off(ring, int(near.argmin()), size, mm, rounded=rounded)
                done += 1
    if not done:
        raise VolumeError(
            _("Of what bends, edges that run along its way are taken off: choose one of them.")
        )
    return replace(volume, shape=replace(shape, rings=tuple(rings)))


def _corner_off(ring: Ring, at: int, size: np.ndarray, mm: float, *, rounded: bool) -> Ring:
    """A ring with one corner between straight pieces cut, or rounded with a true arc."""
    count = len(ring)
    before, here, after = ring[at - 1], ring[at], ring[(at + 1) % count]
    if before.bulge or here.bulge or any(knot.smooth for knot in (before, here, after)):
        raise VolumeError(_("That edge meets an arc of the profile: change it there (Profile)."))
    places = [np.array([knot.x, knot.y]) * size for knot in (before, here, after)]
    back, on = places[0] - places[1], places[2] - places[1]
    if mm >= min(float(np.linalg.norm(back)), float(np.linalg.norm(on))) * (1 - SAME):
        raise VolumeError(_("That is more than the faces beside it have: take off less."))
    into, out = back / np.linalg.norm(back), on / np.linalg.norm(on)
    first, last = (places[1] + mm * way for way in (into, out))
    turn = math.pi - math.acos(float(np.clip(into @ out, -1.0, 1.0)))
    signed = math.copysign(turn, float(into[1] * out[0] - into[0] * out[1]))
    bulge = math.tan(signed / 4) if rounded else 0.0
    knots = [
        Knot(float(first[0] / size[0]), float(first[1] / size[1]), bulge),
        Knot(float(last[0] / size[0]), float(last[1] / size[1])),
    ]
    return (*ring[:at], *knots, *ring[at + 1 :])


def narrow(document: Document, end: str, share: float, over: float) -> Document:
    """The volume in work narrowed towards the front or rear end of its width, as a nose is: its
    thickness there as a share of the full one, over a share of its length. Raises VolumeError for
    what is no box or profile carried across."""
    index, volume = in_work(document)
    if not (0 < share <= 1 and 0 < over < 1):
        raise VolumeError(_("A nose narrows to a share of its breadth, over a share of its run."))
    shape = volume.shape
    if shape == BLOCK and not (volume.cuts or volume.edgings):
        shape = Extruded((rectangle(),), axis=1, name="body")
    if not isinstance(shape, Extruded) or shape.axis != 1:
        raise VolumeError(_("A box or a side profile narrows along its width: make it one first."))
    widths = list(shape.widths) or [(0.0, 1.0), (1.0, 1.0)]
    if end == "left":
        kept = [one for one in widths if one[0] > over]
        widths = [(0.0, share), (over, 1.0), *kept]
    else:
        kept = [one for one in widths if one[0] < 1 - over]
        widths = [*kept, (1 - over, 1.0), (1.0, share)]
    return document.with_volume(index, replace(volume, shape=replace(shape, widths=tuple(widths))))
