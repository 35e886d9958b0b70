"""Readings of circles and curves."""

import numpy as np

from isometron.document.document import Document
from isometron.drawing.curves import length_of
from isometron.drawing.picks import Pick, Reading, Row
from isometron.drawing.rounds import DrawnCircle, circles_of
from isometron.drawing.scene import Scene, VolumePicture
from isometron.perspective.vanishing import vanishing_point


def curve_reading(document: Document, scene: Scene, pick: Pick) -> Reading | None:
    """The reading of a circle, of an arc that belongs to one, or of another curve."""
    picture = scene.pictures[pick.volume]
    circles = circles_of(scene, pick.volume)
    number = pick.index if pick.kind == "circle" else circle_with(picture, pick.index)
    if number is not None:
        return _circle(document, picture, circles[number]) if number < len(circles) else None
    return _curve(document, picture, pick.index)


def circle_with(picture: VolumePicture, arc: int) -> int | None:
    """The number of the circle that an arc of a volume belongs to."""
    if picture.built.curved is None or arc < 0:
        return None
    for number, circle in enumerate(picture.built.curved.circles):
        if circle.first <= arc < circle.last:
            return number
    return None


def _circle(document: Document, picture: VolumePicture, circle: DrawnCircle) -> Reading:
    title = f"{circle.name.capitalize()} of {picture.volume.name}"
    rows = [Row("true diameter", 2 * circle.radius_mm, "mm")]
    ellipse, drawn = circle.ellipse, circle.picture
    if ellipse is None:
        rows.append(Row("on the paper", f"a {drawn.conic}: it passes us", "text"))
        return Reading(title, tuple(rows))
    rows += [
        Row("opens to", ellipse.degree_deg, "deg"),
        Row("long axis", 2 * ellipse.semi_major_mm, "mm"),
        Row("short axis", 2 * ellipse.semi_minor_mm, "mm"),
        Row("long axis tilts", ellipse.major_axis_deg, "deg"),
        Row("ellipse centre", ellipse.centre_mm, "place"),
    ]
    if drawn.centre_mm is not None:
        rows.append(Row("circle's centre", drawn.centre_mm, "place"))
    if drawn.miss_deg is not None and drawn.axle_deg is not None:
        rows += [
            Row("axle tilts", drawn.axle_deg, "deg"),
            Row("short axis misses it", drawn.miss_deg, "deg"),
            Row("by the rule you lose", circle.rule_gap_mm() or 0.0, "mm"),
        ]
    guide = circle.guide(document.choices)
    if guide is not None:
        rows.append(
            Row("nearest guide", f"{guide.degree_deg:g}°, {guide.long_axis_mm:g} mm", "text")
        )
        rows.append(Row("guide errs by", guide.error_mm, "mm"))
    return Reading(title, tuple(rows))


def _curve(document: Document, picture: VolumePicture, arc: int) -> Reading | None:
    built = picture.built
    if arc < 0:
        return Reading(
            f"Outline of {picture.volume.name}",
            (Row("true outline", "where it turns away", "text"),),
        )
    if built.curved is None or arc >= len(built.arcs):
        return None
    curve = built.arcs[arc]
    ends = curve[[0, 2], :3] / curve[[0, 2], 3:]
    off = np.cross(curve[1, :3] / curve[1, 3] - ends[0], ends[1] - ends[0])
    straight = float(np.abs(off).max()) < 1e-9 * (1 + float(np.abs(ends).max()) ** 2)
    here = picture.curves.arcs[picture.curves.curve == arc]
    rows = []
    if straight:
        run = ends[1] - ends[0]
        rows.append(Row("true length", float(np.linalg.norm(run)), "mm"))
        point = vanishing_point(document.eye, run).sheet_mm
        if point is not None:
            rows.append(Row("runs to", point, "place"))
    else:
        run = np.diff(_flattened(curve), axis=0)
        rows.append(Row("true length", float(np.linalg.norm(run, axis=1).sum()), "mm"))
    if len(here):
        rows.append(Row("on the paper", length_of(here), "mm"))
    seen = picture.curves.seen[picture.curves.curve == arc]
    rows.append(
        Row("seen", "whole" if seen.all() else "hidden" if not seen.any() else "in part", "text")
    )
    return Reading(f"{'Edge' if straight else 'Curve'} of {picture.volume.name}", tuple(rows))


def _flattened(curve: np.ndarray) -> np.ndarray:
    t = np.linspace(0.0, 1.0, 65)[:, None]
    points = (1 - t) ** 2 * curve[0] + 2 * t * (1 - t) * curve[1] + t * t * curve[2]
    return np.asarray(points[:, :3] / points[:, 3:])
