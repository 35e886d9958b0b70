"""True outlines of areas: where an area ends along the picture of a circle, a shadow of one, or the
edge between light and shade of a ball, its chords are replaced by the conic they were taken from.

Corners of chords lie on the conic itself (those of arcs of a body, and of their shadows), or within
CHORD of it (where a bent surface turns away from us or from the light, which the facets only come
near). Bounds between two steps of what is lit stay chords: they are no conics."""

import itertools
from collections.abc import Sequence
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.document.light import Light
from isometron.drawing.scene import Scene
from isometron.drawing.shading.areas import GROUND, Area, rings_of
from isometron.drawing.shading.receivers import Receiver, receivers_of
from isometron.drawing.shading.surroundings import MIRROR
from isometron.framework.bodies.body import OUTLINE
from isometron.framework.figures import Figure
from isometron.hiding.facets import CHORD
from isometron.hiding.standing import stand
from isometron.hiding.viewpoint import Viewpoint
from isometron.nearness import ROUNDING
from isometron.perspective.conics import bounds_of, conic_arc, moved, pictures, seen_from, straight
from isometron.perspective.eye import Array

ON_IT = 2e-6
"""A corner this near a conic, sheet mm or of its size 1e-8, lies on it."""

NEARBY = 1.2 * CHORD
"""A corner this near a conic, as a share of its size, may stand for one on it."""

LARGEST = 150.0
"""Conics larger than this, mm, are no larger for NEARBY."""

BULGE = 0.25
"""A chord's middle lies no farther from its arc than this share of the chord."""

CUT = 1.5
"""The last chord of an arc, which ends beside it, is no longer than so many of its neighbours."""

FEWEST, FEWEST_NEAR = 2, 5
"""So many chords in a row make an arc: of conics whose corners lie on them, and of others."""

NO_ARCS = np.empty((0, 3, 3))
TURN = 20
"""At most so many chords make one arc: less than a quarter of a turn."""


class Curves(NamedTuple):
    """Conics of a plane that areas may end along: their forms (m, 3, 3), how far a corner of a
    chord may lie off each (m,), whether it only comes near, and the bounds (m, 4) of the arcs."""

    forms: Array
    off: Array
    near: NDArray[np.bool_]
    bounds: Array

    def about(self, places: Array) -> "Curves":
        """Those whose bounds reach the bounds of some places (n, 2)."""
        low, high = places.min(axis=0), places.max(axis=0)
        there = (self.bounds[:, :2] <= high + 1.0) & (self.bounds[:, 2:] >= low - 1.0)
        return self.of(there.all(axis=1))

    def of(self, some: Any) -> "Curves":
        """Some of them."""
        return Curves(self.forms[some], self.off[some], self.near[some], self.bounds[some])


def curves_of(exact: Array, near: Array) -> Curves:
    """The conics of arcs (m, 3, 3) whose chords have corners on them, and of arcs whose chords
    only come near."""
    arcs = np.concatenate([exact, near])
    is_near = np.arange(len(arcs)) >= len(exact)
    if not len(arcs):
        return Curves(np.empty((0, 3, 3)), np.empty(0), is_near, np.empty((0, 4)))
    a, b, c = (np.cross(arcs[:, i], arcs[:, j]) for i, j in ((1, 2), (2, 0), (0, 1)))
    forms = b[:, :, None] * b[:, None, :]
    forms -= 2 * (a[:, :, None] * c[:, None, :] + c[:, :, None] * a[:, None, :])
    largest = np.abs(forms).max(axis=(1, 2))
    bounds = bounds_of(arcs)
    size = np.hypot(bounds[:, 2] - bounds[:, 0], bounds[:, 3] - bounds[:, 1])
    size = np.minimum(np.where(np.isfinite(size), size, LARGEST), LARGEST)
    bent = np.abs(np.linalg.det(arcs / np.abs(arcs).max(axis=(1, 2), keepdims=True))) > ROUNDING
    fair = (largest > 0) & bent
    forms = forms[fair] / largest[fair, None, None]
    off = np.where(is_near, NEARBY * size, np.maximum(ON_IT, 1e-8 * size))[fair]
    return _once(Curves(forms, off, is_near[fair], bounds[fair]))


def _once(curves: Curves) -> Curves:
    """Arcs of one conic as one of them, with the bounds of all."""
    flat = curves.forms.reshape(-1, 9)
    lead = np.take_along_axis(flat, np.abs(flat).argmax(axis=1)[:, None], axis=1)
    told = np.column_stack([np.round(flat / lead, 9), curves.near])
    _unused, first, owner = np.unique(told, axis=0, return_index=True, return_inverse=True)
    kept = curves.of(first)
    bounds = np.stack(
        [np.full(len(first), np.inf)] * 2 + [np.full(len(first), -np.inf)] * 2, axis=1
    )
    np.minimum.at(bounds[:, :2], owner.ravel(), curves.bounds[:, :2])
    np.maximum.at(bounds[:, 2:], owner.ravel(), curves.bounds[:, 2:])
    return kept._replace(bounds=bounds)


def _away(forms: Array, places: Array) -> Array:
    """(m, n) how far places (n, 2) lie from conics (m, 3, 3), to the first order (Sampson)."""
    whole = np.column_stack([places, np.ones(len(places))])
    slope = forms @ whole.T
    value = np.abs((slope * whole.T).sum(axis=1))
    return np.asarray(value / np.maximum(2 * np.hypot(slope[:, 0], slope[:, 1]), 1e-300))


def traced(ring: Array, curves: Curves) -> Array:
    """A closed ring (k, 2) as arcs (n, 3, 3), each beginning where the one before ends: straight
    ones, and the conics it was taken from."""
    places = ring[:-1] if np.array_equal(ring[0], ring[-1]) else ring
    curves = curves.about(places)
    count = len(places)
    runs = _runs(places, curves) if len(curves.forms) and count > FEWEST else []
    taken = {n for start, length, _form in runs for n in range(start, start + length)}
    own = places.copy()
    for start, length, form in runs:
        for end in (start % count, (start + length) % count):
            own[end] = _onto(own[end], curves.forms[form])
    found: list[tuple[int, Array]] = []
    for start, length, form in runs:
        found += _arcs(own, start, length, curves.forms[form])
    for n in range(count):
        if n not in taken and n + count not in taken:
            pair = own[[n, (n + 1) % count]]
            found.append((n, straight(pair[:1], pair[1:])[0]))
    return np.array([arc for _n, arc in sorted(found, key=lambda one: one[0] % count)])


def _runs(places: Array, curves: Curves) -> list[tuple[int, int, int]]:
    """Begin, length and conic of the runs of chords that stand for one conic, begin below the
    number of places; none overlap."""
    after = np.roll(places, -1, axis=0)
    middle = _away(curves.forms, (places + after) / 2)
    long = np.hypot(*(after - places).T)
    away = _away(curves.forms, places)
    on = away <= curves.off[:, None]
    ahead = np.roll(on, -1, axis=1)
    bulges = middle <= BULGE * long + np.where(curves.near, curves.off, 0.0)[:, None]
    whole = bulges & on & ahead
    bent = whole | (_last(whole, on, long, -1) & bulges) | (_last(whole, ahead, long, 1) & bulges)
    bent[curves.near] = whole[curves.near]
    order = np.argsort(curves.near, kind="stable")
    free = np.ones(len(places), dtype=bool)
    found = []
    for form in order.tolist():
        least = FEWEST_NEAR if curves.near[form] else FEWEST
        for start, length in _in_rows(bent[form] & free):
            if length >= least and (curves.near[form] or on[form].sum() >= FEWEST):
                found.append((start, length, form))
                free[np.arange(start, start + length) % len(places)] = False
    return found


def _last(
    whole: NDArray[np.bool_], on: NDArray[np.bool_], long: Array, way: int
) -> NDArray[np.bool_]:
    """Chords where an arc is cut: one end on it, beside a chord with both ends on it and not much
    longer than that."""
    beside = np.roll(whole, -way, axis=1)
    return np.asarray(on & beside & (long <= CUT * np.roll(long, -way)))


def _in_rows(some: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Begin and length of the rows of True of a ring."""
    if some.all():
        return [(0, len(some))]
    first = int(np.flatnonzero(~some)[0])
    turned = np.concatenate([np.roll(some, -first), [False]]).astype(int)
    steps = np.diff(turned, prepend=0)
    begins, ends = np.flatnonzero(steps > 0), np.flatnonzero(steps < 0)
    return [((int(b) + first) % len(some), int(e - b)) for b, e in zip(begins, ends, strict=True)]


def _onto(place: Array, form: Array) -> Array:
    """The place (2,) of a conic next to a place."""
    for _n in range(3):
        slope = form @ np.append(place, 1.0)
        square = float(slope[:2] @ slope[:2])
        value = float(np.append(place, 1.0) @ slope)
        if square <= 0:
            break
        place = place - value / (2 * square) * slope[:2]
    return place


def _arcs(places: Array, start: int, length: int, form: Array) -> list[tuple[int, Array]]:
    """A run of chords as arcs of a conic, each with the number of its first chord; as chords where
    the conic turns away from them."""
    count = len(places)
    found: list[tuple[int, Array]] = []
    pieces = -(-length // TURN) if length < count else max(-(-length // TURN), 3)
    bounds = [start + length * n // pieces for n in range(pieces + 1)]
    for one, two in itertools.pairwise(bounds):
        ends = [_onto(places[n % count], form) for n in (one, two)]
        inside = places[((one + two) // 2) % count]
        if two - one == 1:
            inside = _onto((ends[0] + ends[1]) / 2, form)
        whole = [np.append(place, 1.0) for place in (*ends, inside)]
        arc = conic_arc(whole[0], whole[1], form, whole[2])
        own = [ends[0], *(places[n % count] for n in range(one + 1, two)), ends[1]]
        if _follows(arc, inside):
            found.append((one, arc))
        else:
            chords = straight(np.array(own[:-1]), np.array(own[1:]))
            found += [(one + n, chord) for n, chord in enumerate(chords)]
    return found


def _follows(arc: Array, inside: Array) -> bool:
    """Whether an arc (3, 3) runs by a place between its ends."""
    run = arc[2, :2] - arc[0, :2]
    long = float(np.hypot(*run))
    middle = (arc[0] + 2 * arc[1] + arc[2]) / 4
    if arc[1, 2] < -0.5 or middle[2] <= 0 or long == 0:
        return False
    return float(np.hypot(*(middle[:2] / middle[2] - inside))) <= long


def cast(light: Light, place: Array, normal: Array, arcs: Array) -> Array:
    """World arcs (n, 3, 4) as the light casts them on the plane through a place (3,) with a unit
    normal (3,): again arcs."""
    high = arcs[..., :3] @ normal - arcs[..., 3] * float(place @ normal)
    source = np.array(light.source)
    hung = float((source[:3] - source[3] * place) @ normal)
    if light.far:
        return np.asarray(arcs - (high / hung)[..., None] * source)
    return np.asarray(hung * arcs - high[..., None] * source)


class Bends(NamedTuple):
    """What bends of the volumes that are shown, as world arcs (n, 3, 4): arcs of their bodies,
    outlines where they turn away from us, and where they turn away from the light."""

    arcs: Array
    outlines: Array
    terminators: Array


@lru_cache(maxsize=2)
def bends_of(scene: Scene, light: Light) -> Bends:
    """What bends of the volumes of a scene."""
    shown = [p for p in scene.pictures if p.volume.shown and not p.volume.ghost]
    arcs = [moved(p.body.arcs, p.axes, p.figure.place) for p in shown if len(p.body.arcs)]
    outlines = [p.outlines for p in shown if p.body.surfaces is not None]
    lit = _turned_from([p.figure for p in shown if p.body.surfaces is not None], light)
    none = [np.empty((0, 3, 4))]
    return Bends(np.concatenate(none + arcs), np.concatenate(none + outlines), lit)


def _turned_from(figures: Sequence[Figure], light: Light) -> Array:
    """World arcs where bent surfaces turn away from a light."""
    far, place = light.far, np.array(light.source[:3])
    found = [np.empty((0, 3, 4))]
    for standing in stand(Viewpoint(place, far=far), figures):
        arcs = standing.items.arcs[standing.items.kinds == OUTLINE].copy()
        if not far:
            arcs[..., :3] += arcs[..., 3:] * place
        found.append(arcs)
    return np.concatenate(found)


def curves_on_faces(scene: Scene, light: Light) -> Curves:
    """Conics of the sheet that faces end along, lit or not."""
    bends = bends_of(scene, light)
    near = np.concatenate([bends.outlines, bends.terminators])
    return curves_of(_drawn(scene, bends.arcs), _drawn(scene, near))


def _drawn(scene: Scene, arcs: Array) -> Array:
    return pictures(scene.eye, seen_from(scene.eye, arcs))


def curves_of_shadow(scene: Scene, light: Light, place: Array, normal: Array) -> Curves:
    """Conics of the sheet that shadows on a plane end along."""
    bends = bends_of(scene, light)
    fallen = (cast(light, place, normal, one) for one in (bends.arcs, bends.terminators))
    return curves_of(*(_drawn(scene, one) for one in fallen))


def with_others(one: Curves, other: Curves) -> Curves:
    """Both together."""
    return Curves(*(np.concatenate(pair) for pair in zip(one, other, strict=True)))


@lru_cache(maxsize=64)
def _curves(scene: Scene, light: Light, area: tuple[str, int, int]) -> Curves:
    """The conics that an area may end along: of its kind, on a volume and a face, or on a receiver
    of shadows."""
    kind, volume, face = area
    if kind == MIRROR:
        return curves_of(_drawn(scene, bends_of(scene, light).arcs * (1, 1, -1, 1)), NO_ARCS)
    own = curves_on_faces(scene, light)
    if kind not in ("shadow", "cast"):
        return own
    if volume == GROUND:
        receiver = receivers_of(scene.aids, np.array(scene.eye.place))[face]
        place, normal = receiver.place, receiver.normal
    else:
        figure = scene.pictures[volume].figure
        if face >= figure.body.faces:
            return own
        normal = figure.normals[face]
        place = normal * figure.offsets[face]
    return with_others(own, curves_of_shadow(scene, light, place, normal))


def outlines_of(scene: Scene, light: Light, area: Area) -> list[list[Array]]:
    """The polygons of an area, each ring as arcs (n, 3, 3) of the sheet that run on from one to the
    next: straight ones, and true conics where it ends along them."""
    if scene.eye.curved:  # circles are no conics there
        return [[_chords(ring) for ring in polygon] for polygon in area.rings()]
    curves = _curves(scene, light, area[:3])
    return [[traced(ring, curves) for ring in polygon] for polygon in area.rings()]


def _chords(ring: Array) -> Array:
    places = ring[:-1] if np.array_equal(ring[0], ring[-1]) else ring
    return straight(places, np.roll(places, -1, axis=0))


def shadow_in_plane(
    scene: Scene, light: Light, receiver: Receiver, shape: Any
) -> list[list[Array]]:
    """The polygons of a shadow in the plane of its receiver, each ring as arcs (n, 3, 4) of the
    world."""
    bends = bends_of(scene, light)
    own = []
    for arcs in (bends.arcs, bends.terminators):
        fallen = cast(light, receiver.place, receiver.normal, arcs)
        off = fallen[..., :3] - fallen[..., 3:] * receiver.place
        own.append(np.concatenate([off @ receiver.across.T, fallen[..., 3:]], axis=2))
    curves = curves_of(*own)
    return [[_lifted(receiver, traced(ring, curves)) for ring in one] for one in rings_of(shape)]


def _lifted(receiver: Receiver, arcs: Array) -> Array:
    weight = arcs[..., 2:]
    return np.concatenate(
        [arcs[..., :2] @ receiver.across + weight * receiver.place, weight], axis=2
    )
