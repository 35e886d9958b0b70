"""The one column beside the board: the card of the place of work, under it the slip, and plan with
side elevation where they are wanted. Each scrolls in its own share; the borders are dragged."""

from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from isometron.ui.bench.place_table import PLACES, Lies, Place, number_of
from isometron.ui.board.plan import SideElevation, StationPlan
from isometron.ui.cards.pictures.slip import Slip
from isometron.ui.cards.slip.card import SlipCard
from isometron.ui.parts.card import Card, EditCard, Shown
from isometron.ui.parts.fold import Scroller
from isometron.ui.parts.paged_card import small_button
from isometron.ui.parts.shell import COLUMN_SHARES, COLUMN_WIDTH
from isometron.ui.parts.theme import GAP, scaled
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

LEAST_PLAN, LEAST_SIDE = 84, 48
"""Heights plan and side elevation have at least, px."""


ROOM_FOR_ALL = 560
"""In a lower column than this, px, plan and side elevation make room for the slip."""

LOW_SHARES = (52, 48)
"""How such a column is shared out, so that the card of the place is whole."""


class Column(QSplitter):
    """Card, slip and plan, one below the other."""

    def __init__(self, wishes: Wishes, settings: QSettings) -> None:
        super().__init__(Qt.Orientation.Vertical)
        self.wishes, self._settings = wishes, settings
        self.setAccessibleName(_("Column"))
        self.setChildrenCollapsible(False)
        self.setHandleWidth(GAP)
        self.setFixedWidth(scaled(COLUMN_WIDTH))
        self.setContentsMargins(0, GAP, 0, GAP - 3)
        self.cards: dict[tuple[str, int], EditCard] = {}
        self._holders: dict[tuple[str, int], QWidget] = {}
        self._leaf: dict[str, int] = {}
        self.stack = QStackedWidget()
        self.slip, self.picture_slip = SlipCard(wishes), Slip(wishes)
        self.slips = QStackedWidget()
        for slip in (self.slip, self.picture_slip):
            self.slips.addWidget(Scroller(slip, scaled(COLUMN_WIDTH)))
        self.plan_box = self._plan_box()
        self._wants_plan = self._called = self._low = False
        self._place: Place = PLACES[0]
        for part in (self.stack, self.slips, self.plan_box):
            self.addWidget(part)
        self._share_out()
        self.splitterMoved.connect(lambda _at, _number: self._keep())

    # Shares

    def _share_out(self) -> None:
        kept = str(self._settings.value("column shares", ""))
        parts = [int(word) for word in kept.split() if word.isdigit()]
        if len(parts) != len(COLUMN_SHARES) or not any(parts):
            low = 0 < self.height() < scaled(ROOM_FOR_ALL)
            parts = list(LOW_SHARES if low else COLUMN_SHARES)
        self.setStretchFactor(0, parts[0])
        self.setStretchFactor(1, parts[1])
        self.setStretchFactor(2, 0)
        plan = self.plan_box.minimumSizeHint().height()
        self.setSizes([part * 10 for part in parts] + [plan])

    def _keep(self) -> None:
        sizes = self.sizes()
        both = sum(sizes[:2])
        if both and self.slips.isVisible():
            share = round(100 * sizes[0] / both)
            self._settings.setValue("column shares", f"{share} {100 - share}")

    # Plan and side elevation

    def _plan_box(self) -> QWidget:
        wishes = self.wishes
        self.plan, self.side = StationPlan(wishes), SideElevation(wishes)
        self.plan_card = Card(wishes, _("Station plan"))
        self.plan_card.note.setText(_("from above"))
        self.plan.setMinimumHeight(scaled(LEAST_PLAN))
        self.plan_card.body.addWidget(self.plan, 2)
        self.side_card = Card(wishes, _("Side"))
        self.side.setMinimumHeight(scaled(LEAST_SIDE))
        self.side_card.body.addWidget(self.side, 1)
        box = QWidget()
        column = QVBoxLayout(box)
        column.setSpacing(GAP - 3)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.plan_card, 5)
        column.addWidget(self.side_card, 3)
        return box

    def want_plan(self, wanted: bool) -> None:
        """Show plan and side elevation at every place of work, or where they belong only."""
        self._wants_plan = wanted
        self._show_plan()

    @property
    def plan_wanted(self) -> bool:
        """Whether plan and side elevation show at every place."""
        return self._wants_plan

    def _show_plan(self) -> None:
        shown = self._place.plan or (self._wants_plan and self._place.slip is not Lies.NEVER)
        room = self.height() >= scaled(ROOM_FOR_ALL) or self.slips.isHidden()
        self.plan_box.setVisible(shown and room)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        low = self.height() < scaled(ROOM_FOR_ALL)
        if low != self._low:
            self._low = low
            self._share_out()
        self._show_plan()

    # Places

    def leaf_of(self, key: str) -> int:
        """Which card of a place is open."""
        return self._leaf.get(key, 0)

    def card(self, key: str, leaf: int | None = None) -> EditCard:
        """A card of a place, made when it is first opened."""
        at = key, self.leaf_of(key) if leaf is None else leaf
        if at not in self.cards:
            made = PLACES[number_of(key)].leaves[at[1]].make(self.wishes)
            self.cards[at] = made
            held = Scroller(made, scaled(COLUMN_WIDTH))
            self._holders[at] = held
            self.stack.addWidget(self._with_leaves(key, at[1], held))
        return self.cards[at]

    def _with_leaves(self, key: str, leaf: int, held: QWidget) -> QWidget:
        """A card below the buttons that turn to the others of its place."""
        place = PLACES[number_of(key)]
        if len(place.leaves) < 2:
            return held
        group = QButtonGroup(held)
        row = QHBoxLayout()
        row.setSpacing(4)
        for number, one in enumerate(place.leaves):
            button: QPushButton = small_button(one.name, place.tip)
            button.setCheckable(True)
            button.setChecked(number == leaf)
            group.addButton(button)
            button.clicked.connect(lambda _on=False, n=number: self._turn(key, n))
            stays = number == leaf
            button.clicked.connect(lambda _on=False, b=button, on=stays: b.setChecked(on))
            row.addWidget(button)
        both = QWidget()
        column = QVBoxLayout(both)
        column.setContentsMargins(0, 0, 3, 0)
        column.setSpacing(4)
        column.addLayout(row)
        column.addWidget(held, 1)
        return both

    def _turn(self, key: str, leaf: int) -> None:
        self._leaf[key] = leaf
        self.wishes.open_place(key)

    def turn_to(self, key: str, leaf: int) -> None:
        """Which card of a place is open from now on."""
        self._leaf[key] = leaf

    def open(self, key: str) -> EditCard:
        """Open a place; gives its card."""
        self._place, self._called = PLACES[number_of(key)], False
        card = self.card(key)
        holder: QWidget = self._holders[key, self.leaf_of(key)]
        while holder.parentWidget() is not None and self.stack.indexOf(holder) < 0:
            holder = holder.parentWidget()  # type: ignore[assignment]
        self.stack.setCurrentWidget(holder)
        self._show_slip(picked=False)
        self.slips.setCurrentIndex(int(card.pictured))
        self._show_plan()
        return card

    def show_slip(self) -> None:
        """Show the slip of the sheet, whatever is picked."""
        self.slips.setVisible(True)
        self._called = True
        self._show_plan()

    def _show_slip(self, *, picked: bool) -> None:
        lies = self._place.slip
        self.slips.setVisible(
            lies is Lies.ALWAYS or (lies is Lies.PICKED and (picked or self._called))
        )
        self._show_plan()

    def show_document(self, shown: Shown) -> None:
        """Show a document on the slip, and on plan and side elevation where they are seen."""
        self._show_slip(picked=shown.picked is not None)
        sheet = self.slips.isVisibleTo(self) and self.slips.currentIndex() == 0
        if sheet and not self.wishes.dragging:
            self.slip.show_document(shown)
        if self.slips.currentIndex() == 1 and not self.wishes.dragging:
            self.picture_slip.show_document(shown)
        self.plan.show_document(shown.document, shown.scene)
        self.side.show_document(shown.document, shown.scene)
        self.side_card.note.setText(self.side.words(shown.document))

    def begin_anew(self) -> list[EditCard]:
        """Cards anew, so that nothing typed for the sheet before lives on; gives those that go."""
        gone = list(self.cards.values())
        while self.stack.count():
            held = self.stack.widget(0)
            assert held is not None
            self.stack.removeWidget(held)
            held.deleteLater()
        self.cards, self._holders = {}, {}
        self.slip.begin_anew()
        return gone
