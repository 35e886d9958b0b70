"""The picture with what floats over it: a plate with words, the tools that mark, and, where no
picture lies yet, how to begin."""

from pathlib import Path

from PyQt6.QtCore import QMimeData, Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from isometron.document.picture import SheetPicture
from isometron.ui.board.pictures.board import PictureBoard
from isometron.ui.board.pictures.tools import PICTURE_TOOLS, PictureTool
from isometron.ui.board.plate import Plate
from isometron.ui.parts.plain import Label
from isometron.ui.parts.theme import TITLE_PT, font, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

BEGIN_WIDE = 400
ENDINGS = (".png", ".jpg", ".jpeg", ".tif", ".tiff", ".webp")


class PictureFrame(PictureBoard):
    """The picture board with plate and tools."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes)
        self.plate = Plate(wishes, self)
        self.words = self._hint
        self.switches = {
            tool.key: self._switch(tool.switch, tool.tip, tool.key) for tool in PICTURE_TOOLS
        }
        for switch in self.switches.values():
            switch.setCheckable(True)
            switch.setProperty("tool", True)
        self._whole = self._switch(
            _("Whole picture"), _("Bring the whole picture into view (F2)."), "fit sheet"
        )
        foot = QHBoxLayout()
        foot.setSpacing(6)
        for switch in self.switches.values():
            foot.addWidget(switch)
        foot.addStretch(1)
        foot.addWidget(self._whole)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 6)
        column.addWidget(self.plate, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addStretch(1)
        column.addLayout(foot)
        self.begin = PictureBegin(wishes, self)

    def _hint(self, words: str) -> None:
        self.plate.usual = self.usual_hint
        self.plate.hint(words)

    def _switch(self, text: str, tip: str, command: str) -> QPushButton:
        made = QPushButton(text, self)
        made.setToolTip(tip)
        made.setAccessibleDescription(tip)
        made.clicked.connect(lambda _on=False: self.wishes.do(command))
        return made

    def arm(self, tool: PictureTool | None) -> None:
        super().arm(tool)
        self.plate.usual = self.usual_hint
        for key, switch in self.switches.items():
            switch.setChecked(tool is not None and tool.key == key)

    def show_picture(self, picture: SheetPicture | None) -> None:
        super().show_picture(picture)
        for switch in (*self.switches.values(), self._whole):
            switch.setVisible(picture is not None)
        self.begin.setVisible(picture is None)
        self._place()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place()

    def _place(self) -> None:
        """The note of an empty felt in its middle; what finds no room at the foot is left out."""
        wide = min(scaled(BEGIN_WIDE), self.width() - 24)
        high = self.begin.layout().totalHeightForWidth(wide)  # type: ignore[union-attr]
        high = max(high, self.begin.sizeHint().height())
        self.begin.setGeometry(
            (self.width() - wide) // 2, max((self.height() - high) // 2, 8), wide, high
        )
        if self.picture is not None:
            every = (*self.switches.values(), self._whole)
            needs = sum(switch.sizeHint().width() + 6 for switch in every) + 16
            self._whole.setVisible(needs <= self.width())

    # Dropped files

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and dropped_file(event.mimeData()) is not None:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        path = None if event is None else dropped_file(event.mimeData())
        if path is not None and event is not None:
            event.acceptProposedAction()
            self.wishes.bring_picture(path)


def dropped_file(mime: QMimeData | None) -> Path | None:
    """The first file of what is dropped."""
    if mime is None or not mime.hasUrls():
        return None
    files = [Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile()]
    return files[0] if files else None


class PictureBegin(QWidget):
    """The note on an empty felt: how a picture comes here."""

    def __init__(self, wishes: Wishes, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("begin")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        title = Label(_("Pin a photograph here"))
        title.setFont(font(TITLE_PT, bold=True))
        words = Label(
            _(
                "Drop a file, paste a picture, or open one. Its straight lines are found and say "
                "where the eye was and how long the thing is."
            )
        )
        words.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 14, 18, 14)
        column.setSpacing(8)
        column.addWidget(title)
        column.addWidget(words)
        for text, tip, command in (
            (_("Open a picture…"), _("PNG, JPEG, TIFF or WebP."), "open picture"),
            (
                _("Sample: supply crawler"),
                _("A photograph of the supply crawler, as a camera would take it."),
                "sample picture supply crawler",
            ),
            (
                _("Sample: red lamp"),
                _("A photograph of the red lamp, as a camera would take it."),
                "sample picture red lamp",
            ),
        ):
            button = QPushButton(text)
            button.setToolTip(tip)
            button.setAccessibleDescription(tip)
            button.clicked.connect(lambda _on=False, key=command: wishes.do(key))
            column.addWidget(button)
