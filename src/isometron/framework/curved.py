"""Curved bodies in their own axes: the surfaces they are made of, their edges and their circles.

A surface (patch) is a piece of a plane or of a quadric, given by its form xᵀ·F·x = 0 in homogeneous
own mm, bounded by half spaces, by further quadratic forms, or (a flat face of an extrusion) by
the rings of its outline. Everything drawn on it is an arc of a conic.
"""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from isometron.framework.extruded import Extruded, flats_of, width_at
from isometron.framework.outlines import Flat, centre_of, crossings, curves_of
from isometron.framework.turned import Loop, Segment, Turned, segments_of
from isometron.perspective.conics import between, circle_arcs, conic_arc, roots, straight
from isometron.perspective.errors import VolumeError
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
    ends: "_Ends"


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


def turned_form(place: Array, axle: Array, segment: Segment) -> Array:
    """The form of a turned surface, |x|² − h² − (a + b·h + c·h²) with h along the axle."""
    form = np.zeros((4, 4))
    form[:3, :3] = np.eye(3) - (1.0 + segment.c) * np.outer(axle, axle)
    form[:3, 3] = form[3, :3] = -segment.b / 2 * axle
    form[3, 3] = -segment.a
    shift = np.eye(4)
    shift[:3, 3] = -place
    return np.asarray(shift.T @ form @ shift)


def disc_limits(centre: Array, inner: float, outer: float) -> list[Array]:
    """The forms that are ≥ 0 between two radii about a point (in the plane of a disc)."""
    ball = np.eye(4)
    ball[:3, 3] = ball[3, :3] = -centre
    square = float(centre @ centre)
    limits: list[Array] = []
    for radius, sign in ((outer, -1.0), (inner, 1.0)):
        form = ball.copy()
        form[3, 3] = square - radius * radius
        limits.append(sign * form)
    return limits if inner > 0 else limits[:1]


def curved_loop(shape: Loop, sides: Sides) -> Making:
    """A circle or arc in space."""
    making = Making()
    axle, across, along, base, length, radius = turned_frame(shape.axis, sides)
    for share in shape.shares:
        making.circle(
            base + length / 2 * axle,
            (across, along),
            share * radius,
            (-1, -1),
            "loop",
            turns=(shape.start_deg, shape.sweep_deg),
        )
    return making


def turned_frame(axis: int, sides: Sides) -> tuple[Array, Array, Array, Array, float, float]:
    """Axle, two directions across, middle of the base, length and largest radius of what is turned
    in a box about an own axis."""
    own = np.eye(3)
    first, second = (axis + 1) % 3, (axis + 2) % 3
    base = own[first] * sides[first] / 2 + own[second] * sides[second] / 2
    radius = min(sides[first], sides[second]) / 2
    return own[axis], own[first], own[second], base, sides[axis], radius


def curved_turned(shape: Turned, sides: Sides) -> Making:
    """A turned form."""
    making = Making()
    axle, across, along, base, length, radius = turned_frame(shape.axis, sides)
    axes = (across, along)
    pieces = segments_of(shape, length, radius)
    surfaces = []
    for piece in pieces:
        at_low, at_high = base + piece.low * axle, base + piece.high * axle
        number = making.patch(
            turned_form(base, axle, piece),
            plane=False,
            within=[half_space(axle, at_low), half_space(-axle, at_high)],
        )
        making.rounds.append(Round(number, base, axle, piece))
        surfaces.append(number)
    bore = shape.bore * radius
    ends = []
    for height, piece in ((pieces[0].low, pieces[0]), (pieces[-1].high, pieces[-1])):
        wide = piece.radius(height)
        at = base + height * axle
        disc = -1
        if wide > 1e-9 * radius:
            disc = making.patch(
                plane_form(axle, at), plane=True, limits=disc_limits(at, bore, wide)
            )
        ends.append(disc)
    making.ends = (ends[0], ends[1])
    bounds = [(pieces[0].low, ends[0], surfaces[0])]
    for i, (lower, upper) in enumerate(itertools.pairwise(pieces)):
        bounds.append((lower.high, surfaces[i], surfaces[i + 1]))
        a, b = lower.radius(lower.high), upper.radius(upper.low)
        if abs(a - b) > 1e-9 * radius:  # a step: an annulus between the two radii
            at = base + lower.high * axle
            step = making.patch(
                plane_form(axle, at), plane=True, limits=disc_limits(at, min(a, b), max(a, b))
            )
            bounds[-1] = (lower.high, surfaces[i], step)
            making.circle(
                at, axes, b, (step, surfaces[i + 1]), "station", share=lower.high / length
            )
    bounds.append((pieces[-1].high, surfaces[-1], ends[1]))
    for i, (height, below, above) in enumerate(bounds):
        piece = pieces[min(i, len(pieces) - 1)] if i == 0 else pieces[i - 1]
        wide = piece.radius(height)
        if wide <= 1e-9 * radius:
            continue
        ended = i in (0, len(bounds) - 1)
        crease = ended or _creased(pieces[i - 1], pieces[i], height)
        making.circle(
            base + height * axle,
            axes,
            wide,
            (below, above),
            "end" if ended else "station",
            drawn=crease,
            share=height / length,
        )
    if bore:
        _bored(making, base, axle, axes, bore, (pieces[0].low, pieces[-1].high), length)
    for share, size in shape.rings:
        height = share * length
        on = _patch_under(pieces, surfaces, ends, height, size * radius)
        if size * radius > 1e-9 * radius:
            making.circle(
                base + height * axle, axes, size * radius, (on, -1), "ring", share=share, rim=False
            )
    return making


def _creased(lower: Segment, upper: Segment, height: float) -> bool:
    """Whether two pieces meet at an angle: their r² has different slopes, or radii differ."""
    a, b = lower.b + 2 * lower.c * height, upper.b + 2 * upper.c * height
    size = max(lower.squared(height), upper.squared(height))
    step = abs(lower.radius(height) - upper.radius(height))
    scale = max(abs(a), abs(b), size / max(abs(height), lower.high - lower.low))
    return abs(a - b) > 1e-7 * scale or step > 1e-9 * math.sqrt(size)


def _bored(
    making: Making,
    base: Array,
    axle: Array,
    axes: tuple[Array, Array],
    bore: float,
    reach: tuple[float, float],
    length: float,
) -> None:
    inner = Segment(reach[0], reach[1], bore * bore, 0.0, 0.0, True)
    at = [base + height * axle for height in reach]
    wall = making.patch(
        turned_form(base, axle, inner),
        plane=False,
        within=[half_space(axle, at[0]), half_space(-axle, at[1])],
    )
    making.rounds.append(Round(wall, base, axle, inner))
    for end, place, height in zip(making.ends, at, reach, strict=True):
        making.circle(place, axes, bore, (end, wall), "bore", share=height / length)


def _patch_under(
    pieces: Sequence[Segment],
    surfaces: Sequence[int],
    ends: Sequence[int],
    height: float,
    radius: float,
) -> int:
    """The patch a circle of a radius at a height lies on: an end, else the surface there."""
    slack = 1e-9 * (pieces[-1].high - pieces[0].low)
    if height <= pieces[0].low + slack and radius < pieces[0].radius(pieces[0].low):
        return ends[0]
    if height >= pieces[-1].high - slack and radius < pieces[-1].radius(pieces[-1].high):
        return ends[1]
    for piece, number in zip(pieces, surfaces, strict=True):
        near = piece.low - slack <= height <= piece.high + slack
        if near and abs(piece.radius(height) - radius) <= 1e-6 * max(radius, 1e-9):
            return number
    return -1


@dataclass(frozen=True, eq=False)
class _Ends:
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


def _ends_of(shape: Extruded, across: float) -> _Ends:
    reach = 1e6 * max(across, 1.0)
    if not shape.widths:
        return _Ends(np.array([-reach, reach]), np.zeros(2), np.ones(2))
    places = np.array([place for place, _ in shape.widths]) * across
    half = np.array([width for _, width in shape.widths]) / 2
    return _Ends(places, 0.5 - half, 0.5 + half)


def curved_extruded(shape: Extruded, sides: Sides) -> Making:
    """An extrusion of an outline with holes."""
    making = Making()
    own = np.eye(3)
    first, second = shape.cross
    plane = np.stack([own[first], own[second]])
    way = own[shape.axis] * sides[shape.axis]
    way = way + shape.slant[0] * sides[first] * plane[0] + shape.slant[1] * sides[second] * plane[1]
    rings = flats_of(shape, sides)
    ends = _ends_of(shape, sides[first])
    to_flat = _to_flat(plane, way)
    intervals = range(len(ends.breaks) - 1)
    faces = [
        [_end_face(making, plane, way, ends, i, far, rings, to_flat) for i in intervals]
        for far in (False, True)
    ]
    making.ends = (faces[0][0], faces[1][0])
    for far in (False, True):
        for i in intervals[1:]:
            _rib(making, plane, way, ends, i, far, rings, faces[far])
    for ring in rings:
        _sides(making, ring, plane, way, ends, faces)
    return making


def _to_flat(plane: Array, way: Array) -> Array:
    """(3, 4) map from own mm to outline u, v (mm) and share of the way."""
    basis = np.stack([plane[0], plane[1], way])
    return np.concatenate([np.linalg.inv(basis.T), np.zeros((3, 1))], axis=1)


def _lifted(flat_arcs: Array, plane: Array, way: Array, share: tuple[float, float]) -> Array:
    """Outline arcs (k, 3, 3) at a share of the way that is share[0] + share[1]·u."""
    u, v, w = flat_arcs[..., 0], flat_arcs[..., 1], flat_arcs[..., 2]
    along = share[0] * w + share[1] * u
    lifted = np.empty((*flat_arcs.shape[:2], 4))
    lifted[..., :3] = u[..., None] * plane[0] + v[..., None] * plane[1] + along[..., None] * way
    lifted[..., 3] = w
    return lifted


def _end_face(
    making: Making,
    plane: Array,
    way: Array,
    ends: _Ends,
    i: int,
    far: bool,
    rings: list[Flat],
    to_flat: Array,
) -> int:
    share = ends.along(i)[far]
    rise = plane[0] + share[1] * way
    normal = np.cross(rise, plane[1])
    normal = normal / np.linalg.norm(normal)
    across = to_flat[0]
    within = []
    if len(ends.breaks) > 2 or share[1]:
        low, high = across.copy(), -across
        low[3], high[3] = -ends.breaks[i], ends.breaks[i + 1]
        within = [low, high]
    number = making.patch(plane_form(normal, share[0] * way), plane=True, within=within)
    making.regions.append(Region(number, rings, to_flat[:2]))
    return number


def _rib(
    making: Making,
    plane: Array,
    way: Array,
    ends: _Ends,
    i: int,
    far: bool,
    rings: list[Flat],
    faces: list[int],
) -> None:
    """The lines across a face where its slope changes."""
    u = float(ends.breaks[i])
    begin, stop = ends.at(u)
    share = stop if far else begin
    heights = crossings(rings, 0, u)
    for low, high in zip(heights[::2], heights[1::2], strict=False):
        foot = u * plane[0] + share * way
        line = straight((foot + low * plane[1])[None], (foot + high * plane[1])[None])
        making.draw(line, (faces[i - 1], faces[i]))


def _sides(
    making: Making, ring: Flat, plane: Array, way: Array, ends: _Ends, faces: list[list[int]]
) -> None:
    curves = curves_of(ring)
    count = len(curves)
    firsts: list[int] = []
    lasts: list[int] = []
    for number in range(count):
        start, end, bulge = ring.corners[number], ring.after[number], float(ring.bulges[number])
        surfaces = []
        for arc in curves[number]:
            for i, part in _by_interval(arc, ends):
                surfaces.append(_side(making, part, i, start, end, bulge, plane, way, ends))
                for far in (0, 1):
                    lifted = _lifted(part[None], plane, way, ends.along(i)[far])
                    making.draw(lifted, (surfaces[-1], faces[far][i]))
        firsts.append(surfaces[0])
        lasts.append(surfaces[-1])
        if bulge and abs(abs(bulge) - 1.0) < 1e-12 and count == 2:
            _hole_circles(making, ring, plane, way, ends)
    for number in range(count):
        if _smooth_at(ring, number):
            continue
        corner = ring.corners[number]
        begin, stop = ends.at(float(corner[0]))
        foot = corner[0] * plane[0] + corner[1] * plane[1]
        line = straight((foot + begin * way)[None], (foot + stop * way)[None])
        making.draw(line, (lasts[number - 1], firsts[number]))


def _hole_circles(making: Making, ring: Flat, plane: Array, way: Array, ends: _Ends) -> None:
    """The two circles of a round hole or outline, for the record; its arcs are drawn already."""
    if len(ends.breaks) > 2:
        return
    middle = (ring.corners[0] + ring.corners[1]) / 2
    radius = float(np.linalg.norm(ring.corners[1] - ring.corners[0])) / 2
    for share in (0.0, 1.0):
        centre = middle[0] * plane[0] + middle[1] * plane[1] + share * way
        known = any(
            c.role == "hole" and float(np.abs(c.centre - centre).max()) < 1e-9 * radius
            for c in making.circles
        )
        if not known:
            making.circles.append(Circle(centre, plane, radius, "hole", 0, 0, share))


def _smooth_at(ring: Flat, number: int) -> bool:
    """Whether the pieces before and after a corner meet without an angle."""
    before, here, after = ring.corners[number - 1], ring.corners[number], ring.after[number]
    ways = []
    for start, end, bulge, at_end in (
        (before, here, float(ring.bulges[number - 1]), True),
        (here, after, float(ring.bulges[number]), False),
    ):
        if bulge == 0:
            ways.append((end - start) / np.linalg.norm(end - start))
            continue
        _, _, first, turn = centre_of(start, end, bulge)
        angle = first + (turn if at_end else 0.0)
        ways.append(np.array([-math.sin(angle), math.cos(angle)]) * math.copysign(1.0, turn))
    return bool(
        abs(ways[0][0] * ways[1][1] - ways[0][1] * ways[1][0]) < 1e-7 and ways[0] @ ways[1] > 0
    )


def _by_interval(arc: Array, ends: _Ends) -> list[tuple[int, Array]]:
    """A flat arc cut where the thickness changes its slope: interval number and part."""
    inner = ends.breaks[1:-1]
    cuts = [0.0, 1.0]
    if len(inner):
        form = np.stack([np.ones(len(inner)), np.zeros(len(inner)), -inner], axis=1)
        along = np.einsum("ik,nk->ni", arc, form)
        cuts = sorted({0.0, 1.0, *roots(along)[1].tolist()})
    parts = []
    for a, b in itertools.pairwise(cuts):
        if b - a < 1e-12:
            continue
        part = between(arc[None], np.array([a]), np.array([b]))[0]
        middle = part[0] + 2 * part[1] + part[2]
        i = int(np.searchsorted(ends.breaks, middle[0] / middle[2])) - 1
        parts.append((min(max(i, 0), len(ends.breaks) - 2), part))
    return parts


def _side(
    making: Making,
    part: Array,
    i: int,
    start: Array,
    end: Array,
    bulge: float,
    plane: Array,
    way: Array,
    ends: _Ends,
) -> int:
    """The side surface over one part of the outline."""
    to_flat = _to_flat(plane, way)
    begin, stop = ends.along(i)
    above, below = to_flat[2].copy(), -to_flat[2]
    above[:3] -= begin[1] * to_flat[0, :3]
    above[3] -= begin[0]
    below[:3] += stop[1] * to_flat[0, :3]
    below[3] += stop[0]
    a, b = part[0, :2] / part[0, 2], part[2, :2] / part[2, 2]
    if bulge == 0:
        run = (b - a) / np.linalg.norm(b - a)
        foot = a[0] * plane[0] + a[1] * plane[1]
        line = run[0] * plane[0] + run[1] * plane[1]
        normal = np.cross(line, way)
        normal = normal / np.linalg.norm(normal)
        low, high = _along(to_flat, run, a), -_along(to_flat, run, b)
        return making.patch(plane_form(normal, foot), plane=True, within=[above, below, low, high])
    centre, radius, _, turn = centre_of(start, end, bulge)
    flat_form = np.zeros((3, 3))
    flat_form[:2, :2] = np.eye(2)
    flat_form[:2, 2] = flat_form[2, :2] = -centre
    flat_form[2, 2] = float(centre @ centre) - radius * radius
    mapped = np.concatenate([to_flat[:2], [[0.0, 0.0, 0.0, 1.0]]])
    chord = b - a
    outward = np.array([chord[1], -chord[0]]) * math.copysign(1.0, turn) / np.linalg.norm(chord)
    number = making.patch(
        mapped.T @ flat_form @ mapped,
        plane=False,
        within=[above, below, _along(to_flat, outward, a)],
    )
    angles = [math.atan2(*(p - centre)[::-1]) for p in (a, b)]
    swing = (angles[1] - angles[0]) * math.copysign(1.0, turn) % (2 * math.pi)
    making.swept.append(
        Swept(
            number,
            plane,
            centre,
            radius,
            angles[0],
            math.copysign(swing, turn),
            way,
            ends,
        )
    )
    return number


def _along(to_flat: Array, run: Array, start: Array) -> Array:
    """The half space of outline places beyond a point along a direction."""
    line = run[0] * to_flat[0] + run[1] * to_flat[1]
    line[3] -= float(run @ start)
    return np.asarray(line)


def section_circle(making: Making, shape: Turned, sides: Sides, share: float) -> None:
    """The circle where a level plane cuts a turned form at a share of its length."""
    axle, across, along, base, length, radius = turned_frame(shape.axis, sides)
    height = share * length
    for one in making.rounds:
        piece = one.segment
        if piece.low - 1e-12 <= height <= piece.high and piece.radius(height) > 1e-9 * radius:
            making.circle(
                base + height * axle,
                (across, along),
                piece.radius(height),
                (one.patch, -1),
                "section",
                share=share,
                kind=SECTION,
                rim=False,
            )


def section_along(making: Making, shape: Turned, sides: Sides, axis: int, share: float) -> None:
    """Where a plane along the axle, square to another own axis at a share of that side, cuts a
    turned form: its profile, piece by piece, and lines across its ends."""
    axle, _, _, base, _, _ = turned_frame(shape.axis, sides)
    own = np.eye(3)
    off = (share - 0.5) * sides[axis]
    aside = own[3 - axis - shape.axis]
    for one in making.rounds:
        for sign in (1.0, -1.0):
            arcs = curve_on_round(one.segment, (off, 0.0), base, axle, own[axis], sign * aside)
            making.draw(arcs, (one.patch, -1), SECTION, rim=False)
    if shape.bore:
        return
    for end, height in zip(making.ends, (shape.stations[0][0], shape.stations[-1][0]), strict=True):
        piece = making.rounds[0 if end == making.ends[0] else -1].segment
        at = height * sides[shape.axis]
        reach = piece.squared(min(max(at, piece.low), piece.high)) - off * off
        if end >= 0 and reach > 0:
            middle = base + at * axle + off * own[axis]
            run = math.sqrt(reach) * aside
            making.draw(
                straight((middle - run)[None], (middle + run)[None]), (end, -1), SECTION, rim=False
            )


def section_of_extrusion(
    making: Making, shape: Extruded, sides: Sides, axis: int, share: float
) -> None:
    """Where a plane square to an own axis at a share of that side cuts an extrusion."""
    own = np.eye(3)
    first, second = shape.cross
    plane = np.stack([own[first], own[second]])
    way = own[shape.axis] * sides[shape.axis]
    rings = flats_of(shape, sides)
    if any(shape.slant):
        raise VolumeError("A slanting extrusion has no square section: straighten it first.")
    if axis == shape.axis:
        ends = _ends_of(shape, sides[first])
        for ring in rings:
            for curve in curves_of(ring):
                lifted = _lifted(curve, plane, way, (share, 0.0))
                for arc in lifted:
                    middle = (arc[0] + 2 * arc[1] + arc[2]) / (arc[0] + 2 * arc[1] + arc[2])[3]
                    begin, stop = ends.at(float(middle[first]))
                    if begin <= share <= stop:
                        on = _lying_on(making, middle)
                        making.draw(arc[None], (on, -1), SECTION, rim=False)
        return
    flat_axis = 0 if axis == first else 1
    at = share * sides[axis]
    heights = crossings(rings, flat_axis, at)
    for low, high in zip(heights[::2], heights[1::2], strict=False):
        places = [(at, v) if flat_axis == 0 else (v, at) for v in (low, high)]
        ring_points = []
        for u, v in places:
            width = width_at(shape, u / sides[first])
            foot = u * plane[0] + v * plane[1]
            ring_points += [foot + (0.5 - width / 2) * way, foot + (0.5 + width / 2) * way]
        a, b, c, d = ring_points
        for start, end in ((a, b), (c, d), (a, c), (b, d)):
            on = _lying_on(making, np.append((start + end) / 2, 1.0))
            making.draw(straight(start[None], end[None]), (on, -1), SECTION, rim=False)


def _lying_on(making: Making, point: Array) -> int:
    """The patch that a homogeneous point lies on, else −1."""
    size = float(np.abs(point[:3]).max()) + 1.0
    for number, (form, within) in enumerate(zip(making.forms, making.within, strict=True)):
        off = abs(float(point @ form @ point))
        near = off <= 1e-7 * size * (1.0 if making.plane[number] else size)
        if near and (within @ point >= -1e-9 * size).all():
            return number
    return -1


def curve_on_round(
    piece: Segment,
    across: tuple[float, float],
    base: Array,
    axle: Array,
    towards: Array,
    aside: Array,
) -> Array:
    """Arcs (k, 3, 4) of the curve on a turned surface whose place along `towards` is
    across[0] + across[1]·h, on the side of `aside`, over the heights h of the piece.

    There the place along `aside` is √Y with Y = r² − (across)², a quadratic in h: a conic.
    """
    p, q = across
    y0, y1, y2 = piece.a - p * p, piece.b - 2 * p * q, piece.c - q * q
    spans = _above_zero(y0, y1, y2, piece.low, piece.high)
    form = np.array([[-y2, 0.0, -y1 / 2], [0.0, 1.0, 0.0], [-y1 / 2, 0.0, -y0]])
    size = max(abs(y0), abs(y1) * piece.high, abs(y2) * piece.high**2, 1e-300)
    lines = abs(y1 * y1 - 4 * y0 * y2) <= 1e-12 * size * max(abs(y2), size / piece.high**2)
    arcs = []
    for low, high in spans:
        cuts = [low, high] if lines else [low, (low + high) / 2, high]
        for a, b in itertools.pairwise(cuts):
            ya, yb = (math.sqrt(max(y0 + y1 * h + y2 * h * h, 0.0)) for h in (a, b))
            start, end = np.array([a, ya, 1.0]), np.array([b, yb, 1.0])
            if lines:
                flat_arc = np.stack([start, (start + end) / 2, end])
            else:
                h = (a + b) / 2
                inside = np.array([h, math.sqrt(max(y0 + y1 * h + y2 * h * h, 0.0)), 1.0])
                flat_arc = conic_arc(start, end, form, inside)
            along, y, w = flat_arc[:, 0, None], flat_arc[:, 1, None], flat_arc[:, 2, None]
            lifted = np.concatenate(
                [w * base + along * axle + (p * w + q * along) * towards + y * aside, w], axis=1
            )
            arcs.append(lifted)
    return np.array(arcs).reshape(-1, 3, 4)


def _above_zero(
    y0: float, y1: float, y2: float, low: float, high: float
) -> list[tuple[float, float]]:
    """The parts of low … high where y0 + y1·h + y2·h² is above zero."""
    cuts = [low, high]
    square = y1 * y1 - 4 * y0 * y2
    if square > 0:
        q = -(y1 + math.copysign(math.sqrt(square), y1)) / 2
        for root in (q / y2 if y2 else math.nan, y0 / q if q else math.nan):
            if low < root < high:
                cuts.append(root)
    cuts.sort()
    slack = 1e-12 * (high - low)
    return [
        (a, b)
        for a, b in itertools.pairwise(cuts)
        if b - a > slack and y0 + y1 * (a + b) / 2 + y2 * ((a + b) / 2) ** 2 > 0
    ]
