"""A curved sheet by hand: the corners marked where they are measured, every edge drawn as a curve
through its deepest place, with a curve template where an arc of a circle serves."""

import math
from typing import NamedTuple

import numpy as np

from isometron.construction.draft import Draft
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.nearness import SAME
from isometron.perspective.curved import place_points
from isometron.perspective.eye import Array, Eye
from isometron.perspective.lengths import write_number
from isometron.perspective.vanishing import vanishing_point
from isometron.words import _

STRAIGHT_MM = 0.2
"""An edge that bows by less is drawn with the ruler."""

SERVES_MM = 0.3
"""A template serves where it misses the curve by no more."""

LONGEST_TEMPLATE_MM = 2000.0
"""Curve templates are made to about this radius."""

PLACES = 97


class Bow(NamedTuple):
    """How an edge is drawn on a curved sheet: its ends and its deepest place (3, 2) mm, how far
    that lies from the straight line between the ends, mm, the radius of the arc through the three,
    mm (infinite for a straight one), and how far the true curve leaves that arc, mm."""

    places: Array
    deep_mm: float
    radius_mm: float
    error_mm: float


def bow_of(eye: Eye, start: Array, end: Array) -> Bow:
    """The bow of a straight edge between world places (3,)."""
    t = np.linspace(0.0, 1.0, PLACES)[:, None]
    drawn = place_points(eye, start + t * (end - start)).sheet
    chord = drawn[-1] - drawn[0]
    length = max(float(np.hypot(*chord)), 1e-12)
    off = (drawn - drawn[0]) @ np.array([-chord[1], chord[0]]) / length
    deepest = int(np.abs(off).argmax())
    places = drawn[[0, deepest, -1]]
    deep = float(abs(off[deepest]))
    if deep < SAME * length:
        return Bow(places, deep, math.inf, float(np.abs(off).max()))
    (ax, ay), (bx, by) = places[1] - places[0], places[2] - places[0]
    twice = 2 * (ax * by - ay * bx)
    squares = (ax * ax + ay * ay, bx * bx + by * by)
    middle = (
        np.array([by * squares[0] - ay * squares[1], ax * squares[1] - bx * squares[0]]) / twice
    )
    radius = float(np.hypot(*middle))
    away = np.hypot(*(drawn - places[0] - middle).T) - radius
    return Bow(places, deep, radius, float(np.abs(away).max()))


def lay_curves(draft: Draft, scene: Scene, index: int) -> None:
    """A chapter with the corners and the edges of one volume that are drawn."""
    picture = scene.pictures[index]
    key, name = f"v{picture.volume.key}", picture.volume.name
    edges = _drawn_edges(picture)
    corners: dict[int, str] = {}
    for corner in sorted({corner for _edge, ends in edges for corner in ends}):
        place = picture.sheet[corner]
        corners[corner] = draft.mark((float(place[0]), float(place[1])))
        draft.letter(corners[corner])
        draft.land(corners[corner], place, _("corner of {name}").format(name=name))
    if not corners:
        return
    draft.step(f"{key}.corners", _("Mark the corners of {name}.").format(name=name))
    for number, (edge, (one, two)) in enumerate(edges):
        _edge(draft, picture, f"{key}.edge{number}", edge, (corners[one], corners[two]))
    draft.chapter(key, _("Curves: {name}").format(name=name[:40]))


def _drawn_edges(picture: VolumePicture) -> list[tuple[int, tuple[int, int]]]:
    """Edges of a volume that are seen, in part at least, with their corners."""
    ends = picture.edges.tolist()
    return [
        (edge, (int(ends[edge][0]), int(ends[edge][1])))
        for edge, spans in enumerate(picture.visible)
        if spans
    ]


def _edge(draft: Draft, picture: VolumePicture, key: str, edge: int, ends: tuple[str, str]) -> None:
    """One edge: straight, with a template, or by its deepest place."""
    one, two = picture.world[picture.edges[edge]]
    bow = bow_of(picture.eye, one, two)
    first, last = (draft.letter(name) for name in ends)
    if bow.deep_mm < STRAIGHT_MM:
        line = draft.join(*ends)
        draft.keep(line)
        draft.draw(line)
        draft.step(key, _("{first} to {last}: straight.").format(first=first, last=last))
        return
    place = bow.places[1]
    deepest = draft.mark((float(place[0]), float(place[1])))
    middle = draft.letter(deepest)
    draft.land(
        deepest, place, _("deepest place of an edge of {name}").format(name=picture.volume.name)
    )
    curve = draft.curve((ends[0], deepest, ends[1]))
    draft.keep(curve)
    told = _("{first} to {last} bows {deep} mm at {middle}; it runs on to {point}.")
    words = told.format(
        first=first,
        last=last,
        deep=write_number(bow.deep_mm, 1),
        middle=middle,
        point=draft.where(_point(picture.eye, two - one)),
    )
    if bow.error_mm <= SERVES_MM and bow.radius_mm <= LONGEST_TEMPLATE_MM:
        told = _("A template of {radius} radius serves, off by {error} mm at most.")
        words += " " + told.format(
            radius=draft.length(bow.radius_mm), error=write_number(bow.error_mm, 2)
        )
    else:
        words += " " + _("No template serves: draw it freehand through the three.")
    draft.step(key, words)


def _point(eye: Eye, way: Array) -> tuple[float, float]:
    place = vanishing_point(eye, way).sheet_mm
    assert place is not None  # on a curved sheet every direction lands
    return place
