"""Where planes cut curved bodies: cross-contours, centre and section lines."""

import itertools
import math

import numpy as np

from isometron.framework.curved import SECTION, Making
from isometron.framework.extruded import Extruded, flats_of, width_at
from isometron.framework.extruded_body import ends_of, lifted
from isometron.framework.outlines import crossings, curves_of
from isometron.framework.turned import Turned
from isometron.framework.turned_body import curve_on_round, turned_frame
from isometron.perspective.conics import straight
from isometron.perspective.errors import VolumeError

Sides = tuple[float, float, float]


def section_circle(making: Making, shape: Turned, sides: Sides, share: float) -> None:
    """The circle where a level plane cuts a turned form at a share of its length."""
    axle, across, along, base, length, radius = turned_frame(shape.axis, sides)
    height = share * length
    for one in making.rounds:
        piece = one.segment
        if piece.low - 1e-12 <= height <= piece.high and piece.radius(height) > 1e-9 * radius:
            making.circle(
                base + height * axle,
                (across, along),
                piece.radius(height),
                (one.patch, -1),
                "section",
                share=share,
                kind=SECTION,
                rim=False,
            )


def section_along(making: Making, shape: Turned, sides: Sides, axis: int, share: float) -> None:
    """Where a plane along the axle, square to another own axis at a share of that side, cuts a
    turned form: its profile, piece by piece, and lines across its ends."""
    axle, _, _, base, _, _ = turned_frame(shape.axis, sides)
    own = np.eye(3)
    off = (share - 0.5) * sides[axis]
    aside = own[3 - axis - shape.axis]
    for one in making.rounds:
        for sign in (1.0, -1.0):
            arcs = curve_on_round(one.segment, (off, 0.0), base, axle, own[axis], sign * aside)
            making.draw(arcs, (one.patch, -1), SECTION, rim=False)
    if shape.bore:
        return
    for end, height in zip(making.ends, (shape.stations[0][0], shape.stations[-1][0]), strict=True):
        piece = making.rounds[0 if end == making.ends[0] else -1].segment
        at = height * sides[shape.axis]
        reach = piece.squared(min(max(at, piece.low), piece.high)) - off * off
        if end >= 0 and reach > 0:
            middle = base + at * axle + off * own[axis]
            run = math.sqrt(reach) * aside
            making.draw(
                straight((middle - run)[None], (middle + run)[None]), (end, -1), SECTION, rim=False
            )


def section_of_extrusion(
    making: Making, shape: Extruded, sides: Sides, axis: int, share: float
) -> None:
    """Where a plane square to an own axis at a share of that side cuts an extrusion."""
    own = np.eye(3)
    first, second = shape.cross
    plane = np.stack([own[first], own[second]])
    way = own[shape.axis] * sides[shape.axis]
    rings = flats_of(shape, sides)
    if any(shape.slant):
        raise VolumeError("A slanting extrusion has no square section: straighten it first.")
    if axis == shape.axis:
        ends = ends_of(shape, sides[first])
        for ring in rings:
            for curve in curves_of(ring):
                drawn = lifted(curve, plane, way, (share, 0.0))
                for arc in drawn:
                    middle = (arc[0] + 2 * arc[1] + arc[2]) / (arc[0] + 2 * arc[1] + arc[2])[3]
                    begin, stop = ends.at(float(middle[first]))
                    if begin <= share <= stop:
                        on = making.patch_at(middle[:3])
                        making.draw(arc[None], (on, -1), SECTION, rim=False)
        return
    flat_axis = 0 if axis == first else 1
    at = share * sides[axis]
    heights = crossings(rings, flat_axis, at)
    breaks = [place * sides[first] for place, _ in shape.widths]
    for low, high in zip(heights[::2], heights[1::2], strict=False):
        inner = [u for u in breaks if low < u < high] if flat_axis else []
        near, far = [], []
        for value in (low, *inner, high):
            u, v = (value, at) if flat_axis else (at, value)
            width = width_at(shape, u / sides[first])
            foot = u * plane[0] + v * plane[1]
            near.append(foot + (0.5 - width / 2) * way)
            far.append(foot + (0.5 + width / 2) * way)
        runs = [*itertools.pairwise(near), *itertools.pairwise(far)]
        for start, end in (*runs, (near[0], far[0]), (near[-1], far[-1])):
            on = making.patch_at((start + end) / 2)
            making.draw(straight(start[None], end[None]), (on, -1), SECTION, rim=False)
