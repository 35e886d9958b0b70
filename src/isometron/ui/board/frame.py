"""What floats over the board: a plate with words at its head, a few switches at its foot."""

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout

from isometron.document.document import Document
from isometron.drawing.picks.pick import Pick
from isometron.drawing.scene import Scene
from isometron.perspective.eye import Array, eye_level
from isometron.ui.board.begin import BeginCard
from isometron.ui.board.board import Board
from isometron.ui.board.fit import Foot
from isometron.ui.board.picture import NOTHING
from isometron.ui.board.plate import Plate
from isometron.ui.board.tools import Tool
from isometron.ui.parts.theme import scaled
from isometron.ui.parts.touching import pass_keys
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

FOOT = 40
"""Room the switches at the foot take, px."""

CLEAR = 16.0
"""How far the note of a blank sheet stays from the eye level, px."""


class BoardFrame(Board):
    """The board with its plate and switches."""

    def __init__(self, wishes: Wishes) -> None:
        self._left: tuple[QPushButton, ...] = ()
        self._right: tuple[QPushButton, ...] = ()
        self._tools: dict[str, QPushButton] = {}
        super().__init__(wishes)
        self.plate = Plate(wishes, self)
        self.plate.said.connect(self._place_plate)
        self.see_through = self._switch(
            _("See-through"),
            _("Draw hidden edges in short dashes, or leave them out."),
            "see-through",
        )
        self.fans = self._switch(
            _("Lines to VPs"),
            _("Draw the light lines to the vanishing points, or leave them out."),
            "fans",
        )
        self._tools = {
            "lay edge": self._switch(
                _("Lay edges"),
                _("Drag near edges on the paper; a cube closes on each (Ctrl+L)."),
                "lay edge",
            ),
            "lay face": self._switch(
                _("Lay faces"),
                _("Drag front faces square to us, then their depth (Ctrl+Shift+L)."),
                "lay face",
            ),
            "measure": self._switch(
                _("Measure"), _("Measure between two things you click (Ctrl+M)."), "measure"
            ),
        }
        for switch in (self.see_through, self.fans, *self._tools.values()):
            switch.setCheckable(True)
        for tool in self._tools.values():
            tool.setProperty("tool", True)
        sheet = self._switch(
            _("Whole sheet"), _("Bring the whole sheet into view (F2)."), "fit sheet"
        )
        whole = self._switch(
            _("Sheet and VPs"),
            _("Bring the sheet and every vanishing point into view (F3)."),
            "fit board",
        )
        self._sheet, self._whole = sheet, whole
        left = (*self._tools.values(), self.see_through, self.fans)
        self._left, self._right = left, (sheet, whole)
        self.begin = BeginCard(wishes, self)
        self.begin.hide()
        self._rows = QHBoxLayout(), QHBoxLayout()
        for row in self._rows:
            row.setSpacing(6)
        self._lay_foot(rows=1)
        column = self._down = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 6)
        column.addWidget(self.plate, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addStretch(1)
        column.setSpacing(4)
        for row in self._rows:
            column.addLayout(row)

    def show_document(
        self, document: Document, scene: Scene, pick: Pick | None, ghost: Array = NOTHING
    ) -> None:
        super().show_document(document, scene, pick, ghost)
        self._place_begin()

    def arm(self, tool: Tool | None) -> None:
        super().arm(tool)
        self._usual()
        for key, switch in self._tools.items():
            switch.setChecked(tool is not None and tool.key == key)
        self._place_begin()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._leave_room()
        super().resizeEvent(event)  # fits the sheet between the switches
        self._place_begin()

    def _leave_room(self) -> None:
        """The switches in two rows where a narrow board has no room for one."""
        every = (*self._left, *self._right)
        wide = sum(switch.sizeHint().width() + 6 for switch in every) + 16
        rows = 1 if wide <= self.width() else 2
        if rows != self.foot_rows:
            self._lay_foot(rows)

    def _lay_foot(self, rows: int) -> None:
        """Tools and the whole sheet in the lower row, the others with them or above."""
        self.foot_rows = rows
        upper, lower = self._rows
        for row in self._rows:
            while row.count():
                row.takeAt(0)
        shown = (self.see_through, self.fans)
        left = {lower: (*self._tools.values(), *(shown if rows == 1 else ()))}
        right = {lower: (self._sheet, *((self._whole,) if rows == 1 else ()))}
        if rows == 2:
            left[upper], right[upper] = shown, (self._whole,)
        for row, switches in left.items():
            for switch in switches:
                row.addWidget(switch)
            row.addStretch(1)
            for switch in right[row]:
                row.addWidget(switch)

    def _place_begin(self) -> None:
        """The note of a blank sheet in the middle of the paper, below the eye level or above it,
        out of the way while an edge is being drawn."""
        if self._document is None:
            return
        if self.armed or self._stage is not None or self._document.volumes:
            pass_keys(self.begin, self)
            self.begin.hide()
            return
        self.begin.show_document(self._document)
        paper = self._view.rectangle(self._document.sheet.paper)
        wide = int(min(max(paper.width() * 0.86, scaled(380)), self.width() - 24))
        left = min(int(paper.center().x() - wide / 2), self.width() - wide - 8)
        level = eye_level(self._document.eye)
        line = paper.top() if level is None else self._view.point((0.0, level)).y()
        foot = self.height() - self.foot_rows * scaled(FOOT)
        self.begin.arrange(wide, int(max(foot - line - CLEAR, line - CLEAR - 8)))
        high = self.begin.layout().totalHeightForWidth(wide)  # type: ignore[union-attr]
        below, above = line + CLEAR, line - CLEAR - high
        fits = below + high <= paper.bottom() or above < paper.top()
        top = min(below if fits else above, foot - high)
        self.begin.setGeometry(max(left, 8), int(max(top, 8)), wide, high)

    def foot(self) -> Foot:
        if not self._left:
            return Foot()
        left, right = (
            sum(switch.sizeHint().width() + 6 for switch in some) + 8
            for some in (self._left, self._right)
        )
        return Foot(left, right, self.foot_rows)

    def _switch(self, text: str, tip: str, command: str) -> QPushButton:
        button = QPushButton(text, self)
        button.setToolTip(tip)
        button.clicked.connect(lambda _on=False: self.wishes.do(command))
        return button

    def _place_plate(self) -> None:
        """The plate at the head of the board; where it would lie over a flag, at the foot."""
        wide, high = self.plate.minimumWidth(), self.plate.minimumHeight()
        head = QRectF((self.width() - wide) / 2, 0.0, wide, high + 12.0)
        at = int(any(flag.banner.intersects(head) for flag in self.flags))
        if self._down.indexOf(self.plate) != at:
            self._down.removeWidget(self.plate)
            self._down.insertWidget(at, self.plate, 0, Qt.AlignmentFlag.AlignHCenter)

    def hint(self, words: str) -> None:
        """What is under the pointer; a refusal or what has just been told stands a while."""
        self.plate.hint(words)

    def refuse(self, sentence: str) -> None:
        """Say why something cannot be done, for a few seconds."""
        self._usual()
        self.plate.refuse(sentence)

    def tell(self, sentence: str) -> None:
        """Say what has been done, for a few seconds."""
        self._usual()
        self.plate.tell(sentence)

    def move_on(self) -> None:
        """The sheet has changed: what was refused or told before no longer speaks of it."""
        self._usual()
        self.plate.move_on()

    def _usual(self) -> None:
        """The plate says again what to do with the tool in hand when there is nothing else."""
        self.plate.usual = self.usual_hint
