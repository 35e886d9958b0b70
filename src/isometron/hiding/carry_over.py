"""What of a figure that has changed is as it was: what covers that still holds."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Indices
from isometron.hiding.standing import Standing


class Mapped(NamedTuple):
    """What of a changed figure is as it was: for each item and each surface (or slab) the new
    number of an old one, −1 where it is gone."""

    items: Indices
    surfaces: Indices
    slabs: bool


def mapped(old: Standing, new: Standing) -> Mapped:
    """What of a figure that stood there is the very same in the one that stands there now."""
    a, b = old.items, new.items
    items = _same_rows(
        [a.arcs, a.kinds, a.faces, a.mate, a.mate_face, a.turned],
        [b.arcs, b.kinds, b.faces, b.mate, b.mate_face, b.turned],
    )
    if old.figure is new.figure:
        surfaces = np.arange(0 if new.seen is None else len(new.seen.forms))
        return Mapped(items, surfaces, True)
    surfaces = np.empty(0, dtype=np.intp)
    if old.seen is not None and new.seen is not None:
        one, other = old.seen, new.seen
        surfaces = _same_rows(
            [one.forms, one.within, one.limits, one.plane, one.bounds],
            [other.forms, other.within, other.limits, other.plane, other.bounds],
        )
        regions = [i for i in range(len(one.forms)) if i in one.regions]
        surfaces[regions] = -1
    return Mapped(items, surfaces, False)


def _same_rows(old: Sequence[NDArray[np.generic]], new: Sequence[NDArray[np.generic]]) -> Indices:
    """For each old row of some arrays the number of the new row that is the very same, else −1."""
    place = {key: i for i, key in enumerate(_keys(new))}
    return np.array([place.get(key, -1) for key in _keys(old)], dtype=np.intp)


def _keys(columns: Sequence[NDArray[np.generic]]) -> list[bytes]:
    n = len(columns[0])
    if not n:
        return []
    rows = [np.ascontiguousarray(column).reshape(n, -1).view(np.uint8) for column in columns]
    return [row.tobytes() for row in np.concatenate(rows, axis=1)]
