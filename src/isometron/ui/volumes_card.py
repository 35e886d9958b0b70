"""The Volumes tab: the list of volumes and every measure of the one in work."""

from PyQt6.QtCore import QCoreApplication, QPoint, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygon
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QScrollArea, QWidget

from isometron.document import choosing, volume_edits
from isometron.document.document import Document
from isometron.drawing.measures import from_near_corner
from isometron.drawing.scene import Scene
from isometron.framework.box import AXES
from isometron.framework.volume import Volume
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import UNIT_WORDS, read_ratio, write_length
from isometron.ui.card import EditCard, soft_label
from isometron.ui.fields import NumberField, TextField
from isometron.ui.form import Entry, Form
from isometron.ui.shares import Shares
from isometron.ui.theme import MARKER, ROW, Room, font

MOST_ROWS = 9
"""More volumes than this are scrolled."""


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("VolumesCard", text)


class VolumeList(QWidget):
    """The volumes by name and size; the one in work has a marker swipe. Up and Down choose."""

    chosen = pyqtSignal(int)

    def __init__(self, room: Room) -> None:
        super().__init__()
        self.room = room
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Volumes on this sheet"))
        self._rows: list[tuple[str, str]] = []
        self._selected: int | None = None

    def show_volumes(self, boxes: tuple[Volume, ...], selected: int | None, unit: str) -> None:
        """Show these volumes."""
        rows = []
        for box in boxes:
            sides = " × ".join(write_length(side, unit, with_unit=False) for side in box.sides)
            rows.append((box.name, sides))
        self._rows, self._selected = rows, selected
        self.setFixedHeight(max(len(rows), 1) * ROW)
        told = rows[selected] if selected is not None else None
        self.setAccessibleDescription(f"{told[0]}, {told[1]} {unit}" if told else tr("none chosen"))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(200, max(len(self._rows), 1) * ROW)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and 0 <= event.position().y() // ROW < len(self._rows):
            self.chosen.emit(int(event.position().y() // ROW))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
        if step and self._rows:
            at = -1 if self._selected is None else self._selected
            self.chosen.emit(min(max(at + step, 0), len(self._rows) - 1))
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._rows:
            painter.setPen(QColor(self.room.soft_ink))
            painter.setFont(font(italic=True))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, tr("None yet."))
        for number, (name, sides) in enumerate(self._rows):
            row = QRect(0, number * ROW, self.width(), ROW)
            chosen = number == self._selected
            if chosen:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor(MARKER))
                painter.drawPolygon(_swipe(row))
            painter.setPen(QColor("#1f2426" if chosen else self.room.ink))
            painter.setFont(font(bold=chosen))
            metrics = painter.fontMetrics()
            inner = row.adjusted(6, 0, -6, 0)
            size = painter.fontMetrics().horizontalAdvance(sides)
            short = metrics.elidedText(name, Qt.TextElideMode.ElideRight, inner.width() - size - 8)
            painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter, short)
            painter.setPen(QColor("#3a3a30" if chosen else self.room.soft_ink))
            painter.setFont(font())
            right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
            painter.drawText(inner, right, sides)
        if self.hasFocus():
            painter.setPen(QPen(QColor(self.room.field_line), 1.0, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.end()


def _swipe(row: QRect) -> QPolygon:
    top, bottom = row.top() + 3, row.bottom() - 2
    return QPolygon(
        [
            QPoint(row.left(), top + 1),
            QPoint(row.right(), top - 1),
            QPoint(row.right() - 2, bottom),
            QPoint(row.left() + 1, bottom + 1),
        ]
    )


class VolumesCard(EditCard):
    """The card of the Volumes tab; also emits `laying` and `chosen` (a volume)."""

    laying = pyqtSignal(bool)
    chosen = pyqtSignal(int)

    def __init__(self, room: Room) -> None:
        super().__init__(room, tr("Volumes"))
        self.list = VolumeList(room)
        self.list.chosen.connect(self.chosen)
        scroll = QScrollArea()
        scroll.setWidget(self.list)
        scroll.setWidgetResizable(True)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._window = scroll
        scroll.viewport().setAutoFillBackground(False)  # type: ignore[union-attr]
        self.list.setAutoFillBackground(False)
        self.body.addWidget(scroll)
        self._new_buttons()
        self.heading = self.section("")
        self.form = Form()
        self.form.wanted.connect(self.wanted)
        self.form.refused.connect(self.refused)
        self._rows()
        self.body.addLayout(self.form.grid)
        self._proportion()
        self.section(tr("Drawn from the near corner"))
        self.shares = Shares(room)
        self.body.addWidget(self.shares)
        self.body.addStretch(1)

    def _new_buttons(self) -> None:
        self.lay = self._button(
            tr("Lay a near edge"), tr("Drag a near edge on the paper; a cube closes on it.")
        )
        self.lay.setCheckable(True)
        self.lay.toggled.connect(self.laying)
        add = self._button(tr("Add a box"), tr("Put a cube on the ground before us."))
        add.clicked.connect(lambda: self.wanted.emit("add a box", volume_edits.add_box))
        copy = self._button(
            tr("Set a copy beside"), tr("Copy the volume in work and set it beside.")
        )
        copy.clicked.connect(
            lambda: self.wanted.emit("copy the volume", volume_edits.duplicate_volume)
        )
        remove = self._button(tr("Take it away"), tr("Take the volume in work off the sheet."))
        remove.clicked.connect(
            lambda: self.wanted.emit("take the volume away", choosing.remove_chosen)
        )
        self._need_volume: list[QWidget] = [copy, remove]
        grid = QGridLayout()
        grid.setSpacing(5)
        for number, button in enumerate((self.lay, add, copy, remove)):
            grid.addWidget(button, number // 2, number % 2)
        self.body.addLayout(grid)

    def _rows(self) -> None:
        self.name = TextField(tr("name"), tr("What this volume is called."))
        self.name.typed.connect(
            lambda text: self.wanted.emit(
                "rename", lambda document: choosing.rename_volume(document, text)
            )
        )
        self.form.grid.addWidget(soft_label(tr("name")), 0, 0)
        self.form.grid.addWidget(self.name, 0, 1, 1, 2)
        self._sides: list[NumberField] = []
        for axis, side in enumerate(AXES):
            self._sides += self.form.row(tr(side), _side_entry(side, axis))
        self.form.row(
            tr("turned"),
            Entry(
                "turned",
                tr("Turn of the volume on the ground, counter-clockwise from above."),
                "angle",
                lambda d: d.volume.yaw_deg if d.volume else None,
                volume_edits.turn_volume,
            ),
        )
        self.form.row(
            tr("stands at"),
            _place_entry("stands across", 0, tr("Place of its first corner, across.")),
            _place_entry("stands away", 1, tr("Place of its first corner, away.")),
        )
        self.form.row(
            tr("above ground"),
            _place_entry("above ground", 2, tr("Height of its base above the ground.")),
        )

    def _proportion(self) -> None:
        cube = self._button(
            tr("Make it a cube"), tr("Width and depth become the height of the near edge.")
        )
        cube.clicked.connect(lambda: self.wanted.emit("make it a cube", volume_edits.make_cube))
        self.ratio = QLineEdit()
        self.ratio.setFixedHeight(24)
        self.ratio.setAccessibleName(tr("width : depth : height"))
        self.ratio.setToolTip(tr("Width : depth : height, such as 3 : 2 : 1; the height stays."))
        self.ratio.returnPressed.connect(self._make_ratio)
        make = self._button(tr("Make it"), tr("Give it the proportion typed beside."))
        make.clicked.connect(self._make_ratio)
        self._need_volume += [cube, self.ratio, make]
        self.body.addSpacing(6)
        self.body.addWidget(cube)
        row = QHBoxLayout()
        row.setSpacing(5)
        row.addWidget(soft_label(tr("w : d : h")))
        row.addWidget(self.ratio, 1)
        row.addWidget(make)
        self.body.addLayout(row)

    def _make_ratio(self) -> None:
        try:
            ratio = read_ratio(self.ratio.text())
        except IsometronError as error:
            self.refused.emit(str(error))
            return
        self.ratio.setModified(False)
        self.wanted.emit(
            "make it w : d : h", lambda document: volume_edits.make_proportion(document, ratio)
        )

    @staticmethod
    def _button(text: str, tip: str) -> QPushButton:
        button = QPushButton(text)
        button.setToolTip(tip)
        return button

    def show_room(self, room: Room) -> None:
        super().show_room(room)
        self.list.room = self.shares.room = room

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str]
    ) -> None:
        box = document.volume
        chosen = None if document.selected is None else scene.pictures[document.selected]
        edges = from_near_corner(document.eye, chosen) if chosen else ()
        self.shares.show_edges(edges, families, document.choices.unit)
        self.note.setText(tr("in %s") % UNIT_WORDS[document.choices.unit])
        rows = min(max(len(document.volumes), 2), MOST_ROWS)
        self._window.setFixedHeight(rows * ROW)
        self.list.show_volumes(document.volumes, document.selected, document.choices.unit)
        self.heading.setText(box.name if box else tr("No volume chosen"))
        self.name.show_text(box.name if box else None)
        for field, family in zip(self._sides, families, strict=False):
            field.family = family
        self.form.show_document(document, self.room)
        for widget in self._need_volume:
            widget.setEnabled(box is not None)
        if not (self.ratio.hasFocus() and self.ratio.isModified()):
            self.ratio.setText(_proportion_of(box) if box else "")


SIDE_TIPS = {
    "width": tr("True width; the near corner stays in its place."),
    "depth": tr("True depth; the near corner stays in its place."),
    "height": tr("True height, the length of the near edge; its foot stays."),
}


def _proportion_of(box: Volume) -> str:
    return " : ".join(f"{side / box.height_mm:.3g}" for side in box.sides)


def _side_entry(side: str, axis: int) -> Entry:
    def shown(document: Document) -> float | None:
        return document.volume.sides[axis] if document.volume else None

    def resize(document: Document, mm: float) -> Document:
        return volume_edits.set_side(document, axis, mm)

    return Entry(side, SIDE_TIPS[side], "length", shown, resize)


def _place_entry(name: str, axis: int, tip: str) -> Entry:
    def shown(document: Document) -> float | None:
        return document.volume.place[axis] if document.volume else None

    def move(document: Document, mm: float) -> Document:
        place = list(document.volume.place) if document.volume else [0.0, 0.0, 0.0]
        place[axis] = mm
        return volume_edits.move_volume(document, (place[0], place[1], place[2]))

    return Entry(name, tip, "length", shown, move)
