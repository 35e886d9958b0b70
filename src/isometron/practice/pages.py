"""The log as it is looked at: rows of words, days of work, a curve of errors for every measure, and
what a person gets wrong, in sentences."""

from collections.abc import Sequence
from datetime import date
from typing import Any, NamedTuple

import numpy as np

from isometron.perspective.eye import Array
from isometron.practice.drill import counted_in, drills, miss_of
from isometron.practice.habit import Habit, habit_of
from isometron.practice.log import Entry
from isometron.words import _, many, said

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
        words = "; ".join(str(miss["words"]) for miss in misses if miss.get("words"))
        words = words or str(one.kept.get("words", ""))
        what = titles.get(one.about, one.about) if one.kind == "drill" else one.tag or one.kind
        if one.kept.get("helped"):
            words = _("{words} (with {help})").format(words=words, help=one.kept["helped"])
        if one.kind != "drill":
            words = f"{one.about}: {words}" if words else one.about
        found.append(Line(day, hour[:5], what, words, float(one.kept.get("seconds", 0.0))))
    return found


class Curve(NamedTuple):
    """The errors of one measure in their order (n,), the unit, what a practised hand makes of
    itself (n,), mean and spread over the last WINDOW answers at each (n,), what all of them say,
    and the words of the answer nearest to their mean."""

    name: str
    unit: str
    errors: Array
    hands: Array
    means: Array
    spreads: Array
    habit: Habit | None

    like: str = ""
    worst: str = ""
    """The words of the answer farthest off for a practised hand, and its day."""

    @property
    def words(self) -> str:
        """What the errors say, in a sentence."""
        if self.habit is None:
            return _("Too few answers to say anything of a habit.")
        unit = counted_in(self.unit)
        mean = _("{bias}{unit} ± {within} on the average of {count}").format(
            bias=f"{self.habit.bias:+.1f}",
            unit=unit,
            within=f"{self.habit.within:.1f}",
            count=self.habit.answers,
        )
        spread = _("spread {spread}{unit}, a practised hand's {hand}{unit}").format(
            spread=f"{self.habit.spread:.1f}", hand=f"{self.hands.mean():.1f}", unit=unit
        )
        if not self.habit.named:
            return _("no habit; {mean}; {spread}.").format(mean=mean, spread=spread)
        return _("a habit, like “{like}”; {mean}; {spread}.").format(
            like=self.like, mean=mean, spread=spread
        )


def curves_of(entries: list[Entry]) -> list[Curve]:
    """The curves of all measures that have been answered, by name."""
    titles = {key: one.title for key, one in drills().items()}
    errors: dict[tuple[str, str], list[tuple[float, float, str, str]]] = {}
    for one in entries:
        for miss in _own(one):
            if miss["unit"]:
                name = f"{titles.get(one.about, one.about)}: {miss['measure']}"
                told = (float(miss["error"]), float(miss["hand"]), str(miss["words"]), one.at[:10])
                errors.setdefault((name, miss["unit"]), []).append(told)
    found = []
    for (name, unit), answers in sorted(errors.items()):
        own, hands = np.array([answer[:2] for answer in answers]).T
        parts = [own[max(0, n + 1 - WINDOW) : n + 1] for n in range(len(own))]
        means = np.array([part.mean() for part in parts])
        spreads = np.array([part.std(ddof=1) if len(part) > 1 else 0.0 for part in parts])
        habit = habit_of(own.tolist(), hands=hands.tolist())
        near = min(answers, key=lambda answer: (not answer[2], abs(answer[0] - own.mean())))
        measure = name.split(": ", 1)[1] + ": "
        far = max(answers, key=lambda answer: abs(answer[0]) / max(answer[1], 1e-9))
        size = f"{far[0]:+.1f}{counted_in(unit)}"
        worst = _("farthest off on {day}: {words}").format(
            day=far[3], words=far[2].removeprefix(measure) or size
        )
        like = near[2].removeprefix(measure)
        found.append(Curve(name, unit, own, hands, means, spreads, habit, like, worst))
    return found


def curve_csv(curve: Curve) -> str:
    """A curve as a table."""
    rows = ["number,error,hand,mean,spread"]
    columns = zip(curve.errors, curve.hands, curve.means, curve.spreads, strict=True)
    rows += [f"{n + 1}," + ",".join(f"{v:.6g}" for v in row) for n, row in enumerate(columns)]
    return "\n".join(rows) + "\n"


WITHIN, MOST_HANDS = 2.0, 4.0
"""An answer lies within a practised hand up to so many times what that makes of itself; a tick is
never longer than the second."""

KIND_WORDS = {
    "drill": (said("{n} exercise"), said("{n} exercises")),
    "sheet": (said("{n} time on a sheet"), said("{n} times on a sheet")),
    "reading": (said("{n} reading"), said("{n} readings")),
    "remark": (said("{n} remark mended"), said("{n} remarks mended")),
    "note": (said("{n} note"), said("{n} notes")),
}


class Day(NamedTuple):
    """A day that was worked: how many entries of each kind it has, its answers as ticks (by how
    many times a practised hand the worst of each lies off, with its sign, and whether it was a
    choice), the numbers of entries that have a picture, and the notes."""

    date: date
    counts: dict[str, int]
    ticks: tuple[tuple[float, bool], ...] = ()
    pictured: tuple[int, ...] = ()
    notes: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """What was done, in words."""
        told = [
            many(one, more, self.counts[kind]).format(n=self.counts[kind])
            for kind, (one, more) in KIND_WORDS.items()
            if self.counts.get(kind)
        ]
        return ", ".join(told)


def journal_of(counts: dict[str, dict[str, int]], entries: Sequence[Entry]) -> list[Day]:
    """The days that were worked, the oldest first: by how many entries each has, and the last
    entries for what is shown of them."""
    told: dict[str, list[Entry]] = {}
    for one in entries:
        told.setdefault(one.at[:10], []).append(one)
    found = []
    for day in sorted(counts):
        try:
            when = date.fromisoformat(day)
        except ValueError:
            continue
        own = told.get(day, [])
        found.append(
            Day(
                when,
                counts[day],
                tuple(tick for one in own if (tick := _tick(one)) is not None),
                tuple(one.number for one in own if one.kind == "sheet"),
                tuple(one.about for one in own if one.kind == "note"),
            )
        )
    return found


def _tick(entry: Entry) -> tuple[float, bool] | None:
    """An answer by its worst error; None for what is no answer."""
    misses = entry.kept.get("misses", []) if entry.kind == "drill" else []
    if not misses:
        return None
    worst = max(map(miss_of, misses), key=lambda miss: miss.hands)
    return (worst.hands if worst.error > 0 else -worst.hands), not worst.unit


def journal_csv(days: Sequence[Day]) -> str:
    """The days of a journal as a table."""
    rows = [",".join(["day", *KIND_WORDS])]
    rows += [
        ",".join([day.date.isoformat(), *(str(day.counts.get(kind, 0)) for kind in KIND_WORDS)])
        for day in days
    ]
    return "\n".join(rows) + "\n"


def wrongs_of(entries: Sequence[Entry]) -> list[str]:
    """What a person gets wrong: a sentence per judgement, habits first, then those in which the
    errors are largest for a practised hand; each with its worst answer."""
    found: list[tuple[float, str]] = []
    for curve in curves_of(list(entries)):
        hand = max(float(curve.hands.mean()), 1e-9)
        need = float(np.sqrt(np.mean(curve.errors**2))) / hand
        need += 100.0 * (curve.habit is not None and curve.habit.named)
        beyond = bool((np.abs(curve.errors) > 2 * curve.hands).any())
        worst = f" {curve.worst[:1].upper()}{curve.worst[1:]}." if beyond else ""
        if curve.habit is not None or beyond:
            found.append((need, f"{curve.name}: {curve.words}{worst}"))
    for name, (wrong, count) in _choices(entries).items():
        told = many(
            "{name}: wrong {n} time of {count}.", "{name}: wrong {n} times of {count}.", wrong
        )
        found.append((10.0 * wrong / count, told.format(name=name, n=wrong, count=count)))
    return [words for _need, words in sorted(found, key=lambda one: -one[0])]


def _choices(entries: Sequence[Entry]) -> dict[str, tuple[int, int]]:
    """How often each question with answers to choose from was answered wrong, of how many."""
    titles = {key: one.title for key, one in drills().items()}
    found: dict[str, tuple[int, int]] = {}
    for one in entries:
        for miss in _own(one):
            if not miss["unit"]:
                name = titles.get(one.about, one.about)
                wrong, count = found.get(name, (0, 0))
                found[name] = wrong + (miss["error"] != 0), count + 1
    return found


def _own(entry: Entry) -> list[dict[str, Any]]:
    """The errors of an entry that say something of the person: those made without a help."""
    if entry.kind != "drill" or entry.kept.get("helped"):
        return []
    misses: list[dict[str, Any]] = entry.kept.get("misses", [])
    return misses
