"""A card: a sheet of board lying on the felt, with a title and a soft note beside it."""

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from isometron.document.document import Document
from isometron.drawing.readings import Pick
from isometron.drawing.scene import Scene
from isometron.ui.parts.theme import GAP, TITLE_PT, Room, font

SHADOW = 3


class Card(QWidget):
    """A titled card; its body is laid out in `body`."""

    def __init__(self, room: Room, title: str) -> None:
        super().__init__()
        self.room = room
        self.setAccessibleName(title)
        self.title = QLabel(title)
        self.title.setFont(font(TITLE_PT, bold=True))
        self.note = QLabel("")
        self.note.setProperty("soft", True)
        self.note.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(self.title)
        head.addWidget(self.note, 1)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(12, 8, 12 + SHADOW, 8 + SHADOW)
        self.body.setSpacing(4)
        self.body.addLayout(head)

    def show_room(self, room: Room) -> None:
        """Show the card in another room."""
        self.room = room
        self.update()

    def section(self, title: str) -> QLabel:
        """A small heading inside the card."""
        label = QLabel(title)
        label.setFont(font(bold=True))
        self.body.addSpacing(GAP // 2)
        self.body.addWidget(label)
        return label

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        face = QRectF(self.rect()).adjusted(0, 0, -SHADOW, -SHADOW)
        painter.fillRect(face.translated(SHADOW, SHADOW), QColor(self.room.card_shade))
        painter.fillRect(face, QColor(self.room.card))
        painter.end()


class EditCard(Card):
    """The card of an index tab: emits `wanted` (name, edit), `refused` (sentence), and `dragged`
    (edit) and `dropped` (name) while something on it is dragged."""

    wanted = pyqtSignal(str, object)
    refused = pyqtSignal(str)
    dragged = pyqtSignal(object)
    dropped = pyqtSignal(str)

    def show_pick(self, pick: Pick | None) -> None:
        """What is picked on the board; most cards do not mind."""

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str]
    ) -> None:
        """Show the numbers of a document; families: where width, depth and height run to."""
        raise NotImplementedError


def soft_label(text: str) -> QLabel:
    """A label in the softer ink."""
    label = QLabel(text)
    label.setProperty("soft", True)
    return label
