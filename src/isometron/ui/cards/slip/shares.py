"""How much of each side is drawn: three bars that leave the near corner."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from isometron.drawing.measures import FromNearCorner
from isometron.framework.box import AXES
from isometron.perspective.lengths import write_length, write_percent
from isometron.render.painter import painting_on
from isometron.ui.parts.theme import family_colour, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

HEAD, ROW, BAR = 24, 42, 9


class Shares(QWidget):
    """For width, depth and height: a bar as long as the side truly is, filled as far as it is
    drawn, all at the near corner's scale."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(_("Drawn from the near corner"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._edges: tuple[FromNearCorner, ...] = ()
        self._families: tuple[str, ...] = ("", "", "")
        self._unit = "mm"

    def sizeHint(self) -> QSize:
        return QSize(200, scaled(HEAD + len(AXES) * ROW))

    def show_edges(
        self, edges: tuple[FromNearCorner, ...], families: tuple[str, ...], unit: str
    ) -> None:
        """Show the edges that leave the near corner; families: where each runs to."""
        self._edges, self._families, self._unit = edges, families, unit
        self.setAccessibleDescription("; ".join(map(self._words, edges)))
        self.update()

    def _words(self, edge: FromNearCorner) -> str:
        return _("{side}: {drawn} on the paper, {share}").format(
            side=_(AXES[edge.axis]),
            drawn=write_length(edge.drawn_mm, self._unit),
            share=write_percent(100 * edge.share),
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._edges:
            return
        room = self.wishes.room
        with painting_on(self) as painter:
            painter.setFont(font(bold=True))
            painter.setPen(QColor(room.ink))
            head = QRectF(0, 0, self.width(), scaled(HEAD))
            painter.drawText(head, Qt.AlignmentFlag.AlignVCenter, self.accessibleName())
            painter.setFont(font())
            longest = max(edge.true_mm for edge in self._edges)
            for edge in self._edges:
                top = scaled(HEAD + edge.axis * ROW)
                line = QRectF(0, top, self.width(), scaled(22))
                painter.setPen(QColor(room.soft_ink))
                painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, _(AXES[edge.axis]))
                painter.setPen(QColor(room.ink))
                right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
                drawn = write_length(edge.drawn_mm, self._unit)
                painter.drawText(line, right, f"{drawn}    {write_percent(100 * edge.share)}")
                true = self.width() * edge.true_mm / longest
                bar = QRectF(0, top + scaled(24), max(true, 2.0), BAR)
                colour = family_colour(room, self._families[edge.axis])
                painter.setPen(colour)
                painter.setBrush(QColor(room.field))
                painter.drawRect(bar.adjusted(0.5, 0.5, -0.5, -0.5))
                painter.fillRect(bar.adjusted(0, 0, (min(edge.share, 1.0) - 1) * true, 0), colour)
