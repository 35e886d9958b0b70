"""Ellipses: a circle in a given square by its axes or drawn, and the minor axis of a hole."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from isometron.perspective.ellipses import Ellipse, circle_picture, folded
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import project
from isometron.practice.asks import Answer, Held, Places, Stroke
from isometron.practice.drill import Aid, Exercise, Miss, drill, worst_first
from isometron.practice.scenery import (
    EYE_DEG,
    EYE_MM,
    EYE_PERCENT,
    HAND_MM,
    Standing,
    box_of,
    crosses,
    eye_of,
    level_line,
    on_sheet,
    pair,
    percent,
    practised,
    ring,
)
from isometron.reading.rims import LEAST_POINTS, RimError, fit_rim
from isometron.words import _

THINNEST_DEG, FREE = 12.0, 2.5
"""Thinner rims are drawn as lines; an ellipse drawn freehand lies so many times farther off."""

EVENLY = 97
"""A stroke counts by so many of its places, evenly apart, however fast its parts were drawn."""

TURN = np.linspace(0.0, 360.0, 65)

Face = tuple[int, int, int]
TOP, LEFT, RIGHT = (4, 5, 6), (0, 2, 4), (0, 1, 4)
"""A face by its first corner and the two beside it."""


def _squared(rng: Any, difficulty: float) -> tuple[Standing, Face, Ellipse] | None:
    """A box, one of its square faces that we see, and the ellipse of the circle in it."""
    eye = eye_of(rng, difficulty)
    standing = box_of(rng, eye, (500.0,) * 3, float(rng.uniform(18.0, 72.0)))
    if not standing.fair:
        return None
    face = (TOP, LEFT, RIGHT)[int(rng.integers(3))]
    world = standing.world
    centre, across, along = _middle(world, face)
    seen = circle_picture(eye, centre, np.cross(across, along), 250.0).ellipse
    if seen is None or not THINNEST_DEG < seen.degree_deg < 78.0 or seen.semi_minor_mm < 7.0:
        return None
    return (standing, face, seen) if on_sheet(seen.point(TURN), 3.0) else None


def _middle(world: Array, face: Face) -> tuple[Array, Array, Array]:
    """(3,) the middle of a face and its two half sides."""
    first, one, two = face
    across, along = (world[one] - world[first]) / 2, (world[two] - world[first]) / 2
    return world[first] + across + along, across, along


def judge_ellipse(true: Ellipse, own: Ellipse, free: float = 1.0) -> tuple[Miss, ...]:
    """What one ellipse misses of another: where it lies, how long, how open and how turned it is;
    free: how many times farther off than a mark the hand is."""
    off = np.subtract(own.centre_mm, true.centre_mm)
    longer = 100 * (own.semi_major_mm / true.semi_major_mm - 1)
    wider = own.degree_deg - true.degree_deg
    turned = folded(own.major_axis_deg - true.major_axis_deg)
    long, flat = true.semi_major_mm, np.radians(true.degree_deg)
    near = free * practised(HAND_MM, EYE_MM)
    longer_hand = free * practised(100 * HAND_MM / long, EYE_PERCENT)
    open_hand = free * practised(float(np.degrees(HAND_MM / (long * np.cos(flat)))), EYE_DEG)
    turn_hand = free * practised(float(np.degrees(HAND_MM / long) / np.cos(flat)), EYE_DEG)
    told = (
        Miss(_("centre across"), float(off[0]), "mm", near, _("{mm} mm too far {way}")
             .format(mm=f"{abs(off[0]):.1f}", way=_("right") if off[0] > 0 else _("left"))),
        Miss(_("centre up"), float(off[1]), "mm", near, _("{mm} mm too {way}")
             .format(mm=f"{abs(off[1]):.1f}", way=_("high") if off[1] > 0 else _("low"))),
        Miss(_("long axis"), longer, "%", longer_hand, _("{percent} % too {way}")
             .format(percent=percent(longer), way=_("long") if longer > 0 else _("short"))),
        Miss(_("degree"), wider, "°", open_hand, _("{deg}° too {way}").format(
            deg=f"{abs(wider):.0f}", way=_("open") if wider > 0 else _("flat"))),
        Miss(_("axis"), turned, "°", turn_hand, _("axis turned {deg}° to the {way}").format(
            deg=f"{abs(turned):.0f}", way=_("left") if turned > 0 else _("right"))),
    )  # fmt: skip
    worst = worst_first(told)
    loud = [miss for miss in worst if abs(miss.error) > miss.hand]
    if not loud:
        return (worst[0]._replace(words=_("as near as a hand comes")), *_silent(worst[1:]))
    return (*loud, *_silent([miss for miss in worst if miss not in loud]))


def _silent(misses: Sequence[Miss]) -> list[Miss]:
    """Errors that are kept, and not spoken of."""
    return [miss._replace(words="") for miss in misses]


def _of_points(places: Sequence[Place]) -> Ellipse:
    """The ellipse of a centre and the ends of both half axes: the second counts as far as it lies
    off the first; whichever is longer is the long one."""
    centre, one, two = (np.array(place) for place in places)
    along, other = one - centre, two - centre
    long = max(float(np.hypot(*along)), 1e-3)
    short = max(abs(float(along[0] * other[1] - along[1] * other[0])) / long, 1e-3)
    tilt = float(np.degrees(np.arctan2(along[1], along[0])))
    if short > long:
        long, short, tilt = short, long, tilt + 90.0
    return Ellipse(pair(centre), long, short, folded(tilt))


def _chords(ellipse: Ellipse) -> Array:
    """(64, 4) an ellipse as chords."""
    drawn = ellipse.point(TURN)
    return np.concatenate([drawn[:-1], drawn[1:]], axis=1)


def _given(standing: Standing, face: Face) -> Array:
    """(n, 4) a box with the diagonals of one face."""
    first, one, two = face
    opposite = standing.sheet[one + two - first]
    diagonals = [[*standing.sheet[first], *opposite], [*standing.sheet[one], *standing.sheet[two]]]
    return np.concatenate([level_line(standing.eye), standing.edges(), np.array(diagonals)])


def _touching(standing: Standing, face: Face) -> Array:
    """(n, 4) crosses where the circle touches the sides of the face."""
    centre, across, along = _middle(standing.world, face)
    touched = [centre + across, centre - across, centre + along, centre - along]
    return crosses(project(standing.eye, np.array(touched)).sheet, 1.5)


@drill("ellipse", _("Set an ellipse"), _("Set centre and axes of a circle in a given square."))
def ellipse(rng: Any, difficulty: float) -> Exercise | None:
    """Centre, long and short half axis of the circle in a face."""
    found = _squared(rng, difficulty)
    if found is None:
        return None
    standing, face, true = found
    marks = true.point(np.array([0.0, 90.0]))
    off = float(rng.choice([-1, 1])) * float(rng.uniform(18.0, 30.0))
    first = Ellipse(
        pair(np.array(true.centre_mm) + rng.choice([-1, 1], 2) * 3.0),
        0.8 * true.semi_major_mm,
        0.8 * true.semi_major_mm * float(rng.uniform(0.25, 0.9)),
        folded(true.major_axis_deg + off),
    )
    names = (_("centre"), _("end of the long axis"), _("end of the short axis"))
    starts = (first.centre_mm, *map(pair, first.point(np.array([0.0, 90.0]))))
    truth = np.array([true.centre_mm, *marks])
    if np.hypot(*(np.array(starts) - truth).T).min() < 1.5 or not on_sheet(np.array(starts), 1.0):
        return None
    return Exercise(
        _("A circle lies in the face with the diagonals: set its centre and both half axes."),
        _given(standing, face),
        Answer(places=(true.centre_mm, *map(pair, marks))),
        lambda answer: judge_ellipse(true, _of_points(answer.places)),
        _chords(true),
        asks=Places(
            tuple(Held(name, start) for name, start in zip(names, starts, strict=True)),
            lambda places: _chords(_of_points(places)),
        ),
        aids=(Aid(_("touching points"), _touching(standing, face)),),
    )


@drill("oval", _("Draw an ellipse"), _("Draw the circle of a given square in one stroke."))
def oval(rng: Any, difficulty: float) -> Exercise | None:
    """The stroke of a circle in a face."""
    found = _squared(rng, difficulty)
    if found is None:
        return None
    standing, face, true = found
    return Exercise(
        _("Draw the circle in the face with the diagonals, in one stroke."),
        _given(standing, face),
        Answer(stroke=tuple(map(pair, true.point(TURN)))),
        _stroke_judge(true),
        _chords(true),
        asks=Stroke(closed=True),
        aids=(Aid(_("touching points"), _touching(standing, face)),),
    )


def _stroke_judge(true: Ellipse) -> Callable[[Answer], tuple[Miss, ...]]:
    def judge(answer: Answer) -> tuple[Miss, ...]:
        places = np.array(answer.stroke, dtype=float)
        try:
            x, y, long, short, tilt = _even(places)
        except RimError:
            whole = _("this stroke is no ellipse: draw all of it, round and closed")
            return (Miss(_("roundness"), 1.0, "", 0.0, whole),)
        own = Ellipse((x, y), long, short, folded(float(np.degrees(tilt))))
        return judge_ellipse(true, own, FREE)

    return judge


def _even(places: Array) -> tuple[float, float, float, float, float]:
    """The ellipse nearest to a stroke, however fast its parts were drawn: centre, half axes, tilt.
    Raises RimError."""
    runs = np.hypot(*np.diff(places, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(runs)])
    if len(places) < LEAST_POINTS or along[-1] <= 0:
        raise RimError(_("A rim needs at least six points: mark more along it."))
    even = np.linspace(0.0, along[-1], EVENLY)[:-1]
    marks = np.unique(np.searchsorted(along, even))
    x, y, long, short, tilt = fit_rim(np.asarray(places[marks], dtype=float)).values.tolist()
    return x, y, long, short, tilt


@drill("axis", _("The minor axis"), _("Aim the minor axis of a hole in a face."))
def axis(rng: Any, difficulty: float) -> Exercise | None:
    """The minor axis of a hole in a face of a box, by the direction it takes on the sheet."""
    found = _squared(rng, difficulty)
    if found is None:
        return None
    standing, face, _whole = found
    centre, across, along = _middle(standing.world, face)
    share = float(rng.uniform(0.3, 0.5))
    hole = circle_picture(standing.eye, centre, np.cross(across, along), 250.0 * share).ellipse
    if hole is None or hole.degree_deg > 70.0:
        return None
    middle = np.array(hole.centre_mm)
    tilt = np.radians(hole.minor_axis_deg)
    way = np.array([np.cos(tilt), np.sin(tilt)]) * (1 if np.sin(tilt) >= 0 else -1)
    reach = 24.0
    off = np.radians(float(rng.choice([-1, 1])) * float(rng.uniform(10.0, 25.0)))
    turned = np.array([[np.cos(off), -np.sin(off)], [np.sin(off), np.cos(off)]]) @ way
    true, start = middle + reach * way, middle + reach * turned
    if not on_sheet(np.stack([true, start, middle - reach * way]), 2.0):
        return None

    def judge(answer: Answer) -> tuple[Miss, ...]:
        got = np.array(answer.places[0]) - middle
        error = folded(float(np.degrees(np.arctan2(got[1], got[0]))) - hole.minor_axis_deg)
        told = _("{deg}° too far to the {way}").format(
            deg=f"{abs(error):.1f}", way=_("left") if error > 0 else _("right")
        )
        hand = practised(float(np.degrees(HAND_MM / reach)), EYE_DEG)
        return (Miss(_("minor axis"), error, "°", hand, _("exact") if abs(error) < 0.1 else told),)

    given = np.concatenate([level_line(standing.eye), standing.edges(), crosses(middle)])
    drawn = np.concatenate([
        ring(centre, share * across, share * along, standing.eye),
        np.array([[*(middle - reach * way), *true]]),
    ])  # fmt: skip
    normal = np.cross(across, along)
    behind = project(standing.eye, np.stack([centre, centre - normal * 200.0 /
                                             np.linalg.norm(normal)])).sheet  # fmt: skip
    return Exercise(
        _("A round hole sits on the cross: aim its minor axis."), given,
        Answer(places=(pair(true),)), judge, drawn,
        asks=Places(
            (Held(_("minor axis"), pair(start)),),
            lambda places: np.array([[*(2 * middle - places[0]), *places[0]]])),
        aids=(Aid(_("axle"), behind.reshape(1, 4)),) if np.isfinite(behind).all() else (),
    )  # fmt: skip
