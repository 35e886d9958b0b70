"""Curves parted where something about them changes that can only be asked place by place."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from isometron.perspective.conics import at
from isometron.perspective.eye import Array

SAMPLES = 49
"""Places asked along each curve: what changes back between two of them is not seen."""

HALVINGS = 24

Asked = Callable[[Array, NDArray[np.intp], Array], NDArray[np.intp]]
"""What places (n, 2) of the sheet are, on curves (n,) at parameters (n,)."""


def parted(
    drawn: Array, asked: Asked, least_mm: float
) -> tuple[NDArray[np.intp], Array, NDArray[np.intp]]:
    """Arcs (n, 3, 3) of the sheet parted where the answer changes: the arc (k,) each part is of,
    its span (k, 2), and the answer (k,). Parts shorter than `least_mm` go with the one before."""
    count = len(drawn)
    t = np.linspace(0.0, 1.0, SAMPLES)
    inner = np.clip(t, 1e-6, 1 - 1e-6)
    row = np.repeat(np.arange(count), SAMPLES)
    told = _ask(drawn, asked, row, np.tile(inner, count)).reshape(count, SAMPLES)
    arc, step = np.nonzero(told[:, 1:] != told[:, :-1])
    low, high = inner[step].copy(), inner[step + 1].copy()
    first = told[arc, step]
    for _n in range(HALVINGS if len(arc) else 0):
        middle = (low + high) / 2
        same = _ask(drawn, asked, arc, middle) == first
        low, high = np.where(same, middle, low), np.where(same, high, middle)
    cuts = (low + high) / 2
    numbers: list[int] = []
    spans: list[tuple[float, float]] = []
    answers: list[int] = []
    for number in range(count):
        mine = arc == number
        bounds = [0.0, *cuts[mine].tolist(), 1.0]
        own = [int(told[number, 0]), *told[number, step[mine] + 1].tolist()]
        for begin, end, answer in _without_short(drawn[number], bounds, own, least_mm):
            numbers.append(number)
            spans.append((begin, end))
            answers.append(answer)
    return (
        np.array(numbers, dtype=np.intp),
        np.array(spans).reshape(-1, 2),
        np.array(answers, dtype=np.intp),
    )


def _ask(drawn: Array, asked: Asked, row: NDArray[np.intp], t: Array) -> NDArray[np.intp]:
    found = at(drawn[row], t)
    return asked(found[:, :2] / found[:, 2:], row, t)


def _without_short(
    arc: Array, bounds: list[float], answers: list[int], least_mm: float
) -> list[tuple[float, float, int]]:
    """Parts of one arc: begin, end, answer; short ones joined to their neighbour."""
    places = at(np.tile(arc, (len(bounds), 1, 1)), np.array(bounds))
    places = places[:, :2] / places[:, 2:]
    long = np.hypot(*np.diff(places, axis=0).T).tolist()
    kept: list[tuple[float, float, int]] = []
    for begin, end, answer, mm in zip(bounds[:-1], bounds[1:], answers, long, strict=True):
        if kept and (mm < least_mm or kept[-1][2] == answer):
            kept[-1] = (kept[-1][0], end, kept[-1][2])
        else:
            kept.append((begin, end, answer))
    if len(kept) > 1 and long[0] < least_mm:
        kept[:2] = [(kept[0][0], kept[1][1], kept[1][2])]
    return kept
