"""The eye level from rims alone: one drawn as a straight line, two on upright axles, or one and the
lens."""

import math

import numpy as np

from isometron.document.marks import FAMILIES, Marks
from isometron.reading.beginning import rim_of
from isometron.reading.fit import OTHERS, Fit, refined
from isometron.reading.model import Array, MarkedRim, State, observed
from isometron.reading.results import Quantity, Refused, View
from isometron.reading.rims import RimFit
from isometron.reading.told import Told
from isometron.words import _

LINE_SHARE = 0.01
"""A rim whose points leave a straight line by less than this share of its length is one."""

DISTANCE_SHARE = 0.25
"""A station distance whose standard error is more than this share of it is not told."""

UPRIGHT = FAMILIES.index("height")
SURE_SHARE = 0.25
"""An eye level whose standard error is more than this share of the picture's height is not told."""


def straight_rim(points: Array) -> bool:
    """Whether a rim is drawn as a straight line: its plane runs through the eye."""
    off = points - points.mean(axis=0)
    _u, spread, _v = np.linalg.svd(off, full_matrices=False)
    return bool(len(points) >= 3 and spread[1] <= LINE_SHARE * max(spread[0], 1e-12))


def level_of_line(points: Array, width: float, noise: float) -> tuple[Quantity, Quantity]:
    """The eye level at the left and right edge of a picture of some width, from a rim about an
    upright axle that is drawn as a straight line: that line, by least squares."""
    x, y = points.T
    rows = np.stack([np.ones_like(x), x], axis=1)
    found, _misses, _rank, _s = np.linalg.lstsq(rows, y, rcond=None)
    spread = np.linalg.inv(rows.T @ rows)
    miss = y - rows @ found
    sigma = max(noise, math.sqrt(float(miss @ miss) / max(len(x) - 2, 1)))
    ends = []
    for place in (0.0, width):
        row = np.array([1.0, place])
        ends.append(Quantity(float(row @ found), sigma * math.sqrt(float(row @ spread @ row))))
    return ends[0], ends[1]


def fit_rims(marks: Marks, ellipses: dict[int, RimFit], noise: float) -> Fit | None:
    """The eye that sees rims about upright axles as they are; None where they do not tell it: two
    are needed and the middle of an uncropped picture, or one and the lens, held level."""
    numbers = [n for n in ellipses if marks.rounds[n].axle == "height"]
    enough = len(numbers) >= 2 or (len(numbers) == 1 and marks.lens is not None)
    if not enough or marks.picture.centre_of_vision is None:
        return None
    rims: tuple[MarkedRim, ...] = tuple(
        (np.array(marks.rounds[n].points), UPRIGHT, marks.rounds[n].weight) for n in numbers
    )
    alone = Marks(marks.picture, (), marks.rounds, (), noise or None, marks.lens)
    seen = observed(alone, np.zeros(0, dtype=bool), rims)
    size = max(marks.picture.width, marks.picture.height)
    known = [] if marks.lens is None else [marks.lens.station_distance]
    best: Fit | None = None
    for distance in (*known, *(share * size for share in OTHERS)):
        for upright in _normals(ellipses[numbers[0]], seen.origin, distance):
            state = _state(upright, distance, seen.rims)
            found = refined(alone, seen, state, level=len(numbers) == 1)
            if best is None or found.cost < best.cost:
                best = found
    return best


def _normals(rim: RimFit, origin: Array, distance: float) -> list[Array]:
    """The two directions (3,) an axle may have whose circle looks like an ellipse, upward, in the
    eye's frame: from the axes of the cone of sight through it."""
    cx, cy, long, short, angle = rim.values
    c, s = math.cos(angle), math.sin(angle)
    turn = np.array([[c, -s], [s, c]])
    square = turn @ np.diag([1 / long**2, 1 / short**2]) @ turn.T
    middle = np.array([cx, cy]) - origin
    cone = np.zeros((3, 3))
    cone[:2, :2] = square
    cone[:2, 2] = cone[2, :2] = -square @ middle / distance
    cone[2, 2] = (float(middle @ square @ middle) - 1) / distance**2
    values, axes = np.linalg.eigh(cone)  # one below 0, two above
    low, mid, high = values
    first = math.sqrt(max((high - mid) / (high - low), 0.0))
    second = math.sqrt(max((mid - low) / (high - low), 0.0))
    found = [first * axes[:, 2] + sign * second * axes[:, 0] for sign in (1.0, -1.0)]
    return [way if way[1] >= 0 else -way for way in found]


def _state(upright: Array, distance: float, rims: tuple[MarkedRim, ...]) -> State:
    """A state with that upright direction, its width square to us."""
    width = np.cross([0.0, 0.0, 1.0], upright)
    width = -width / max(float(np.linalg.norm(width)), 1e-12)
    depth = np.cross(width, upright)  # right, up, away is a left-handed frame
    turned = np.stack([width, depth, upright], axis=1)
    circles = np.array([rim_of(points) for points, _column, _weight in rims])
    return State(turned, distance, np.zeros(2), np.zeros(2), np.ones(3), np.empty((0, 3)), circles)


def read_rims(
    marks: Marks, ellipses: dict[int, RimFit], noise: float, refused: list[Refused]
) -> tuple[View | None, tuple[Quantity, Quantity] | None, Fit | None]:
    """What rims say without any edge: tilt and roll, the eye level, and the fit."""
    for number, one in enumerate(marks.rounds):
        points = np.array(one.points, dtype=float).reshape(-1, 2)
        if one.axle == "height" and not one.left and straight_rim(points):
            own = f"rounds.{one.name or number}"
            refused[:] = [other for other in refused if other.what != own]
            return None, level_of_line(points, marks.picture.width, noise), None
    best = fit_rims(marks, ellipses, noise)
    if best is None:
        refused.append(_one_more(marks, ellipses))
        return None, None, None
    told = Told(best)
    left, right = told.of(lambda state: _level(state, best.seen.origin, marks.picture.width))
    tilt, roll = told.of(_tilt_of)
    sure = SURE_SHARE * marks.picture.height
    if left is None or right is None or max(left.standard_error, right.standard_error) > sure:
        refused.append(
            Refused(
                "eye_level",
                _("These rims are too much alike to tell the eye level."),
                _("Mark rims that lie further apart in height, or edges of two families."),
            )
        )
        return None, None, best
    (distance,) = told.of(lambda state: np.array([state.distance]))
    if distance is not None and distance.standard_error > DISTANCE_SHARE * distance.value:
        distance = None
    return View(distance, None, tilt, roll, None), (left, right), best


def _one_more(marks: Marks, ellipses: dict[int, RimFit]) -> Refused:
    """Why rims alone do not tell the view."""
    if not ellipses:
        return Refused(
            "view",
            _("No edge and no rim is read."),
            _("Mark edges of two families, a corner, or two rims."),
        )
    upright = [n for n in ellipses if marks.rounds[n].axle == "height"]
    if marks.picture.centre_of_vision is None:
        helps = _("Say that the picture is uncropped, or mark edges of two families.")
    elif upright:
        helps = _("Mark a second rim about an upright axle, or edges of two families besides.")
    else:
        helps = _("Mark edges of two families besides.")
    return Refused("view", _("Rims alone look alike from more than one eye."), helps)


def _level(state: State, origin: Array, width: float) -> Array:
    """Heights of the eye level at the left and the right edge, (2,)."""
    up = state.turned[:, 2]
    at = np.array([0.0, width]) - origin[0] - state.centre[0]
    level = (up[0] * at + up[2] * state.distance) / up[1]
    return np.asarray(origin[1] + state.centre[1] - level)


def _tilt_of(state: State) -> Array:
    """Tilt and roll in degrees, (2,)."""
    up = state.turned[:, 2]
    return np.array(
        [
            math.degrees(math.asin(min(max(float(up[2]), -1.0), 1.0))),
            math.degrees(math.atan2(-float(up[0]), float(up[1]))),
        ]
    )
