"""The two help pages: handles and keys, and about."""

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QTextBrowser, QVBoxLayout, QWidget

from isometron import __version__
from isometron.ui.bench.commands import COMMANDS

HANDLES = (
    ("Eye level", "near edge stays as drawn; the eye goes up or down"),
    ("VP left, VP right", "near edge, the other point and the centre of vision stay"),
    ("Third point", "near edge and the points on the eye level stay; the eye tilts"),
    ("Centre of vision", "near edge and the points on the eye level stay"),
    ("Near corner (ring)", "vanishing points and the drawn near edge stay; the eye moves"),
    ("Ends of the near edge (bars)", "vanishing points and true measures stay; Shift on the "
     "upper bar changes the true height instead"),
    ("Far edges (diamonds)", "near edge and vanishing points stay; the true side changes"),
    ("A picked face", "the opposite side stays; the true side changes; Alt holds off snaps"),
    ("A volume's body", "the eye stays; it slides over its level, with Shift up and down"),
    ("Ends of a bounding volume", "everything inside is scaled; Shift keeps the ratio"),
    ("Point of a profile", "it moves on its plane; the side-view pad follows"),
    ("Radii and side-view pads", "double-click adds a point, Delete takes the chosen one away"),
    ("Plan: eye", "near corner stays on the paper; height and station distance stay"),
    ("Plan: sight line", "the eye stays where it stands; near corner stays on the paper"),
    ("Side: eye height, tilt", "near corner stays on the paper"),
)  # fmt: skip


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("HelpPages", text)


def keys_page() -> str:
    """Handles and keys, as rich text."""
    rows = "".join(
        f"<tr><td><b>{tr(name)}</b></td><td>&nbsp;&nbsp;{tr(stays)}</td></tr>"
        for name, stays in HANDLES
    )
    keys = "".join(
        f"<tr><td><b>{', '.join(c.keys)}</b></td>"
        f"<td>&nbsp;&nbsp;{tr(c.text)}: {tr(c.tip)}</td></tr>"
        for c in COMMANDS
        if c.keys
    )
    return (
        f"<h3>{tr('What can be taken hold of, and what stays meanwhile')}</h3>"
        f"<table>{rows}</table>"
        f"<h3>{tr('Keys')}</h3><table>"
        f"<tr><td><b>Page Down, Page Up</b></td><td>&nbsp;&nbsp;"
        f"{tr('On the board: choose a handle. Arrows move it 1 mm, with Shift 10, Ctrl 0.1.')}"
        f"</td></tr>{keys}</table>"
    )


def about_page() -> str:
    """Version, licence and the caution, as rich text."""
    parts = (
        tr("A framework bench for product sketchers."),
        tr(
            "Proportions on this bench are for sketching. They are not engineering, safety or "
            "ergonomic data: for anything built or sat on, local codes and a licensed "
            "professional decide."
        ),
        tr(
            "Free software under the GNU General Public License, version 3 or later. "
            "The typeface B612 ships under the SIL Open Font License 1.1."
        ),
    )
    return f"<h3>Isometron {__version__}</h3>" + "".join(f"<p>{part}</p>" for part in parts)


class Page(QDialog):
    """A help page."""

    def __init__(self, parent: QWidget, title: str, text: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.resize(760, 560)
        browser = QTextBrowser()
        browser.setHtml(text)
        browser.setAccessibleName(title)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(browser)
        column.addWidget(buttons)
