"""A reading: what marks on a picture say of eye, proportions and rims, each with its standard
error, and what they do not say."""

import math

import numpy as np

from isometron.document.marks import FAMILIES, Marks, MarksError
from isometron.reading.fit import Fit, fit, of_edges, ratios_of
from isometron.reading.model import Array, State, directions
from isometron.reading.results import (
    Quantity,
    Reading,
    Refused,
    Rim,
    SetAside,
    Sides,
    Vanishing,
    View,
)
from isometron.reading.rims import RimError, RimFit, fit_rim
from isometron.reading.rims_alone import read_rims
from isometron.reading.rows import heights_of, rows_of
from isometron.reading.told import Told
from isometron.words import _, said

TOO_SOFT = 0.7
"""A station distance, or a side, whose standard error is more than this share of it is not told."""

MISFIT = 4.0
"""Marks that miss by so many times their noise on the average fit no eye."""

SOFT_DEG = 25.0
"""An angle whose standard error is larger is not told."""

CLEARLY = 3.0
"""A family runs together clearly when it does by so many standard errors."""

FAR = 1e-9
"""A direction that runs ahead by less than this has its vanishing point at infinity."""


MOST = {
    "edges": (1500, said("{count} edges")),
    "families": (12, said("edges of {count} families")),
    "rims": (40, said("{count} rims")),
    "places": (4000, said("{count} places along rims and in rows")),
}
"""So many are read at once at most: more take minutes, and gigabytes."""


def read_marks(marks: Marks) -> Reading:
    """What marks say. Raises MarksError when nothing is marked."""
    return read_with_fit(marks)[0]


def read_with_fit(marks: Marks) -> tuple[Reading, Fit | None]:
    """What marks say, and the fit that edges have. Raises MarksError when nothing is marked."""
    if not marks.edges and not marks.rounds:
        raise MarksError(_("Nothing is marked: mark edges of the thing, or a rim."))
    _refuse_too_many(marks)
    refused: list[Refused] = []
    ellipses = _ellipses(marks, refused)
    noise = _noise_of_rims(marks, ellipses)
    rims = tuple(_rim(marks, number, one, noise) for number, one in ellipses.items())
    _say_unused(marks, refused)
    together = tuple(
        (
            np.array(marks.rounds[number].points),
            FAMILIES.index(marks.rounds[number].axle),
            marks.rounds[number].weight,
        )
        for number in ellipses
        if marks.rounds[number].axle in FAMILIES
    )
    families = {edge.family for edge in marks.edges if not edge.left}
    if not families:
        view, eye_level, alone = read_rims(marks, ellipses, noise, refused)
        spread = Quantity(noise if alone is None else alone.noise, 0.0)
        return Reading(view, eye_level, (), None, spread, (), (), rims, (), tuple(refused)), alone
    best = fit(marks, together)
    joined = [number for number in ellipses if marks.rounds[number].axle in FAMILIES]
    refused += [_other_axle(marks, number) for i, number in enumerate(joined) if i not in best.rims]
    told = Told(best)
    view = eye_level = None
    if _shows_eye(marks, best, families, refused, rimmed=bool(together)):
        view = _view(marks, told, refused)
        eye_level = eye_level_of(marks, told, refused)
    sides = _sides(marks, told, refused) if best.seen.boxed and view is not None else None
    rows = rows_of(marks, best, told, refused)
    reading = Reading(
        view,
        eye_level,
        _vanishing(best, families, told, view),
        sides,
        Quantity(best.noise, best.noise_error),
        _residuals(marks, best),
        _set_aside(best),
        rims,
        rows,
        tuple(refused),
        heights_of(marks, best, told) if eye_level is not None else (),
    )
    return reading, best


def _refuse_too_many(marks: Marks) -> None:
    """Refuse, before anything is worked out, what takes too long. Raises MarksError."""
    used = [edge for edge in marks.edges if not edge.left]
    rims = [rim for rim in marks.rounds if not rim.left]
    counts = {
        "edges": len(used),
        "families": len({edge.family for edge in used}),
        "rims": len(rims),
        "places": sum(len(rim.points) for rim in rims) + sum(len(row.points) for row in marks.rows),
    }
    for name, (most, words) in MOST.items():
        if counts[name] > most:
            raise MarksError(
                _("These marks are too many to read at once ({what}): keep {most} at most.").format(
                    what=_(words).format(count=counts[name]), most=most
                )
            )


def _shows_eye(
    marks: Marks, best: Fit, families: set[str], refused: list[Refused], *, rimmed: bool
) -> bool:
    """Whether marks show an eye at all; why not is said."""
    if not fits(marks, best):
        refused.append(
            Refused(
                "view",
                _("These marks fit no eye: they miss by far more than their noise."),
                _("Look whether each belongs to its family, or give a larger noise."),
            )
        )
        return False
    if len(families & set(FAMILIES)) + rimmed >= 2:
        return True
    refused.append(
        Refused(
            "view",
            _("The marks show fewer than two of the families width, depth and height."),
            _("Mark edges of a second family at right angles to the first."),
        )
    )
    return False


def _residuals(marks: Marks, best: Fit) -> tuple[float | None, ...]:
    """The root mean square of every edge's misses; None for one that is not in the fit."""
    return tuple(
        math.sqrt(float((part**2).mean())) / edge.weight if len(part) else None
        for part, edge in zip(of_edges(best, len(marks.edges)), marks.edges, strict=True)
    )


def _set_aside(best: Fit) -> tuple[SetAside, ...]:
    """The edges that do not fit, and why."""
    why = _("it misses its family by {times:.1f} times the noise")
    return tuple(
        SetAside(number, why.format(times=times)) for number, times in sorted(best.wrong.items())
    )


def fits(marks: Marks, best: Fit) -> bool:
    """Whether the marks that are left fit the model, when their noise is known."""
    if marks.noise is None:
        return True
    freedom = max(len(best.misses) - best.state.count, 1)
    return best.cost <= MISFIT**2 * marks.noise**2 * freedom


def eye_of(state: State) -> Array:
    """Station distance, heading, tilt and roll in degrees, (4,). The heading is counted from the
    direction of the width turned square to us."""
    turned = state.turned
    return np.array(
        [
            state.distance,
            math.degrees(math.atan2(turned[2, 0], turned[2, 1])),
            math.degrees(math.asin(min(max(turned[2, 2], -1.0), 1.0))),
            math.degrees(math.atan2(-turned[0, 2], turned[1, 2])),
        ]
    )


def tells_distance(marks: Marks, told: Told) -> bool:
    """Whether the marks tell the station distance: two families must run together clearly, three
    where the centre of vision is not known, unless a ratio or the lens is known."""
    if ratios_of(marks) or marks.lens is not None:
        return True
    best = told.best
    slopes = told.slopes(lambda state: directions(state)[:3, 2])
    errors = np.sqrt(np.maximum(np.diag(told.spread(slopes)), 0.0))
    marked = {edge.family for edge in marks.edges} | {one.axle for one in marks.rounds}
    ahead = np.abs(directions(best.state)[:3, 2])
    clear = [
        name in marked and bool(ahead[axis] > CLEARLY * max(errors[axis], 1e-9))
        for axis, name in enumerate(FAMILIES)
    ]
    return sum(clear) >= (2 if marks.picture.centre_of_vision is not None else 3)


def _view(marks: Marks, told: Told, refused: list[Refused]) -> View:
    distance, *angles = told.of(eye_of)
    heading, tilt, roll = (
        None if one is None or one.standard_error > SOFT_DEG else one for one in angles
    )
    soft = distance is None or distance.standard_error > TOO_SOFT * distance.value
    if soft or not tells_distance(marks, told):
        distance = None
        refused.append(_no_distance(marks))
        if marks.picture.centre_of_vision is None:
            return View(None, None, tilt, roll, None)
    origin = told.best.seen.origin
    across, up = told.of(lambda state: state.centre + origin)
    centre = None if across is None or up is None else (across, up)
    if centre is not None and max(one.standard_error for one in centre) > max(
        marks.picture.width, marks.picture.height
    ):
        centre = None
    if centre is None:
        refused.append(
            Refused(
                "centre_of_vision",
                _("Where we looked is not told by these marks."),
                _("Mark edges of a third family, or say that the picture is uncropped."),
            )
        )
    return View(distance, heading, tilt, roll, centre)


def eye_level_of(
    marks: Marks, told: Told, refused: list[Refused]
) -> tuple[Quantity, Quantity] | None:
    """Where the eye level crosses the left and the right edge of the picture; why not is added to
    what is refused."""
    origin, width = told.best.seen.origin, marks.picture.width

    def heights(state: State) -> Array:
        up = state.turned[:, 2]
        at = np.array([0.0, width]) - origin[0] - state.centre[0]
        level = (up[0] * at + up[2] * state.distance) / up[1]
        return np.asarray(origin[1] + state.centre[1] - level)

    if abs(told.best.state.turned[1, 2]) > math.sin(math.radians(2.0)):
        left, right = told.of(heights)
        if left is not None and right is not None:
            return left, right
    refused.append(
        Refused(
            "eye_level",
            _("The eye level is not told by these marks."),
            _("Mark level edges of two families."),
        )
    )
    return None


def _sides(marks: Marks, told: Told, refused: list[Refused]) -> Sides:
    def ratios(state: State) -> Array:
        return np.array(state.sides[1:] / state.sides[0])

    depth, height = told.of(ratios)
    slopes = told.slopes(ratios)
    spread = told.spread(slopes)
    marked = {edge.family for edge in marks.edges if edge.corners is not None}
    ratioed = {axis for one, two, _r in ratios_of(marks) for axis in (one, two)}
    found: list[Quantity | None] = []
    far = tells_distance(marks, told)
    cropped = marks.picture.centre_of_vision is None
    for axis, one in ((1, depth), (2, height)):
        name = FAMILIES[axis]
        apart = cropped or _runs_ahead(told, name) != _runs_ahead(told, "width")
        here = {name, "width"} <= marked or {axis, 0} <= ratioed
        if (
            not here
            or (apart and not far)
            or one is None
            or one.standard_error > TOO_SOFT * one.value
        ):
            found.append(None)
            refused.append(
                Refused(
                    f"sides.{name}",
                    _("How long the {side} is against the width is not told.").format(side=_(name)),
                    _("Mark corners of both, or mark one square, or give one ratio."),
                )
            )
        else:
            found.append(one)
    (a, b), (c, d) = spread.tolist()
    both = None if None in found else ((a, b), (c, d))
    return Sides(found[0], found[1], both, _true_sides(marks, told, found))


def _runs_ahead(told: Told, family: str) -> bool:
    """Whether a family runs more away from us than across the picture."""
    return bool(abs(directions(told.best.state)[FAMILIES.index(family), 2]) > math.sqrt(0.5))


def _true_sides(marks: Marks, told: Told, found: list[Quantity | None]) -> dict[str, Quantity]:
    """Sides at true size, when one length is known."""
    for known in marks.known:
        edge = marks.edges[known.edges[0]]
        if known.kind != "length" or edge.corners is None or known.value is None:
            continue
        axis, length = FAMILIES.index(edge.family), known.value
        sides = told.of(lambda state, a=axis, mm=length: state.sides / state.sides[a] * mm)  # type: ignore[misc]
        told_of = {"width": True, "depth": found[0] is not None, "height": found[1] is not None}
        return {
            name: one
            for name, one in zip(FAMILIES, sides, strict=True)
            if one is not None and told_of[name] and told_of[edge.family]
        }
    return {}


def _vanishing(
    best: Fit, families: set[str], told: Told, view: View | None
) -> tuple[Vanishing, ...]:
    names = (*FAMILIES, *best.seen.names)
    slopes = told.slopes(lambda state: directions(state).ravel()).reshape(len(names), 3, -1)
    found = []
    for number, name in enumerate(names):
        if name not in families and not (view is not None and name in FAMILIES):
            continue
        way = directions(best.state)[number]
        spread = float(np.trace(told.spread(slopes[number])))
        at = None
        if abs(way[2]) > FAR:
            place = best.state.centre + best.state.distance * way[:2] / way[2] + best.seen.origin
            at = (float(place[0]), float(place[1]))
        x, y, z = way.tolist()
        error = math.degrees(math.sqrt(max(spread, 0.0)))
        found.append(Vanishing(name, at, (x, y, z), error))
    return tuple(found)


def rims_of(marks: Marks, best: Fit) -> list[int]:
    """Numbers of the rims that are in a fit, in its order."""
    edges = any(not edge.left for edge in marks.edges)
    axles = FAMILIES if edges else ("height",)
    joined = [n for n in _ellipses(marks, []) if marks.rounds[n].axle in axles]
    return [number for i, number in enumerate(joined) if i in best.rims or not edges]


def _ellipses(marks: Marks, refused: list[Refused]) -> dict[int, RimFit]:
    found = {}
    for number, one in enumerate(marks.rounds):
        if one.left:
            continue
        try:
            found[number] = fit_rim(np.array(one.points, dtype=float).reshape(-1, 2))
        except RimError as error:
            refused.append(
                Refused(
                    f"rounds.{one.name or number}",
                    str(error),
                    _("Mark at least six points along as much of the rim as shows."),
                )
            )
    return found


def _noise_of_rims(marks: Marks, ellipses: dict[int, RimFit]) -> float:
    """The noise that was given, or what the points of all rims show."""
    if marks.noise is not None:
        return marks.noise
    squares = sum(float(one.misses @ one.misses) for one in ellipses.values())
    freedom = sum(len(one.misses) - 5 for one in ellipses.values())
    return math.sqrt(squares / freedom) if freedom > 0 else 0.0


def _rim(marks: Marks, number: int, one: RimFit, noise: float) -> Rim:
    errors = noise * np.sqrt(np.maximum(np.diag(one.covariance), 0.0))
    row = one.degree_row
    degree = noise * math.sqrt(max(float(row @ one.covariance @ row), 0.0))
    x, y, long, short = (
        Quantity(float(v), float(e)) for v, e in zip(one.values[:4], errors[:4], strict=True)
    )
    return Rim(
        marks.rounds[number].name or str(number),
        (x, y),
        long,
        short,
        Quantity(math.degrees(one.values[4]), math.degrees(float(errors[4]))),
        Quantity(one.degree_deg, math.degrees(degree)),
    )


def _say_unused(marks: Marks, refused: list[Refused]) -> None:
    """What is known but cannot be used."""
    for number, known in enumerate(marks.known):
        sides = [marks.edges[i].family for i in known.edges if marks.edges[i].corners is not None]
        if len(sides) < len(known.edges) or (known.kind != "length" and len(set(sides)) < 2):
            refused.append(
                Refused(
                    f"known.{number}",
                    _("Its edges are no two sides of the box."),
                    _("Say which corners of the box its edges join."),
                )
            )


def _other_axle(marks: Marks, number: int) -> Refused:
    return Refused(
        f"rounds.{marks.rounds[number].name or number}",
        _("No circle about this axle looks so from where the edges put us."),
        _("Say with which family its axle runs, or leave it out."),
    )


CROPPED = said("Mark a square, give a ratio, or say that the picture is uncropped.")
ONE_POINT = said("Mark one square or give one ratio.")


def _no_distance(marks: Marks) -> Refused:
    """In a one-point picture distance and depth are one unknown; a level picture whose centre of
    vision is unknown leaves a whole family of eyes."""
    cropped = marks.picture.centre_of_vision is None
    return Refused(
        "station_distance",
        _("How far we stood and how deep the thing is are one unknown in this picture."),
        _(CROPPED if cropped else ONE_POINT),
    )
