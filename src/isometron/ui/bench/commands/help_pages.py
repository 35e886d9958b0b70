"""The two help pages: handles and keys, and about."""

from collections.abc import Sequence
from html import escape

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QLineEdit,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from isometron import __version__
from isometron.files.formats import OUTGOING
from isometron.ui.bench.commands.command import Command
from isometron.ui.bench.work import Work
from isometron.ui.board import plan
from isometron.ui.board.board import Board
from isometron.ui.board.handles.table import KINDS
from isometron.ui.parts.card import Card
from isometron.ui.parts.page import Page
from isometron.ui.parts.paged_card import PagedCard
from isometron.ui.parts.shell import within_screen
from isometron.words import _

PADS = (
    (
        _("Radii and side-view pads"),
        _("double-click adds a point, Delete takes the chosen one away"),
    ),
)


HANDS = (
    (_("A digit"), _("Goes to the first field of what is picked, or of the face in the hand.")),
    (_("Return, Escape"), _("Do what is open; let go of what is in hand, wherever you are.")),
    (
        _("Space"),
        _("Tapped: the next answer, what else lies under the last click. Held: pan the sheet."),
    ),
    (_("Ctrl and a drag"), _("Drags a copy; type how many in all for a row up to there.")),
    (_("Alt"), _("Holds off what a drag snaps to.")),
)
"""Keys that are no command."""


def keys_page(commands: Sequence[Command]) -> str:
    """Handles, keys and kinds of file, as rich text."""
    handles = [(kind.name, kind.stays) for kind in KINDS]
    keys = [
        (
            _("Page Down, Page Up"),
            _("On the board: choose a handle. Arrows move it 1 mm, with Shift 10, Ctrl 0.1."),
        ),
        *HANDS,
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


def here_page(focus: QWidget | None) -> tuple[str, str] | None:
    """What is about what has the keyboard, as a title and rich text: the part of the bench it
    stands on, and every field and button there with what it does, itself first. None where it
    stands on none."""
    part = focus
    while part is not None and not isinstance(part, (Page, Card, Board)):
        part = part.parentWidget()
    if focus is None or part is None:
        return None
    told = [(_called(one), one.toolTip()) for one in _parts_of(part) if one.toolTip()]
    own = (_called(focus), focus.toolTip() or focus.accessibleDescription())
    rows = [own, *(row for row in told if row != own)] if own[0] and own[1] else told
    title = _title_of(part)
    return (title, _section(title, rows)) if rows else None


def _parts_of(part: QWidget) -> list[QWidget]:
    """The fields, choices and buttons of a part of the bench that can be seen."""
    kinds = (QLineEdit, QComboBox, QAbstractButton, QAbstractItemView)
    return [one for one in part.findChildren(QWidget) if isinstance(one, kinds) and one.isVisible()]


def _called(widget: QWidget) -> str:
    text = widget.text() if isinstance(widget, QAbstractButton) else ""
    return text or widget.accessibleName()


def _title_of(part: QWidget) -> str:
    """What a part of the bench is called: a page by its card too."""
    if isinstance(part, Card):
        return part.title.text()
    card = part.parentWidget()
    while card is not None and not isinstance(card, Card):
        card = card.parentWidget()
    if card is None:
        return part.accessibleName()
    if not isinstance(card, PagedCard):
        return card.title.text()
    number = card.page_of(_parts_of(part)[0]) if _parts_of(part) else None
    leaf = "" if number is None else card.LEAVES[number].title
    return f"{card.title.text()}: {leaf}" if leaf else card.title.text()


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
    """The help page: about what has the keyboard first, then handles and keys."""
    here = here_page(QApplication.focusWidget())
    text = (here[1] if here else "") + keys_page(commands)
    HelpPage(work.window_itself, _("Handles and keys"), text).exec()


def show_about(work: Work) -> None:
    """Version, licence and the caution."""
    HelpPage(work.window_itself, _("About Isometron"), about_page()).exec()


class HelpPage(QDialog):
    """A help page."""

    def __init__(self, parent: QWidget, title: str, text: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.resize(within_screen(self, QSize(760, 560)))
        browser = QTextBrowser()
        browser.setHtml(text)
        browser.setAccessibleName(title)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(browser)
        column.addWidget(buttons)
