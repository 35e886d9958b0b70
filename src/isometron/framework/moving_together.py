"""Parts moved at once by the least in all, so that every tie of a place along an axis is true.

Such a tie is one equation in the moves of the parts it names; a volume that stands on another, or
copies it, goes with it. The least sum of moves is a linear programme (Dantzig), solved by SciPy.
"""

from collections.abc import Collection, Sequence

import numpy as np

from isometron.framework.intentions.intention import MovedAlong, Parts
from isometron.framework.placing import Mirrored
from isometron.nearness import CLOSE
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

RATHER_NOT = 1e-3
"""So much more, as a share, a move costs of a part that others are placed by: of moves that come to
the same, the parts that are placed go."""


def moved_together(
    parts: Parts, ties: Sequence[MovedAlong], held: Collection[int]
) -> dict[int, Array]:
    """How far (3,), world mm, parts are to be moved, by their keys; those that are carried along by
    others are not named. held: keys of parts that stay, as locked ones do. Raises VolumeError where
    no moves make all ties true."""
    from scipy.optimize import linprog

    keys = list(dict.fromkeys(key for tie in ties for key in tie.pulls))
    frame = parts[ties[0].on].pose[1]
    maps = _Maps(parts, keys, frame)
    rows, wanted = [], []
    for tie in ties:
        along = parts[tie.on].pose[1][tie.axis]
        rows.append(sum(share * along @ maps.of(key) for key, share in tie.pulls.items()))
        wanted.append(-tie.off_mm(parts))
    for key in keys:
        if key in held or parts[key].locked:
            rows += list(maps.of(key))
            wanted += [0.0, 0.0, 0.0]
    equal, right = np.array(rows), np.array(wanted)
    count, size = 3 * len(keys), max(float(np.abs(right).max()), 1e-9)
    eye = np.eye(count)
    placed = {tie.part for tie in ties}
    cost = [
        1.0 + RATHER_NOT * (key not in placed) + RATHER_NOT**2 * n for n, key in enumerate(keys)
    ]
    found = linprog(
        np.concatenate([np.zeros(count), np.repeat(cost, 3)]),
        A_ub=np.block([[eye, -eye], [-eye, -eye]]),
        b_ub=np.zeros(2 * count),
        A_eq=np.hstack([equal, np.zeros_like(equal)]),
        b_eq=right / size,
        bounds=[(None, None)] * (2 * count),
    )
    if not found.success:
        raise VolumeError(_("No moves make all of that true."))
    moved = np.flatnonzero(np.abs(found.x[:count]) > CLOSE)
    exact = np.zeros(count)
    exact[moved] = np.linalg.lstsq(equal[:, moved], right, rcond=None)[0]
    own = {key: exact[3 * n : 3 * n + 3] for n, key in enumerate(keys)}
    return {key: maps.of(key) @ exact for key, move in own.items() if move.any()}


class _Maps:
    """How far each part goes, (3, 3n), for moves of its own in a frame of n parts."""

    def __init__(self, parts: Parts, keys: Sequence[int], frame: Array) -> None:
        self._parts, self._frame = parts, frame
        self._at = {key: number for number, key in enumerate(keys)}
        self._known: dict[int, Array] = {}

    def of(self, key: int) -> Array:
        """Of one part."""
        if key not in self._known:
            self._known[key] = self._worked_out(key)
        return self._known[key]

    def _worked_out(self, key: int) -> Array:
        volume = self._parts[key]
        still: Array = np.zeros((3, 3 * len(self._at)))
        like = volume.like
        if isinstance(like, Mirrored):
            normal = self._parts[like.about].pose[1][like.axis]
            across = np.outer(normal, normal)
            return np.asarray(
                self.of(like.source) - 2 * across @ (self.of(like.source) - self.of(like.about))
            )
        if like is not None:
            return self.of(like.source)
        if volume.on is not None and volume.on.parent in self._parts:
            still = self.of(volume.on.parent).copy()
        if key in self._at:
            number = 3 * self._at[key]
            still[:, number : number + 3] += self._frame.T
        return still
