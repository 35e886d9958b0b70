"""What lies under a place of the board: handles, edges, faces."""

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtCore import QPointF

from isometron.document.document import Document
from isometron.drawing.measures import depth_in_face, drawn_inside, drawn_loops
from isometron.drawing.readings import Pick
from isometron.drawing.round_readings import circle_with
from isometron.drawing.scene import Scene, VolumePicture
from isometron.perspective.conics import bounds_of, chords
from isometron.render.painter import View
from isometron.ui.board.handles import Handle
from isometron.ui.board.marks import Flag, bar_place

if TYPE_CHECKING:
    from isometron.construction.stages import Stage

GRAB_PX = 10.0
LINE_GRAB_PX = 5.0


@dataclass(frozen=True)
class Touch:
    """A board as it can be touched."""

    document: Document
    scene: Scene
    view: View
    handles: list[Handle]
    flags: list[Flag]

    def handle_at(self, at: QPointF) -> Handle | None:
        """The handle under a place of the board, if any."""
        for flag in self.flags:
            if flag.banner.contains(at) or apart(flag.pole, at) < GRAB_PX:
                return flag.handle
        for handle in self.handles:
            place = self.view.point(handle.place)
            if handle.shape == "bar":
                place = bar_place(handle, self.view)[0]
            if handle.shape != "level" and apart(place, at) < GRAB_PX:
                return handle
        for handle in self.handles:
            if handle.shape == "far" and handle.line:
                start, end = (self.view.point(p) for p in handle.line)
                if _from_line(start, end, at) < LINE_GRAB_PX:
                    return handle
        return None

    def stroke_at(self, at: QPointF, stage: "Stage") -> str | None:
        """The line of a stage of the build order under a place of the board, the newest first."""
        place = np.array(self.view.sheet(at))
        best: tuple[float, str] | None = None
        for stroke in reversed(stage.strokes):
            start, run = stroke.points[:-1], np.diff(stroke.points, axis=0)
            square = np.maximum((run * run).sum(axis=1), 1e-12)
            share = np.clip(((place - start) * run).sum(axis=1) / square, 0.0, 1.0)
            off = float(np.hypot(*(start + share[:, None] * run - place).T).min()) * self.view.scale
            if off < LINE_GRAB_PX and (best is None or off < best[0]):
                best = (off, stroke.name)
        return None if best is None else best[1]

    def level_at(self, at: QPointF) -> Handle | None:
        """The eye level, when it runs under a place of the board."""
        for handle in self.handles:
            if handle.shape == "level":
                off = abs(self.view.point(handle.place).y() - at.y())
                if off < LINE_GRAB_PX:
                    return handle
        return None

    def pick_at(self, at: QPointF) -> Pick | None:
        """The edge, else the face of a volume under a place of the board, nearest to us first."""
        best: tuple[float, Pick] | None = None
        see_through = self.document.choices.see_through
        for index, picture in enumerate(self.scene.pictures):
            chosen = index == self.document.selected
            off, curve = self._curve_at(picture, at)
            off -= 0.5 if chosen else 0.0
            if curve is not None and (best is None or off < best[0]):
                best = (off, Pick("curve", index, curve))
            for edge, ends in enumerate(picture.sheet[picture.edges].tolist()):
                hidden = not picture.visible[edge]
                if (hidden and not (see_through and chosen)) or not np.isfinite(ends).all():
                    continue
                start, end = (self.view.point((x, y)) for x, y in ends)
                off = _from_line(start, end, at) + (2.0 if hidden else 0.0) - (0.5 if chosen else 0)
                if off < LINE_GRAB_PX and (best is None or off < best[0]):
                    best = (off, Pick("edge", index, edge))
        if best is None:
            return self._face_at(at)
        return self._circle_of(best[1])

    def _circle_of(self, pick: Pick) -> Pick:
        """The circle an arc belongs to, when it belongs to one."""
        if pick.kind != "curve":
            return pick
        circle = circle_with(self.scene.pictures[pick.volume], pick.index)
        return pick if circle is None else Pick("circle", pick.volume, circle)

    def _curve_at(self, picture: VolumePicture, at: QPointF) -> tuple[float, int | None]:
        """How far the nearest seen curve of a volume is, px, and which it is, when near enough."""
        some = np.flatnonzero(picture.arc_seen & picture.arc_drawn)
        if not len(some):
            return math.inf, None
        place = np.array(self.view.sheet(at))
        reach = LINE_GRAB_PX / self.view.scale
        bounds = bounds_of(picture.arcs[some])
        near = (bounds[:, :2] <= place + reach).all(axis=1)
        near &= (bounds[:, 2:] >= place - reach).all(axis=1)
        best: tuple[float, int | None] = (math.inf, None)
        for number in some[near].tolist():
            points = chords(picture.arcs[number][None], 0.3 / self.view.scale)[0]
            start, run = points[:-1], np.diff(points, axis=0)
            square = np.maximum((run * run).sum(axis=1), 1e-12)
            share = np.clip(((place - start) * run).sum(axis=1) / square, 0.0, 1.0)
            off = float(np.hypot(*(start + share[:, None] * run - place).T).min())
            if off * self.view.scale < min(LINE_GRAB_PX, best[0]):
                best = (off * self.view.scale, int(picture.arc_numbers[number]))
        return best

    def _face_at(self, at: QPointF) -> Pick | None:
        x, y = self.view.sheet(at)
        found: tuple[float, Pick] | None = None
        for index, picture in enumerate(self.scene.pictures):
            left, bottom, right, top = picture.bounds.tolist()
            if not (left <= x <= right and bottom <= y <= top):
                continue
            for face in np.flatnonzero(picture.shown).tolist():
                loops = drawn_loops(picture, face)
                if not loops or not drawn_inside(loops, (x, y)):
                    continue
                depth = depth_in_face(self.document.eye, picture, face, (x, y))
                if found is None or depth < found[0]:
                    found = (depth, Pick("face", index, face))
        return found[1] if found else None


def apart(a: QPointF, b: QPointF) -> float:
    """Distance between two places of the board, px."""
    return math.hypot(a.x() - b.x(), a.y() - b.y())


def _from_line(start: QPointF, end: QPointF, at: QPointF) -> float:
    run = end - start
    square = run.x() ** 2 + run.y() ** 2
    if square == 0:
        return apart(start, at)
    share = ((at.x() - start.x()) * run.x() + (at.y() - start.y()) * run.y()) / square
    return apart(start + run * min(max(share, 0.0), 1.0), at)
