"""The Sheet page of the Picture tab: a sheet laid over the picture, and compared with it."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSlider, QVBoxLayout, QWidget

from isometron.document.document import Document
from isometron.document.edits.pictures import bringing
from isometron.drawing.scene import scene_of
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import write_angle, write_mm
from isometron.reading.comparing import Difference, compare
from isometron.reading.of_picture import reading_of
from isometron.ui.parts.card import Shown, soft_label
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import Grid, Heading, Own, Rest, Row, Switch, Told, Wish
from isometron.ui.parts.shell import COLUMN_WIDTH
from isometron.ui.parts.theme import scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

MOST_LISTED = 12
SMALLEST_MM = 0.5
"""What differs by less is within the hand."""


class FreeWish(Wish):
    """A wish that needs no volume."""

    needs_volume = False


class Strength(QWidget):
    """How strong the picture shows, by a slider."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, 100)
        self.slider.setPageStep(10)
        self.slider.setAccessibleName(_("strength of the picture"))
        self.slider.setToolTip(_("How strong the picture shows under the lines."))
        self.slider.valueChanged.connect(self._moved)
        self.slider.sliderReleased.connect(lambda: self.wishes.drop(_("strength of the picture")))
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.slider)

    def show_document(self, shown: Shown) -> None:
        """The strength a document has."""
        picture = shown.document.photograph
        laid = None if picture is None else picture.laid
        self.setEnabled(laid is not None)
        if laid is not None and not self.slider.isSliderDown():
            self.slider.blockSignals(True)
            self.slider.setValue(round(100 * laid.strength))
            self.slider.blockSignals(False)

    def _moved(self, value: int) -> None:
        def edit(document: Document) -> Document:
            return bringing.set_strength(document, value / 100)

        if self.slider.isSliderDown():
            self.wishes.drag(edit)
        else:
            self.wishes.edit(_("strength of the picture"), edit)


class Compared(QWidget):
    """Where the framework differs from the picture, the worst first; a press shows the place."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__()
        self.wishes = wishes
        self.found: list[Difference] = []
        self._words = soft_label("")
        self._words.setWordWrap(True)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(2)
        self._column.addWidget(self._words)
        self._rows: list[QWidget] = []
        self._of: Document | None = None

    def show_document(self, shown: Shown) -> None:
        """Compare the framework with the picture in work."""
        if shown.document is self._of or self.wishes.dragging:
            return
        self._of = shown.document
        for row in self._rows:
            row.hide()
            row.deleteLater()
        self._rows, self.found = [], []
        words = ""
        picture = shown.document.photograph
        if picture is None or picture.laid is None:
            words = _("Lay a sheet over the picture first.")
        else:
            try:
                scene = shown.scene or scene_of(shown.document)
                self.found = compare(shown.document, scene, reading_of(picture))
            except IsometronError as error:
                words = str(error)
        clear = [one for one in self.found if one.mm >= SMALLEST_MM]
        if self.found and not clear:
            words = _("{count} marks lie within {mm} of the drawing.").format(
                count=len(self.found), mm=write_mm(SMALLEST_MM)
            )
        elif not self.found and not words:
            words = _("No marked edge lies beside a drawn one.")
        self._words.setText(words)
        self._words.setVisible(bool(words))
        for one in clear[:MOST_LISTED]:
            self._add(one)

    def _add(self, one: Difference) -> None:
        text = f"{write_mm(one.mm)}, {write_angle(one.deg)}   {one.name}"
        button = QPushButton()
        wide = scaled(COLUMN_WIDTH - 60)
        elided = button.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, wide)
        button.setText(elided)
        button.setAccessibleName(text)
        button.setProperty("small", True)
        button.setToolTip(_("Show where on the sheet."))
        button.clicked.connect(lambda _on=False, d=one: self._show(d))
        self._rows.append(button)
        self._column.addWidget(button)

    def _show(self, one: Difference) -> None:
        self.wishes.choose_marks((one.mark,))
        self.wishes.do("show sheet")
        self.wishes.show_place(one.place)


def _laid_words(shown: Shown) -> str:
    picture = shown.document.photograph
    if picture is None:
        return _("No picture lies here yet.")
    if picture.laid is None:
        return _(
            "A sheet with the eye of the picture: its marked corner becomes a box, its rims become "
            "circles. A thing whose size you do not say is taken to be a metre long."
        )
    if picture.laid.seen_from(shown.document.eye) is None:
        return _("We look from elsewhere now; the picture hangs small beside the sheet.")
    return _("The picture lies under the sheet at its true place.")


def _laid(name: str, document: Document) -> bool | None:
    picture = document.photograph
    if picture is None or picture.laid is None:
        return None
    return bool(getattr(picture.laid, name))


ROWS = (
    Row("", Told(_laid_words)),
    Row(
        "",
        FreeWish(
            _("Lay a sheet over it"),
            _("Lay the sheet over the picture, seen from the eye its marks tell (Ctrl+Shift+O)."),
            lambda page: page.wishes.do("lay sheet over"),
        ),
    ),
    Heading(_("Under the sheet"), above=8),
    Row(
        _("strength"),
        Own("strength", lambda p: Strength(p.wishes), lambda w, s: w.show_document(s)),
    ),
    Grid(
        2,
        Switch(
            _("Shown"),
            _("Show the picture under the sheet, or put it away (Ctrl+T)."),
            _("show the picture"),
            lambda d: _laid("shown", d),
            bringing.show_picture,
        ),
        Switch(
            _("Goes out"),
            _("The picture goes out with the sheet, in PDF, PNG and SVG, and to the printer."),
            _("send the picture"),
            lambda d: _laid("sent", d),
            bringing.send_picture,
        ),
    ),
    Heading(_("Another view"), above=8),
    Row(
        "",
        Told(lambda shown: _("Change the view at Stand: the proportions stay.")),
    ),
    Grid(
        2,
        FreeWish(
            _("Its eye again"),
            _("Look from where the picture was taken again."),
            lambda page: page.wishes.do("picture eye"),
        ),
        Switch(
            _("Ghost"),
            _("Keep the picture's view as a ghost while we look from elsewhere."),
            _("ghost of the picture's view"),
            lambda d: _laid("ghost", d),
            bringing.keep_ghost,
        ),
    ),
    Heading(_("Framework against picture"), above=8),
    Row("", Own("compared", lambda p: Compared(p.wishes), lambda w, s: w.show_document(s))),
    Rest(),
)


class SheetPage(Page):
    """The sheet over the picture."""

    ROWS = ROWS
