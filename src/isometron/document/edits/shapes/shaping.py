"""Edits of shape: leans, plan corners, thickness, cuts and openings, and lines drawn on volumes."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import RECTANGLE, Kind
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.marks import Mark
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import read_length, write_number
from isometron.words import _, said

LEANS = ("front", "back", "left", "right")
STEEPEST_DEG = 85.0
"""A side that leans further than this lies down."""

OUTLINES: dict[str, tuple[tuple[float, float], ...]] = {
    said("rectangle"): RECTANGLE,
    said("triangle"): ((0.0, 0.0), (1.0, 0.0), (0.5, 1.0)),
    said("wedge plan"): ((0.0, 0.0), (1.0, 0.0), (0.75, 1.0), (0.25, 1.0)),
    said("hexagon"): ((0.25, 0.0), (0.75, 0.0), (1.0, 0.5), (0.75, 1.0), (0.25, 1.0), (0.0, 0.5)),
    said("L"): ((0.0, 0.0), (1.0, 0.0), (1.0, 0.4), (0.4, 0.4), (0.4, 1.0), (0.0, 1.0)),
    said("T"): (
        (0.0, 0.0),
        (1.0, 0.0),
        (1.0, 0.35),
        (0.675, 0.35),
        (0.675, 1.0),
        (0.325, 1.0),
        (0.325, 0.35),
        (0.0, 0.35),
    ),
    said("U"): (
        (0.0, 0.0),
        (1.0, 0.0),
        (1.0, 1.0),
        (0.7, 1.0),
        (0.7, 0.35),
        (0.3, 0.35),
        (0.3, 1.0),
        (0.0, 1.0),
    ),
}
"""Plan outlines to begin from, as shares of width and depth."""


def lean(document: Document, side: str, mm: float) -> Document:
    """How far the upper edge of a side (front, back, left, right) lies inside the lower one."""
    index, volume = in_work(document)
    leans = volume.shape.leans
    if leans is None:
        raise VolumeError(
            _("A {called} has no sides that lean: make it a box first.").format(
                called=_(volume.shape.called)
            )
        )
    leaning = replace(Taper(*leans), **{f"{side}_mm": mm})
    return document.with_volume(index, replace(volume, shape=_plain_if_upright(leaning)))


def lean_by_angle(document: Document, side: str, degrees: float) -> Document:
    """A side leaning inward by an angle to the upright (outward when negative)."""
    if abs(degrees) > STEEPEST_DEG:
        raise VolumeError(
            _("A side can lean up to {steepest}°: type less.").format(
                steepest=write_number(STEEPEST_DEG)
            )
        )
    _unused, volume = in_work(document)
    return lean(document, side, volume.height_mm * math.tan(math.radians(degrees)))


def _plain_if_upright(shape: Taper) -> Kind:
    return shape if any(shape.insets) else BLOCK


def make_ridge(document: Document, axis: int) -> Document:
    """Two opposite sides leant inward until they meet in a ridge along width (0) or depth (1)."""
    index, volume = in_work(document)
    half = volume.sides[1 - axis] / 2
    shape = Taper(half, half, 0.0, 0.0) if axis == 0 else Taper(0.0, 0.0, half, half)
    return document.with_volume(index, replace(volume, shape=shape))


def make_pyramid(document: Document) -> Document:
    """All four sides leant inward until they meet in a tip."""
    index, volume = in_work(document)
    across, along = volume.width_mm / 2, volume.depth_mm / 2
    return document.with_volume(index, replace(volume, shape=Taper(along, along, across, across)))


def make_box(document: Document) -> Document:
    """The whole box again: no leans, no outline, no cuts."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, shape=BLOCK, cuts=()))


def set_outline(document: Document, outline: tuple[tuple[float, float], ...]) -> Document:
    """The volume in work as a prism on a plan outline, given as shares of width and depth."""
    index, volume = in_work(document)
    before = volume.shape.outline
    corner, rounded = (0.0, False) if before is None else before[1:]
    return document.with_volume(index, replace(volume, shape=Plan(outline, corner, rounded)))


def read_outline(text: str, unit: str) -> tuple[tuple[float, float], ...]:
    """Plan corners in mm from pairs such as ``0 0, 60 0, 60 40``; lengths may carry a unit.

    Raises IsometronError with the sentence to show.
    """
    pairs = [pair.split() for pair in text.replace(";", ",").split(",") if pair.strip()]
    if any(len(pair) != 2 for pair in pairs) or len(pairs) < 3:
        raise VolumeError(
            _("Type the plan corners in order round, across and away, such as 0 0, 60 0, 60 40.")
        )
    return tuple((read_length(x, unit), read_length(y, unit)) for x, y in pairs)


def set_own_outline(document: Document, corners_mm: tuple[tuple[float, float], ...]) -> Document:
    """The volume in work as a prism on plan corners in mm: its width and depth become theirs.

    Raises VolumeError for an outline that crosses itself or has no area.
    """
    index, volume = in_work(document)
    corners = np.array(corners_mm)
    low, size = corners.min(axis=0), np.ptp(corners, axis=0)
    if not (np.isfinite(size).all() and size.min() > 0):
        raise VolumeError(_("That outline has no width or no depth: move its corners apart."))
    shares = tuple((float(x), float(y)) for x, y in (corners - low) / size)
    sized = replace(volume, width_mm=float(size[0]), depth_mm=float(size[1]), shape=Plan(shares))
    return document.with_volume(index, sized)


def cut_plan_corners(document: Document, mm: float, *, rounded: bool) -> Document:
    """Every plan corner chamfered or rounded by a length."""
    index, volume = in_work(document)
    before = volume.shape.outline
    if before is None:
        raise VolumeError(
            _("A {called} keeps its plan corners: make it a box first, or cut it.").format(
                called=_(volume.shape.called)
            )
        )
    whole = before.corners == RECTANGLE and not mm
    shape = BLOCK if whole else Plan(before.corners, mm, rounded)
    return document.with_volume(index, replace(volume, shape=shape))


def give_thickness(document: Document, face: int, mm: float) -> Document:
    """The volume in work thinned to a slab, leg or slat: what is left of it is `mm` thick, along
    face 0…5 of its box (x=0, x=1, y=0, y=1, base, top), which stays."""
    index, volume = in_work(document)
    axis, positive = divmod(face, 2)
    corner = 1 << axis if positive else 0
    return document.with_volume(index, volume.resized(axis, mm, fixed_corner=corner))


def divide_edge(document: Document, edge: int, shares: tuple[float, ...]) -> Document:
    """Division marks on an edge of the volume in work; the same edge is divided anew."""
    return _mark(document, Mark("edge", edge, 0, shares))


def divide_face(document: Document, face: int, axis: int, shares: tuple[float, ...]) -> Document:
    """Division lines across a four-cornered face of the volume in work, along its first direction
    (0) or its second (1)."""
    return _mark(document, Mark("face", face, axis, shares))


def section(document: Document, axis: int, shares: tuple[float, ...] = (0.5,)) -> Document:
    """Section lines where planes square to an own axis cut the faces; a half is a centre line."""
    return _mark(document, Mark("section", 0, axis, shares))


def clear_marks(document: Document) -> Document:
    """The volume in work without division marks, centre and section lines."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, marks=()))


def _mark(document: Document, mark: Mark) -> Document:
    index, volume = in_work(document)
    if mark.kind == "edge" and mark.index >= len(volume.bare.edges):
        raise VolumeError(_("That edge is gone: choose one that is there."))
    if mark.kind == "face" and mark.index >= volume.bare.faces:
        raise VolumeError(_("That face is gone: choose one that is there."))
    same = (mark.kind, mark.index, mark.axis)
    kept = tuple(m for m in volume.marks if (m.kind, m.index, m.axis) != same)
    return document.with_volume(index, replace(volume, marks=(*kept, mark)))
