"""Starting stances: usual ways to stand before the work, each well back and on the page."""

import math
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.near_edge import right_yaw
from isometron.perspective.angles import wrapped
from isometron.perspective.cone import off_axis
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import depths, project
from isometron.words import said

PAGE_SHARE = 0.72
"""How much of the page's width or height, inside its margins, the work fills."""

EDGE_MM = 12.0
"""The eye level of a level stance, and what is drawn, keep so far from the edge of the paper."""

MARGIN_MM = 10.0
"""What is left free along the paper's edges."""

STANDING_MM, KNEE_MM = 1550.0, 500.0
"""Heights of the eyes of somebody who stands, and who kneels: no level stance looks from higher
than the first at what stands on the ground."""

STEP_MM = 5.0
"""Marks are measured in whole and half centimetres, so the stance lands on them."""

CONE_MARGIN_DEG = 1.0
"""A stance keeps the work this far inside the cone of vision."""

MOST_STEPS = 40
"""Steps back, a tenth each, that a stance may take to bring the work inside the cone."""

LOW_SHARE = 0.35
"""From low down, the eye is at most this share of the work's height above its base."""

LOW_EYE = 0.15
"""Looking up, the eye is this share of the work's height above its base."""


class Stance(NamedTuple):
    """How to stand: turn of the work to the picture plane and tilt in degrees, distance in radii of
    the work, and how far the eye goes sideways and above the work's top, in radii.

    `centre_share` is the height of the centre of vision on an empty sheet, as a share of it. `side`
    is the end of the work that is turned to us ("front", "back"), where it does not matter which
    way we stood before. `low` brings the eye down to the knee.
    """

    name: str
    turn_deg: float
    tilt_deg: float
    distance: float
    sideways: float = 0.0
    above: float = 0.0
    centre_share: float = 2 / 3
    tip: str = ""
    side: str = ""
    low: bool = False


SQUARE = Stance(
    said("square to us"),
    0.0,
    0.0,
    3.6,
    sideways=1.1,
    above=0.5,
    tip=said("A face turned square to us: one-point."),
)
EDGE_NEAREST = Stance(
    said("edge nearest"),
    32.0,
    0.0,
    3.6,
    above=0.5,
    tip=said("An upright edge nearest us, a level eye: two-point."),
)
LOOKING_DOWN = Stance(
    said("looking down"),
    32.0,
    -32.0,
    4.2,
    centre_share=0.4,
    tip=said("A corner nearest us, the eye above: three-point."),
)
LOOKING_UP = Stance(
    said("looking up"),
    32.0,
    20.0,
    3.6,
    centre_share=0.6,
    tip=said("A corner nearest us, the eye low down: three-point."),
)
FROM_THE_FRONT = Stance(
    said("from the front"),
    35.0,
    0.0,
    3.6,
    above=0.5,
    tip=said("Three-quarter view of its front and left side, a vehicle's nose: two-point."),
    side="front",
)
FROM_BEHIND = Stance(
    said("from behind"),
    35.0,
    0.0,
    3.6,
    above=0.5,
    tip=said("Three-quarter view of its back and right side: two-point."),
    side="back",
)
LOW = Stance(
    said("low down"),
    35.0,
    0.0,
    3.8,
    centre_share=1 / 3,
    tip=said("Three-quarter view of its front from knee height: two-point."),
    side="front",
    low=True,
)
STANCES = (
    *(SQUARE, EDGE_NEAREST, LOOKING_DOWN, LOOKING_UP),
    *(FROM_THE_FRONT, FROM_BEHIND, LOW),
)


SQUARE_DEG = 1e-6
"""What lies within this of square to us is seen in one-point."""

SIDES = {"front": 0.0, "back": 180.0}
"""How far the heading turns on to see an end of the work."""


def take_stance(document: Document, stance: Stance) -> Document:
    """The document seen from a starting stance: every volume on the page, true measures untouched.

    The volume in work (or the first) is turned to us as the stance says. On an empty sheet only the
    directions change.
    """
    heading = stance.turn_deg - right_yaw(document)
    if stance.side:
        heading = wrapped(stance.turn_deg + SIDES[stance.side] - document.lead_yaw_deg)
    turned = replace(document.eye, heading_deg=heading, tilt_deg=stance.tilt_deg)
    if not document.volumes:
        width, height = document.sheet.width_mm, document.sheet.height_mm
        centre = (width / 2, height * stance.centre_share)
        return document.with_eye(replace(turned, centre_of_vision_mm=centre))
    corners = np.concatenate([volume.enclosing() for volume in document.volumes])
    low, high = corners.min(axis=0), corners.max(axis=0)
    radius = float(np.linalg.norm(high - low)) / 2
    half_cone = document.choices.cone_deg / 2 - CONE_MARGIN_DEG
    back = stance.distance * radius
    for _ in range(MOST_STEPS):
        eye = _standing(turned, stance, low, high, back)
        in_front = depths(eye, corners) > 0.1 * radius
        if in_front.all() and float(off_axis(eye, project(eye, corners).sheet).max()) < half_cone:
            break
        back *= 1.1
    drawn = project(eye, corners).sheet
    least, most = drawn.min(axis=0), drawn.max(axis=0)
    page = np.array([document.sheet.width_mm, document.sheet.height_mm])
    thinnest = STEP_MM / 1000.0  # a line in space may be seen from its end
    inside = np.maximum(page - 2 * MARGIN_MM, STEP_MM)
    scale = float((PAGE_SHARE * inside / np.maximum(most - least, thinnest)).min())
    if stance.tilt_deg == 0:  # the eye level, at 0, is on the paper too
        low, high = min(float(least[1]), 0.0), max(float(most[1]), 0.0)
        scale = min(scale, float(page[1] - 2 * EDGE_MM) / max(high - low, thinnest))
    distance = max(STEP_MM, STEP_MM * round(1000.0 * scale / STEP_MM))
    centre = page / 2 - (least + most) / 2 * distance / 1000.0
    if stance.tilt_deg == 0:
        drawn_low = min(float(least[1]), 0.0) * distance / 1000.0
        drawn_high = max(float(most[1]), 0.0) * distance / 1000.0
        lowest, highest = EDGE_MM - drawn_low, page[1] - EDGE_MM - drawn_high
        centre[1] = min(max(centre[1], lowest), max(highest, lowest))
    cx, cy = (float(STEP_MM * round(v / STEP_MM)) for v in centre)
    return document.with_eye(
        replace(eye, station_distance_mm=float(distance), centre_of_vision_mm=(cx, cy))
    )


def stance_of(document: Document) -> Stance:
    """The stance that keeps the kind of view a sheet has: looking down or up, square to what lies
    along the sheet, else an edge nearest."""
    tilt = document.eye.tilt_deg
    if tilt:
        return LOOKING_DOWN if tilt < 0 else LOOKING_UP
    aside = (document.eye.heading_deg + document.lead_yaw_deg) % 90.0
    return SQUARE if min(aside, 90.0 - aside) < SQUARE_DEG else EDGE_NEAREST


def _standing(eye: Eye, stance: Stance, low: Array, high: Array, back: float) -> Eye:
    """The eye `back` mm from the middle of the work, as the stance says; CV at the sheet's zero."""
    middle, radius = (low + high) / 2, float(np.linalg.norm(high - low)) / 2
    heading, tilt = math.radians(eye.heading_deg), math.radians(stance.tilt_deg)
    level, side = back * math.cos(tilt), stance.sideways * radius
    if stance.tilt_deg < 0:
        height = middle[2] - back * math.sin(tilt)
    elif stance.tilt_deg > 0:
        height = low[2] + LOW_EYE * (high[2] - low[2])
    else:
        height = _level_height(stance, float(low[2]), float(high[2]), radius)
    return replace(
        eye,
        x_mm=float(middle[0] - level * math.sin(heading) + side * math.cos(heading)),
        y_mm=float(middle[1] - level * math.cos(heading) - side * math.sin(heading)),
        height_mm=STEP_MM * round(float(height) / STEP_MM),
        station_distance_mm=1000.0,
        centre_of_vision_mm=(0.0, 0.0),
    )


def _level_height(stance: Stance, low: float, high: float, radius: float) -> float:
    """How high the eye of a level stance is: over a thing that is low,
    never higher than somebody who stands beside one on the ground, who looks straight at what lies
    higher still."""
    most, wished = STANDING_MM, high + stance.above * radius
    if stance.low:
        most, wished = KNEE_MM, low + LOW_SHARE * (high - low)
    return min(wished, max(most, low)) if low < most else (low + high) / 2


SAME_VIEW = 1e-6
"""Views that differ by no more than this, mm and degrees, are the same."""


def seen_whole(before: Document, after: Document) -> Document:
    """What became of a sheet, the eye stepped back until all is on the page, where nobody has set
    the view: nothing stood there before, or it was seen just as its stance shows it."""
    if before.volumes and not _as_its_stance(before):
        return after
    try:
        return take_stance(after, stance_of(before))
    except IsometronError:
        return after


def _as_its_stance(document: Document) -> bool:
    try:
        taken = take_stance(document, stance_of(document)).eye
    except IsometronError:
        return False
    own = document.eye
    pairs = (
        *zip(taken.place, own.place, strict=True),
        *zip(taken.centre_of_vision_mm, own.centre_of_vision_mm, strict=True),
        (taken.heading_deg, own.heading_deg),
        (taken.tilt_deg, own.tilt_deg),
        (taken.station_distance_mm, own.station_distance_mm),
    )
    return all(abs(a - b) <= SAME_VIEW for a, b in pairs)
