"""What lies under a place of the board: handles, edges, faces."""

from typing import TYPE_CHECKING, NamedTuple

import numpy as np
from PyQt6.QtCore import QPointF

from isometron.document.document import Document
from isometron.drawing.picks.pick import Pick
from isometron.drawing.scene import Scene
from isometron.drawing.touching import corner_at, off_lines, pick_at, picks_at
from isometron.render.view import View
from isometron.ui.board.flags import Flag
from isometron.ui.board.handles.handle import LINE_GRAB_PX, Handle

if TYPE_CHECKING:
    from isometron.construction.stages import Stage


CORNER_PX = 8.0


class Touch(NamedTuple):
    """A board as it can be touched."""

    document: Document
    scene: Scene
    view: View
    handles: list[Handle]
    flags: list[Flag]

    def handle_at(self, at: QPointF) -> Handle | None:
        """The handle under a place of the board, if any."""
        for flag in self.flags:
            if flag.touched(at):
                return flag.handle
        for handle in self.handles:
            if not handle.runs_across and handle.touched(self.view, at):
                return handle
        return next((h for h in self.handles if h.brushed(self.view, at)), None)

    def line_at(self, at: QPointF) -> Handle | None:
        """The line right across the board, such as the eye level, under a place of it."""
        lines = (handle for handle in self.handles if handle.runs_across)
        return next((handle for handle in lines if handle.touched(self.view, at)), None)

    def stroke_at(self, at: QPointF, stage: "Stage") -> str | None:
        """The line of a stage of the build order under a place of the board, the newest first."""
        place, reach = self.view.sheet(at), LINE_GRAB_PX / self.view.scale
        best: tuple[float, str] | None = None
        for stroke in reversed(stage.strokes):
            lines = np.concatenate([stroke.points[:-1], stroke.points[1:]], axis=1)
            off = float(off_lines(lines, place).min())
            if off < (reach if best is None else best[0]):
                best = (off, stroke.name)
        return None if best is None else best[1]

    def answers_at(self, at: QPointF) -> list[Pick]:
        """Everything that may be meant at a place of the board, the likeliest first."""
        return picks_at(
            self.document, self.scene, self.view.sheet(at), LINE_GRAB_PX / self.view.scale
        )

    def pick_at(self, at: QPointF, *, corners: bool = False) -> Pick | None:
        """The edge, else the face of a volume under a place of the board, nearest to us first; when
        it is asked for a corner before all."""
        place, reach = self.view.sheet(at), LINE_GRAB_PX / self.view.scale
        if corners:
            found = corner_at(self.document, self.scene, place, CORNER_PX / self.view.scale)
            if found is not None:
                return found
        return pick_at(self.document, self.scene, place, reach)
