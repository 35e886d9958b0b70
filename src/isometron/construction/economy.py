"""What a hand leaves out: a line that serves one tick is not drawn, the ruler is only laid along
it. And long steps in parts that a hand can keep in mind."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import replace

from isometron.construction.moves import (
    LINES,
    Cross,
    Curve,
    Ellipse,
    Join,
    Move,
    is_laid,
    needs,
)
from isometron.construction.steps import Chapter, Step
from isometron.words import _

MOST_MOVES = 6
"""A step has at most so many moves."""


def lay_rulers(chapters: list[Chapter], drawn: set[str]) -> list[Chapter]:
    """The chapters with every line that serves one tick in its own step, and nothing else, laid and
    not drawn; `drawn` are lines that are wanted for themselves."""
    steps = [step for chapter in chapters for step in chapter.steps]
    kept = {name for step in steps for name in step.objects} | drawn
    uses = Counter(name for step in steps for move in step.moves for name in set(needs(move)))
    laid: set[str] = set()
    for step in steps:
        own = {m.name for m in step.moves if isinstance(m, Join)} - kept
        for move in step.moves:
            if isinstance(move, Cross):
                pair = [n for n in (move.first, move.second) if n in own and uses[n] == 1]
                laid |= set(pair[:1])  # the other one is drawn: two laid rulers leave no tick
    return [
        replace(chapter, steps=tuple(_with_laid(step, laid) for step in chapter.steps))
        for chapter in chapters
    ]


def _with_laid(step: Step, laid: set[str]) -> Step:
    """The step with some of its lines laid, each just before its tick."""
    rulers = {m.name: replace(m, laid=True) for m in step.moves if isinstance(m, Join)}
    moves: list[Move] = []
    for move in step.moves:
        if isinstance(move, Cross):
            moves += [rulers[name] for name in (move.first, move.second) if name in laid]
        if move.name not in laid:
            moves.append(move)
    return replace(step, moves=tuple(moves))


def told_count(moves: Iterable[Move]) -> int:
    """How many moves a hand is told: a laid ruler is told with its tick."""
    return sum(not is_laid(move) for move in moves)


def in_parts(chapters: list[Chapter], landed: set[str]) -> list[Chapter]:
    """The chapters with every long step in parts of at most MOST_MOVES moves, each ending where
    something is finished; `landed` are the points that are wanted for themselves."""
    return [
        replace(
            chapter, steps=tuple(part for step in chapter.steps for part in _parts(step, landed))
        )
        for chapter in chapters
    ]


def _parts(step: Step, landed: set[str]) -> list[Step]:
    runs = _runs(step.moves, landed)
    if len(runs) < 2:
        return [step]
    parts = []
    made: set[str] = set()
    for number, run in enumerate(runs, 1):
        made |= {move.name for move in run}
        last = number == len(runs)
        names = {move.name for move in run}
        objects = tuple(n for n in step.objects if n in names or (last and n not in made))
        told = _("{text} (Part {n} of {m}.)")
        if number > 1:
            told = _("Go on, part {n} of {m}: {text}.")
        parts.append(
            replace(
                step,
                key=step.key if number == 1 else f"{step.key}.part-{number}",
                text=told.format(
                    text=step.text if number == 1 else clause(step.text), n=number, m=len(runs)
                ),
                moves=tuple(run),
                objects=objects,
            )
        )
    return parts


def clause(text: str) -> str:
    """The first clause of a sentence."""
    return min(text.split(": ", 1)[0], text.split(". ", 1)[0].removesuffix("."), key=len)


def _runs(moves: tuple[Move, ...], landed: set[str]) -> list[list[Move]]:
    """Moves in runs of at most MOST_MOVES that are told, each as long as it can be and ending,
    where it can, with a point that is wanted, an ellipse or a curve."""
    runs: list[list[Move]] = []
    rest = list(moves)
    while told_count(rest) > MOST_MOVES:
        most = next(i for i in range(len(rest) + 1) if told_count(rest[:i]) > MOST_MOVES) - 1
        ends = [i + 1 for i in range(most) if _ends(rest[i], landed)]
        cut = ends[-1] if ends and 5 * ends[-1] >= 4 * most else most
        while cut > 1 and is_laid(rest[cut - 1]):
            cut -= 1  # the ruler is laid in the part where its tick is made
        runs.append(rest[:cut])
        rest = rest[cut:]
    return [*runs, rest]


def _ends(move: Move, landed: set[str]) -> bool:
    if isinstance(move, LINES):
        return not is_laid(move)
    return move.name in landed or isinstance(move, Ellipse | Curve)
