"""Readings of circles and curves."""

import numpy as np

from isometron.document.document import Document
from isometron.drawing.curves import length_of
from isometron.drawing.picks import Pick, Reading, Row
from isometron.drawing.rounds import DrawnCircle, circles_of
from isometron.drawing.scene import Scene, VolumePicture
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_angle, write_length

GOOD_ENOUGH_MM = 0.5
"""An error on the paper that a hand with a ruler cannot tell."""


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
    if arc < 0:
        return None
    for number, circle in enumerate(picture.body.circles):
        if circle.first <= arc < circle.last:
            return number
    return None


def in_mm(mm: float) -> str:
    """A small error in words: always in millimetres, whatever the sheet is read in."""
    return f"{mm:.2f} mm" if mm < 1 else f"{mm:.1f} mm"


def curve_arcs(picture: VolumePicture, pick: Pick) -> Array:
    """The drawn arcs (k, 3, 3) on the sheet of a picked circle or curve."""
    numbers = picture.arc_numbers
    if pick.kind == "circle" and pick.index < len(picture.body.circles):
        circle = picture.body.circles[pick.index]
        some = (numbers >= circle.first) & (numbers < circle.last)
    else:
        some = numbers == pick.index
    return np.asarray(picture.arcs[some & picture.arc_drawn])


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
        Row("ellipse at", ellipse.centre_mm, "place"),
    ]
    if drawn.centre_mm is not None:
        rows.append(Row("true centre", drawn.centre_mm, "place"))
    if drawn.miss_deg is not None:
        rows += [
            Row("short axis off axle", drawn.miss_deg, "deg"),
            Row("by the rule you lose", in_mm(circle.rule_gap_mm() or 0.0), "text"),
        ]
    guide = circle.guide(document.kit)
    if guide is not None:
        words = f"{guide.degree_deg:g}° {guide.long_axis_mm:g} mm, off {in_mm(guide.error_mm)}"
        rows.append(Row("guide", words, "text"))
    return Reading(title, tuple(rows))


def _curve(document: Document, picture: VolumePicture, arc: int) -> Reading | None:
    if arc < 0:
        return Reading(
            f"Outline of {picture.volume.name}",
            (Row("true outline", "where it turns away", "text"),),
        )
    if arc >= len(picture.figure.arcs):
        return None
    mine = picture.arc_numbers == arc
    run = np.diff(_flattened(picture.figure.arcs[arc]), axis=0)
    rows = [Row("true length", float(np.linalg.norm(run, axis=1).sum()), "mm")]
    if mine.any():
        rows.append(Row("on the paper", length_of(picture.arcs[mine]), "mm"))
    seen = picture.arc_seen[mine]
    rows.append(
        Row("seen", "whole" if seen.all() else "hidden" if not seen.any() else "in part", "text")
    )
    return Reading(f"Curve of {picture.volume.name}", tuple(rows))


def _flattened(curve: np.ndarray) -> np.ndarray:
    t = np.linspace(0.0, 1.0, 65)[:, None]
    points = (1 - t) ** 2 * curve[0] + 2 * t * (1 - t) * curve[1] + t * t * curve[2]
    return np.asarray(points[:, :3] / points[:, 3:])


def how_to_draw(document: Document, circle: DrawnCircle) -> tuple[str, ...]:
    """What the person with the pencil is told of a circle: how open and how tilted, whether the
    rule of the minor axis holds here, and which guide."""
    unit = document.choices.unit

    def length(mm: float) -> str:
        return write_length(mm, unit)

    ellipse = circle.ellipse
    if ellipse is None:
        return (f"It passes beside us: a {circle.picture.conic}, not an ellipse.",)
    words = [
        f"Opens to {ellipse.degree_deg:.1f}°; {length(2 * ellipse.semi_major_mm)} long, tilted "
        f"{write_angle(round(ellipse.major_axis_deg, 1))}."
    ]
    gap = circle.rule_gap_mm()
    if gap is not None and circle.picture.miss_deg is not None:
        good = "good enough here" if gap <= GOOD_ENOUGH_MM else "do not follow it here"
        words.append(
            f"The short axis misses the axle by {circle.picture.miss_deg:.1f}°. Laid along it you "
            f"lose {in_mm(gap)}: {good}."
        )
    guide = circle.guide(document.kit)
    if guide is None:
        words.append("You have listed no guide: draw it in its square.")
    else:
        fits = "fits" if guide.error_mm <= GOOD_ENOUGH_MM else "is the nearest guide"
        words.append(
            f"{guide.degree_deg:g}°, {guide.long_axis_mm:g} mm {fits}; it errs by "
            f"{in_mm(guide.error_mm)} at most."
        )
    return tuple(words)
