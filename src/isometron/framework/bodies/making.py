"""A body that bends being put together, piece by piece, in its own mm.

A surface is a piece of a plane or of a quadric, given by its form xᵀ·F·x = 0 in homogeneous own mm,
bounded by half spaces, by further quadratic forms, or (a plane one) by the rings of its outline.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from isometron.framework.bodies.body import (
    EDGE,
    Body,
    Circle,
    Indices,
    Region,
    Surfaces,
    SweptPatch,
    TurnedPatch,
)
from isometron.framework.outlines import Flat
from isometron.perspective.conics import circle_arcs, straight
from isometron.perspective.eye import Array

WITHIN = 8
"""Every surface has room for this many half spaces."""

ALWAYS = np.array([0.0, 0.0, 0.0, 1.0])
"""A half space that everything lies in."""

NO_CORNERS = np.empty((0, 3))

NO_LIMIT = np.diag([0.0, 0.0, 0.0, 1.0])

SAME_PLACE = 1e-9
"""Share of a body's size within which two of its corners are one."""


@dataclass
class Making:
    """A body being put together. Surfaces are numbered as they come; `done` puts the plane ones
    first. `ends` are the near and the far end of what is turned or carried (−1: none)."""

    lines: list[tuple[Array, Array]] = field(default_factory=list)
    line_faces: list[tuple[int, int]] = field(default_factory=list)
    arcs: list[Array] = field(default_factory=list)
    kinds: list[int] = field(default_factory=list)
    faces: list[tuple[int, int]] = field(default_factory=list)
    circles: list[Circle] = field(default_factory=list)
    forms: list[Array] = field(default_factory=list)
    normals: list[Array | None] = field(default_factory=list)
    within: list[Array] = field(default_factory=list)
    limits: list[Array] = field(default_factory=list)
    regions: list[Region] = field(default_factory=list)
    rims: list[Array] = field(default_factory=list)
    rim_surface: list[int] = field(default_factory=list)
    turned: list[TurnedPatch] = field(default_factory=list)
    swept: list[SweptPatch] = field(default_factory=list)
    ends: tuple[int, int] = (-1, -1)

    @classmethod
    def of(cls, body: Body) -> "Making":
        """The beginnings of a body with more to it than a body that is there: all of its lines,
        arcs and surfaces, under their numbers."""
        making = cls(
            [(body.vertices[a], body.vertices[b]) for a, b in body.edges.tolist()],
            [(a, b) for a, b in body.edge_faces.tolist()],
            list(body.arcs),
            body.arc_kinds.tolist(),
            [(a, b) for a, b in body.arc_faces.tolist()],
            list(body.circles),
        )
        if body.surfaces is None:
            making._flat_faces(body)
            return making
        own = body.surfaces
        bent = [None] * (len(own.forms) - body.faces)
        making.forms, making.normals = list(own.forms), [*body.normals, *bent]
        making.within, making.limits = list(own.within), list(own.limits)
        making.regions, making.rims = list(own.regions), list(own.rims)
        making.rim_surface = own.rim_surface.tolist()
        making.turned, making.swept = list(own.turned), list(own.swept)
        return making

    def _flat_faces(self, body: Body) -> None:
        for face, rings in enumerate(body.rings):
            normal = body.normals[face]
            self.plane(normal, body.vertices[rings[0][0]])
            across = np.linalg.svd(normal[None])[2][1:]
            flats = [body.vertices[list(ring)] @ across.T for ring in rings]
            to_flat = np.concatenate([across, np.zeros((2, 1))], axis=1)
            outlines = [Flat(flat, np.zeros(len(flat))) for flat in flats]
            self.regions.append(Region(face, outlines, to_flat))
            for ring in rings:
                corners = body.vertices[list(ring)]
                self.bound(straight(corners, np.roll(corners, -1, axis=0)), (face,))

    def surface(
        self,
        form: Array,
        *,
        normal: Array | None = None,
        within: Sequence[Array] = (),
        limits: Sequence[Array] = (),
    ) -> int:
        """One more surface; gives its number. normal: outward, of a plane one."""
        self.forms.append(form)
        self.normals.append(normal)
        self.within.append(np.array([*within, *([ALWAYS] * (WITHIN - len(within)))]))
        self.limits.append(np.array([*limits, *([NO_LIMIT] * (2 - len(limits)))]))
        return len(self.forms) - 1

    def plane(
        self,
        normal: Array,
        through: Array,
        *,
        within: Sequence[Array] = (),
        limits: Sequence[Array] = (),
    ) -> int:
        """One more plane surface with an outward normal, through a point; gives its number."""
        form = plane_form(normal, through)
        return self.surface(form, normal=normal, within=within, limits=limits)

    def bound(self, arcs: Array, on: tuple[int, ...]) -> None:
        """Arcs that bound surfaces without being drawn."""
        for number in on:
            if number >= 0:
                self.rims += list(arcs)
                self.rim_surface += [number] * len(arcs)

    def line(self, start: Array, end: Array, on: tuple[int, int]) -> None:
        """A straight edge between two surfaces."""
        self.lines.append((start, end))
        self.line_faces.append(on)
        self.bound(straight(start[None], end[None]), on)

    def draw(self, arcs: Array, on: tuple[int, int], kind: int = EDGE, *, rim: bool = True) -> None:
        """Arcs drawn on one or two surfaces; an edge also bounds them."""
        for arc in arcs:
            self.arcs.append(arc)
            self.kinds.append(kind)
            self.faces.append(on)
        if rim:
            self.bound(arcs, on)

    def circle(
        self,
        centre: Array,
        axes: tuple[Array, Array],
        radius: float,
        on: tuple[int, int],
        role: str,
        *,
        share: float = 0.0,
        turns: tuple[float, float] = (0.0, 360.0),
        kind: int = EDGE,
        rim: bool = True,
    ) -> None:
        """A circle drawn on two surfaces."""
        arcs = circle_arcs(centre, radius * axes[0], radius * axes[1], *turns)
        first = len(self.arcs)
        self.draw(arcs, on, kind, rim=rim)
        self.circles.append(
            Circle(centre, np.stack(axes), radius, role, first, len(self.arcs), share)
        )

    def done(self, order: Sequence[int] = (), corners: Array = NO_CORNERS) -> Body:
        """The body. order: its plane surfaces in the order they get as faces; corners (n, 3): its
        first ones."""
        new = self._renumbered(order)
        old = np.argsort(new)
        planes = [i for i in old.tolist() if self.normals[i] is not None]
        normals = np.array([self.normals[i] for i in planes]).reshape(-1, 3)
        forms = np.array(self.forms).reshape(-1, 4, 4)[old]
        vertices, edges = merged_edges(self.lines, corners)
        n, r = len(self.arcs), len(self.rims)
        w = len(self.forms)
        surfaces = Surfaces(
            forms,
            np.array([self.normals[i] is not None for i in old], dtype=bool),
            np.array(self.within).reshape(w, WITHIN, 4)[old],
            np.array(self.limits).reshape(w, 2, 4, 4)[old],
            tuple(one._replace(surface=int(new[one.surface])) for one in self.regions),
            np.array(self.rims).reshape(r, 3, 4),
            _through(new, np.array(self.rim_surface, dtype=np.intp)),
            tuple(one._replace(surface=int(new[one.surface])) for one in self.turned),
            tuple(one._replace(surface=int(new[one.surface])) for one in self.swept),
        )
        return Body(
            vertices,
            edges,
            _through(new, np.array(self.line_faces, dtype=np.intp).reshape(-1, 2)),
            np.zeros(len(edges), dtype=bool),
            np.array(self.arcs).reshape(n, 3, 4),
            np.array(self.kinds, dtype=np.intp),
            _through(new, np.array(self.faces, dtype=np.intp).reshape(n, 2)),
            tuple(self.circles),
            normals,
            -forms[: len(planes), 3, 3],
            (),
            (),
            False,
            surfaces if w else None,
        )

    def _renumbered(self, order: Sequence[int]) -> Indices:
        """(p,) the number each surface gets: plane ones first."""
        planes = [i for i, normal in enumerate(self.normals) if normal is not None]
        first = [*order, *(i for i in planes if i not in set(order))]
        bent = [i for i, normal in enumerate(self.normals) if normal is None]
        new = np.empty(len(self.normals), dtype=np.intp)
        new[[*first, *bent]] = np.arange(len(self.normals))
        return new


def _through(new: Indices, numbers: Indices) -> Indices:
    """Numbers of surfaces in the new order; −1 stays."""
    if not len(new):
        return numbers
    return np.asarray(np.where(numbers >= 0, new[np.maximum(numbers, 0)], -1), dtype=np.intp)


def merged_edges(
    lines: Sequence[tuple[Array, Array]], corners: Array = NO_CORNERS
) -> tuple[Array, Indices]:
    """Corners (n, 3) of straight lines, those in one place as one and some that are there first,
    and the lines as pairs of them (m, 2)."""
    if not lines:
        return corners, np.empty((0, 2), dtype=np.intp)
    vertices, number = merged(np.concatenate([corners, np.array(lines).reshape(-1, 3)]))
    return vertices, np.array(number[len(corners) :], dtype=np.intp).reshape(-1, 2)


def merged(points: Array) -> tuple[Array, list[int]]:
    """Points (n, 3), those in one place as one, in the order they come, and the number of each."""
    size = float(np.abs(points - points[0]).max())
    kept = np.empty_like(points)
    count = 0
    number: list[int] = []
    for point in points:
        near = np.abs(kept[:count] - point).max(axis=1, initial=0.0) <= SAME_PLACE * size
        same = int(near.argmax()) if count and near.any() else -1
        if same < 0:
            kept[count] = point
            same = count
            count += 1
        number.append(same)
    return kept[:count].copy(), number


def plane_form(normal: Array, through: Array) -> Array:
    """A plane as a form (4, 4) whose last row is half its equation: xᵀ·F·x = normal·x − offset."""
    form = np.zeros((4, 4))
    form[3, :3] = form[:3, 3] = normal / 2
    form[3, 3] = -float(normal @ through)
    return form


def half_space(normal: Array, through: Array) -> Array:
    """The side of a plane that a normal points to, as (4,)."""
    return np.append(normal, -float(normal @ through))
