"""The card of the Picture tab. What the marks say is read beside the window, and shown on the
picture and on the slip."""

from isometron.document.edits.pictures.bringing import choose_picture
from isometron.document.picture import SheetPicture
from isometron.perspective.errors import IsometronError
from isometron.reading.of_picture import PictureReading, reading_of
from isometron.ui.cards.pictures.known_page import KnownPage
from isometron.ui.cards.pictures.marks_page import MarksPage
from isometron.ui.cards.pictures.own_page import OwnPage, faults_of
from isometron.ui.cards.pictures.sheet_page import SheetPage
from isometron.ui.parts.beside import Beside
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import Choice
from isometron.ui.parts.paged_card import Leaf, PagedCard
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

Read = PictureReading | IsometronError


class PictureCard(PagedCard):
    """Pictures of the sheet, their marks, what is known of them, the sheet over them."""

    pictured = True
    LEAVES = (
        Leaf(_("Marks"), _("Families, lines and the picked marks."), MarksPage),
        Leaf(_("Known"), _("Lengths, ratios and what is alike."), KnownPage),
        Leaf(_("My sheet"), _("A sheet you have drawn: straightened, and judged."), OwnPage),
        Leaf(_("Sheet"), _("Lay a sheet over the picture, and compare."), SheetPage),
    )

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("Picture"))
        self._reading: Beside[SheetPicture, Read] = Beside(self, "reading", _read, self._take)
        self._read_of: SheetPicture | None = None
        self._told = False
        tip = _("Which picture of the sheet lies on the felt.")
        self.which = Choice(_("picture in hand"), tip, [])
        self.which.activated.connect(
            lambda n: wishes.edit(_("choose a picture"), lambda d: choose_picture(d, n))
        )
        self.body.addWidget(self.which)
        self.lay_pages()

    def show_document(self, shown: Shown) -> None:
        self._shown = shown
        picture = shown.document.photograph
        self.note.setText("" if picture is None else f"{picture.width} × {picture.height} px")
        names = [one.name or _("picture") for one in shown.document.pictures]
        if [self.which.itemText(i) for i in range(self.which.count())] != names:
            self.which.clear()
            self.which.addItems(names)
        self.which.setCurrentIndex(shown.document.picture if names else -1)
        self.which.setVisible(bool(names))
        if not self._reading.working and picture is self._read_of:
            self._show_page()
        if (self._told and picture is self._read_of) or self.wishes.dragging:
            return
        self._told = True
        self._read_of = picture
        self._reading.drop()
        if picture is None:
            self._show_page()
            self.wishes.show_reading(None, "")
        else:
            self._reading.give(picture)

    def _take(self, picture: SheetPicture, read: Read) -> None:
        self._show_page()
        if isinstance(read, IsometronError):
            self.wishes.show_reading(None, str(read))
        else:
            self.wishes.show_reading(read, "")
            if self._shown is not None and self._shown.document.photograph is picture:
                self.wishes.show_faults(faults_of(self._shown))

    @property
    def working(self) -> bool:
        return self._reading.working

    def finish(self) -> None:
        self._reading.finish()


def _read(picture: SheetPicture) -> Read:
    try:
        return reading_of(picture)
    except IsometronError as error:
        return error
