"""Carries out what cards and board wish for."""

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.shapes import ellipses
from isometron.document.picture import Mark
from isometron.drawing.picks.curve import CirclePick
from isometron.drawing.picks.of_sheet import SheetPick
from isometron.drawing.picks.pick import Pick
from isometron.ui.bench.commands import table
from isometron.ui.bench.logged import log_work
from isometron.ui.bench.work import Work
from isometron.ui.board.stage_view import stage_rectangle
from isometron.ui.parts.theme import Room
from isometron.ui.parts.wishes import Edit, Wishes
from isometron.words import _

if TYPE_CHECKING:
    from isometron.construction.stages import Stages
    from isometron.deeds.deed import Deed, Given
    from isometron.files.formats import Format
    from isometron.reading.of_picture import PictureReading
    from isometron.reading.sketch.faults import Fault


class Carrying(Wishes):
    """The wishes of one window."""

    def __init__(self, work: Work) -> None:
        self._work = work

    @property
    def room(self) -> Room:
        return self._work.room

    @property
    def document(self) -> Document:
        return self._work.session.document

    @property
    def dragging(self) -> bool:
        return self._work.session.dragging

    def edit(self, name: str, edit: Edit) -> bool:
        return self._work.session.edit(name, edit)

    def deed(self, deed: "Deed", given: "Given") -> bool:
        return self._work.session.do(deed, given)

    def preview(self, edit: Edit) -> str:
        return self._work.session.preview(edit)

    def back_to_board(self) -> None:
        (self._work.picture_board if self._work.pictured else self._work.board).setFocus()

    def begin_typing(self, text: str, deed: str = "") -> bool:
        if deed:
            self._work.column.show_slip()
        self._work.settle()
        return self._work.slip.begin_typing(text, deed)

    def drag(self, edit: Edit) -> None:
        self._work.session.drag(edit)

    def drop(self, name: str) -> None:
        self._work.session.drop(name)

    def let_go(self) -> None:
        self._work.session.let_go()

    def refuse(self, sentence: str) -> None:
        self._work.refuse(sentence)

    def tell(self, sentence: str) -> None:
        self._work.tell(sentence)

    def hint(self, words: str) -> None:
        self._work.plate.hint(words)

    def choose(self, volume: int, *, besides: bool = False) -> None:
        self._work.session.read(None)
        choose = choosing.choose_also if besides else choosing.select
        self._work.session.edit(_("choose"), lambda d: choose(d, volume))

    def pick(self, pick: Pick | None, *, besides: bool = False, alone: bool = True) -> None:
        session = self._work.session
        besides = besides and not isinstance(pick, SheetPick)
        session.read(None if besides else pick)
        if pick is None or isinstance(pick, SheetPick):
            session.refresh()
        elif besides:
            self.choose(pick.volume, besides=True)
        else:
            session.edit(_("choose"), lambda d: _picked(d, pick, alone=alone))

    def measure(self, pick: Pick) -> None:
        self._work.session.measure(pick)

    def show_place(self, sheet_mm: tuple[float, float] | None) -> None:
        self._work.board.show_spot(sheet_mm)
        if self._work.pictured:
            self._work.picture_board.show_spot(sheet_mm)

    def show_stage(self, stages: "Stages | None", number: int) -> None:
        shown = None if stages is None else stages.after(number, stage_rectangle(stages.sheet))
        card = self._work.open_card
        self._work.board.show_stage(shown if card is not None and card.shows_stages else None)

    def choose_line(self, name: str) -> None:
        card = self._work.open_card
        if card is not None:
            card.choose_line(name)

    def do(self, command: str) -> None:
        table.run(command, self._work)

    def log(self, kind: str, about: str, words: str) -> None:
        log_work(kind, about, words)

    def which(self, title: str, formats: "Sequence[Format]") -> Path | None:
        return self._work.keeping.which(title, formats)

    def where(self, title: str, stem: str, formats: "Sequence[Format]") -> Path | None:
        return self._work.keeping.where(title, stem, formats)

    def may_throw_away(self, what: str) -> bool:
        return self._work.keeping.asking.may_throw_away(what)

    def open_sheet(self, path: Path) -> None:
        self._work.keeping.open_path(path)

    @property
    def marks(self) -> tuple[Mark, ...]:
        return self._work.marks

    def choose_marks(self, marks: tuple[Mark, ...]) -> None:
        self._work.picture_board.choose(marks)

    def show_reading(self, read: "PictureReading | None", instead: str) -> None:
        self._work.show_picture_reading(read, instead)

    def show_faults(self, faults: "list[Fault]") -> None:
        self._work.picture_board.show_faults(faults)
        self._work.look_again()

    def straighten(self, paper: str) -> None:
        self._work.keeping.straighten(paper)

    def bring_picture(self, path: Path) -> None:
        self._work.keeping.bring_picture(path)

    def open_place(self, key: str) -> None:
        self._work.open_place(key)

    def settle(self) -> None:
        self._work.settle()

    def bring_outline(self, axis: int) -> None:
        self._work.keeping.bring_outline(axis)


def _picked(document: Document, pick: Pick, *, alone: bool) -> Document:
    """The volume of a pick in work, no other chosen with it where it is `alone`; of a circle, the
    circle too."""
    if pick.volume not in document.chosen or (alone and len(document.chosen) > 1):
        document = choosing.select(document, pick.volume)
    elif pick.volume != document.selected:
        document = choosing.bring_forward(document, pick.volume)
    if isinstance(pick, CirclePick):
        document = ellipses.choose_circle(document, pick.index)
    return document
