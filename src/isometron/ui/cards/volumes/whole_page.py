"""The Whole page: modules of the trade, and the bounding volume of what is chosen."""

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QLineEdit

from isometron.document.document import Document
from isometron.document.edits import proportioning
from isometron.drawing.scene import Scene
from isometron.perspective.lengths import read_ratio
from isometron.ui.parts.card import soft_label
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.form import Entry
from isometron.ui.parts.page import Page, proportion_of
from isometron.ui.parts.theme import Room


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("WholePage", text)


class WholePage(Page):
    """The whole framework: modules of the trade, and the bounding volume of what is chosen."""

    def __init__(self) -> None:
        super().__init__()
        self.heading(tr("Modules"))
        self.modules = soft_label("")
        self.modules.setWordWrap(True)
        self.column.addWidget(self.modules)
        self.module = TextField(
            tr("module"), tr("A module and its length, such as w = 620 mm, or track = 2 w.")
        )
        self.module.typed.connect(self._set_module)
        self.module.show_text("")
        self.row(tr("set"), self.module)
        self.gone = self.choice(tr("module to take away"), tr("A module."), [])
        drop = self.act(
            tr("Take away"),
            tr("Take this module away; lengths stay."),
            "take a module away",
            self._drop,
        )
        self.row("", self.gone, drop)
        self.heading(tr("Bounding volume of what is chosen"))
        for axis, side in enumerate(("length", "width", "height")):
            self.form.row(tr(side), self._bounds_entry(side, axis))
        self.column.addLayout(self.form.grid)
        self.counted = soft_label("")
        self.counted.setWordWrap(True)
        self.column.addWidget(self.counted)
        self.even = self.choice(
            tr("scale"),
            tr("Whether the ratio stays."),
            [tr("keep the ratio"), tr("this side only")],
        )
        self.row(tr("scale"), self.even)
        self.ratio = QLineEdit()
        self.ratio.setFixedHeight(24)
        self.ratio.setAccessibleName(tr("length : width : height"))
        self.ratio.setToolTip(tr("Length : width : height; the height stays."))
        self.needs_volume.append(self.ratio)
        self.row(
            tr("l : w : h"),
            self.ratio,
            self.act(
                tr("Scale"),
                tr("Scale everything inside to this ratio."),
                "scale to a ratio",
                self._to_ratio,
            ),
        )
        self.column.addStretch(1)

    def _set_module(self, text: str) -> None:
        self.module.clear()
        if text.strip():
            self.wanted.emit("module", lambda d: proportioning.type_module(d, text))

    def _bounds_entry(self, side: str, axis: int) -> Entry:
        def shown(document: Document) -> float | None:
            if not document.chosen:
                return None
            return proportioning.bounds_of_chosen(document).sides[axis]

        def stretch(document: Document, mm: float) -> Document:
            keep = self.even.currentIndex() == 0
            return proportioning.stretch_bounds(document, axis, mm, keep_ratio=keep)

        tip = tr("Of the bounding volume: everything inside is scaled with it.")
        return Entry(f"bounding {side}", tip, "length", shown, stretch)

    def _to_ratio(self) -> Callable[[Document], Document]:
        ratio = read_ratio(self.ratio.text())
        self.ratio.setModified(False)
        return lambda d: proportioning.make_bounds_ratio(d, ratio)

    def _drop(self) -> Callable[[Document], Document]:
        name = self.gone.currentText()
        return lambda d: proportioning.remove_module(d, name)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        super().show_document(document, scene, families, room)
        self.modules.setText(proportioning.modules_in_words(document))
        names = [module.name for module in document.modules]
        if [self.gone.itemText(i) for i in range(self.gone.count())] != names:
            self.gone.clear()
            self.gone.addItems(names)
        if not self.module.hasFocus():
            self.module.show_text("")
        if document.chosen:
            bounds = proportioning.bounds_of_chosen(document)
            self.counted.setText(proportioning.ratio_in_words(document, bounds))
            if not (self.ratio.hasFocus() and self.ratio.isModified()):
                self.ratio.setText(proportion_of(bounds))
                self.ratio.setCursorPosition(0)
