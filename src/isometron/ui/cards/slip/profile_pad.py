"""The side-view pad: a profile drawn flat, with quarter lines."""

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF

from isometron.document.document import Document
from isometron.document.edits.shapes import profiles
from isometron.drawing.pencils import GRAPHITE
from isometron.framework.outlines import Flat, chorded, flat
from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.render.painter import painting_on
from isometron.ui.parts.pad import PAD, Pad
from isometron.ui.parts.theme import GRID, GROUND, PAPER, font
from isometron.ui.parts.wishes import Edit, Wishes
from isometron.words import _

HEIGHT = 220


class ProfilePad(Pad):
    """The knots of the profile in work as points."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(
            wishes,
            _("Side view"),
            _(
                "Drag a point; double-click on the outline adds one, Delete takes the chosen one "
                "away. Page Down chooses a point, the arrow keys move it."
            ),
            HEIGHT,
        )
        self._knots: list[tuple[int, int, Place, bool]] = []
        self._rings: list[np.ndarray] = []
        self._flat: list[Flat] = []
        self._size = (1.0, 1.0)

    def show_volume(self, document: Document) -> None:
        """Show the profile in work."""
        volume, shape = document.volume, profiles.profile_of(document.volume)
        self._knots, self._rings = [], []
        if volume is not None and shape is not None:
            first, second = shape.cross
            self._size = (volume.sides[first], volume.sides[second])
            self._knots = [
                (r, k, (knot.x * self._size[0], knot.y * self._size[1]), knot.smooth)
                for r, ring in enumerate(shape.rings)
                for k, knot in enumerate(ring)
            ]
            try:
                self._rings = [chorded(flat(ring, *self._size), 2.0) for ring in shape.rings]
            except IsometronError:
                self._rings = []
        if self.chosen is not None and self.chosen >= len(self._knots):
            self.chosen = None
        self.update()

    @property
    def knot(self) -> tuple[int, int] | None:
        """Ring and number of the chosen knot."""
        return None if self.chosen is None else self._knots[self.chosen][:2]

    def points(self) -> list[Place]:
        """The knots, mm."""
        return [knot[2] for knot in self._knots]

    def moved(self, number: int, place: Place) -> Edit:
        """A knot moved."""
        ring, knot = self._knots[number][:2]
        return lambda d: profiles.move_knot(d, ring, knot, place)

    def added(self, place: Place) -> Edit | None:
        """A knot on the nearest run of the outline."""
        best: tuple[float, int, int] | None = None
        for number, (ring, knot, start, _smooth) in enumerate(self._knots):
            mates = [n for n, k in enumerate(self._knots) if k[0] == ring]
            end = np.array(self._knots[mates[(mates.index(number) + 1) % len(mates)]][2])
            run, away = end - start, np.array(place) - start
            share = float(np.clip(away @ run / max(float(run @ run), 1e-12), 0.0, 1.0))
            off = float(np.hypot(*(away - share * run)))
            if best is None or off < best[0]:
                best = (off, ring, knot)
        if best is None:
            return None
        _off, ring, knot = best
        return lambda d: profiles.add_knot(d, ring, knot, place)

    def removed(self, number: int) -> Edit:
        """A knot fewer."""
        ring, knot = self._knots[number][:2]
        return lambda d: profiles.remove_knot(d, ring, knot)

    def steps(self) -> tuple[str, str, str]:
        """What is done to knots."""
        return (
            _("move a point of the profile"),
            _("add a point of the profile"),
            _("take a point of the profile away"),
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QColor(PAPER))
            painter.setFont(font())
            if not self._knots:
                self.told(painter, _("No profile yet: begin one from the picked box."))
                return
            box = QRectF(self.rect()).adjusted(PAD, PAD, -PAD, -PAD)
            self.fit((0.0, 0.0, *self._size), box)
            self._quarters(painter)
            painter.setPen(QPen(QColor(GRAPHITE), 1.8))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for ring in self._rings:
                painter.drawPolygon(QPolygonF(self._view.places(ring)))
            for number, (_ring, _knot, place, smooth) in enumerate(self._knots):
                self.knob(painter, number, place, round_one=smooth)

    def _quarters(self, painter: QPainter) -> None:
        """Halves, quarters and the middle, as on a side view that is to be carried over."""
        wide, high = self._size
        for quarter in range(5):
            pen = QPen(QColor(GRID if quarter % 4 else GROUND), 1.0)
            if quarter % 2:
                pen.setDashPattern([3.0, 3.0])
            painter.setPen(pen)
            x, y = wide * quarter / 4, high * quarter / 4
            painter.drawLine(self.at((x, 0.0)), self.at((x, high)))
            painter.drawLine(self.at((0.0, y)), self.at((wide, y)))
        ground = QPen(QColor(GROUND), 1.6)
        painter.setPen(ground)
        foot = self.at((0.0, 0.0))
        painter.drawLine(QPointF(0.0, foot.y()), QPointF(float(self.width()), foot.y()))
