"""A week's plan, proposed from what the log says of a person; never forced."""

from typing import NamedTuple

from isometron.practice.drill import drills
from isometron.practice.series import Person
from isometron.words import _

SERIES_A_WEEK = 4
WRONG = 2.0
"""A drill always answered wrong counts like errors so many times those of a practised hand."""

FRESH = 1.5
"""A drill that has not been tried counts like errors so many times those of a practised hand."""


class Planned(NamedTuple):
    """A drill of the plan: its key, title and why, in words."""

    key: str
    title: str
    why: str


def plan_of(person: Person) -> list[Planned]:
    """The drills of a week, those first in which the person errs most for a practised hand: a habit
    that may be named, then spread, then what has not been tried yet."""
    habits = person.habits()
    found: list[tuple[float, Planned]] = []
    for key, drill in drills().items():
        own = {name: habit for name, habit in habits.items() if name.split(":")[0] == key}
        answers = person.wrong.get(key, [])
        if not answers and not own:
            found.append((FRESH, Planned(key, drill.title, _("not tried yet"))))
            continue
        wrong = sum(answers)
        worst = WRONG * wrong / len(answers) if answers else 0.0
        why = _("{n} of {count} beyond a practised hand").format(n=wrong, count=len(answers))
        for name, habit in own.items():
            hands = person.hands[name]
            steady = max(sum(hands) / len(hands), 1e-9)
            need, told = habit.spread / steady, _("unsteady")
            if habit.named:
                need, told = need + 2 * abs(habit.bias) / steady, _("a habit")
            if need > worst:
                worst, why = need, told
        found.append((worst, Planned(key, drill.title, why)))
    found.sort(key=lambda one: -one[0])
    return [planned for _need, planned in found[:SERIES_A_WEEK]]


def in_words(plan: list[Planned]) -> str:
    """The plan in words, a drill on each line."""
    told = [_("A week might hold one series each of:")]
    return "\n".join([*told, *(f"· {one.title} ({one.why})" for one in plan)])
