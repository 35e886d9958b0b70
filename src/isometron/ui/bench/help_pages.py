"""The two help pages: handles and keys, and about."""

from collections.abc import Sequence
from html import escape

from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QTextBrowser, QVBoxLayout, QWidget

from isometron import __version__
from isometron.files.formats import OUTGOING
from isometron.ui.bench.command import Command
from isometron.ui.bench.work import Work
from isometron.ui.board import plan
from isometron.ui.board.handles.table import KINDS
from isometron.words import _

PADS = (
    (
        _("Radii and side-view pads"),
        _("double-click adds a point, Delete takes the chosen one away"),
    ),
)


def keys_page(commands: Sequence[Command]) -> str:
    """Handles, keys and kinds of file, as rich text."""
    handles = [(kind.name, kind.stays) for kind in KINDS]
    keys = [
        (
            _("Page Down, Page Up"),
            _("On the board: choose a handle. Arrows move it 1 mm, with Shift 10, Ctrl 0.1."),
        ),
        *((", ".join(c.keys), f"{c.text}: {c.tip}") for c in commands if c.keys),
    ]
    files = [(one.errands[0].text.rstrip("…"), one.names) for one in OUTGOING]
    return (
        _section(
            _("What can be taken hold of, and what stays meanwhile"),
            [*handles, *PADS, *plan.HELP],
        )
        + _section(_("Keys"), keys)
        + _section(_("What leaves as a file"), files)
    )


def _section(title: str, rows: Sequence[tuple[str, str]]) -> str:
    told = "".join(
        f"<tr><td><b>{escape(name)}</b></td><td>&nbsp;&nbsp;{escape(words)}</td></tr>"
        for name, words in rows
    )
    return f"<h3>{escape(title)}</h3><table>{told}</table>"


def about_page() -> str:
    """Version, licence and the caution, as rich text."""
    parts = (
        _("A framework bench for product sketchers."),
        _(
            "Proportions on this bench are for sketching. They are not engineering, safety or "
            "ergonomic data: for anything built or sat on, local codes and a licensed "
            "professional decide."
        ),
        _(
            "Free software under the GNU General Public License, version 3 or later. "
            "The typeface B612 ships under the SIL Open Font License 1.1."
        ),
    )
    told = "".join(f"<p>{escape(part)}</p>" for part in parts)
    return f"<h3>Isometron {__version__}</h3>{told}"


def show_keys(work: Work, commands: Sequence[Command]) -> None:
    """The help page on handles and keys."""
    HelpPage(work.window_itself, _("Handles and keys"), keys_page(commands)).exec()


def show_about(work: Work) -> None:
    """Version, licence and the caution."""
    HelpPage(work.window_itself, _("About Isometron"), about_page()).exec()


class HelpPage(QDialog):
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
