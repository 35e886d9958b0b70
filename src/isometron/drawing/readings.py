"""Readings: what one edge, face, corner or vanishing point measures, ready to be put in words."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.near_edge import box_near_corner, near_edge_world
from isometron.drawing.measures import (
    angle_of_sight,
    directions_of,
    edge_measures,
    face_foreshortening,
    measuring_point_of,
    near_edge_number,
    shared_points,
)
from isometron.drawing.picks import Pick, Reading, Row, is_there
from isometron.drawing.round_readings import curve_reading
from isometron.drawing.rounds import circle_in_work
from isometron.drawing.scene import Scene, VolumePicture
from isometron.framework.box import AXES, EDGES
from isometron.perspective.cone import off_axis, stretch
from isometron.perspective.eye import Eye, eye_level
from isometron.perspective.projection import depths, scale_at
from isometron.perspective.vanishing import diagonal_point, vanishing_point

MOST_NAMES = 2
"""More names than this do not fit a line."""

__all__ = ["Pick", "Reading", "Row", "default_pick", "reading_of"]

POINT_TITLES = {
    "left": "Left vanishing point",
    "right": "Right vanishing point",
    "centre": "Vanishing point",
    "third": "Third point",
}
RUNS_TO = {
    "left": "VP left",
    "right": "VP right",
    "centre": "VP",
    "third": "third point",
    "": "parallel",
}


def default_pick(document: Document, scene: Scene) -> Pick | None:
    """What is read when nothing is picked: the near edge of the volume in work."""
    if not scene.pictures:
        return None
    index = document.selected or 0
    picture = scene.pictures[index]
    edge = near_edge_number(document.eye, picture)
    if picture.body.bent or edge is None:
        circle = circle_in_work(replace(document, selected=index), scene)
        if circle is not None:
            return Pick("circle", index, circle.number)
    return None if edge is None else Pick("edge", index, edge)


def reading_of(document: Document, scene: Scene, pick: Pick | None) -> Reading | None:
    """The reading of what is picked, else of the near edge of the volume in work; None without."""
    if pick is None or not is_there(scene, pick):
        pick = default_pick(document, scene)
    if pick is None:
        return None
    if pick.kind in ("circle", "curve"):
        return curve_reading(document, scene, pick)
    readers = {"edge": _edge, "face": _face, "corner": _corner, "point": _point}
    reading = readers[pick.kind](document.eye, scene.pictures[pick.volume], pick)
    if pick.kind == "point":
        return reading._replace(rows=(*reading.rows, _sharing(document, scene, pick)))
    return reading


def _sharing(document: Document, scene: Scene, pick: Pick) -> Row:
    """Which other volumes have the same vanishing point."""
    own = scene.pictures[pick.volume]
    names = [
        other.volume.name
        for i, other in enumerate(scene.pictures)
        if i != pick.volume
        and other.volume.shown
        and pick.family in shared_points(document.eye, own, other)
    ]
    if len(names) > MOST_NAMES:
        return Row("shared with", f"{len(names)} volumes", "text")
    return Row("shared with", ", ".join(names) or "no other volume", "text")


def _edge(eye: Eye, picture: VolumePicture, pick: Pick) -> Reading:
    measures = edge_measures(eye, picture)
    edge = pick.index
    axis = int(picture.body.edge_axes[edge])
    first, second = (int(i) for i in picture.edges[edge])
    if picture.world[first, 2] > picture.world[second, 2]:
        first, second = second, first
    near, far = sorted((first, second), key=lambda i: picture.depth[i])
    rows = [Row("true length", float(measures.true_mm[edge]), "mm")]
    if np.isfinite(measures.drawn_mm[edge]):
        rows += [
            Row("on the paper", float(measures.drawn_mm[edge]), "mm"),
            Row("foreshortened to", 100 * float(measures.foreshortening[edge]), "percent"),
            Row("lies at", to_level(float(measures.paper_angle_deg[edge])), "deg"),
            Row("runs to", _runs_to(eye, picture, edge), "text"),
            *_place("near end" if axis != 2 else "foot", picture, near if axis != 2 else first),
            *_place("far end" if axis != 2 else "top", picture, far if axis != 2 else second),
            *_off_centre(eye, picture, [first, second]),
            Row("seen", _seen(picture, edge), "text"),
        ]
    else:
        rows.append(Row("on the paper", "reaches behind the eye", "text"))
    return Reading(f"{edge_name(eye, picture, edge)} of {picture.volume.name}", tuple(rows))


def _face(eye: Eye, picture: VolumePicture, pick: Pick) -> Reading:
    sight = angle_of_sight(eye, picture, pick.index)
    rows = [
        *_true_sides(picture, pick.index),
        Row("seen at", sight, "deg"),
        Row("turned", "to us" if sight > 0 else "away from us", "text"),
    ]
    share = face_foreshortening(eye, picture, pick.index)
    if share is not None:
        rows.append(Row("area foreshortened to", 100 * share, "percent"))
    return Reading(f"{face_name(eye, picture, pick.index)} of {picture.volume.name}", tuple(rows))


def _true_sides(picture: VolumePicture, face: int) -> list[Row]:
    """True width, depth or height of a face that lies along two axes of its volume."""
    corners = picture.body.face_corners(face)
    if not len(corners):
        return []
    reach = np.ptp(corners, axis=0)
    flat = reach <= 1e-9 * reach.max()
    if not flat.any():
        return []
    return [Row(f"true {AXES[a]}", float(reach[a]), "mm") for a in range(3) if not flat[a]]


def face_name(eye: Eye, picture: VolumePicture, face: int) -> str:
    """What a sketcher calls a face: base, top, side running to VP left, sloping side."""
    own = picture.body.normals[face]
    axis = int(np.abs(own).argmax())
    if abs(own[axis]) < 1 - 1e-9:
        return "Sloping side" if abs(own[2]) > 1e-9 else "Turned side"
    if axis == 2:
        return "Top" if own[2] > 0 else "Base"
    family = directions_of(eye, picture)[1 - axis].family
    return f"Side running to {RUNS_TO[family]}" if family else "Side square to us"


def _runs_to(eye: Eye, picture: VolumePicture, edge: int) -> str:
    axis = int(picture.body.edge_axes[edge])
    if axis >= 0:
        return RUNS_TO[directions_of(eye, picture)[axis].family]
    ends = picture.world[picture.edges[edge]]
    place = vanishing_point(eye, ends[1] - ends[0]).sheet_mm
    level = eye_level(eye)
    if place is None or level is None:
        return "parallel" if place is None else "a point of its own"
    if abs(place[1] - level) < 1e-6:
        return "a point on eye level"
    return f"{'above' if place[1] > level else 'below'} eye level"


def _corner(eye: Eye, picture: VolumePicture, pick: Pick) -> Reading:
    rows = [Row("off the eye's plane", float(picture.depth[pick.index]), "mm")]
    rows += _place("on the paper", picture, pick.index)
    rows += _off_centre(eye, picture, [pick.index])
    return Reading(f"Corner of {picture.volume.name}", tuple(rows))


def _point(eye: Eye, picture: VolumePicture, pick: Pick) -> Reading:
    directions = directions_of(eye, picture)
    found = next((d for d in directions if d.family == pick.family), None)
    title = f"{POINT_TITLES.get(pick.family, 'Point')} of {picture.volume.name}"
    if found is None or found.vanishing.sheet_mm is None:
        return Reading(title, (Row("lies", "at infinity: lines stay parallel", "text"),))
    rows = [Row("on the board", found.vanishing.sheet_mm, "place")]
    measuring = measuring_point_of(eye, picture, found.axis)
    if measuring is not None:
        rows.append(Row("measuring point", measuring, "place"))
    if pick.family in ("left", "right", "centre"):
        axes = picture.volume.axes()
        diagonal = diagonal_point(eye, *_both_ahead(eye, axes[:2]))
        if diagonal.sheet_mm is not None:
            rows.append(Row("45° point", diagonal.sheet_mm, "place"))
    foot = near_edge_world(eye, picture.volume)[0]
    depth = float(depths(eye, foot[None])[0])
    if depth > 0:
        rows.append(Row("scale at near corner", 100 * float(scale_at(eye, depth)), "percent"))
    return Reading(title, tuple(rows))


def _both_ahead(eye: Eye, axes: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The two level directions of a box turned so that both run away from us."""
    heading = np.radians(eye.heading_deg)
    ahead = axes[:, 0] * np.sin(heading) + axes[:, 1] * np.cos(heading)
    first, second = (axis * (-1.0 if a < 0 else 1.0) for axis, a in zip(axes, ahead, strict=True))
    return first, second


def to_level(paper_angle_deg: float) -> float:
    """Acute angle of a drawn line to the level, degrees 0…90."""
    return abs((paper_angle_deg + 90.0) % 180.0 - 90.0)


def edge_name(eye: Eye, picture: VolumePicture, edge: int) -> str:
    """What a sketcher calls an edge: near edge, left far edge, top near edge to VP right."""
    if not picture.body.boxed or picture.volume.tipped:
        axis = int(picture.body.edge_axes[edge])
        return "Sloping edge" if axis < 0 else f"Edge along the {AXES[axis]}"
    corner = box_near_corner(eye, picture.volume)
    first = int(EDGES[edge, 0])
    if edge >= 8:
        if first == corner:
            return "Near edge"
        if first == corner ^ 3:
            return "Furthest edge"
        beside = picture.sheet[first, 0] - picture.sheet[corner, 0]
        return "Right far edge" if beside > 0 else "Left far edge"
    level = "Top" if first & 4 else "Base"
    near = corner in (first & 3, int(EDGES[edge, 1]) & 3)
    family = directions_of(eye, picture)[edge // 4].family
    run = f" to {RUNS_TO[family]}" if family else ""
    return f"{level} {'near' if near else 'far'} edge{run}"


def _place(label: str, picture: VolumePicture, corner: int) -> list[Row]:
    x, y = picture.sheet[corner].tolist()
    return [Row(label, (x, y), "place")] if np.isfinite([x, y]).all() else []


def _off_centre(eye: Eye, picture: VolumePicture, corners: list[int]) -> list[Row]:
    angles = off_axis(eye, picture.sheet[corners])
    if not np.isfinite(angles).all():
        return []
    worst = float(angles.max())
    return [
        Row("off the centre", worst, "deg"),
        Row("stretched by", 100 * float(stretch(np.array(worst))) - 100, "percent"),
    ]


def _seen(picture: VolumePicture, edge: int) -> str:
    share = sum(end - start for start, end in picture.visible[edge])
    if share >= 1 - 1e-9:
        return "whole"
    return "hidden" if share <= 1e-9 else f"{100 * share:.0f} % of it"
