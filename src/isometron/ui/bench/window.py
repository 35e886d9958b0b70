"""The window of one open sheet, where cards, board and second look come together."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, QPointF, QSettings, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QHBoxLayout,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from isometron.deeds.deed import Deed, Given
from isometron.deeds.line import shared_out
from isometron.document.document import Document
from isometron.document.picture import Mark
from isometron.drawing.measures import directions_of, kind_of_sheet
from isometron.files.journal import LeftBehind, Stamp
from isometron.perspective.errors import VolumeError
from isometron.ui.bench.asking import Asking
from isometron.ui.bench.carrying import Carrying
from isometron.ui.bench.column import Column
from isometron.ui.bench.commands.command import Command
from isometron.ui.bench.commands.later import begun
from isometron.ui.bench.commands.menus import Menus
from isometron.ui.bench.finder import Entry, Finder
from isometron.ui.bench.folding import Folding
from isometron.ui.bench.found import Finding, FoundStrip
from isometron.ui.bench.journalling import Journalling
from isometron.ui.bench.keeping import SheetKeeping
from isometron.ui.bench.place_table import PLACES, Lies, number_of
from isometron.ui.bench.session import FileState, Session
from isometron.ui.bench.settings import settings_of_person
from isometron.ui.bench.settling import Settling
from isometron.ui.bench.waiting import patiently
from isometron.ui.board.frame import BoardFrame
from isometron.ui.board.plan import SideElevation, StationPlan
from isometron.ui.board.plate import Plate
from isometron.ui.cards.second_look import SecondLookStrip
from isometron.ui.cards.slip.card import SlipCard
from isometron.ui.parts.card import EditCard, Shown
from isometron.ui.parts.fold import FoldBar
from isometron.ui.parts.plain import Elided
from isometron.ui.parts.rail import PlaceRail
from isometron.ui.parts.shell import SIZE
from isometron.ui.parts.theme import (
    GAP,
    LIGHT_ROOM,
    ROOM_IN_USE,
    ROOMS,
    Room,
    font,
    palette,
    scaled,
    style_sheet,
)
from isometron.ui.parts.touching import pass_keys
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

if TYPE_CHECKING:
    from isometron.reading.of_picture import PictureReading
    from isometron.ui.board.pictures.frame import PictureFrame

ROUND_MENU = 26
"""Room the bar takes round the word of a menu, px."""

ROUND_STATE = 24
"""Room round the words at the right end of the bar, px."""

FINDER, LEAST_FINDER = 300, 120
"""Width of the finder in the bar, px: usually, and at least."""

COLUMN_BAR = (
    _("Fold the column"),
    _("Fold card and slip away, or open them (F6)."),
)
"""What the bar that folds the column is called, and what it says."""

LEFT = "left"
"""Where the column stands, kept under "column side": left, or else right."""


class Bench(QMainWindow):
    """The main window of one open sheet."""

    left = pyqtSignal()
    """The person has left the sheet."""

    session: Session
    keeping: SheetKeeping
    board: BoardFrame
    room: Room
    strip: SecondLookStrip
    rail: PlaceRail
    folding: Folding
    column: Column

    def __init__(
        self,
        document: Document,
        path: Path | None = None,
        settings: QSettings | None = None,
        *,
        called: str = "",
        stamp: Stamp | None = None,
        within: QWidget | None = None,
    ) -> None:
        """`within` holds the window in a shell; without it, it stands for itself. stamp: what the
        sheet's file held when it was read."""
        super().__init__(within)
        if within is not None:  # a main window is a window of its own unless it is told otherwise
            self.setWindowFlags(Qt.WindowType.Widget)
        self.settings = settings or settings_of_person()
        self.room = ROOMS.get(str(self.settings.value("room", "")), LIGHT_ROOM)
        self.session = Session(document, path, called=called)
        self.session.stamp = stamp
        self.session.patience = lambda work, words: patiently(work, words, within or self)
        self.keeping = SheetKeeping(self.session, Asking(self), self.settings)
        self.journalling: Journalling | None = None
        self.finding: Finding | None = None
        self._wishes = Carrying(self)
        self._open: EditCard | None = None
        self._told_of = document
        self._lay_out()
        self._menus()
        self._settling = Settling(self, self._show_cards, self.strip)
        self.session.shown.connect(self._show)
        self.session.opened.connect(self._another_sheet)
        self.session.refused.connect(self.refuse)
        self.session.told.connect(self.tell)
        self.keeping.told.connect(self.tell)
        self.enter_room(self.room)
        self.resize(*SIZE)
        self.rail.setCurrentIndex(number_of("build"))
        self.rail.currentChanged.connect(lambda number: self.open_place(PLACES[number].key))
        self.rail.tabBarClicked.connect(self._place_clicked)
        self._open_place(PLACES[self.rail.currentIndex()].key)
        self._show()
        self.board.setFocus()

    # Layout

    def _lay_out(self) -> None:
        wishes = self.wishes
        self.board = BoardFrame(wishes)
        self._picture_board: PictureFrame | None = None
        self.middle = QStackedWidget()
        self.middle.addWidget(self.board)
        self.strip = SecondLookStrip(wishes)
        self.rail = PlaceRail(wishes, [(one.key, one.name, one.tip) for one in PLACES])
        self.column = Column(wishes, self.settings)
        bar = FoldBar(wishes, *COLUMN_BAR, Qt.Edge.RightEdge)
        rail = QVBoxLayout()
        rail.setContentsMargins(0, GAP, 0, 0)
        rail.addWidget(self.rail)
        rail.addStretch(1)
        felt = QVBoxLayout()
        felt.setSpacing(0)
        felt.addWidget(self.middle, 1)
        felt.addWidget(self.strip)
        work = QHBoxLayout()
        work.setContentsMargins(0, 0, 0, 0)
        work.setSpacing(0)
        work.addLayout(rail)
        work.addLayout(felt, 1)
        self._work_row, self._bar_beside = work, bar
        whole = QVBoxLayout()
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        self.found_strip = FoundStrip()
        whole.addWidget(self.found_strip)
        whole.addLayout(work, 1)
        self._place_column()
        self.folding = Folding(self.settings, (self.column, bar), self.strip, self._unfolded)
        desk = QWidget()
        desk.setObjectName("bench")
        desk.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        desk.setLayout(whole)
        self.setCentralWidget(desk)
        self.strip.open_over(desk)

    @property
    def column_left(self) -> bool:
        """Whether the column stands at the left."""
        return str(self.settings.value("column side", "")) == LEFT

    def stand_column(self, *, left: bool) -> None:
        """Let the column stand at the left or at the right; remembered."""
        self.settings.setValue("column side", LEFT if left else "right")
        self._place_column()

    def _place_column(self) -> None:
        """Column and its bar beside the board, on their side."""
        work = self._work_row
        both: list[QWidget] = [self._bar_beside, self.column]
        for widget in both:
            work.removeWidget(widget)
        left = self.column_left
        at = 1 if left else work.count()
        for number, widget in enumerate(reversed(both) if left else both):
            work.insertWidget(at + number, widget)
        self._bar_beside.turn(Qt.Edge.LeftEdge if left else Qt.Edge.RightEdge)

    @property
    def slip(self) -> SlipCard:
        """The slip of what is picked."""
        return self.column.slip

    @property
    def plan(self) -> StationPlan:
        """The station plan."""
        return self.column.plan

    @property
    def side(self) -> SideElevation:
        """The side elevation."""
        return self.column.side

    def _menus(self) -> None:
        bar = self.menuBar()
        assert bar is not None
        self._menu = Menus(self, bar)
        self.actions_of = self._menu.actions_of
        self.state = Elided()
        self.state.setContentsMargins(0, 4, 16, 4)
        self.state.setFont(font(bold=True))
        self.state.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        bar.setCornerWidget(self.state)
        self._open_menus()
        self._bar = bar
        self.finder = Finder(self.wishes, self, self._found)

    def _open_menus(self) -> None:
        """The menus under the pointer, on board and plan."""
        for widget, where in ((self.board, "board"), (self.plan, "plan"), (self.side, "plan")):
            self._menu_on(widget, where)

    def _menu_on(self, widget: QWidget, where: str) -> None:
        widget.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        widget.customContextMenuRequested.connect(partial(self._open_menu, widget, where))

    def _open_menu(self, widget: QWidget, where: str, at: QPoint) -> None:
        index = widget.volume_at(QPointF(at)) if hasattr(widget, "volume_at") else None
        if index is not None and index not in self.session.document.chosen:
            self.wishes.choose(index)
        self._menu.under_pointer(where).popup(widget.mapToGlobal(at))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._place_finder()
        self.rail.fit_into(self.height() - self._bar.height() - 2 * GAP)
        super().resizeEvent(event)

    def _place_finder(self) -> None:
        """The finder in the bar, between menus and state, narrower where the state needs the room;
        where there is none, under the bar when it is called."""
        advance = self._bar.fontMetrics().horizontalAdvance
        menus = sum(advance(action.text()) + ROUND_MENU for action in self._bar.actions())
        free = self.width() - menus - 3 * GAP
        state = self.state.fontMetrics().horizontalAdvance(self.state.text()) + ROUND_STATE
        high, least = self._bar.sizeHint().height(), scaled(LEAST_FINDER)
        wide = min(scaled(FINDER), max(free - state, least))
        fits = free >= 2 * least
        self.state.setFixedWidth(max(free - (wide if fits else 0), 0))
        if fits:
            self.finder.setGeometry(menus + 2 * GAP, 3, wide, high - 6)
        else:
            wide = min(scaled(FINDER), self.width() - 2 * GAP)
            self.finder.setGeometry(self.width() - wide - GAP, high + 2, wide, high - 4)
        self.finder.in_bar = fits
        self.finder.setVisible(fits)
        self.finder.raise_()
        size = self._bar.size()  # the bar has been laid out already, with the width before
        QApplication.sendEvent(self._bar, QResizeEvent(size, size))

    @property
    def wishes(self) -> Wishes:
        """What cards and board may wish for."""
        return self._wishes

    @property
    def window_itself(self) -> QWidget:
        """The window, for what is to lie over it."""
        return self

    # What is shown

    def _show(self) -> None:
        session = self.session
        document = session.document
        if document is not self._told_of:
            self._told_of = document
            self.board.move_on()
            if self._picture_board is not None:
                self._picture_board.plate.move_on()
        self.board.show_document(document, session.scene, session.reading, session.ghost)
        self.board.show_measured(session.measured, session.mark)
        if self._picture_board is not None:
            self._picture_board.show_picture(document.photograph)
        self._settling.begin(session)

    def _shown(self) -> tuple[Shown, str]:
        """What cards show, and what kind of view it is."""
        session = self.session
        document, scene = session.document, session.scene
        view, families = _("no volume yet"), ("", "", "")
        if scene.pictures:
            directions = directions_of(document.eye, scene.pictures[document.selected or 0])
            view = _(kind_of_sheet(document))
            width, depth, height = (direction.family for direction in directions)
            families = (width, depth, height)
        marks = self.marks
        return Shown(document, scene, session.reading, families, marks, session.pick), view

    def _show_cards(self) -> None:
        shown, view = self._shown()
        document = shown.document
        card = self.open_card
        if card is not None:
            card.show_document(shown)
        self.column.show_document(shown)
        self.slip.show_reading(self.session.told_reading(), document.choices.unit)
        self.slip.offer_pin(self.session.mark is not None)
        self.board.see_through.setChecked(document.choices.see_through)
        self.board.fans.setChecked(document.choices.fans)
        self._show_state(document, view)
        self._menu.refresh()

    @property
    def settled(self) -> bool:
        """Whether cards and second look show the document as it is."""
        card = self.open_card
        working = self.board.shading.working or (card is not None and card.working)
        return self._settling.done and not working

    def look_again(self) -> None:
        """What is off in a sketch has been read: the second look takes it up."""
        self._settling.look_again()

    def settle(self) -> None:
        """Bring cards and second look up to date now."""
        self._settling.finish()
        self.board.shading.finish()
        card = self.open_card
        if card is not None:
            card.finish()

    def _show_state(self, document: Document, view: str) -> None:
        sheet = document.sheet
        paper = sheet.format_name or _("own size")
        lie = _("lying") if sheet.lying else _("upright")
        name = self.keeping.name
        saved = ""
        if self.session.unsaved:
            saved = _("not saved")
        elif self.session.saved_at:
            saved = _("saved {time}").format(time=self.session.saved_at)
        if self.session.file_state is not FileState.AS_KNOWN:
            saved = self.session.file_state.value
        title = f"{name} — {saved}" if saved else name
        if document.variants:
            view = _("variant {name} · {view}").format(
                name=document.variants[document.variant].name, view=view
            )
        told = f"{title}     {view} · {paper} {lie} · {document.choices.unit}"
        if told != self.state.text():
            self.state.shorter = (f"{title}     {view}", title)
            self.state.setText(told)
            self._place_finder()
        self.setWindowTitle(f"{name}[*] — Isometron")
        self.setWindowModified(self.session.unsaved)

    # Places of work

    @property
    def open_card(self) -> EditCard | None:
        """The card that is open."""
        return self._open

    def open_place(self, key: str) -> None:
        """Open one of the places of work."""
        self.folding.fold(False)
        self._open_place(key)
        self._show_cards()

    def open_log(self) -> None:
        """Open the log, which lies beside the drills."""
        self.column.turn_to("practice", 1)
        self.open_place("practice")

    def do_deed(self, deed: Deed) -> bool:
        """Do a deed that asks for nothing, open the fields of another, or say what is lacking."""
        session = self.session
        sentence = deed.lacking(session.document, session.pick)
        if sentence:
            self.refuse(sentence)
            return False
        if not deed.parameters:
            return session.do(deed, Given(pick=session.pick))
        self._bring_slip()
        self.slip.open_deed(deed.key)
        return True

    def say_deed(self, deed: Deed, values: str) -> None:
        """Do a deed with what is said of it in a line, or say what is lacking."""
        sentence = deed.lacking(self.session.document, self.session.pick)
        try:
            given = shared_out(deed.asking_all.parameters, values)
        except VolumeError as error:
            sentence = sentence or str(error)
        if sentence:
            self.refuse(sentence)
            return
        self._bring_slip()
        self.slip.say(deed.key, given)

    def _bring_slip(self) -> None:
        """The slip of what is picked, wherever one works."""
        if PLACES[self.rail.currentIndex()].slip is Lies.NEVER or self.pictured:
            self.open_place("build")
        self.folding.fold(False)
        self.column.show_slip()
        self._show_cards()

    def find_deed(self) -> None:
        """Find a deed by its words."""
        self.finder.begin()

    def _found(self) -> list[Entry]:
        """Everything that can be found, as it is now."""
        self._menu.refresh()
        known = [self._entry(command, action) for command, action in self.actions_of]
        return known + (begun().answers_found(self) if self.session.document.begun_with else [])

    def _entry(self, command: Command, action: QAction) -> Entry:
        say = command.say
        return Entry(
            action.text(),
            command.tip,
            command.keys[0] if command.keys else "",
            f"{command.finds} {command.group} {command.key}",
            action.isEnabled(),
            partial(command.run, self),
            tuple(one.called for one in command.takes),
            partial(say, self) if say is not None and command.takes else None,
        )

    def _place_clicked(self, number: int) -> None:
        """A click on the open place folds the column away, or brings it back."""
        if number == self.rail.currentIndex():
            self.folding.turn()

    def _another_sheet(self) -> None:
        """Cards anew, so that nothing typed for the sheet before lives on, and the whole sheet in
        view."""
        for card in self.column.begin_anew():
            if card.own_board is not None:
                self.middle.removeWidget(card.own_board)
                card.own_board.deleteLater()
        self.board.arm(None)
        self.board.show_stage(None)
        self.board.fit_sheet()
        self._open_place(PLACES[self.rail.currentIndex()].key)

    def _unfolded(self) -> None:
        """The column has been folded, or has come back and must show what is so."""
        self._show_cards()

    def _open_place(self, key: str) -> None:
        self.rail.blockSignals(True)
        self.rail.setCurrentIndex(number_of(key))
        self.rail.blockSignals(False)
        card = self._open = self.card(key)
        self.column.open(key)
        if not card.shows_stages:
            self.board.show_stage(None)
        front = card.own_board or (self.picture_board if card.pictured else self.board)
        if self.middle.indexOf(front) < 0:
            self.middle.addWidget(front)
        before = self.middle.currentWidget()
        if before is not None and before is not front:
            pass_keys(before, front)
        self.middle.setCurrentWidget(front)

    @property
    def picture_board(self) -> "PictureFrame":
        """The picture on the felt, made when it is first opened."""
        if self._picture_board is None:
            from isometron.ui.board.pictures.frame import PictureFrame

            made = self._picture_board = PictureFrame(self.wishes)
            self.middle.addWidget(made)
            made.chose.connect(self._show_cards)
            self._menu_on(made, "picture")
            made.show_picture(self.session.document.photograph)
        return self._picture_board

    @property
    def marks(self) -> tuple[Mark, ...]:
        """The marks of the picture that are in work."""
        return () if self._picture_board is None else self._picture_board.chosen

    @property
    def pictured(self) -> bool:
        """Whether the picture lies on the felt instead of the sheet."""
        front = self.middle.currentWidget()
        return front is not None and front is self._picture_board

    @property
    def plate(self) -> Plate:
        """Where the board in front says what is under the pointer, refused or done."""
        return self.picture_board.plate if self.pictured else self.board.plate

    def refuse(self, sentence: str) -> None:
        """Say on the board in front why something cannot be done."""
        self.strip.said.keep(sentence)
        (self.picture_board.plate if self.pictured else self.board).refuse(sentence)

    def tell(self, sentence: str) -> None:
        """Say on the board in front what has been done."""
        self.strip.said.keep(sentence)
        (self.picture_board.plate if self.pictured else self.board).tell(sentence)

    def show_picture_reading(self, read: "PictureReading | None", instead: str) -> None:
        """Show what the marks of the picture say, or words instead."""
        from isometron.reading.in_words import slip_of

        picture = self.session.document.photograph
        self.picture_board.show_reading(read)
        if read is None or picture is None:
            self.column.picture_slip.lines.show_lines([], instead or _("Pin a photograph first."))
        else:
            unit = self.session.document.choices.unit
            self.column.picture_slip.lines.show_lines(slip_of(picture, read, unit), "")

    def card(self, key: str, leaf: int | None = None) -> EditCard:
        """A card of a place, made when it is first opened."""
        known = set(self.column.cards)
        card = self.column.card(key, leaf)
        if set(self.column.cards) != known and isinstance(
            listed := getattr(card, "list", None), QAbstractItemView
        ):
            self._menu_on(listed, "list")
        return card

    # The window

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Escape lets go of what is in hand, wherever the keyboard is."""
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.board.let_go()
            self.wishes.back_to_board()
        else:
            super().keyPressEvent(event)

    def enter_room(self, room: Room) -> None:
        """Work in another room."""
        self.room = room
        self.settings.setValue("room", room.name)
        if (app := QApplication.instance()) is not None:
            app.setProperty(ROOM_IN_USE, room.name)
        self.setPalette(palette(room))
        self.setStyleSheet(style_sheet(room))
        for widget in self.findChildren(QWidget):
            widget.update()

    def keep_journal(self, folder: Path | None = None) -> Journalling:
        """Keep a journal of the open sheet from now on, and offer what was left behind in others.
        folder: the state place of the person, when it is another."""
        behind = LeftBehind(folder)
        self.journalling = Journalling(self.session, folder)
        self.journalling.failed.connect(self.refuse)
        self.finding = Finding(self.found_strip, self.keeping, self.journalling, behind)
        return self.journalling

    def end(self) -> None:
        """The program ends. What the person has not left can be found again."""
        if self.journalling is not None:
            self.journalling.let_go()
        if self.finding is not None:
            self.finding.behind.let_go()

    def leave(self) -> None:
        """Close the window."""
        self.close()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is None:
            return
        if self.keeping.may_leave():
            for card in self.column.cards.values():
                card.leave()
            self._settling.stop()
            self.keeping.finish()
            if self.journalling is not None:
                self.journalling.leave()
            event.accept()
            self.left.emit()
        else:
            event.ignore()
