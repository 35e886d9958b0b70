"""The log as it is looked at: rows of words, and a curve of errors for every measure."""

from typing import NamedTuple

import numpy as np

from isometron.perspective.eye import Array
from isometron.practice.drill import drills
from isometron.practice.habit import Habit, habit_of
from isometron.practice.log import Entry
from isometron.words import _

WINDOW = 10
"""Answers over which the spread of a curve is taken."""


class Line(NamedTuple):
    """One row of the log: day, hour, what, in words, how many seconds it took (0 for none)."""

    day: str
    hour: str
    what: str
    words: str
    seconds: float


def lines_of(entries: list[Entry]) -> list[Line]:
    """The rows of a log, the newest first."""
    titles = {key: one.title for key, one in drills().items()}
    found = []
    for one in reversed(entries):
        day, _t, hour = one.at.partition("T")
        misses = one.kept.get("misses", [])
        words = "; ".join(str(miss.get("words", "")) for miss in misses) or str(
            one.kept.get("words", "")
        )
        what = titles.get(one.about, one.about) if one.kind == "drill" else one.tag or one.kind
        if one.kind == "sheet":
            words = f"{one.about}: {words}"
        elif one.kind != "drill":
            words = one.about
        found.append(Line(day, hour[:5], what, words, float(one.kept.get("seconds", 0.0))))
    return found


class Curve(NamedTuple):
    """The errors of one measure in their order (n,), the unit, what a steady hand makes of itself
    (n,), mean and spread over the last WINDOW answers at each (n,), and what all of them say."""

    name: str
    unit: str
    errors: Array
    hands: Array
    means: Array
    spreads: Array
    habit: Habit | None

    @property
    def words(self) -> str:
        """What the errors say, in a sentence."""
        if self.habit is None:
            return _("Too few answers to say anything.")
        told = _(
            "{bias} {unit} ± {within} on the average of {count}, spread {spread} {unit}"
        ).format(
            bias=f"{self.habit.bias:+.1f}",
            unit=self.unit,
            within=f"{self.habit.within:.1f}",
            count=self.habit.answers,
            spread=f"{self.habit.spread:.1f}",
        )
        kind = _("a habit") if self.habit.named else _("no habit that the numbers allow to name")
        return f"{told}: {kind}."


def curves_of(entries: list[Entry]) -> list[Curve]:
    """The curves of all measures that have been answered, by name."""
    titles = {key: one.title for key, one in drills().items()}
    errors: dict[tuple[str, str], list[tuple[float, float]]] = {}
    for one in entries:
        for miss in one.kept.get("misses", []) if one.kind == "drill" else []:
            if miss["unit"]:
                name = f"{titles.get(one.about, one.about)}: {miss['measure']}"
                errors.setdefault((name, miss["unit"]), []).append((miss["error"], miss["hand"]))
    found = []
    for (name, unit), told in sorted(errors.items()):
        own, hands = np.array(told, dtype=float).T
        parts = [own[max(0, n + 1 - WINDOW) : n + 1] for n in range(len(own))]
        means = np.array([part.mean() for part in parts])
        spreads = np.array([part.std(ddof=1) if len(part) > 1 else 0.0 for part in parts])
        habit = habit_of(own.tolist(), hands=hands.tolist())
        found.append(Curve(name, unit, own, hands, means, spreads, habit))
    return found


def curve_csv(curve: Curve) -> str:
    """A curve as a table."""
    rows = ["number,error,hand,mean,spread"]
    columns = zip(curve.errors, curve.hands, curve.means, curve.spreads, strict=True)
    rows += [f"{n + 1}," + ",".join(f"{v:.6g}" for v in row) for n, row in enumerate(columns)]
    return "\n".join(rows) + "\n"
