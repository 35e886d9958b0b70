"""Snapping: places that a face or a volume being slid is drawn to, and the words for them."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import partial
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.framework.volume import Volume
from isometron.nearness import ROUNDING
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import project
from isometron.words import _, said

SNAP_MM = 2.0
"""On the paper, a target this near draws the face to it: four times the hand's own precision."""

CLOSE = 8
"""Of all targets this many, the truly nearest, are looked at on the paper."""

FRACTIONS = ((0.25, "¼"), (1 / 3, "⅓"), (0.5, said("half")), (2 / 3, "⅔"), (0.75, "¾"))


class Target(NamedTuple):
    """A true distance along a direction (mm), and what lies there."""

    mm: float
    words: str


Words = Callable[[], str]


@dataclass(frozen=True, eq=False)
class Stops:
    """Places (n,) mm along a direction worth stopping at, and what lies at each, told when asked.

    `words` begins anew where it is shorter than `mm`: the low and the high side of a volume stop at
    the same things.
    """

    mm: Array
    words: Sequence[Words]

    @classmethod
    def of(cls, targets: Iterable[Target]) -> "Stops":
        """Some targets."""
        some = list(targets)
        told: list[Words] = [lambda words=one.words: words for one in some]  # type: ignore[misc]
        return cls(np.array([one.mm for one in some]), told)

    def __add__(self, other: "Stops") -> "Stops":
        return Stops(np.concatenate([self.mm, other.mm]), [*self.words, *other.words])


NOWHERE = Stops(np.empty(0), ())
ON_THE_GROUND = Stops(np.zeros(1), [lambda: _("on the ground")])


def still(document: Document, moving: Iterable[int]) -> list[Volume]:
    """The shown volumes that stay where they are while some are moved: not these, nor what stands
    on them or copies them."""
    volumes = document.volumes
    gone = {volumes[i].key for i in moving}
    while True:
        carried = {
            one.key
            for one in volumes
            if one.key not in gone
            and (
                (one.on is not None and one.on.parent in gone)
                or (one.like is not None and one.like.source in gone)
            )
        }
        if not carried:
            return [one for one in volumes if one.shown and one.key not in gone]
        gone |= carried


def stops_along(volumes: Iterable[Volume], along: Array) -> Stops:
    """Every place worth stopping at along a unit world direction: corners of volumes that stay,
    fractions of their extent, their division marks, and the ground."""
    found = [ON_THE_GROUND] if abs(along[2]) > 1 - ROUNDING else []
    for volume in volumes:
        found.append(volume.kept("stops", along, partial(_stops_of, volume, along)))
    return Stops(
        np.concatenate([np.empty(0), *(one.mm for one in found)]),
        [words for one in found for words in one.words],
    )


def middles_along(volumes: Sequence[Volume], along: Array) -> Stops:
    """The middles of volumes that stay along a unit world direction, where the middle of the one
    that is moved may come to lie."""
    return Stops(
        np.array([sum(volume.reach_along(along)) / 2 for volume in volumes]),
        [lambda name=one.name: _("in the middle of {name}").format(name=name) for one in volumes],  # type: ignore[misc]
    )


def _stops_of(volume: Volume, along: Array) -> Stops:
    low, high = volume.reach_along(along)
    ends = np.unique(np.round(np.append(volume.world() @ along, (low, high)), 9))
    words: list[Words] = [
        lambda: _("in line with {name}").format(name=volume.name) for _end in ends.tolist()
    ]
    places = [*ends.tolist(), *(low + share * (high - low) for share, _name in FRACTIONS)]
    words += [
        lambda part=part: _("{part} of {name}").format(part=_(part), name=volume.name)  # type: ignore[misc]
        for _share, part in FRACTIONS
    ]
    if volume.marks:
        place, axes = volume.pose
        marks = ((volume.drawn_marks.starts @ axes + place) @ along).tolist()
        places += marks
        words += [lambda: _("division of {name}").format(name=volume.name) for _mark in marks]
    return Stops(np.array(places), words)


def whole_modules(document: Document, longest: float) -> list[tuple[float, str]]:
    """Whole and half counts of every module up to a length: (mm, words)."""
    found = []
    for module in document.modules:
        for halves in range(1, min(int(2 * longest / module.mm) + 2, 200)):
            found.append((halves * module.mm / 2, f"{halves / 2:g} {module.name}"))
    return found


def nearest(eye: Eye, start: Array, along: Array, mm: float, stops: Stops) -> Target | None:
    """The stop nearest on the paper to start + mm·along, if it is near enough to snap to.

    start (3,) world mm, along (3,) unit; stops are distances from `start`.
    """
    number = nearest_number(eye, start, along, mm, stops.mm)
    if number is None:
        return None
    return Target(float(stops.mm[number]), stops.words[number % len(stops.words)]())


def nearest_number(eye: Eye, start: Array, along: Array, mm: float, stops_mm: Array) -> int | None:
    """The number of the place nearest on the paper, as `nearest`."""
    if not len(stops_mm):
        return None
    close = np.argsort(np.abs(stops_mm - mm), kind="stable")[:CLOSE]
    places = start + np.append(mm, stops_mm[close])[:, None] * along
    drawn = project(eye, places)
    off = np.hypot(*(drawn.sheet[1:] - drawn.sheet[0]).T)
    off[~np.isfinite(off)] = np.inf
    best = int(off.argmin())
    if off[best] > SNAP_MM:
        return None
    return int(close[best])
