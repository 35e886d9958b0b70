"""Which parts of items lie ahead of a viewpoint."""

from collections.abc import Sequence

import numpy as np

from isometron.hiding.covers import Ahead
from isometron.hiding.pieces import in_a_row
from isometron.hiding.standing import Lot
from isometron.hiding.viewpoint import Viewpoint
from isometron.nearness import ROUNDING
from isometron.perspective.conics import at, roots


def ahead_of(viewpoint: Viewpoint, lot: Lot) -> Ahead:
    """The parts of the items of a lot that lie ahead."""
    count = len(lot.owner)
    if viewpoint.ahead is None:
        return np.arange(count), np.tile([0.0, 1.0], (count, 1))
    form = viewpoint.ahead.copy()
    form[3] += float(viewpoint.ahead[:3] @ viewpoint.origin)
    depth = lot.items.arcs @ form
    before_us = depth > 0
    whole, some = before_us.all(axis=1), before_us.any(axis=1)
    rows, spans = [np.flatnonzero(whole)], [np.tile([0.0, 1.0], (int(whole.sum()), 1))]
    crossing = np.flatnonzero(some & ~whole)
    if len(crossing):
        number, t = roots(depth[crossing])
        for place, one in enumerate(crossing.tolist()):
            cuts = np.concatenate([[0.0], np.sort(t[number == place]), [1.0]])
            middle = (cuts[:-1] + cuts[1:]) / 2
            there = at(np.tile(depth[one][:, None], (len(middle), 1, 1)), middle)[:, 0] > 0
            there &= cuts[1:] - cuts[:-1] > ROUNDING
            rows.append(np.full(int(there.sum()), one))
            spans.append(np.stack([cuts[:-1], cuts[1:]], axis=1)[there])
        row, span = np.concatenate(rows), np.concatenate(spans)
        order = np.lexsort((span[:, 0], row))
        return row[order], span[order]
    return rows[0], spans[0]


def apart(lot: Lot, ahead: Ahead) -> list[Ahead]:
    """The parts of each figure of a lot, by numbers of its own items."""
    row, span = ahead
    return [(row[a:b] - first, span[a:b]) for a, b, first in lot.split(row)]


def put_together(lot: Lot, ahead: Sequence[Ahead]) -> Ahead:
    """Parts of each figure as parts of the lot."""
    rows = in_a_row([one[0] for one in ahead], lot.first[:-1])
    return rows, np.concatenate([one[1] for one in ahead])
