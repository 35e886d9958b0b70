"""The Known page of the Picture tab: lengths, ratios and what is alike, said of edges."""

from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from isometron.document.document import Document
from isometron.document.edits.pictures import marking
from isometron.document.edits.pictures.bringing import in_work
from isometron.document.errors import ChoiceError
from isometron.document.marks import Known
from isometron.document.picture import EDGE, ROUND, SheetPicture
from isometron.perspective.errors import LengthError
from isometron.perspective.lengths import read_length, write_length, write_number
from isometron.ui.cards.pictures.marks_page import marks_in_work
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.plain import Label
from isometron.ui.parts.rows import Always, Grid, Heading, Own, Rest, Row, Told, Words
from isometron.ui.parts.wishes import Edit, Wishes
from isometron.words import _, quoted, said

RATIOS = (1e-4, 1e4)
"""What the ratio of two lengths may be."""


def edges_in_work(page: Page, count: int) -> list[int]:
    """Numbers of the edges in work. Raises ChoiceError for another count."""
    marks = marks_in_work(page)
    edges = [mark.number for mark in marks if mark.kind == EDGE]
    if len(edges) != count or len(marks) != count:
        wanted = (
            _("Pick one edge for this: click it on the picture.")
            if count == 1
            else _("Pick two edges for this: click one, then the other with Ctrl.")
        )
        raise ChoiceError(wanted)
    return edges


def read_ratio(text: str) -> float:
    """A ratio typed as 2 : 1, 2/1 or 2. Raises LengthError."""
    first, _unused, second = text.replace("/", ":").partition(":")
    try:
        value = float(first.replace(",", ".")) / float(second.replace(",", ".") or "1")
    except (ValueError, ZeroDivisionError, OverflowError):
        value = 0.0
    if not RATIOS[0] <= value <= RATIOS[1]:
        raise LengthError(
            _("“{text}” is no ratio: type, say, 2 : 1.").format(text=quoted(text.strip()))
        )
    return value


def _length(page: Page, text: str) -> Edit:
    (edge,) = edges_in_work(page, 1)
    value = read_length(text, page.unit)
    return lambda document: marking.say_known(document, "length", [edge], value)


def _ratio(page: Page, text: str) -> Edit:
    edges = edges_in_work(page, 2)
    value = read_ratio(text)
    return lambda document: marking.say_known(document, "ratio", edges, value)


def _alike(kind: str, page: Page) -> Edit:
    edges = edges_in_work(page, 2)
    return lambda document: marking.say_known(document, kind, edges)


def _symmetrical(page: Page) -> Edit:
    one, two = edges_in_work(page, 2)

    def edit(document: Document) -> Document:
        edges = in_work(document).edges
        used = {edges[one].family, edges[two].family}
        family = next(name for name in ("width", "depth", "height") if name not in used)
        return marking.mirror_pair(document, one, two, family)

    return edit


def _share_axle(page: Page) -> Edit:
    marks = marks_in_work(page)
    picture = page.wishes.document.photograph
    if picture is None or len(marks) < 2 or any(mark.kind != ROUND for mark in marks):
        raise ChoiceError(_("Pick two rims or more: click one, then others with Ctrl."))
    axle = picture.rounds[marks[0].number].axle
    return lambda document: marking.set_family(document, marks, axle)


def _typed(shown: Shown) -> str | None:
    return "" if shown.document.pictures else None


def words_of(picture: SheetPicture, known: Known, unit: str) -> str:
    """Something known, in words."""
    names = [
        picture.edges[number].name
        or _("{family} edge {number}").format(
            family=_(picture.edges[number].family), number=number + 1
        )
        for number in known.edges
    ]
    if known.kind == "length":
        return _("{edge} is {length}").format(
            edge=names[0], length=write_length(known.value or 0.0, unit)
        )
    if known.kind == "ratio":
        return _("{one} is {value} times {two}").format(
            one=names[0], two=names[1], value=write_number(known.value or 0.0)
        )
    if known.kind == "square":
        return _("{one} and {two} make a square").format(one=names[0], two=names[1])
    return _("{one} is as long as {two}").format(one=names[0], two=names[1])


class KnownList(QWidget):
    """Everything known, each with a button that forgets it."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self._shown: list[str] | None = None
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(3)

    def show_document(self, shown: Shown) -> None:
        """What is known of the picture in work."""
        picture, unit = shown.document.photograph, shown.document.choices.unit
        words = [] if picture is None else [words_of(picture, k, unit) for k in picture.known]
        if words == self._shown:
            return
        self._shown = words
        while (item := self._column.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        if not words:
            self._column.addWidget(Label(_("Nothing yet.")))
        for number, text in enumerate(words):
            self._column.addWidget(self._row(number, text))

    def _row(self, number: int, text: str) -> QWidget:
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        label = Label(text)
        label.setWordWrap(True)
        line.addWidget(label, 1)
        forget = QPushButton(_("Forget"))
        forget.setProperty("small", True)
        forget.setToolTip(_("Take this back: it is no longer known."))
        forget.setAccessibleName(_("Forget: {what}").format(what=text))
        forget.clicked.connect(
            lambda _on=False: self.wishes.edit(
                _("forget"), lambda d: marking.forget_known(d, number)
            )
        )
        line.addWidget(forget)
        return row


ROWS = (
    Heading(_("Of one picked edge")),
    Row(
        _("is"),
        Words(
            said("is"),
            _("Its true length, 62 cm say; it must be an edge of a marked corner."),
            _typed,
            _("say a length"),
            _length,
            clears=True,
        ),
    ),
    Heading(_("Of two picked edges"), above=8),
    Row(
        _("are as"),
        Words(
            said("are as"),
            _("The ratio of the first to the second, 2 : 1 say; both edges of a marked corner."),
            _typed,
            _("say a ratio"),
            _ratio,
            clears=True,
        ),
    ),
    Grid(
        2,
        Always(
            _("As long"),
            _("Both are as long as each other."),
            _("say two lengths equal"),
            partial(_alike, "equal"),
        ),
        Always(
            _("A square"),
            _("Both are sides of one square."),
            _("say a square"),
            partial(_alike, "square"),
        ),
        Always(
            _("Share an axle"),
            _("Picked rims turn about one axle: that of the first."),
            _("let rims share an axle"),
            _share_axle,
        ),
        Always(
            _("Symmetrical"),
            _("Both mirror each other: the lines between their ends run across the middle."),
            _("say two edges symmetrical"),
            _symmetrical,
        ),
    ),
    Row("", Told(lambda shown: _("Ctrl and click pick a second edge."))),
    Heading(_("Known"), above=8),
    Row("", Own("known", lambda page: KnownList(page.wishes), lambda w, s: w.show_document(s))),
    Rest(),
)


class KnownPage(Page):
    """What is known of edges."""

    ROWS = ROWS
