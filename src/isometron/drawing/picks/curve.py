"""Circles and other curves of a volume."""

import math
from dataclasses import dataclass

import numpy as np

from isometron.document.document import Document
from isometron.drawing.curves import length_of
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe, in_shares
from isometron.drawing.rounds import DrawnCircle, circles_of
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.conics import lengths
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_mm
from isometron.words import _


@dataclass(frozen=True)
class CirclePick(Pick):
    """A circle, by its number in the body."""

    def count(self, picture: VolumePicture) -> int | None:
        return len(picture.body.circles)

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        circles = circles_of(scene, self.volume)
        if self.index >= len(circles):
            return None
        return _circle(document, scene.pictures[self.volume], circles[self.index])

    def place(self, picture: VolumePicture, number: int) -> Array | None:
        circle = picture.body.circles[number]
        return in_shares(
            picture, np.array([circle.centre, circle.radius_mm * circle.normal])
        ).reshape(-1)

    def swipe(self, scene: Scene) -> Swipe:
        picture = scene.pictures[self.volume]
        circle, numbers = picture.body.circles[self.index], picture.arc_numbers
        some = (numbers >= circle.first) & (numbers < circle.last)
        return Swipe(arcs=picture.arcs[some & picture.arc_drawn])


@dataclass(frozen=True)
class CurvePick(Pick):
    """An arc of the body that belongs to no circle, by its number; −1 − n for outline n."""

    def count(self, picture: VolumePicture) -> int | None:
        return len(picture.body.arcs)

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        circle = circle_with(scene.pictures[self.volume], self.index)
        if circle is not None:
            return CirclePick(self.volume, circle).reading(document, scene)
        return _curve(scene.pictures[self.volume], self.index)

    def place(self, picture: VolumePicture, number: int) -> Array | None:
        if not 0 <= number < len(picture.body.arcs):
            return None
        arc = picture.body.arcs[number]
        return in_shares(picture, arc[[0, 2], :3] / arc[[0, 2], 3:]).reshape(-1)

    def is_there(self, scene: Scene) -> bool:
        """An outline is there for as long as it is drawn."""
        if self.index >= 0 or self.volume >= len(scene.pictures):
            return super().is_there(scene)
        return -1 - self.index < len(scene.pictures[self.volume].outlines)

    def swipe(self, scene: Scene) -> Swipe:
        picture = scene.pictures[self.volume]
        return Swipe(arcs=picture.arcs[(picture.arc_numbers == self.index) & picture.arc_drawn])


def curve_pick(picture: VolumePicture, volume: int, arc: int) -> Pick:
    """The circle an arc belongs to, when it belongs to one; else the curve."""
    circle = circle_with(picture, arc)
    return CurvePick(volume, arc) if circle is None else CirclePick(volume, circle)


def circle_with(picture: VolumePicture, arc: int) -> int | None:
    """The number of the circle that an arc of a volume belongs to."""
    if arc < 0:
        return None
    for number, circle in enumerate(picture.body.circles):
        if circle.first <= arc < circle.last:
            return number
    return None


def _circle(document: Document, picture: VolumePicture, circle: DrawnCircle) -> Reading:
    title = _("{circle} of {name}").format(
        circle=_(circle.name).capitalize(), name=picture.volume.name
    )
    rows = [Row(_("true diameter"), 2 * circle.radius_mm, Quantity.MM)]
    ellipse, drawn = circle.ellipse, circle.picture
    if drawn.segment_mm is not None:
        start, end = drawn.segment_mm
        rows += [
            Row(_("on the paper"), _("a straight line: seen edge-on"), Quantity.TEXT),
            Row(_("length"), math.dist(start, end), Quantity.MM),
            Row(_("from"), start, Quantity.PLACE),
            Row(_("to"), end, Quantity.PLACE),
        ]
        return Reading(title, tuple(rows))
    if ellipse is None:
        behind = _("nothing: it lies behind us")
        words = _("a {conic}: it passes us").format(conic=_(drawn.conic))
        told = behind if drawn.conic == "behind" else words
        rows.append(Row(_("on the paper"), told, Quantity.TEXT))
        return Reading(title, tuple(rows))
    rows += [
        Row(_("opens to"), ellipse.degree_deg, Quantity.DEG),
        Row(_("long axis"), 2 * ellipse.semi_major_mm, Quantity.MM),
        Row(_("short axis"), 2 * ellipse.semi_minor_mm, Quantity.MM),
        Row(_("long axis tilts"), ellipse.major_axis_deg, Quantity.DEG),
        Row(_("ellipse at"), ellipse.centre_mm, Quantity.PLACE),
    ]
    if drawn.centre_mm is not None:
        rows.append(Row(_("true centre"), drawn.centre_mm, Quantity.PLACE))
    if drawn.miss_deg is not None:
        rows += [
            Row(_("short axis off axle"), drawn.miss_deg, Quantity.DEG),
            Row(_("by the rule you lose"), write_mm(circle.rule_gap_mm() or 0.0), Quantity.TEXT),
        ]
    if words := circle.guide_words(document.kit):
        rows.append(Row(_("guide"), words, Quantity.TEXT))
    return Reading(title, tuple(rows))


def _curve(picture: VolumePicture, arc: int) -> Reading | None:
    if arc < 0:
        return Reading(
            _("Outline of {name}").format(name=picture.volume.name),
            (Row(_("true outline"), _("where it turns away"), Quantity.TEXT),),
        )
    if arc >= len(picture.figure.arcs):
        return None
    mine = picture.arc_numbers == arc
    true = float(lengths(picture.figure.arcs[arc][None])[0])
    rows = [Row(_("true length"), true, Quantity.MM)]
    if mine.any():
        rows.append(Row(_("on the paper"), length_of(picture.arcs[mine]), Quantity.MM))
    seen = picture.arc_seen[mine]
    told = _("whole") if seen.all() else _("hidden") if not seen.any() else _("in part")
    rows.append(Row(_("seen"), told, Quantity.TEXT))
    return Reading(_("Curve of {name}").format(name=picture.volume.name), tuple(rows))
