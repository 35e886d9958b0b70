"""A card: a sheet of board lying on the felt, with a title and a soft note beside it."""

from typing import NamedTuple

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from isometron.document.document import Document
from isometron.document.picture import Mark
from isometron.drawing.picks.pick import Pick
from isometron.drawing.scene import Scene
from isometron.ui.parts.plain import Label
from isometron.ui.parts.shell import SHADOW
from isometron.ui.parts.theme import GAP, TITLE_PT, font
from isometron.ui.parts.wishes import Wishes


class Shown(NamedTuple):
    """What cards show: a document with its scene, what is picked, where width, depth and height of
    the volume in work run to ("left", "right", "third", "centre" or ""), and the marks of the
    picture that are in work."""

    document: Document
    scene: Scene
    pick: Pick | None = None
    families: tuple[str, str, str] = ("", "", "")
    marks: tuple[Mark, ...] = ()
    picked: Pick | None = None
    """What the person has picked; `pick` is what is read, which may be the usual thing."""


class Card(QWidget):
    """A titled card; its body is laid out in `body`."""

    def __init__(self, wishes: Wishes, title: str) -> None:
        super().__init__()
        self.wishes = wishes
        self.setAccessibleName(title)
        self.title = Label(title)
        self.title.setFont(font(TITLE_PT, bold=True))
        self.note = soft_label("")
        self.note.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head = self.head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(self.title)
        head.addWidget(self.note, 1)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(11, 8, 11 + SHADOW, 8 + SHADOW)
        self.body.setSpacing(4)
        self.body.addLayout(head)

    def section(self, title: str) -> Label:
        """A small heading inside the card."""
        label = Label(title)
        label.setFont(font(bold=True))
        self.body.addSpacing(GAP // 2)
        self.body.addWidget(label)
        return label

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, room = QPainter(self), self.wishes.room
        face = QRectF(self.rect()).adjusted(0, 0, -SHADOW, -SHADOW)
        painter.fillRect(face.translated(SHADOW, SHADOW), QColor(room.card_shade))
        painter.fillRect(face, QColor(room.card))
        painter.end()


class EditCard(Card):
    """The card of an index tab. While one that `shows_stages` is open, the board shows a stage of
    the build order."""

    shows_stages = False

    pictured = False
    """Whether the picture lies on the felt while it is open, instead of the sheet."""

    own_board: QWidget | None = None
    """What lies on the felt while it is open, when it brings a board of its own."""

    def fit_into(self, high: int) -> None:
        """It has so much height, px, before it is scrolled."""

    def show_document(self, shown: Shown) -> None:
        """Show the numbers of a document."""
        raise NotImplementedError

    def choose_line(self, name: str) -> None:
        """A line of the stage on the board has been touched."""

    @property
    def working(self) -> bool:
        """Whether something it shows is still being worked out."""
        return False

    def finish(self) -> None:
        """Wait for what is being worked out."""

    def leave(self) -> None:
        """The window closes: put away what stands beside it."""


def soft_label(text: str) -> Label:
    """A label in the softer ink."""
    label = Label(text)
    label.setProperty("soft", True)
    return label
