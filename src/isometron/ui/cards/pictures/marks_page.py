"""The Marks page of the Picture tab: families, what the file told, and what is in work."""

from functools import partial

from PyQt6.QtWidgets import QComboBox, QPushButton, QWidget

from isometron.document.document import Document
from isometron.document.edits.pictures import bringing, marking
from isometron.document.edits.pictures.marking import mark_of
from isometron.document.errors import ChoiceError
from isometron.document.picture import Mark
from isometron.reading.of_picture import STRAY, said_whole
from isometron.ui.cards.pictures.families import FamilyList, choices_of
from isometron.ui.parts.card import Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import (
    Choosing,
    Grid,
    Heading,
    Own,
    Rest,
    Row,
    Switch,
    Told,
    Wish,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, many, said


class FreeWish(Wish):
    """A wish that needs no volume."""

    needs_volume = False


def _in_work(shown: Shown) -> str:
    picture = shown.document.photograph
    if picture is None:
        return _("No picture lies here yet.")
    if not shown.marks:
        return _("Nothing is picked: click a mark, or take a tool below the picture in hand.")
    if len(shown.marks) > 1:
        count = len(shown.marks)
        return many("{n} mark", "{n} marks", count).format(n=count)
    one = mark_of(picture, shown.marks[0])
    if one is None:
        return ""
    words = _("{kind} {number}").format(
        kind=_(shown.marks[0].kind).capitalize(), number=shown.marks[0].number + 1
    )
    if getattr(one, "corners", None):
        words += _(", an edge of the corner")
    elif getattr(one, "found", False):
        words += _(", found by itself")
    if getattr(one, "left", False):
        words += _(", left out")
    if getattr(one, "weight", 1.0) < 1:
        words += _(", counts less")
    return words


def _name(shown: Shown) -> str | None:
    picture = shown.document.photograph
    if picture is None or len(shown.marks) != 1:
        return None
    one = mark_of(picture, shown.marks[0])
    return None if one is None else str(one.name)


def marks_in_work(page: Page) -> tuple[Mark, ...]:
    """The marks in work. Raises ChoiceError when there are none."""
    marks = page.wishes.marks
    if not marks:
        raise ChoiceError(_("No mark is picked: click one on the picture first."))
    return marks


def _rename(page: Page, text: str) -> Edit:
    mark = marks_in_work(page)[0]
    return lambda document: marking.name_mark(document, mark, text.strip())


def _families(shown: Shown) -> list[tuple[str, int | None]]:
    picture = shown.document.photograph
    names = [] if picture is None else choices_of(picture)
    return [(_(name), i) for i, name in enumerate(names)]


def _family_now(shown: Shown) -> int | None:
    picture = shown.document.photograph
    if picture is None or not shown.marks:
        return None
    one = mark_of(picture, shown.marks[0])
    family = getattr(one, "family", getattr(one, "axle", None))
    names = choices_of(picture)
    if family == STRAY:
        return -1
    return names.index(family) if family in names else (-1 if family is not None else None)


class FamilyChoice(Choosing):
    """The family of what is in work."""

    def __init__(self) -> None:
        super().__init__(
            _("runs with"),
            _("The family that the picked mark runs with; of a rim, its axle."),
            _families,
            now=_family_now,
        )

    def make(self, page: Page) -> QWidget:
        made = super().make(page)
        assert isinstance(made, QComboBox)
        made.activated.connect(partial(self._chosen, page))
        return made

    def show(self, widget: QComboBox, shown: Shown, page: Page) -> None:
        super().show(widget, shown, page)
        if not widget.isEnabled():
            widget.setCurrentIndex(-1)

    def _chosen(self, page: Page, number: int) -> None:
        picture, marks = page.wishes.document.photograph, page.wishes.marks
        if picture is not None and marks:
            family = choices_of(picture)[number]
            page.wishes.edit(
                _("give a mark its family"), lambda d: marking.set_family(d, marks, family)
            )


class LensSwitch(Switch):
    """Whether the focal length of the file is used; says which."""

    def show(self, widget: QPushButton, shown: Shown, page: Page) -> None:
        super().show(widget, shown, page)
        picture = shown.document.photograph
        lens = None if picture is None else picture.lens
        if picture is None or lens is None:
            widget.setText(_("No lens told"))
        else:
            share = lens.station_distance / picture.width
            widget.setText(_("Lens: {share} widths ± 5 %").format(share=f"{share:.2f}"))


def _lens_on(document: Document) -> bool | None:
    picture = document.photograph
    return None if picture is None or picture.lens is None else picture.lens_used


def _uncropped(document: Document) -> bool | None:
    return None if document.photograph is None else not document.photograph.cropped


ROWS = (
    Heading(_("Families")),
    Row("", Own("families", lambda page: FamilyList(page.wishes), lambda w, s: w.show_document(s))),
    Row(
        "",
        Switch(
            _("Uncropped"),
            _("The picture is all that the camera saw: we looked at its middle."),
            _("say whether it is cropped"),
            _uncropped,
            lambda d, on: bringing.change_picture(d, lambda picture: said_whole(picture, on)),
        ),
    ),
    Row(
        "",
        LensSwitch(
            _("Lens"),
            _("The station distance that the file tells, taken as a hint with 5 % of error."),
            _("use the lens"),
            _lens_on,
            bringing.use_lens,
        ),
    ),
    Heading(_("Picked"), above=8),
    Row("", Told(_in_work)),
    Row(
        _("name"),
        Words(
            said("name"),
            _("What you call the picked mark: it is named on the picture and in the readings."),
            _name,
            _("name a mark"),
            _rename,
        ),
    ),
    Row(_("runs with"), FamilyChoice()),
    Grid(
        2,
        FreeWish(
            _("Leave out"),
            _("Leave the picked marks out of the reading, or take them in again (L)."),
            lambda page: page.wishes.do("take or leave"),
        ),
        FreeWish(
            _("Count less"),
            _("Let the picked marks count less than the other marks, or as much again (W)."),
            lambda page: page.wishes.do("weigh less"),
        ),
        FreeWish(
            _("Take away"),
            _("Take the picked marks away (Del)."),
            lambda page: page.wishes.do("take away"),
        ),
        FreeWish(
            _("Find lines anew"),
            _("Look for straight lines again; what you marked or named yourself stays."),
            lambda page: page.wishes.do("find lines"),
        ),
    ),
    Rest(),
)


class MarksPage(Page):
    """Families and marks."""

    ROWS = ROWS
