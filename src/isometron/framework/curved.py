"""Curved bodies in their own axes: the surfaces they are made of, their edges and their circles.

A surface (patch) is a piece of a plane or of a quadric, given by its form xᵀ·F·x = 0 in homogeneous
own mm, bounded by half spaces, by further quadratic forms, or (a flat face of an extrusion) by
the rings of its outline. Everything drawn on it is an arc of a conic.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from isometron.framework.outlines import Flat
from isometron.framework.turned import Segment
from isometron.perspective.conics import circle_arcs
from isometron.perspective.eye import Array

WITHIN = 6
"""Every patch has room for this many half spaces."""

ALWAYS = np.array([0.0, 0.0, 0.0, 1.0])
"""A half space that everything lies in."""

EDGE, SECTION, MARK = 0, 1, 2
"""Kinds of curves: edges of a body, section lines, circles drawn on it."""

Sides = tuple[float, float, float]


@dataclass(frozen=True)
class Circle:
    """A circle of a body in own mm: centre, two unit directions across (2, 3), radius; what it is
    ("end", "station", "ring", "bore", "hole", "section", "mark", "loop"); its arcs from first to
    last (exclusive); how far up the axle it lies, as a share."""

    centre: Array
    axes: Array
    radius_mm: float
    role: str
    first: int
    last: int
    height_share: float = 0.0

    @property
    def normal(self) -> Array:
        """Unit direction of its axle."""
        return np.asarray(np.cross(self.axes[0], self.axes[1]))


@dataclass(frozen=True, eq=False)
class Round:
    """A piece of a turned surface, for its outline: the middle of the base of its axle, unit axle
    and one direction across, its segment."""

    patch: int
    place: Array
    axle: Array
    segment: Segment


@dataclass(frozen=True, eq=False)
class Ends:
    """Where an extrusion begins and stops along its way, as shares, between places along the first
    direction of its outline: breaks (m,) mm and the begin and stop at each (m,)."""

    breaks: Array
    begin: Array
    stop: Array

    def at(self, u: float) -> tuple[float, float]:
        """Begin and stop at a place."""
        return (
            float(np.interp(u, self.breaks, self.begin)),
            float(np.interp(u, self.breaks, self.stop)),
        )

    def along(self, i: int) -> tuple[tuple[float, float], tuple[float, float]]:
        """Begin and stop in interval i as (value at u = 0, rise per mm of u)."""
        run = self.breaks[i + 1] - self.breaks[i]
        lines = []
        for ends in (self.begin, self.stop):
            rise = float((ends[i + 1] - ends[i]) / run)
            lines.append((float(ends[i] - rise * self.breaks[i]), rise))
        return lines[0], lines[1]


@dataclass(frozen=True, eq=False)
class Swept:
    """An arc of a circle swept along a way, for its outline: centre, radius, start and turn
    (radians) in the outline's plane with directions (2, 3), the way from the near end to the far
    one, and the outline place (u) at which the ends start and stop as shares of the way."""

    patch: int
    plane: Array
    centre: Array
    radius: float
    first: float
    turn: float
    way: Array
    ends: Ends


@dataclass(frozen=True, eq=False)
class Region:
    """The rings of a flat face, and the affine map (2, 4) from own mm to their plane."""

    patch: int
    rings: list[Flat]
    to_flat: Array


@dataclass(frozen=True, eq=False)
class Curved:
    """A curved body in own mm.

    arcs (n, 3, 4) homogeneous with kinds (n,) and the two patches (n, 2) each lies on (−1: none);
    forms (p, 4, 4) of the patches, plane (p,) which are planes; within (p, WITHIN, 4) half spaces;
    limits (p, 2, 4, 4) further forms that are ≥ 0 on the patch; rims: arcs (k, 3, 4) that bound
    patches, and rim_patch (k,) which. faces: patch numbers of its two ends (−1: none).
    """

    arcs: Array
    kinds: NDArray[np.intp]
    patches: NDArray[np.intp]
    circles: tuple[Circle, ...]
    forms: Array
    plane: NDArray[np.bool_]
    within: Array
    limits: Array
    regions: tuple[Region, ...]
    rims: Array
    rim_patch: NDArray[np.intp]
    rounds: tuple[Round, ...]
    swept: tuple[Swept, ...]
    ends: tuple[int, int]


NO_LIMIT = np.diag([0.0, 0.0, 0.0, 1.0])


@dataclass
class Making:
    """A curved body being put together."""

    arcs: list[Array] = field(default_factory=list)
    kinds: list[int] = field(default_factory=list)
    patches: list[tuple[int, int]] = field(default_factory=list)
    circles: list[Circle] = field(default_factory=list)
    forms: list[Array] = field(default_factory=list)
    plane: list[bool] = field(default_factory=list)
    within: list[Array] = field(default_factory=list)
    limits: list[Array] = field(default_factory=list)
    regions: list[Region] = field(default_factory=list)
    rims: list[Array] = field(default_factory=list)
    rim_patch: list[int] = field(default_factory=list)
    rounds: list[Round] = field(default_factory=list)
    swept: list[Swept] = field(default_factory=list)
    ends: tuple[int, int] = (-1, -1)

    def patch(
        self,
        form: Array,
        *,
        plane: bool,
        within: Sequence[Array] = (),
        limits: Sequence[Array] = (),
    ) -> int:
        """One more patch; gives its number."""
        self.forms.append(form)
        self.plane.append(plane)
        self.within.append(np.array([*within, *([ALWAYS] * (WITHIN - len(within)))]))
        self.limits.append(np.array([*limits, *([NO_LIMIT] * (2 - len(limits)))]))
        return len(self.forms) - 1

    def draw(self, arcs: Array, on: tuple[int, int], kind: int = EDGE, *, rim: bool = True) -> None:
        """Arcs drawn on one or two patches; an edge also bounds them."""
        for arc in arcs:
            self.arcs.append(arc)
            self.kinds.append(kind)
            self.patches.append(on)
        if rim:
            for number in on:
                if number >= 0:
                    self.rims += list(arcs)
                    self.rim_patch += [number] * len(arcs)

    def circle(
        self,
        centre: Array,
        axes: tuple[Array, Array],
        radius: float,
        on: tuple[int, int],
        role: str,
        *,
        drawn: bool = True,
        share: float = 0.0,
        turns: tuple[float, float] = (0.0, 360.0),
        kind: int = EDGE,
        rim: bool = True,
    ) -> None:
        """A circle on two patches, drawn or only bounding them."""
        arcs = circle_arcs(centre, radius * axes[0], radius * axes[1], *turns)
        if not drawn:
            for number in on:
                self.rims += list(arcs)
                self.rim_patch += [number] * len(arcs)
            return
        first = len(self.arcs)
        self.draw(arcs, on, kind, rim=rim)
        self.circles.append(
            Circle(centre, np.stack(axes), radius, role, first, len(self.arcs), share)
        )

    def patch_at(self, point: Array) -> int:
        """The patch that a point (3,) lies on, else −1."""
        return _lying_on(self, np.append(point, 1.0))

    def done(self) -> Curved:
        """The body."""
        n, p, r = len(self.arcs), len(self.forms), len(self.rims)
        return Curved(
            np.array(self.arcs).reshape(n, 3, 4),
            np.array(self.kinds, dtype=np.intp),
            np.array(self.patches, dtype=np.intp).reshape(n, 2),
            tuple(self.circles),
            np.array(self.forms).reshape(p, 4, 4),
            np.array(self.plane, dtype=bool),
            np.array(self.within).reshape(p, WITHIN, 4),
            np.array(self.limits).reshape(p, 2, 4, 4),
            tuple(self.regions),
            np.array(self.rims).reshape(r, 3, 4),
            np.array(self.rim_patch, dtype=np.intp),
            tuple(self.rounds),
            tuple(self.swept),
            self.ends,
        )


def plane_form(normal: Array, through: Array) -> Array:
    """A plane as a form (4, 4) whose last row is half its equation: xᵀ·F·x = normal·x − offset."""
    form = np.zeros((4, 4))
    form[3, :3] = form[:3, 3] = normal / 2
    form[3, 3] = -float(normal @ through)
    return form


def equation_of(form: Array) -> Array:
    """The equation (…, 4) of a plane given as a form (…, 4, 4)."""
    line = 2 * form[..., 3, :]
    line[..., 3] = form[..., 3, 3]
    return np.asarray(line)


def half_space(normal: Array, through: Array) -> Array:
    """The side of a plane that a normal points to, as (4,)."""
    return np.append(normal, -float(normal @ through))


def _lying_on(making: Making, point: Array) -> int:
    """The patch that a homogeneous point lies on, else −1."""
    size = float(np.abs(point[:3]).max()) + 1.0
    for number, (form, within) in enumerate(zip(making.forms, making.within, strict=True)):
        off = abs(float(point @ form @ point))
        near = off <= 1e-7 * size * (1.0 if making.plane[number] else size)
        if near and (within @ point >= -1e-9 * size).all():
            return number
    return -1
