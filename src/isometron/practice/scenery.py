"""What drills stand on: an eye before a small sheet, boxes on the ground, their lines on it."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from isometron.framework.box import EDGES
from isometron.framework.volume import Volume
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import on_level, project
from isometron.practice.drill import HIGH_MM, WIDE_MM, Point
from isometron.words import _

MARGIN_MM = 6.0
SEEN_MM = 0.05
HAND_MM = 0.36
"""How far a mark lands off along one direction: a mark of 0.3 mm on a line 0.2 mm off."""


def eye_of(rng: Any, difficulty: float, *, high: tuple[float, float] = (0.9, 2.2)) -> Eye:
    """A level eye; the harder, the nearer it stands and the stronger lines converge."""
    level = float(rng.uniform(0.62, 0.9)) * HIGH_MM
    return Eye(
        0.0,
        0.0,
        float(rng.uniform(*high)) * 1000.0,
        0.0,
        0.0,
        float(rng.uniform(150.0, 190.0)) * (1.35 - 0.6 * difficulty),
        (WIDE_MM / 2 + float(rng.uniform(-15.0, 15.0)), level),
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
        drawn = self.sheet
        low, high = MARGIN_MM, np.array([WIDE_MM, HIGH_MM]) - MARGIN_MM
        return bool(np.isfinite(drawn).all() and (drawn > low).all() and (drawn < high).all())


def box_of(
    rng: Any,
    eye: Eye,
    sides: tuple[float, float, float],
    turn_deg: float | None = None,
    aside: tuple[float, float] = (-0.3, 0.3),
) -> Standing:
    """A box somewhere before an eye: its near corner so far aside, as shares of its distance."""
    turn = float(rng.uniform(18.0, 72.0)) if turn_deg is None else turn_deg
    away = float(rng.uniform(2.2, 5.5)) * max(sides)
    x = float(rng.uniform(*aside)) * away
    return Standing(eye, Volume("Case", *sides, x, away, 0.0, turn))


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


def along_ground(eye: Eye, start: Array, way: Array, place: Point, height_mm: float = 0.0) -> float:
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


def pair(place: Array) -> Point:
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
