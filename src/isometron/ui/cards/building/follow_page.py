"""Following an order on paper: one step at a time, full screen, in large type."""

import math

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QCloseEvent, QColor, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from isometron.construction.stages import Stage, Stages
from isometron.construction.telling import Teller
from isometron.document.document import Document
from isometron.perspective.places import Rectangle
from isometron.perspective.sheet import Sheet
from isometron.render.painter import painting_on
from isometron.render.stage import paint_on_desk
from isometron.render.view import View
from isometron.ui.board.stage_view import TURN_STEP_DEG, stage_rectangle
from isometron.ui.parts.plain import Label, scrolled
from isometron.ui.parts.theme import PAPER, Room, font
from isometron.words import _

TEXT_PT = 19.0
MOVES_PT = 14.0
MARGIN = 28
WORDS_PX, CLOSER_PX = 420, 250


class StagePicture(QWidget):
    """One stage of the sheet, or a part of it, as large as there is room."""

    def __init__(self) -> None:
        super().__init__()
        self._stage: Stage | None = None
        self._sheet = Sheet()
        self._part: Rectangle | None = None
        self.turn_deg = 0.0

    def show_stage(self, stage: Stage, sheet: Sheet, part: Rectangle | None = None) -> None:
        """Show a stage of a sheet: all of it, or a rectangle of it that fills the picture."""
        self._stage, self._sheet, self._part = stage, sheet, part
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting_on(self) as painter:
            sheet, part = self._sheet, self._part
            spare, desk = 0 if part else MARGIN, QRectF(self.rect())
            inner = desk.adjusted(spare, spare, -spare, -spare)
            view = View.fit(part or sheet.paper, inner, turn_deg=self.turn_deg)
            paper = view.outline(sheet.paper)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillPath(paper, QColor(PAPER))
            if self._stage is not None:
                painter.setFont(font(MOVES_PT))
                paint_on_desk(painter, view, self._stage, paper, desk, 1.3)


class FollowPage(QWidget):
    """Emits `ticked` (key) when a step is done and `left` (number) when the page is closed."""

    ticked = pyqtSignal(str)
    left = pyqtSignal(int)

    def __init__(self, room: Room, document: Document, stages: Stages, number: int) -> None:
        super().__init__()
        self.setWindowTitle(_("Follow on paper — Isometron"))
        self.setStyleSheet(f"background: {room.felt}; color: {room.felt_ink};")
        self._document, self._stages = document, stages
        self._shown = [
            i for i, s in enumerate(stages.steps) if s.key not in document.building.hidden
        ]
        self._teller = Teller(stages.order, document.choices.unit)
        self.number = number
        self.done = set(document.building.done)
        self.picture = StagePicture()
        self.picture.setMinimumSize(320, 240)
        self.closer = StagePicture()
        self.closer.setFixedSize(WORDS_PX, CLOSER_PX)
        self.near = Label(_("Closer"))
        self.near.setFont(font(MOVES_PT))
        self.head = Label("")
        self.head.setFont(font(MOVES_PT))
        self.text = Label("")
        self.text.setFont(font(TEXT_PT, bold=True))
        self.text.setWordWrap(True)
        self.moves = Label("")
        self.moves.setFont(font(MOVES_PT))
        self.moves.setWordWrap(True)
        self.moves.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.pane = scrolled(self.moves, _("Moves of this step"))
        self.pane.setProperty("onfelt", True)
        column = QVBoxLayout()
        for widget in (self.head, self.text):
            column.addWidget(widget)
        column.addWidget(self.pane, 1)
        column.addWidget(self.near)
        column.addWidget(self.closer)
        column.addSpacing(MARGIN // 2)
        column.addLayout(self._row(room))
        words = QWidget()
        words.setLayout(column)
        words.setFixedWidth(WORDS_PX + 22)
        whole = QHBoxLayout(self)
        whole.setContentsMargins(MARGIN, MARGIN, MARGIN, MARGIN)
        whole.addWidget(self.picture, 1)
        whole.addWidget(words)
        self._show()

    def _row(self, room: Room) -> QHBoxLayout:
        row = QHBoxLayout()
        for text, act in (
            (_("Back"), lambda: self.turn(-1)),
            (_("Done"), self.tick),
            (_("Forward"), lambda: self.turn(1)),
            (_("Turn"), lambda: self.turn_sheet(TURN_STEP_DEG)),
            (_("Close"), self.close),
        ):
            button = QPushButton(text)
            button.setFont(font(MOVES_PT))
            button.setStyleSheet(
                f"background: {room.card}; color: {room.ink}; padding: 8px; border: none;"
            )
            button.clicked.connect(lambda _=False, act=act: act())
            row.addWidget(button)
        return row

    def turn(self, by: int) -> None:
        """The next step (1) or the one before (−1)."""
        at = min(range(len(self._shown)), key=lambda i: abs(self._shown[i] - self.number))
        self.number = self._shown[min(max(at + by, 0), len(self._shown) - 1)]
        self._show()

    def turn_sheet(self, by_deg: float) -> None:
        """The sheet turned under the hand, counter-clockwise, so that the arm can swing."""
        for picture in (self.picture, self.closer):
            picture.turn_deg = math.remainder(picture.turn_deg + by_deg, 360.0)
            picture.update()

    def tick(self) -> None:
        """This step is done: tick it off and go on."""
        key = self._stages.steps[self.number].key
        self.done.add(key)
        self.ticked.emit(key)
        self.turn(1)

    def _show(self) -> None:
        step, sheet = self._stages.steps[self.number], self._document.sheet
        done = step.key in self.done
        count = len(self._stages.steps)
        told = _("Step {number} of {count} — done") if done else _("Step {number} of {count}")
        self.head.setText(told.format(number=self.number + 1, count=count))
        self.text.setText(step.text)
        moves = self._teller.step(step)
        self.moves.setText("\n".join(moves))
        self.pane.verticalScrollBar().setValue(0)  # type: ignore[union-attr]
        stage = self._stages.after(self.number, stage_rectangle(sheet))
        part = self._stages.closer(stage, WORDS_PX / CLOSER_PX)
        self.picture.show_stage(stage, sheet)
        self.closer.show_stage(stage, sheet, part)
        for widget in (self.near, self.closer):
            widget.setVisible(part is not None)
        self.setAccessibleDescription(f"{self.head.text()}. {step.text}")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        keys = Qt.Key
        shifted = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        if event.key() in (keys.Key_F2, keys.Key_F3) and shifted:
            self.turn_sheet(TURN_STEP_DEG if event.key() == keys.Key_F2 else -TURN_STEP_DEG)
        elif event.key() in (keys.Key_Right, keys.Key_PageDown, keys.Key_F8):
            self.turn(1)
        elif event.key() in (keys.Key_Left, keys.Key_PageUp, keys.Key_F7):
            self.turn(-1)
        elif event.key() in (keys.Key_Space, keys.Key_F9):
            self.tick()
        elif event.key() in (keys.Key_Escape, keys.Key_F11):
            self.close()
        else:
            super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.left.emit(self.number)
        super().closeEvent(event)
