"""The Practice tab: a series of exercises, one after the other."""

import time
from functools import partial

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from isometron.construction.order import order_of
from isometron.construction.stages import Stages
from isometron.perspective.errors import IsometronError
from isometron.practice.asks import Answer, Number, Stroke
from isometron.practice.drill import Exercise, drills
from isometron.practice.log import Log, LogError
from isometron.practice.paper.reading import OnPaper, told_of
from isometron.practice.paper.typed import in_measures, places_in
from isometron.practice.planning import in_words, plan_of
from isometron.practice.series import Person, Series, entry_of, person_of
from isometron.ui.cards.building.follow_page import FollowPage
from isometron.ui.cards.practice.paper_rows import PaperRows
from isometron.ui.cards.practice.sheet import PracticeSheet
from isometron.ui.parts.card import EditCard, Shown, soft_label
from isometron.ui.parts.fields import Choice, RatioField, TextField
from isometron.ui.parts.plain import told_button
from isometron.ui.parts.wishes import Wishes
from isometron.words import _

NEEDED = _("what I need most")
LIMITS_S = (60, 30, 15)
PAPER_SEEDS = 90_000
REMEMBERED = 4000
"""So many of the last answers say what is known of a person: about two years of series."""


class PracticeCard(EditCard):
    """Which drill, the answer where it is no place on the sheet, and what is said."""

    def __init__(self, wishes: Wishes, log: Log | None = None) -> None:
        super().__init__(wishes, _("Practice"))
        self.log = log or Log()
        self.person = self._known()
        self.series: Series | None = None
        self.exercise: Exercise | None = None
        self._began = 0.0
        self._typed: float | None = None
        self._helped = ""
        self.found: list[OnPaper] = []
        self.order: FollowPage | None = None
        self._time = QTimer(self)
        self._time.setSingleShot(True)
        self._time.timeout.connect(self.time_over)
        self.sheet = PracticeSheet(wishes)
        self.own_board = self.sheet
        self.sheet.gallery.chosen.connect(self._begin_with)
        self.sheet.wants.connect(self.go_on)
        self.sheet.drawn.connect(self.go_on)
        self.sheet.picked.connect(self._chosen)
        self.sheet.skips.connect(self.skip_it)
        self._lay_out()
        self._show()

    def _known(self) -> Person:
        """The person as the log knows them."""
        try:
            return person_of(self.log.latest(REMEMBERED, kind="drill"))
        except LogError:
            return Person()

    def _lay_out(self) -> None:
        tip = _("One drill, or those in which you err the same way.")
        titles = [NEEDED, *(drill.title for drill in drills().values())]
        self.which = Choice(_("drill"), tip, titles)
        self.body.addWidget(self.which)
        tip = _("What stands on the sheet is judged when the time is over.")
        self.limit = Choice(_("time for each"), tip, [_("no time limit"), *map(_in_time, LIMITS_S)])
        self.body.addWidget(self.limit)
        tip = _("Ten exercises: about five minutes.")
        self.begin = told_button(_("Begin a series"), tip, self.begin_series)
        self.body.addWidget(self.begin)
        self._lay_answers()
        self.says = soft_label("")
        self.says.setWordWrap(True)
        self.body.addWidget(self.says)
        self.section(_("On paper"))
        self.paper = PaperRows(self.wishes, self._coming)
        self.paper.brought.connect(self.begin_brought)
        self.paper.named.connect(self.begin_named)
        self.paper.says.connect(self._say)
        self.body.addWidget(self.paper)
        self.body.addStretch(1)
        self._lay_log()

    def _lay_answers(self) -> None:
        """What is answered on the card, and the help."""
        self.number = RatioField(_("answer"), _("Type your answer and press Return."))
        self.number.typed.connect(self._type)
        self.number.refused.connect(self._say)
        self.number.returnPressed.connect(lambda: QTimer.singleShot(0, self._type_done))
        self.unit = soft_label("")
        self._row((self.number, 2), (self.unit, 1))
        self.choices = QVBoxLayout()
        self.choices.setSpacing(4)
        self.body.addLayout(self.choices)
        tip = _("Judge it (Return on the sheet).")
        self.answer = told_button(_("Answer"), tip, self.go_on)
        tip = _("Leave this one unanswered: nothing is kept of it (Shift+Return on the sheet).")
        self.skip = told_button(_("Skip"), tip, self.skip_it)
        self._row((self.answer, 2), (self.skip, 1))
        tip = _("Light lines, or the whole way. Answers with a help say nothing of your eye.")
        self.help = Choice(_("help"), tip, [])
        self.help.activated.connect(self._help)
        self.body.addWidget(self.help)
        tip = _("Each point as mm right and up from the lower left corner: 41.5 20; 90 18.5.")
        self.measures = TextField(_("measures"), tip)
        self.measures.setPlaceholderText("41.5 20; 90 18.5")
        self.measures.typed.connect(self._measured)
        self.sheet.moved.connect(self._show_measures)
        self.counted = soft_label(_("mm right, up"))
        self._row((self.counted, 0), (self.measures, 1))

    def _lay_log(self) -> None:
        """Whether a log may be kept, asked once."""
        self.asks = soft_label(_("May Isometron keep a log of your answers on this machine?"))
        self.asks.setWordWrap(True)
        self.body.addWidget(self.asks)
        tip = _("Keep answers in a file on this machine alone.")
        self.allow = told_button(_("Keep a log"), tip, partial(self._allow, True))
        self.refuse = told_button(_("No log"), _("Keep nothing."), partial(self._allow, False))
        self._row((self.allow, 1), (self.refuse, 1))

    def _row(self, *parts: tuple[QWidget, int]) -> None:
        """Widgets side by side, by their shares."""
        row = QHBoxLayout()
        for widget, share in parts:
            row.addWidget(widget, share)
        self.body.addLayout(row)

    # A series

    def begin_series(self) -> None:
        """Ten exercises from here."""
        self._begin(Series(self.person, time.time_ns() % 2**31, self._key))

    def _begin_with(self, number: int) -> None:
        """A series of one drill."""
        self.which.setCurrentIndex(number + 1)
        self.begin_series()
        self.sheet.setFocus()

    def begin_named(self, exercises: list[Exercise]) -> None:
        """The exercises of a sheet of paper, answered by typing measures."""
        self._begin(Series(self.person, 0, given=exercises))

    def begin_brought(self, found: list[OnPaper]) -> None:
        """The exercises of a photographed page, with what was found of their answers."""
        self._begin(Series(self.person, 0, given=[one.exercise for one in found]), found)

    def _begin(self, series: Series, found: list[OnPaper] | None = None) -> None:
        self.series, self.found = series, found or []
        self._next()

    @property
    def _key(self) -> str | None:
        """The drill that is chosen; None for those that are needed most."""
        return [None, *drills()][self.which.currentIndex()]

    def _coming(self, count: int) -> list[Exercise]:
        """Exercises for a sheet of paper, their seeds short enough to be typed."""
        return Series(self.person, time.time_ns() % PAPER_SEEDS, self._key).ahead(count)

    def _next(self) -> None:
        assert self.series is not None
        self.exercise = self.series.exercise()
        self._began, self._typed, self._helped = time.monotonic(), None, ""
        self.sheet.show_exercise(self.exercise)
        if self.found:
            one = self.found[self.series.number]
            self.sheet.show_found(one.answer, one.picture)
        self.help.clear()
        self.help.addItems([_("no help"), *self.exercise.helps])
        self._show()
        self._show_measures()
        (self.number if isinstance(self.exercise.asks, Number) else self.sheet).setFocus()
        if self.limit.currentIndex() and not self.series.given:
            self._time.start(1000 * LIMITS_S[self.limit.currentIndex() - 1])

    def time_over(self) -> None:
        """The time for the exercise is over: what stands on the sheet is the answer."""
        if self.exercise is None or self.sheet.verdict is not None or not self.sheet.isVisible():
            return
        if self.sheet.places or len(self.sheet.stroke) > 1:
            self._judge(self.sheet.answer)
        self.says.setText(f"{_('Time is over.')} {self.says.text()}".strip())

    def go_on(self) -> None:
        """Judge what stands on the sheet, or take the next exercise."""
        if self.exercise is None or self.series is None:
            self.begin_series()
        elif self.sheet.verdict is None:
            if isinstance(self.exercise.asks, Number):
                if self._typed is None:  # nothing is answered that was not typed
                    self.number.setFocus()
                else:
                    self._judge(Answer(number=self._typed))
            elif self.exercise.asks.by_hand:  # a choice is answered on the card
                self._judge(self.sheet.answer)
        else:
            self._next_or_end()

    def _next_or_end(self) -> None:
        assert self.series is not None
        if not self.series.over:
            self._next()
            return
        self.series, self.exercise = None, None
        self.sheet.show_exercise(None)
        self._show()

    def skip_it(self) -> None:
        """Leave the exercise unanswered and take the next."""
        if self.exercise is None or self.series is None or self.sheet.verdict is not None:
            return
        self._time.stop()
        self.series.skip()
        told = self._summary(self.series)
        self._next_or_end()
        if told:
            self.says.setText(told)

    def _help(self, number: int) -> None:
        """Show a help: light lines on the sheet, or the build order of this exercise."""
        if self.exercise is None or self.sheet.verdict is not None:
            return
        aids = self.exercise.aids
        self.sheet.show_aid(aids[number - 1] if 0 < number <= len(aids) else None)
        if number:
            self._helped = self.help.itemText(number)
        if number > len(aids) and self.exercise.framework is not None:
            document = self.exercise.framework
            try:
                stages = Stages(order_of(document), document.sheet)
            except IsometronError as error:
                self.says.setText(str(error))
                return
            self.order = FollowPage(self.wishes.room, document, stages, 0)
            self.order.showFullScreen()

    def _measured(self, text: str) -> None:
        """Places that were typed: the points of the answer, or the ends of its stroke."""
        if self.exercise is None or self.sheet.verdict is not None:
            return
        try:
            asks = self.exercise.asks
            count = None if isinstance(asks, Stroke) else len(asks.held)
            self.sheet.set_places(places_in(text, count))
        except IsometronError as error:
            self.says.setText(str(error))
        else:
            self._show()
        self._show_measures()

    def _show_measures(self) -> None:
        places = self.sheet.stroke if self.sheet.stroke else self.sheet.places
        ends = [places[0], places[-1]] if self.sheet.stroke else places
        self.measures.show_text(in_measures(ends))

    def _type(self, value: float) -> None:
        self._typed = value
        self.number.show_value(value)

    def _say(self, words: str) -> None:
        self.says.setText(words)

    def _type_done(self) -> None:
        """Return in the field: what stands there is the answer, unless it is no number."""
        if not self.number.property("wrong") and self.sheet.verdict is None:
            self.go_on()

    def _chosen(self, number: int) -> None:
        if self.exercise is not None and self.sheet.verdict is None:
            self._judge(Answer(choice=number))

    def _judge(self, answer: Answer) -> None:
        assert self.series is not None and self.exercise is not None
        on_paper = bool(self.series.given)
        seconds = 0.0 if on_paper else time.monotonic() - self._began
        try:
            done = self.series.answer(self.exercise, answer, seconds=seconds, helped=self._helped)
        except IsometronError as error:
            self.says.setText(str(error))
            return
        self._time.stop()
        self.sheet.show_verdict(done.verdict)
        self._show()
        try:
            self.log.add(entry_of(done, self.person))
        except LogError as error:
            self.says.setText(f"{self.says.text()} {error}")
        self.sheet.setFocus()

    def _allow(self, yes: bool) -> None:
        try:
            self.log.allow(yes)
        except LogError as error:
            self.says.setText(str(error))
        self._show()

    # What is shown

    def show_document(self, shown: Shown) -> None:
        """Practice stands beside the sheet: nothing of it shows here."""

    def _show(self) -> None:
        exercise, series, verdict = self.exercise, self.series, self.sheet.verdict
        going = exercise is not None and verdict is None
        asks = exercise.asks if going and exercise is not None else None
        typed = isinstance(asks, Number)
        self.number.setVisible(typed)
        self.unit.setVisible(typed)
        if isinstance(asks, Number):
            self.number.show_value(asks.first)
            self.unit.setText(asks.unit.strip() or _("heights"))
        self._show_choices([] if asks is None else asks.lettered)
        by_hand = asks is not None and asks.by_hand
        self.counted.setVisible(by_hand)
        self.measures.setVisible(by_hand)
        drawn = by_hand and (not isinstance(asks, Stroke) or len(self.sheet.stroke) > 1)
        self.answer.setVisible(drawn or typed or verdict is not None)
        over = series is not None and series.over
        words = _("Answer") if verdict is None else _("End the series") if over else _("Next")
        self.answer.setText(words)
        self.skip.setVisible(going)
        self.help.setVisible(going and exercise is not None and bool(exercise.helps))
        self.note.setText(
            ""
            if series is None
            else f"{min(series.stage + going, series.length)} / {series.length}"
        )
        self.says.setText(self._told())
        for widget in (self.asks, self.allow, self.refuse):
            widget.setVisible(self.log.asks)

    def _told(self) -> str:
        series, verdict = self.series, self.sheet.verdict
        if series is None:
            about = _("You are told by how much you miss and which way, never a score.")
            planned = in_words(plan_of(self.person)) if self.person.errors else ""
            return f"{about}\n{planned}".strip()
        if verdict is None:
            return told_of(self.found[series.number]) if self.found else ""
        if not series.over:
            return verdict.sentence
        return f"{verdict.sentence}.\n{self._summary(series)}"

    def _summary(self, series: Series) -> str:
        """The series in words, a sentence on each line; "" while it goes on."""
        return "\n".join(series.summary()) if series.over and series.done else ""

    def _show_choices(self, choices: list[str]) -> None:
        while self.choices.count():
            item = self.choices.takeAt(0)
            widget = None if item is None else item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for number, words in enumerate(choices):
            tip = _("Answer so (or type its letter on the sheet).")
            self.choices.addWidget(told_button(words, tip, partial(self._chosen, number)))


def _in_time(seconds: int) -> str:
    return _("{seconds} s for each").format(seconds=seconds)
