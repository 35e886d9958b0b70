"""The Build order tab: method, steps in chapters with ticks, and what is done with them."""

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from isometron.construction.moves import StepOff
from isometron.construction.stages import Stages
from isometron.construction.steps import Order, OrderError
from isometron.construction.telling import Teller
from isometron.document.building import METHODS, REACHES
from isometron.document.document import Document
from isometron.document.edits import building_edits
from isometron.document.edits.places.by_eye import place_by_eye
from isometron.files.building.order_words import built, hand_words
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import write_length
from isometron.ui.cards.building.follow_page import FollowPage
from isometron.ui.cards.building.kit_page import KitPage
from isometron.ui.cards.building.step_list import StepList
from isometron.ui.cards.building.writing import Written, order_writing
from isometron.ui.parts.card import EditCard, Shown, soft_label
from isometron.ui.parts.fields import Choice, LengthField, TextField
from isometron.ui.parts.paged_card import small_button
from isometron.ui.parts.plain import Label, scrolled
from isometron.ui.parts.theme import scaled
from isometron.ui.parts.wishes import Edit, Wishes
from isometron.words import _, many, quoted

MOVES_HIGH = 96
"""Room for the moves of a step, px; more are scrolled."""
"""Moves of a step told under the list; the booklet and the text tell all."""


BEGINNINGS = (_("points first"), _("station first"))


class BuildCard(EditCard):
    """The card of the Build order tab; it wishes for stages on the board."""

    shows_stages = True

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("Build order"))
        self.order: Order | None = None
        self.page: FollowPage | None = None
        self.stages: Stages | None = None
        self._document: Document | None = None
        self._shown: Shown | None = None
        self._gone: frozenset[str] = frozenset()
        self._writing = order_writing(self, self._take)
        self.method = Choice(
            _("method"), _("How lengths in depth are found."), [_(method) for method in METHODS]
        )
        self.method.activated.connect(
            lambda n: self._do(_("method"), lambda d: building_edits.build_by(d, METHODS[n], None))
        )
        self.first = Choice(_("what is laid first"), _("What is laid first."), list(BEGINNINGS))
        self.first.activated.connect(
            lambda n: self._do(_("beginning"), lambda d: building_edits.build_by(d, None, n == 0))
        )
        choices = QHBoxLayout()
        choices.setSpacing(4)
        choices.addWidget(self.method)
        choices.addWidget(self.first)
        self.body.addLayout(choices)
        self.reach = Choice(
            _("how much is constructed"),
            _("What the finished drawing shows, what is hidden too, or the boxes alone."),
            [_(words) for words in REACHES],
        )
        self.reach.activated.connect(
            lambda n: self._do(_("reach"), lambda d: building_edits.reach(d, REACHES[n]))
        )
        self.table = small_button(
            _("Kit"), _("What lies on the table, and how steady the hand is.")
        )
        self.table.setCheckable(True)
        self.table.toggled.connect(self._turn_to_kit)
        second = QHBoxLayout()
        second.setSpacing(4)
        second.addWidget(self.reach, 1)
        second.addWidget(self.table)
        self.body.addLayout(second)
        self.kit: KitPage | None = None
        self.stack = QStackedWidget()
        self.stack.addWidget(self._reading(wishes))
        self.body.addWidget(self.stack, 1)

    def _reading(self, wishes: Wishes) -> QWidget:
        """What the order is, its steps, and what is done with them."""
        reading = QWidget()
        self.column = QVBoxLayout(reading)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(4)
        self.words = soft_label("")
        self.words.setWordWrap(True)
        self.column.addWidget(self.words)
        self.word = TextField(
            _("find in the steps"),
            _("A word of a step or a move: Return goes to the next with it."),
        )
        self.word.setPlaceholderText(_("find in the steps"))
        self.word.returnPressed.connect(self.find_next)
        self.column.addWidget(self.word)
        self.steps = StepList(wishes)
        self.steps.turned.connect(self._show_step)
        self.steps.ticked.connect(
            lambda key, done: self._do(_("tick"), lambda d: building_edits.tick(d, key, done))
        )
        self.column.addWidget(self.steps, 1)
        self.moves = Label("")
        self.moves.setWordWrap(True)
        self.moves.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.pane = scrolled(self.moves, _("Moves of this step"))
        self.pane.setFixedHeight(scaled(MOVES_HIGH))
        self.column.addWidget(self.pane)
        self.came = LengthField(
            _("it came at"),
            _("What you measured: the volume takes the length it was drawn at."),
        )
        self.came.refused.connect(wishes.refuse)
        self.came.typed.connect(self._came_at)
        self.answer = QWidget()
        answer = QHBoxLayout(self.answer)
        answer.setContentsMargins(0, 0, 0, 0)
        answer.addWidget(soft_label(_("it came at")))
        answer.addWidget(self.came, 1)
        self.answer.hide()
        self.column.addWidget(self.answer)
        self._buttons()
        return reading

    def _turn_to_kit(self, on: bool) -> None:
        if on and self.kit is None:
            self.kit = KitPage(self.wishes)
            self.stack.addWidget(self.kit)
        self.stack.setCurrentIndex(int(on))
        if self._shown is not None:
            self.show_document(self._shown)

    def find_next(self) -> None:
        """Turn to the next step that has the word looked for, in itself or in its moves."""
        word = self.word.text().strip().casefold()
        if self.order is None or self._document is None or not word:
            return
        teller = Teller(self.order, self._document.choices.unit)
        count, hidden = len(self.order.steps), self._document.building.hidden
        begin = self.steps.number if self.steps.number is not None else -1
        for number in ((begin + 1 + i) % count for i in range(count)):
            step = self.order.steps[number]
            told = " ".join([step.text, *teller.step(step)]).casefold()
            if word in told and step.key not in hidden:
                self.steps.choose_key(step.key)
                return
        self.wishes.refuse(_("No step speaks of “{word}”.").format(word=quoted(self.word.text())))

    def _came_at(self, drawn_mm: float) -> None:
        """A length placed by eye has been measured."""
        key = self.steps.current_key()
        closing = None if self.order is None or key is None else self.order.closings.get(key)
        if closing is not None:
            self._do(_("take over a measure"), lambda d: place_by_eye(d, closing, drawn_mm))

    def _buttons(self) -> None:
        wishes = self.wishes
        self.back = self._button(_("Back"), _("The step before (F7)."), lambda: self.turn(-1))
        self.forward = self._button(_("Forward"), _("The next step (F8)."), lambda: self.turn(1))
        self.done = self._button(
            _("Done, on"), _("Tick this step and go to the next (F9)."), self.tick_and_turn
        )
        self.hide_step = self._button(
            _("Hide"), _("Leave this step out of reading; its lines stay."), self._hide
        )
        self.earlier = self._button(
            _("Chapter up"), _("Move this chapter before the one above."), lambda: self._shift(-1)
        )
        self.usual = self._button(
            _("As it was"), _("Show all steps, chapters in their usual order."), self._usual
        )
        self.follow = self._button(
            _("Follow on paper"),
            _("The steps full screen, in large type (Ctrl+F8)."),
            lambda: wishes.do("follow"),
        )
        for buttons in (
            (self.back, self.forward, self.done),
            (self.hide_step, self.earlier, self.usual),
            (self.follow,),
        ):
            row = QHBoxLayout()
            row.setSpacing(4)
            for button in buttons:
                row.addWidget(button)
            self.column.addLayout(row)

    def _button(self, text: str, tip: str, act: Callable[[], object]) -> QPushButton:
        button = small_button(text, tip)
        button.clicked.connect(lambda _=False: act())
        return button

    def _do(self, name: str, edit: Edit) -> None:
        self.wishes.edit(name, edit)

    # Steps

    def turn(self, step: int) -> None:
        """The next step (1), or the one before (−1)."""
        self.finish()
        self.steps.move_on(step)

    def tick_and_turn(self) -> None:
        """Tick the chosen step off and go to the next."""
        self.finish()
        key = self.steps.current_key()
        if key is not None:
            self._do(_("tick"), lambda d: building_edits.tick(d, key, True))
            self.steps.move_on(1)

    def follow_on_paper(self) -> None:
        """The order full screen, step by step."""
        self.finish()
        if self.stages is None or self._document is None:
            return
        number = self.steps.number or 0
        self.page = FollowPage(self.wishes.room, self._document, self.stages, number)
        self.page.ticked.connect(
            lambda key: self._do(_("tick"), lambda d: building_edits.tick(d, key, True))
        )
        self.page.left.connect(self._come_back)
        self.page.showFullScreen()

    def _come_back(self, number: int) -> None:
        self.wishes.settle()
        if self.order is not None:
            self.steps.choose_key(self.order.steps[number].key)

    def leave(self) -> None:
        """Put the follow page away."""
        self._writing.drop()
        if self.page is not None and self.page.isVisible():
            self.page.close()

    def choose_line(self, name: str) -> None:
        """The step that draws a line or marks a point."""
        if self.order is not None:
            self.steps.choose_key(self.order.step_of(name))

    def _hide(self) -> None:
        key = self.steps.current_key()
        if key is not None:
            self.steps.move_on(1)
            self._do(_("hide a step"), lambda d: building_edits.hide_step(d, key, True))

    def _usual(self) -> None:
        self._do(
            _("usual order"), lambda d: building_edits.arrange(building_edits.show_all_steps(d), ())
        )

    def _shift(self, by: int) -> None:
        """The chapter of the chosen step moved, when the geometry allows."""
        number = self.steps.number
        if self.order is None or number is None:
            return
        keys = [chapter.key for chapter in self.order.chapters]
        counts = [len(chapter.steps) for chapter in self.order.chapters]
        at = next(i for i in range(len(keys)) if number < sum(counts[: i + 1]))
        to = at + by
        if not 0 <= to < len(keys):
            return
        keys[at], keys[to] = keys[to], keys[at]
        self._do(_("move a chapter"), lambda d: _arranged(d, tuple(keys)))

    # What is shown

    def show_document(self, shown: Shown) -> None:
        document, self._shown = shown.document, shown
        if self.kit is not None and self.table.isChecked():
            self.kit.show_document(shown)
        if self.wishes.dragging:
            return  # an order is written when the hand has come to rest
        fresh = self._document is None or not _same_order(self._document, document)
        ticks = self._document is None or self._document.building != document.building
        self._document = document
        self.method.setCurrentIndex(METHODS.index(document.building.method))
        self.reach.setCurrentIndex(REACHES.index(document.building.reach))
        self.first.setCurrentIndex(0 if document.building.points_first else 1)
        if fresh:
            self._writing.give(document)
            if self._writing.working:
                self._show_none(_("Writing the order…"))
        if not self._writing.working:
            self._show_steps(document, again=fresh or ticks)

    def _show_steps(self, document: Document, *, again: bool) -> None:
        """The steps of the order that is written."""
        if again:
            self.steps.show_order(document, self.order)
        number = self.steps.number
        if number is not None:
            self._show_step(number)

    def _show_none(self, words: str) -> None:
        """No order, and why."""
        self.order = self.stages = None
        self.words.setText(words)
        self.moves.setText("")
        self.note.setText("")
        self.wishes.show_stage(None, 0)

    def finish(self) -> None:
        self._writing.finish()

    @property
    def working(self) -> bool:
        return self._writing.working

    def _take(self, document: Document, written: Written) -> None:
        """An order has been written."""
        if isinstance(written, IsometronError):
            self._show_none(str(written))
        else:
            self.stages, self.order = written, written.order
            self._tell_bounds(written.order, document)
            self._tell_gone(written.order, document)
        self._show_steps(self._document or document, again=True)

    def _tell_gone(self, order: Order, document: Document) -> None:
        """Say once which ticks stand for steps that are no longer there."""
        gone = document.building.done - {step.key for step in order.steps}
        if gone and gone != self._gone:
            self.wishes.refuse(
                many(
                    "{count} tick stood for a step that is no longer there.",
                    "{count} ticks stood for steps that are no longer there.",
                    len(gone),
                ).format(count=len(gone))
            )
        self._gone = gone

    def _tell_bounds(self, order: Order, document: Document) -> None:
        """How many lines, and how exact."""
        unit = document.choices.unit
        self.words.setText(
            many(
                "{n} line. Rounded to the ruler, {worst} lies within {length}. {hand}",
                "{n} lines. Rounded to the ruler, {worst} lies within {length}. {hand}",
                order.lines_drawn,
            ).format(
                hand=hand_words(order, unit),
                n=order.lines_drawn,
                worst=order.worst,
                length=write_length(order.worst_mm, unit),
            )
        )

    def _show_step(self, number: int) -> None:
        if self.order is None or self._document is None:
            return
        step = self.order.steps[number]
        told = Teller(self.order, self._document.choices.unit).step(step)
        self.moves.setText("\n".join(told))
        self.pane.setVisible(bool(told))  # the list takes the room of moves there are not
        self.pane.verticalScrollBar().setValue(0)  # type: ignore[union-attr]
        closing = self.order.closings.get(step.key)
        self.answer.setVisible(closing is not None)
        self.came.show_unit(self._document.choices.unit)
        self.came.show_value(next((abs(m.mm) for m in step.moves if isinstance(m, StepOff)), None))
        done = sum(1 for s in self.order.steps if s.key in self._document.building.done)
        count = len(self.order.steps)
        self.note.setText(
            _("step {number} of {count}, {done} done").format(
                number=number + 1, count=count, done=done
            )
        )
        self.wishes.show_stage(self.stages, number)


def _same_order(one: Document, other: Document) -> bool:
    """Whether two documents give the same order."""
    a, b = one.building, other.building
    mine, theirs = ((c.method, c.points_first, c.chapters, c.reach) for c in (a, b))
    way = mine == theirs
    return way and (
        one.volumes,
        one.eye,
        one.sheet,
        one.choices,
        one.aids,
        one.kit,
    ) == (
        other.volumes,
        other.eye,
        other.sheet,
        other.choices,
        other.aids,
        other.kit,
    )


def _arranged(document: Document, keys: tuple[str, ...]) -> Document:
    """Chapters in another sequence, tried before it is kept."""
    changed = building_edits.arrange(document, keys)
    if tuple(chapter.key for chapter in built(changed).chapters) != keys:
        raise OrderError(_("The finish stays last: it rubs out what the others draw."))
    return changed
