"""The Lines page: divisions, centre and section lines, and drawing aids."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QLineEdit

from isometron.document.document import Document
from isometron.document.edits import shaping, volume_edits
from isometron.framework.box import AXES
from isometron.perspective.errors import VolumeError
from isometron.ui.parts.page import Page


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("LinesPage", text)


class LinesPage(Page):
    """Divisions, centre and section lines, and drawing aids."""

    def __init__(self) -> None:
        super().__init__()
        self.heading(tr("Divide what is picked"))
        self.parts = QLineEdit("3")
        self.parts.setFixedHeight(24)
        self.parts.setAccessibleName(tr("parts or fractions"))
        self.parts.setToolTip(tr("A number of equal parts, or fractions such as 1/3 2/3."))
        self.needs_volume.append(self.parts)
        self.row(tr("into"), self.parts)
        self.row(
            "",
            self.act(
                tr("Edge"),
                tr("Divide the picked edge."),
                "divide the edge",
                lambda: self._divide("edge", 0),
            ),
            self.act(
                tr("Face one way"),
                tr("Divide the picked face."),
                "divide the face",
                lambda: self._divide("face", 0),
            ),
            self.act(
                tr("Other way"),
                tr("Divide the picked face the other way."),
                "divide the face",
                lambda: self._divide("face", 1),
            ),
        )
        self.heading(tr("Centre and section lines"))
        self.at = self.measure(
            "share", "section at", tr("Where the section lies, as a fraction."), 0.5
        )
        self.row(tr("at"), self.at)
        self.row(
            tr("square to"),
            *(
                self.act(
                    tr(axis),
                    tr(f"A section square to the {axis}."),
                    "section",
                    partial(self._section, number),
                )
                for number, axis in enumerate(AXES)
            ),
        )
        self.row(
            "",
            self.act(
                tr("Rub these lines out"),
                tr("Clear divisions and sections."),
                "clear the lines",
                lambda: shaping.clear_marks,
            ),
        )
        self.heading(tr("Where it stands"))
        self.behind = self.measure(
            "length", "behind", tr("How far behind everything the wall stands."), 300.0
        )
        self.row(tr("behind by"), self.behind)
        self.row(
            "",
            *(
                self.act(words, tip, kind, partial(self._aid, kind))
                for kind, words, tip in (
                    ("floor line", tr("Floor line"), tr("Where floor and wall meet.")),
                    ("back wall", tr("Back wall"), tr("Floor line with upright corners.")),
                    ("shelf edge", tr("Shelf edge"), tr("An edge at its base, in front.")),
                )
            ),
        )
        self.row(
            "",
            self.act(
                tr("Take aids away"),
                tr("Clear floor, wall and shelf lines."),
                "take aids away",
                lambda: volume_edits.clear_aids,
            ),
        )
        self.column.addStretch(1)

    def _divide(self, kind: str, axis: int) -> Callable[[Document], Document]:
        shares = shaping.read_shares(self.parts.text())
        if self.pick is None or self.pick.kind != kind:
            raise VolumeError(f"No {kind} is picked: click the {kind} to divide.")
        index = self.pick.index
        if kind == "edge":
            return lambda d: shaping.divide_edge(d, index, shares)
        return lambda d: shaping.divide_face(d, index, axis, shares)

    def _section(self, axis: int) -> Callable[[Document], Document]:
        share = self.at.number
        return lambda d: shaping.section(d, axis, (share,))

    def _aid(self, kind: str) -> Callable[[Document], Document]:
        behind = self.behind.number
        return lambda d: volume_edits.add_aid(d, kind, behind)
