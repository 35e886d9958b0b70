"""Walking through the build order on the bench: stages on the board, steps by keys, following on
paper."""

from typing import TYPE_CHECKING

from isometron.ui.board.stage_view import stage_rectangle

if TYPE_CHECKING:
    from isometron.construction.stages import Stages
    from isometron.ui.bench.window import Bench
    from isometron.ui.cards.building.card import BuildCard
    from isometron.ui.cards.building.follow_page import FollowPage

BUILD_TAB = 3


class BuildWalk:
    """Carries the Build order card's steps to the board of a bench and to the follow page."""

    page: "FollowPage | None" = None

    def __init__(self, bench: "Bench") -> None:
        self._bench = bench

    def make_card(self) -> "BuildCard":
        """The card of the tab, joined to the board."""
        from isometron.ui.cards.building.card import BuildCard

        card = BuildCard(self._bench.room)
        card.stage_wanted.connect(self._show_stage)
        card.follow_wanted.connect(self.follow)
        self._bench.board.line_picked.connect(card.choose_line)
        return card

    @property
    def open(self) -> bool:
        """Whether the Build order tab is open."""
        return self._bench.rail.tabs[BUILD_TAB].isChecked()

    def _show_stage(self, stages: "Stages | None", number: int) -> None:
        shown = None if stages is None else stages.after(number, stage_rectangle(stages.sheet))
        self._bench.board.show_stage(shown if self.open else None)

    def _card(self) -> "BuildCard":
        from isometron.ui.cards.building.card import BuildCard

        if not self.open:
            self._bench.open_tab(BUILD_TAB)
        card = self._bench.card(BUILD_TAB)
        assert isinstance(card, BuildCard)
        return card

    def turn(self, by: int) -> None:
        """The next step of the order (1) or the one before (−1)."""
        self._card().turn(by)

    def tick(self) -> None:
        """Tick the step in work off and go to the next."""
        self._card().tick_and_turn()

    def follow(self) -> None:
        """The order full screen, step by step."""
        from isometron.document.edits import building_edits
        from isometron.ui.cards.building.follow_page import FollowPage

        card, session = self._card(), self._bench.session
        if card.stages is None:
            return
        number = card.steps.number or 0
        self.page = FollowPage(self._bench.room, session.document, card.stages, number)
        self.page.ticked.connect(
            lambda key: session.edit("tick", lambda d: building_edits.tick(d, key, True))
        )
        self.page.left.connect(self._come_back)
        self.page.showFullScreen()

    def _come_back(self, number: int) -> None:
        self._bench.settle()
        card = self._card()
        if card.order is not None:
            card.steps.choose_key(card.order.steps[number].key)

    def leave(self) -> None:
        """Put the follow page away with the bench."""
        if self.page is not None and self.page.isVisible():
            self.page.close()
