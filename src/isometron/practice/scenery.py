"""What drills stand on: an eye before a small sheet, boxes on the ground, their lines on it."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.document.view import View
from isometron.framework.box import EDGES
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.places import Place
from isometron.perspective.projection import on_level, project
from isometron.perspective.sheet import Sheet
from isometron.perspective.vanishing import measuring_point
from isometron.practice.drill import HIGH_MM, WIDE_MM, Aid
from isometron.words import _

MARGIN_MM = 6.0
SEEN_MM = 0.05
HAND_MM = 0.36
"""How far a mark lands off along one direction: a mark of 0.3 mm on a line 0.2 mm off."""

EYE_PERCENT, EYE_DEG, EYE_MM = 3.0, 1.0, 0.6
"""How well a practised eye tells a length, a direction and a place, by itself."""


def eye_of(
    rng: Any,
    difficulty: float,
    *,
    high: tuple[float, float] = (0.9, 2.2),
    level: tuple[float, float] = (0.62, 0.9),
    tilt_deg: float = 0.0,
) -> Eye:
    """An eye so high, metres, its centre of vision at such a share of the sheet's height; the
    harder, the nearer it stands and the stronger lines converge."""
    aside = float(rng.uniform(*level)) * HIGH_MM
    return Eye(
        0.0,
        0.0,
        float(rng.uniform(*high)) * 1000.0,
        0.0,
        tilt_deg,
        float(rng.uniform(140.0, 175.0)) * (1.35 - 0.6 * difficulty),
        (WIDE_MM / 2 + float(rng.uniform(-15.0, 15.0)), aside),
    )


@dataclass(frozen=True)
class Standing:
    """A box on the ground before an eye: corner 0 nearest, its width to the right."""

    eye: Eye
    box: Volume

    @property
    def world(self) -> Array:
        """(8, 3) its corners."""
        return self.box.corners()

    @property
    def sheet(self) -> Array:
        """(8, 2) where they are drawn, NaN behind the eye."""
        return project(self.eye, self.world).sheet

    def edges(self, *which: int) -> Array:
        """(n, 4) lines of some of the twelve edges, all of them without."""
        ends = EDGES if not which else EDGES[list(which)]
        return np.asarray(self.sheet[ends].reshape(-1, 4))

    @property
    def fair(self) -> bool:
        """Whether all of it lies well on the sheet."""
        return on_sheet(self.sheet, MARGIN_MM)

    def way(self, corner: int) -> Array:
        """(3,) the unit direction from the near corner to another."""
        run = self.world[corner] - self.world[0]
        return np.asarray(run / np.linalg.norm(run))

    def run(self, corner: int) -> Array:
        """(2,) the unit direction on the sheet from the near corner to another."""
        way = self.sheet[corner] - self.sheet[0]
        return np.asarray(way / np.hypot(*way))

    @property
    def document(self) -> Document:
        """The box as the framework of a sheet."""
        return Document(
            Sheet(WIDE_MM, HIGH_MM),
            (View(eye=self.eye),),
            volumes=(self.box,),
            yaw_deg=self.box.yaw_deg,
        )


def on_sheet(drawn: Array, margin_mm: float) -> bool:
    """Whether places (n, 2) lie on the sheet, so far from its edges."""
    high = np.array([WIDE_MM, HIGH_MM]) - margin_mm
    return bool(np.isfinite(drawn).all() and (drawn > margin_mm).all() and (drawn < high).all())


def aids_of(standing: Standing) -> tuple[Aid, ...]:
    """The light lines that help with a box: fans to both points, and for its two ground sides the
    measuring line with their true lengths, and the way from there to the measuring point."""
    return (Aid(_("fans"), fans(standing)), Aid(_("measuring point"), measured(standing)))


STUB_MM = 14.0


def measured(standing: Standing) -> Array:
    """(n, 4) the measuring line through the near corner, a tick where the true length of each
    ground side lies on it, and the first bit of the way from there to the measuring point."""
    eye, near = standing.eye, standing.sheet[0]
    right = sight_axes(eye)[0].astype(float)
    across = np.array([*right[:2], 0.0]) / np.hypot(*right[:2])
    up, found = np.array([0.0, 2.0]), []
    for corner, other in ((1, 2), (2, 1)):
        point = measuring_point(eye, standing.way(corner), standing.way(other))
        if point is None:
            continue
        sides = [project(eye, (standing.world[0] + sign * standing.box.sides[corner - 1] * across)
                         [None]).sheet[0] for sign in (1, -1)]  # fmt: skip
        goal = standing.sheet[corner]
        way = np.array(point) - goal
        tick = min(sides, key=lambda at: abs(float(_cross(at - goal, way))))
        stub = (goal - tick) / np.hypot(*(goal - tick)) * STUB_MM
        found += [[*near, *tick], [*(tick - up), *(tick + up)], [*tick, *(tick + stub)]]
    return np.array(found, dtype=float).reshape(-1, 4)


def _cross(one: Array, two: Array) -> float:
    return float(one[0] * two[1] - one[1] * two[0])


def box_of(
    rng: Any,
    eye: Eye,
    sides: tuple[float, float, float],
    turn_deg: float | None = None,
    aside: tuple[float, float] = (-0.3, 0.3),
    away: tuple[float, float] = (1.9, 4.2),
) -> Standing:
    """A box somewhere before an eye: its near corner so far aside, as shares of its distance, which
    is so many times its longest side."""
    turn = float(rng.uniform(18.0, 72.0)) if turn_deg is None else turn_deg
    y = float(rng.uniform(*away)) * max(sides)
    x = float(rng.uniform(*aside)) * y
    return Standing(eye, Volume("Case", *sides, x, y, 0.0, turn))


def fans(standing: Standing) -> Array:
    """(4, 4) lines from the ends of the near edge on to both vanishing points, cut at the sheet."""
    drawn = standing.sheet
    return np.concatenate(
        [line_on(drawn[0], drawn[1]), line_on(drawn[4], drawn[5]), line_on(drawn[0], drawn[2]),
         line_on(drawn[4], drawn[6])]
    )  # fmt: skip


def line_on(start: Array, towards: Array) -> Array:
    """(1, 4) the line from a place through another to the edge of the sheet."""
    way = towards - start
    with np.errstate(divide="ignore", invalid="ignore"):
        far = np.where(way > 0, (np.array([WIDE_MM, HIGH_MM]) - start) / way, -start / way)
    far = far[np.isfinite(far) & (far > 0)]
    return np.concatenate([start, start + (float(far.min()) if len(far) else 1.0) * way])[None]


def level_line(eye: Eye) -> Array:
    """(1, 4) the eye level across the sheet."""
    y = eye.centre_of_vision_mm[1]
    return np.array([[0.0, y, WIDE_MM, y]])


def centre(eye: Eye) -> Array:
    """(2, 4) a cross on the centre of vision."""
    return crosses(np.array(eye.centre_of_vision_mm))


def along_ground(eye: Eye, start: Array, way: Array, place: Place, height_mm: float = 0.0) -> float:
    """How far, mm, a place of the sheet lies along a level world line from a start (3,) in a unit
    direction (3,); a millimetre short of for ever where the line of sight runs beyond it."""
    ground = on_level(eye, place, height_mm)
    if ground is None:
        return 1e5
    return float((ground - start) @ way)


def slope_mm(eye: Eye, start: Array, way: Array, long: float) -> float:
    """How far, mm, a place of the sheet moves per percent of a length along a world line."""
    one, two = (
        project(eye, (start + share * long * way)[None]).sheet[0] for share in (0.995, 1.005)
    )
    return float(np.hypot(*(two - one)))


def practised(hand: float, eye: float) -> float:
    """What a practised hand and a practised eye make of themselves together."""
    return float(np.hypot(hand, eye))


def length_hand(eye: Eye, start: Array, way: Array, long: float) -> float:
    """How well, percent, a practised person places a length along a world line."""
    return practised(HAND_MM / max(slope_mm(eye, start, way, long), 1e-6), EYE_PERCENT)


def pair(place: Array) -> Place:
    """A place (2,) as a pair."""
    return float(place[0]), float(place[1])


def exact_or(error_mm: float, words: str) -> str:
    """The words of an error; "exact" for one that nobody can see."""
    return _("exact") if abs(error_mm) < SEEN_MM else words


def ring(centre: Array, across: Array, along: Array, eye: Eye, count: int = 64) -> Array:
    """(count, 4) chords of the picture of a circle: world centre and two half diameters (3,)."""
    turn = np.linspace(0.0, 2 * np.pi, count + 1)[:, None]
    drawn = project(eye, centre + np.cos(turn) * across + np.sin(turn) * along).sheet
    return np.concatenate([drawn[:-1], drawn[1:]], axis=1)


def percent(value: float) -> str:
    """A share of a hundred as it is told."""
    return f"{abs(value):.0f}"


def crosses(places: Array, size_mm: float = 2.0) -> Array:
    """(2 n, 4) small crosses at places (n, 2)."""
    return np.array(
        [
            [*(place - step), *(place + step)]
            for place in np.reshape(places, (-1, 2))
            for step in (np.array([size_mm, 0.0]), np.array([0.0, size_mm]))
        ]
    ).reshape(-1, 4)
