"""Bent bars: a round or square-cornered section carried along a line with bends, mitred at every
joint.

A bend is a run of short straight pieces, chords of its arc of at most 7.5° each; joints within it
are drawn nowhere. Every piece is exact: a cylinder cut by its mitre planes, ellipses where they
meet.
"""

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from isometron.framework.bodies.body import Body, Segment, TurnedPatch
from isometron.framework.bodies.flat import from_faces
from isometron.framework.bodies.making import Making, half_space
from isometron.framework.bodies.turned import disc_limits, turned_form
from isometron.nearness import SAME
from isometron.perspective.conics import circle_arcs
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.words import _

BEND_STEP_DEG = 7.5
"""Where a bend is made of straight pieces they turn by no more than this."""

STRAIGHT = 1e-9
"""Legs that turn by less than this (radians) go straight on."""


class Course(NamedTuple):
    """The middle line of a bar: its joints (n, 3) mm, unit directions (n − 1, 3) of its pieces, and
    whether each joint (n,) lies within a bend."""

    joints: Array
    ways: Array
    within: tuple[bool, ...]

    @property
    def long_mm(self) -> float:
        """Its length along its pieces."""
        return float(np.linalg.norm(np.diff(self.joints, axis=0), axis=1).sum())

    def mitre(self, joint: int) -> Array:
        """Unit normal (3,) of the plane in which the pieces meet at a joint, or end there."""
        if joint in (0, len(self.joints) - 1):
            return np.asarray(self.ways[0 if joint == 0 else -1])
        both = self.ways[joint - 1] + self.ways[joint]
        return np.asarray(both / np.linalg.norm(both))

    def half_turn(self, joint: int) -> float:
        """Half of the turn at a joint, radians."""
        if joint in (0, len(self.joints) - 1):
            return 0.0
        cosine = float(np.clip(self.ways[joint - 1] @ self.ways[joint], -1.0, 1.0))
        return math.acos(cosine) / 2


def course_of(points: Array, bend_mm: float, reach_mm: float) -> Course:
    """The middle line through points (n, 3) mm, its corners bent with a radius; reach_mm: how far
    the section goes from its middle. Raises VolumeError for bends wider than their legs, and where
    the section would fold."""
    legs = np.diff(points, axis=0)
    long = np.linalg.norm(legs, axis=1)
    if float(long.min()) <= SAME * float(long.max()):
        raise VolumeError(_("Two points of the bar lie in one place: move one of them."))
    ways = legs / long[:, None]
    joints, within = [points[0]], [False]
    used = np.zeros(len(points))
    for i in range(1, len(points) - 1):
        turn = math.acos(float(np.clip(ways[i - 1] @ ways[i], -1.0, 1.0)))
        if turn < STRAIGHT:
            continue
        if turn > math.pi - 0.02:
            raise VolumeError(_("The bar turns back on itself: give that bend another point."))
        used[i] = bend_mm * math.tan(turn / 2)
        if bend_mm <= 0:
            joints.append(points[i])
            within.append(False)
            continue
        bent = _bend(points[i], ways[i - 1], ways[i], turn, bend_mm)
        joints += bent
        within += [True] * len(bent)
    joints.append(points[-1])
    within.append(False)
    if (used[:-1] + used[1:] > long * (1 + SAME)).any():
        raise VolumeError(_("That bend is wider than its legs: take a smaller radius."))
    kept = [i for i in range(len(joints)) if i == 0 or _apart(joints[i], joints[i - 1], long)]
    places = np.array([joints[i] for i in kept])
    runs = np.diff(places, axis=0)
    lengths = np.linalg.norm(runs, axis=1)
    course = Course(places, runs / lengths[:, None], tuple(within[i] for i in kept))
    halves = [math.tan(course.half_turn(i)) for i in range(len(places))]
    if any(
        reach_mm * (a + b) > run * (1 + SAME)
        for a, b, run in zip(halves[:-1], halves[1:], lengths.tolist(), strict=True)
    ):
        raise VolumeError(_("The bar folds at a bend: make it thinner, or the bend wider."))
    return course


def _apart(a: Array, b: Array, long: Array) -> bool:
    return bool(np.linalg.norm(a - b) > SAME * float(long.max()))


def _bend(corner: Array, into: Array, out: Array, turn: float, radius: float) -> list[Array]:
    """Joints along the arc that touches both legs; the pieces between them are its chords."""
    steps = max(2, math.ceil(math.degrees(turn) / BEND_STEP_DEG))
    axis = np.cross(into, out) / math.sin(turn)
    inward = np.cross(axis, into)
    start = corner - radius * math.tan(turn / 2) * into
    middle = start + radius * inward
    found = [start]
    for n in range(1, steps):
        angle = turn * n / steps
        out_way = -math.cos(angle) * inward + math.sin(angle) * into
        found.append(middle + radius * out_way)
    found.append(corner + radius * math.tan(turn / 2) * out)
    return found


def round_bar(course: Course, radius: float) -> Body:
    """A bar of round section."""
    making = Making()
    count = len(course.ways)
    surfaces = [_cylinder(making, course, i, radius) for i in range(count)]
    for joint in range(1, count):
        arcs = _ellipse(course, joint, radius)
        on = (surfaces[joint - 1], surfaces[joint])
        if course.within[joint]:
            making.bound(arcs, on)
        else:
            making.draw(arcs, on)
    for end, piece, way in ((0, 0, -1.0), (count, count - 1, 1.0)):
        place, along = course.joints[end], course.ways[piece]
        disc = making.plane(way * along, place, limits=disc_limits(place, 0.0, radius))
        across = np.linalg.svd(along[None])[2][1:]
        share = float(end > 0)
        making.circle(
            place, (across[0], across[1]), radius, (disc, surfaces[piece]), "end", share=share
        )
    return making.done()


def _cylinder(making: Making, course: Course, i: int, radius: float) -> int:
    start, end, along = course.joints[i], course.joints[i + 1], course.ways[i]
    long = float(np.linalg.norm(end - start))
    before, after = (radius * math.tan(course.half_turn(joint)) for joint in (i, i + 1))
    # to the farthest places of its mitred ends; what lies beyond the mitre planes is not there
    segment = Segment(-before, long + after, radius * radius, 0.0, 0.0, True)
    number = making.surface(
        turned_form(start, along, segment),
        within=[half_space(course.mitre(i), start), half_space(-course.mitre(i + 1), end)],
    )
    making.turned.append(TurnedPatch(number, start, along, segment))
    return number


def _ellipse(course: Course, joint: int, radius: float) -> Array:
    """Where two pieces meet, as arcs: an ellipse in the mitre plane."""
    normal, way = course.mitre(joint), course.ways[joint]
    aside = np.cross(way, normal)
    size = float(np.linalg.norm(aside))
    if size < STRAIGHT:
        across = np.linalg.svd(way[None])[2][1:]
        return circle_arcs(course.joints[joint], radius * across[0], radius * across[1])
    aside = aside / size
    slant = np.cross(normal, aside) * radius / math.cos(course.half_turn(joint))
    return circle_arcs(course.joints[joint], radius * aside, slant)


def sections_along(course: Course, section: Array, up: Array) -> Array:
    """The corners (n, k, 3) of a section (k, 2) at every joint of a course, mitred; its second
    direction is kept as near to `up` as the bends let it."""
    first = course.ways[0]
    v = up - float(up @ first) * first
    if float(np.linalg.norm(v)) < SAME:
        v = np.linalg.svd(first[None])[2][1]
    v = v / np.linalg.norm(v)
    rows = []
    for joint in range(len(course.joints)):
        way = course.ways[max(joint - 1, 0)]
        off = section[:, :1] * np.cross(v, way) + section[:, 1:] * v
        normal = course.mitre(joint)
        along = -(off @ normal) / float(way @ normal)
        rows.append(course.joints[joint] + off + along[:, None] * way)
        if 0 < joint < len(course.joints) - 1:  # turned with the bend
            v = v - 2 * float(v @ normal) * normal
            nxt = course.ways[joint]
            v = v - float(v @ nxt) * nxt
            v = v / np.linalg.norm(v)
    return np.array(rows)


def cornered_bar(course: Course, section: Array, up: Array, *, smooth: bool = False) -> Body:
    """A bar whose section (k, 2) has corners, counter-clockwise. smooth: its long edges lie within
    a round."""
    rows = sections_along(course, section, up)
    count, corners = rows.shape[:2]
    faces: list[list[list[int]]] = [
        [list(range(corners))[::-1]],
        [[(count - 1) * corners + k for k in range(corners)]],
    ]
    round_edges = set()
    for i in range(count - 1):
        for k in range(corners):
            a, b = i * corners + k, i * corners + (k + 1) % corners
            faces.append([[a, b, b + corners, a + corners]])
            if smooth:
                round_edges.add(frozenset((a, a + corners)))
            if i and course.within[i]:
                round_edges.add(frozenset((a, b)))
    return from_faces(rows.reshape(-1, 3), faces, frozenset(round_edges))


def contents_mm3(course: Course, area: float) -> float:
    """Section times length: what a mitre takes from one side of a piece it leaves on the other."""
    return area * course.long_mm


def ring(radius: float, chords: int) -> Array:
    """A round section in chords (k, 2)."""
    turn = 2 * math.pi * np.arange(chords) / chords
    return radius * np.stack([np.cos(turn), np.sin(turn)], axis=1)


def rectangle(wide: float, thick: float) -> Array:
    """A section with four corners (4, 2)."""
    x, y = wide / 2, thick / 2
    return np.array([[-x, -y], [x, -y], [x, y], [-x, y]])


def lengthened(points: Array, inset: Array, by: float) -> Array:
    """A line (n, 3) longer (1) or shorter (−1) at both ends by as much of an inset (3,) as lies
    along them."""
    found = points.copy()
    for end, beside in ((0, 1), (-1, -2)):
        way = points[end] - points[beside]
        size = float(np.linalg.norm(way))
        if size > 0:
            way = way / size
            found[end] = points[end] + by * float(np.abs(way) @ inset) * way
    return found


def points_in(shares: Sequence[Sequence[float]], sides: Sequence[float], inset: Array) -> Array:
    """Points (n, 3) mm given as shares of a box drawn in by (3,) mm on each side."""
    room = np.array(sides) - 2 * inset
    return np.asarray(inset + np.array(shares) * room)
