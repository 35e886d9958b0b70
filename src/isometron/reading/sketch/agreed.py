"""What the strokes of a sketch agree on: the eye that is left when a stroke that all the others
contradict does not count.

A mistake pulls a fit of few strokes toward itself and hides; so each stroke is weighed against the
fit of the others (its own part of the fit taken out, as Cook and Weisberg, 1982, show it in closed
form)."""

from dataclasses import replace

import numpy as np

from isometron.document.marks import Marks
from isometron.nearness import SAME
from isometron.reading.fit import Fit, fit, of_edges, refined
from isometron.reading.model import Array, middle_spread, observed, residuals

CONTRADICTED = 2.6
"""A stroke that lies off the fit of the others by so many of its errors is left out."""

MOST_SHARE = 0.2
"""At most this share of the strokes is left out."""


def agreed(marks: Marks, least_noise: float) -> Fit:
    """The most likely state of marks by those of their edges that the others do not contradict;
    rims do not shape it. least_noise: how far a stroke lies off by the hand at least, in the
    picture's unit."""
    marks = replace(marks, rounds=())
    most = int(MOST_SHARE * sum(not one.left for one in marks.edges))
    best = fit(marks)
    for _stroke in range(most):
        off = off_the_others(best, len(marks.edges), least_noise)
        worst = int(off.argmax())
        if off[worst] < CONTRADICTED:
            break
        family = marks.edges[worst].family
        alike = [n for n, one in enumerate(marks.edges) if one.family == family and not one.left]
        others = [_without(marks, number) for number in alike]
        tried = [(fitted, one) for one in others if (fitted := _near(one, best)) is not None]
        if not tried:
            break
        marks = min(tried, key=lambda one: one[0].cost)[1]
        best = fit(marks)
    return best


def _without(marks: Marks, number: int) -> Marks:
    """Marks with an edge left out."""
    edges = list(marks.edges)
    edges[number] = replace(edges[number], left=True)
    return replace(marks, edges=tuple(edges))


def _near(marks: Marks, best: Fit) -> Fit | None:
    """The fit of marks near another; None where a family would be gone.

    The worst of a family need not be the wrong one: a long stroke pulls its point along, and all
    others miss it then. That one is wrong without which the others agree best."""
    seen = observed(marks, np.array([not one.left for one in marks.edges], dtype=bool))
    return refined(marks, seen, best.state) if seen.names == best.seen.names else None


def off_the_others(best: Fit, count: int, least_noise: float) -> Array:
    """By how many of its errors each of so many edges lies off the fit of the others; 0 for what is
    not in the fit, or alone tells something of it."""
    misses, slopes = residuals(best.seen, best.state)
    own = np.einsum("rp,pq,rq->r", slopes, best.covariance, slopes) / max(best.noise, SAME) ** 2
    free = 1.0 - np.minimum(own, 1.0)
    told = free > 0.05
    against = np.zeros(len(misses))
    against[told] = np.abs(misses[told]) / np.sqrt(free[told])
    spread = max(middle_spread(against[told]), least_noise) if told.any() else 1.0
    each = of_edges(replace(best, misses=against / spread), count)
    return np.array([float(part.max(initial=0.0)) for part in each])
