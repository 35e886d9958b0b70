"""The bench: the main window, where cards, board and second look come together."""

from pathlib import Path

from PyQt6.QtCore import QSettings, Qt, QTimer
from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from isometron.document.document import Document
from isometron.document.edits import choosing, ellipses, rounding, sheet_edits
from isometron.document.edits.choosing import select
from isometron.drawing.measures import directions_of, kind_of_view
from isometron.drawing.picks import is_there
from isometron.drawing.readings import Pick, default_pick, reading_of
from isometron.drawing.scene import Scene
from isometron.remarks.remark import Remark, Remedy
from isometron.ui.bench.asking import Asking
from isometron.ui.bench.keeping import SheetKeeping
from isometron.ui.bench.menus import Menus
from isometron.ui.bench.session import Session
from isometron.ui.board.frame import BoardFrame
from isometron.ui.board.plan import FlatView, SideElevation, StationPlan
from isometron.ui.cards.building.walk import BUILD_TAB, BuildWalk
from isometron.ui.cards.readings import ReadingsCard
from isometron.ui.cards.second_look import SecondLookStrip
from isometron.ui.parts.card import Card, EditCard
from isometron.ui.parts.tabs import IndexTab, TabRail
from isometron.ui.parts.theme import GAP, LIGHT_ROOM, ROOMS, Room, font, palette, style_sheet

CARD_WIDTH = 298
SIDE_WIDTH = 246
STATE_WIDTH = 760
SIZE = (1280, 800)
SETTLE_MS = 12
"""The cards follow the board this much later, so that a drag is painted first."""


class Bench(QMainWindow):
    """The main window of one open sheet."""

    session: Session
    keeping: SheetKeeping
    walk: BuildWalk
    board: BoardFrame
    room: Room

    def __init__(
        self,
        document: Document,
        path: Path | None = None,
        settings: QSettings | None = None,
        *,
        called: str = "",
    ) -> None:
        super().__init__()
        self.settings = settings or QSettings(
            QSettings.Format.IniFormat, QSettings.Scope.UserScope, "isometron", "isometron"
        )
        self.room = ROOMS.get(str(self.settings.value("room", "")), LIGHT_ROOM)
        self.session = Session(document, path, called=called)
        self.keeping = SheetKeeping(self.session, Asking(self), self.settings)
        self.walk = BuildWalk(self)
        self.pick: Pick | None = None
        self._lay_out()
        self._menus()
        self._connect()
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(SETTLE_MS)
        self._settle.timeout.connect(self._show_cards)
        self.enter_room(self.room)
        self.resize(*SIZE)
        self._open_tab(1 if document.volumes else 0)
        self._show()
        self.board.setFocus()

    # Layout

    def _lay_out(self) -> None:
        room = self.room
        self._cards: dict[int, EditCard] = {}
        self.board = BoardFrame(room)
        self.plan, self.side = StationPlan(room), SideElevation(room)
        self.plan_card = Card(room, self.tr("Station plan"))
        self.plan_card.note.setText(self.tr("from above"))
        self.plan_card.body.addWidget(self.plan, 1)
        self.side_card = Card(room, self.tr("Side"))
        self.side_card.body.addWidget(self.side, 1)
        self.readings = ReadingsCard(room)
        self.strip = SecondLookStrip(room)
        self.rail = TabRail(
            [
                IndexTab(
                    room, self.tr("Eye"), self.tr("The paper, the eye level and where we stand.")
                ),
                IndexTab(room, self.tr("Volumes"), self.tr("The boxes and their true measures.")),
                IndexTab(
                    room, self.tr("Rounds"), self.tr("Ellipses, wheels, turned forms and profiles.")
                ),
                IndexTab(
                    room,
                    self.tr("Build order"),
                    self.tr("The ruler moves, in the order a hand makes them."),
                ),
            ]
        )
        self.stack = QStackedWidget()
        self.stack.setFixedWidth(CARD_WIDTH)
        side = QVBoxLayout()
        side.setSpacing(GAP)
        side.addWidget(self.plan_card, 20)
        side.addWidget(self.side_card, 11)
        side.addWidget(self.readings, 29)
        column = QWidget()
        column.setLayout(side)
        side.setContentsMargins(0, 0, 0, 0)
        column.setFixedWidth(SIDE_WIDTH)
        work = QHBoxLayout()
        work.setContentsMargins(GAP // 2, GAP, GAP, 0)
        work.setSpacing(0)
        work.addWidget(self.rail)
        work.addWidget(self.stack)
        work.addWidget(self.board, 1)
        work.addWidget(column)
        whole = QVBoxLayout()
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(work, 1)
        whole.addWidget(self.strip)
        desk = QWidget()
        desk.setObjectName("bench")
        desk.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        desk.setLayout(whole)
        self.setCentralWidget(desk)

    def _menus(self) -> None:
        bar = self.menuBar()
        assert bar is not None
        self._commands = Menus(self, bar)
        self.actions_of = self._commands.actions_of
        self.state = QLabel()
        self.state.setContentsMargins(0, 4, 16, 4)
        self.state.setFont(font(bold=True))
        self.state.setFixedWidth(STATE_WIDTH)
        self.state.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        bar.setCornerWidget(self.state)

    def _connect(self) -> None:
        session, board = self.session, self.board
        session.shown.connect(self._show)
        session.refused.connect(board.refuse)
        self.keeping.told.connect(board.say)
        board.dragged.connect(session.drag)
        board.dropped.connect(session.drop)
        board.given_up.connect(session.let_go)
        board.picked.connect(self.choose)
        board.picked_besides.connect(self.choose_besides)
        board.see_through_wanted.connect(self.toggle_see_through)
        board.fans_wanted.connect(self.toggle_fans)
        flat: FlatView
        for flat in (self.plan, self.side):
            flat.dragged.connect(session.drag)
            flat.dropped.connect(session.drop)
            flat.hinted.connect(board.hinted)
        self.strip.show_place.connect(self._show_place)
        self.strip.cure.connect(self._cure)
        for number, tab in enumerate(self.rail.tabs):
            tab.clicked.connect(lambda _=False, number=number: self.open_tab(number))

    # What is shown

    def _show(self) -> None:
        document, scene = self.session.document, self.session.scene
        if self.pick is not None and not is_there(scene, self.pick):
            self.pick = None
        self.board.show_pick(self.pick or default_pick(document, scene))
        self.board.show_document(document, scene, self.session.ghost)
        self._settle.start()

    def _show_cards(self) -> None:
        document, scene = self.session.document, self.session.scene
        view, families = self.tr("no volume yet"), ("", "", "")
        if scene.pictures:
            directions = directions_of(document.eye, scene.pictures[document.selected or 0])
            view = kind_of_view(directions)
            width, depth, height = (direction.family for direction in directions)
            families = (width, depth, height)
        unit = document.choices.unit
        card = self.stack.currentWidget()
        if isinstance(card, EditCard) and not (self.walk.open and self.session.dragging):
            card.show_pick(self.pick or default_pick(document, scene))
            card.show_document(document, scene, families)
        self.plan.show_document(document, scene)
        self.side.show_document(document, scene)
        self.side_card.note.setText(self.side.words(document))
        self.readings.show_reading(reading_of(document, scene, self.pick), unit)
        self._look_again(document, scene)
        self.board.see_through.setChecked(document.choices.see_through)
        self.board.fans.setChecked(document.choices.fans)
        self._show_state(document, view)
        self._commands.refresh()

    def _look_again(self, document: Document, scene: Scene) -> None:
        from isometron.remarks.second_look import second_look

        self.strip.show_remarks(second_look(document, scene))

    @property
    def settled(self) -> bool:
        """Whether cards and second look show the document as it is."""
        return not self._settle.isActive()

    def settle(self) -> None:
        """Bring the cards up to date now."""
        self._settle.stop()
        self._show_cards()

    def _show_state(self, document: Document, view: str) -> None:
        sheet = document.sheet
        paper = sheet.format_name or self.tr("own size")
        lie = self.tr("lying") if sheet.lying else self.tr("upright")
        name = self.keeping.name
        if self.session.unsaved:
            saved = self.tr("not saved")
        elif self.session.saved_at:
            saved = self.tr("saved %s") % self.session.saved_at
        else:
            saved = ""
        title = f"{name} — {saved}" if saved else name
        self.state.setText(f"{title}     {view} · {paper} {lie} · {document.choices.unit}")
        self.setWindowTitle(f"{name}[*] — Isometron")
        self.setWindowModified(self.session.unsaved)

    # What the person does

    def open_tab(self, number: int) -> None:
        """Open one of the index tabs."""
        self._open_tab(number)
        self._show_cards()

    def _open_tab(self, number: int) -> None:
        self.rail.tabs[number].setChecked(True)
        card = self.card(number)
        self.stack.setCurrentWidget(card)
        if number != BUILD_TAB:
            self.board.show_stage(None)

    def card(self, number: int) -> EditCard:
        """The card of a tab, made when it is first opened."""
        if number not in self._cards:
            card = self._make_card(number)
            card.wanted.connect(self.session.edit)
            card.refused.connect(self.board.refuse)
            card.dragged.connect(self.session.drag)
            card.dropped.connect(self.session.drop)
            card.show_room(self.room)
            self.stack.addWidget(card)
            self._cards[number] = card
        return self._cards[number]

    def _make_card(self, number: int) -> EditCard:
        if number == 0:
            from isometron.ui.cards.eye.card import EyeCard

            return EyeCard(self.room)
        if number == 2:
            from isometron.ui.cards.rounds.card import RoundsCard

            rounds = RoundsCard(self.room)
            rounds.chosen.connect(self._choose_volume)
            rounds.bring_outline.connect(self.keeping.bring_outline)
            return rounds
        if number == BUILD_TAB:
            return self.walk.make_card()
        from isometron.ui.cards.volumes.card import VolumesCard

        card = VolumesCard(self.room)
        card.laying.connect(self.board.lay_edge)
        card.chosen.connect(self._choose_volume)
        self.board.laying_changed.connect(card.lay.setChecked)
        return card

    def choose(self, pick: Pick | None) -> None:
        """Read something on the board; its volume becomes the one in work."""
        self.pick = pick
        if pick is not None and pick.kind == "circle":
            self.session.edit(
                "choose",
                lambda d: ellipses.choose_circle(
                    select(d, pick.volume) if pick.volume not in d.chosen else d, pick.index
                ),
            )
        elif pick is not None and pick.volume not in self.session.document.chosen:
            self.session.edit("choose", lambda document: select(document, pick.volume))
        elif pick is not None:
            self.session.edit(
                "choose", lambda document: choosing.bring_forward(document, pick.volume)
            )
        else:
            self._show()

    def choose_besides(self, pick: Pick | None) -> None:
        """Choose one more volume, or let a chosen one off."""
        self.pick = None
        if pick is not None:
            self._choose_volume(pick.volume, besides=True)

    def begin_with(self, number: int) -> None:
        """Ask for a starter's numbers and put its volumes on the sheet."""
        from isometron.document.edits.starters import STARTERS, with_starter

        starter = STARTERS[number]
        values = self.keeping.asking.starter_values(
            starter, self.room, self.session.document.choices.unit
        )
        if values is not None:
            self.pick = None
            self.session.edit(
                f"{starter.name.lower()} starter", lambda d: with_starter(d, starter, values)
            )
            self.open_tab(1)

    def add_turned(self) -> None:
        """Put a cylinder on the ground and open its radii."""
        self.session.edit("add a cylinder", lambda d: rounding.add_round(d, "cylinder"))
        self.open_tab(2)

    def copy_volumes(self) -> None:
        """Copy the chosen volumes to the clipboard, as text that any sheet takes."""
        from isometron.files.sheet_file import volumes_as_text

        document = self.session.document
        clipboard = QApplication.clipboard()
        assert clipboard is not None
        clipboard.setText(volumes_as_text([document.volumes[i] for i in document.chosen]))

    def paste_volumes(self) -> None:
        """Paste copied volumes."""
        from isometron.files.sheet_file import volumes_from_text

        clipboard = QApplication.clipboard()
        assert clipboard is not None
        text = clipboard.text()
        self.session.edit("paste", lambda d: choosing.paste(d, volumes_from_text(text)))

    def toggle_nudging(self) -> None:
        """Arrow keys move volumes in true mm, or in mm on the paper."""
        self.board.truly = not self.board.truly

    def _choose_volume(self, index: int, besides: bool = False) -> None:
        self.pick = None
        choose = choosing.choose_also if besides else select
        self.session.edit("choose", lambda document: choose(document, index))

    def toggle_see_through(self) -> None:
        """See-through or solid."""
        on = not self.session.document.choices.see_through
        self.session.edit("see-through", lambda d: sheet_edits.show_see_through(d, on))

    def toggle_fans(self) -> None:
        """Construction fans on or off."""
        on = not self.session.document.choices.fans
        self.session.edit("fans", lambda d: sheet_edits.show_fans(d, on))

    def _show_place(self, remark: Remark) -> None:
        self.board.show_spot(remark.sheet_mm)

    def _cure(self, remedy: Remedy) -> None:
        self.session.edit(remedy.label.lower(), remedy.edit)

    def enter_room(self, room: Room) -> None:
        """Work in another room."""
        self.room = room
        self.settings.setValue("room", room.name)
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.setPalette(palette(room))
        self.setStyleSheet(style_sheet(room))
        cards: list[Card] = [self.plan_card, self.side_card, self.readings, *self._cards.values()]
        for card in cards:
            card.show_room(room)
        self.board.show_room(room)
        self.rail.show_room(room)
        self.strip.show_room(room)
        for view in (self.plan, self.side):
            view.room = room
            view.update()

    def show_keys(self) -> None:
        """The help page on handles and keys."""
        from isometron.ui.bench.help_pages import Page, keys_page

        Page(self, self.tr("Handles and keys"), keys_page()).exec()

    def show_about(self) -> None:
        """Version, licence and the caution."""
        from isometron.ui.bench.help_pages import Page, about_page

        Page(self, self.tr("About Isometron"), about_page()).exec()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is None:
            return
        if self.keeping.may_leave():
            self.walk.leave()
            event.accept()
        else:
            event.ignore()
