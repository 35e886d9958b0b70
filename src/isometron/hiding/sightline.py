"""What a single sight line meets: the first surface of a figure that bends, exactly."""

import numpy as np

from isometron.framework.figures import Figure
from isometron.framework.outlines import within
from isometron.nearness import NOUGHT
from isometron.perspective.eye import Array

TOUCHES = 1e-9
"""A place this far (share of its reach) outside the limits of a surface still lies on it: sight
lines through the rim of a surface meet it."""


def first_met(figure: Figure, eye: Array, ray: Array) -> tuple[int, float] | None:
    """The first surface of a figure that a sight line meets, and how far along it: the number, and
    t of eye + t·ray, t > 0. None when it meets none, or when the figure is flat all over.

    eye, ray (3,) world mm. The roots of the quadratic that each surface's form makes on the line,
    kept where they lie within its half spaces, limits and outline.
    """
    own = figure.body.surfaces
    if own is None:
        return None
    start = np.append(figure.axes @ (eye - figure.place), 1.0)
    way = np.append(figure.axes @ ray, 0.0)
    a = np.einsum("i,pij,j->p", way, own.forms, way)
    b = np.einsum("i,pij,j->p", start, own.forms, way)
    c = np.einsum("i,pij,j->p", start, own.forms, start)
    regions = {region.surface: region for region in own.regions}
    found: tuple[int, float] | None = None
    for surface in range(len(own.forms)):
        for t in _roots(float(a[surface]), float(b[surface]), float(c[surface])):
            if t <= 0 or (found is not None and t >= found[1]):
                continue
            place = start + t * way
            slack = TOUCHES * float(np.abs(place).max())
            if (own.within[surface] @ place < -slack).any():
                continue
            if ((place @ own.limits[surface] @ place) < -slack).any():
                continue
            region = regions.get(surface)
            if region and not within(region.rings, (region.to_flat @ place)[None])[0]:
                continue
            found = surface, t
    return found


def _roots(a: float, b: float, c: float) -> list[float]:
    """Real roots of a·t² + 2·b·t + c."""
    square = b * b - a * c
    if square < 0 or (a == 0 and b == 0):
        return []
    q = -(b + np.copysign(np.sqrt(square), b))
    roots = [] if q == 0 else [float(c / q)]
    return roots if abs(a) < NOUGHT else [*roots, float(q / a)]
