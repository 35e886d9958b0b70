"""Spokes of a wheel: the sectors between them, cut through or drawn on both sides."""

import math
from dataclasses import replace

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.shapes.rounding import radius_of, turned_of
from isometron.framework.circles import flat_plane
from isometron.framework.face_rings import FaceRing
from isometron.framework.outlines import Knot, Ring
from isometron.perspective.errors import VolumeError
from isometron.words import _

SPOKES = (2, 36)
RIM, HUB = 0.62, 0.3
"""Where the sectors of a wheel without rim and hub end and begin, shares of its radius."""


def set_spokes(document: Document, count: int, wide_mm: float, *, cut: bool) -> Document:
    """The sectors between so many spokes of a width in the round volume in work, from its hub to
    its rim: cut right through, or drawn on both ends. Raises VolumeError for what leaves none."""
    index, volume = in_work(document)
    shape = turned_of(volume)
    if shape is None:
        raise VolumeError(_("Spokes need a round volume: choose a wheel."))
    if not SPOKES[0] <= count <= SPOKES[1]:
        raise VolumeError(
            _("A wheel has {least} to {most} spokes: type another number.").format(
                least=SPOKES[0], most=SPOKES[1]
            )
        )
    body = volume.unopened
    if body.faces < 2:
        raise VolumeError(_("Its ends come to tips: spokes need two flat ends."))
    radius = radius_of(volume)
    known = sorted({ring for _height, ring in shape.rings})
    hub = known[0] if len(known) > 1 else max(HUB, shape.bore + 0.05)
    rim = known[-1] if known else RIM
    rings = []
    for face in (0,) if cut else (0, 1):
        plane = flat_plane(body, face)
        middle = plane.extents[0] / 2
        rings += [
            FaceRing(face, _in_shares(ring, middle), through=cut)
            for ring in sectors(count, wide_mm, hub * radius, rim * radius)
        ]
    return document.with_volume(index, replace(volume, face_rings=tuple(rings)))


def sectors(count: int, wide: float, inner: float, outer: float) -> list[list[Knot]]:
    """The sectors between spokes whose sides are parallel, about the middle, mm: two arcs and two
    straight sides each. Raises VolumeError where the spokes leave none."""
    if not 0 < wide < 2 * inner or not inner < outer:
        raise VolumeError(_("A spoke is narrower than the hub: type a smaller width."))
    half = [math.asin(wide / (2 * radius)) for radius in (inner, outer)]
    pitch = 2 * math.pi / count
    if 2 * half[0] >= pitch:
        raise VolumeError(_("So many spokes leave no gaps: take fewer, or narrower ones."))
    found = []
    for n in range(count):
        begin, end = n * pitch, (n + 1) * pitch
        spans = [(begin + one, end - one) for one in half]
        near, far = (math.tan((b - a) / 4) for a, b in spans)
        (a0, a1), (b0, b1) = spans
        places = ((outer, b0, far), (outer, b1, 0.0), (inner, a1, -near), (inner, a0, 0.0))
        found.append([Knot(r * math.cos(t), r * math.sin(t), bulge) for r, t, bulge in places])
    return found


def _in_shares(ring: list[Knot], middle: float) -> Ring:
    """A ring about the middle of a disc, told in shares of the square round the disc."""
    whole = 2 * middle
    return tuple(replace(k, x=(k.x + middle) / whole, y=(k.y + middle) / whole) for k in ring)
