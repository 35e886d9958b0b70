"""Snapping: places that a face or a volume being slid is drawn to, and the words for them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from isometron.document.document import Document
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import project
from isometron.words import _

SNAP_MM = 2.0
"""On the paper, a target this near draws the face to it: four times the hand's own precision."""

CLOSE = 8
"""Of all targets this many, the truly nearest, are looked at on the paper."""

FRACTIONS = ((0.25, "¼"), (1 / 3, "⅓"), (0.5, "half"), (2 / 3, "⅔"), (0.75, "¾"))


@dataclass(frozen=True)
class Target:
    """A true distance along a direction (mm), and what lies there."""

    mm: float
    words: str


def targets_along(document: Document, moving: Iterable[int], along: Array) -> list[Target]:
    """Every place worth stopping at along a unit world direction: corners of the other shown
    volumes, fractions of their extent, their division marks, and the ground."""
    still = set(range(len(document.volumes))) - set(moving)
    found = [Target(0.0, _("on the ground"))] if abs(along[2]) > 1 - 1e-12 else []
    for i in sorted(still):
        volume = document.volumes[i]
        if not volume.shown:
            continue
        low, high = volume.reach_along(along)
        ends = np.append(volume.world() @ along, (low, high))
        in_line = _("in line with {name}").format(name=volume.name)
        found += [Target(v, in_line) for v in np.unique(np.round(ends, 9)).tolist()]
        found += [
            Target(low + share * (high - low), f"{name} of {volume.name}")
            for share, name in FRACTIONS
        ]
        if volume.marks:
            place, axes = volume.pose
            for at in volume.drawn_marks.starts @ axes + place:
                found.append(
                    Target(float(at @ along), _("division of {name}").format(name=volume.name))
                )
    return found


def whole_modules(document: Document, longest: float) -> list[tuple[float, str]]:
    """Whole and half counts of every module up to a length: (mm, words)."""
    found = []
    for module in document.modules:
        for halves in range(1, min(int(2 * longest / module.mm) + 2, 200)):
            found.append((halves * module.mm / 2, f"{halves / 2:g} {module.name}"))
    return found


def nearest(
    eye: Eye, start: Array, along: Array, mm: float, targets: Sequence[Target]
) -> Target | None:
    """The target nearest on the paper to start + mm·along, if it is near enough to snap to.

    start (3,) world mm, along (3,) unit; targets are distances from `start`.
    """
    if not targets:
        return None
    off_truly = np.abs(np.array([target.mm for target in targets]) - mm)
    close = [targets[i] for i in np.argsort(off_truly, kind="stable")[:CLOSE].tolist()]
    places = start + np.array([mm, *(target.mm for target in close)])[:, None] * along
    drawn = project(eye, places)
    off = np.hypot(*(drawn.sheet[1:] - drawn.sheet[0]).T)
    off[~np.isfinite(off)] = np.inf
    best = int(off.argmin())
    return close[best] if off[best] <= SNAP_MM else None
