"""Drawing aids: where the thing stands, drawn as single lines on the ground, a shelf or a wall."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.words import _, said

REACH_MM = 20_000.0
"""Aids run this far either way: beyond any sheet."""

MOST_SQUARES = 60

WALL_MM = 4000.0
"""The upright corners of a back wall are drawn this high."""


@dataclass(frozen=True)
class Aid:
    """Lines to set things down by: through a world place (x, y), along a yaw, at a height.

    A floor line lies on the ground; a shelf edge at `height_mm`; a shelf is two edges, the upper
    one there, `high_mm` thick; a path two lines on the ground `wide_mm` apart; a back wall its
    floor line with its corner uprights at `wide_mm` to either side. A ground grid is `squares` by
    `squares` with sides of `wide_mm` about the place, on the level `height_mm`. A carried height is
    an upright `high_mm` tall standing there, with the level lines to its foot and top from
    `from_mm` (x, y).
    """

    kind: str
    place_mm: tuple[float, float]
    yaw_deg: float = 0.0
    height_mm: float = 0.0
    wide_mm: float = 1500.0
    squares: int = 0
    high_mm: float = 0.0
    from_mm: tuple[float, float] = (0.0, 0.0)

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise VolumeError(
                _("“{kind}” is no drawing aid: use {kinds}.").format(
                    kind=self.kind, kinds=", ".join(KINDS)
                )
            )
        lengths = (self.yaw_deg, self.height_mm, self.wide_mm, self.high_mm)
        numbers = (*self.place_mm, *self.from_mm, *lengths)
        if not 0 <= self.squares <= MOST_SQUARES:
            raise VolumeError(
                _("A ground grid has up to {most} squares each way.").format(most=MOST_SQUARES)
            )
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in numbers):
            raise VolumeError(_("A drawing aid stands out of reach: keep it within a kilometre."))

    @property
    def light(self) -> bool:
        """Whether it only helps to construct, and is drawn lightly."""
        return self.kind in ("ground grid", "carried height")

    def lines(self) -> tuple[Array, Array]:
        """Starts and ends (n, 3) world mm."""
        return LINES[self.kind](self)


Lines = tuple[Array, Array]


def _along(aid: Aid) -> Array:
    angle = math.radians(aid.yaw_deg)
    return np.array([math.cos(angle), math.sin(angle), 0.0])


def _right_across(aid: Aid, height: float) -> Lines:
    middle, along = np.array([*aid.place_mm, height]), _along(aid)
    return (middle - REACH_MM * along)[None], (middle + REACH_MM * along)[None]


def _back_wall(aid: Aid) -> Lines:
    middle, along = np.array([*aid.place_mm, 0.0]), _along(aid)
    left, right = middle - aid.wide_mm * along, middle + aid.wide_mm * along
    up = np.array([0.0, 0.0, WALL_MM])
    return np.array([left, left, right]), np.array([right, left + up, right + up])


def _shelf(aid: Aid) -> Lines:
    upper = _right_across(aid, aid.height_mm)
    lower = _right_across(aid, aid.height_mm - aid.high_mm)
    return np.concatenate([upper[0], lower[0]]), np.concatenate([upper[1], lower[1]])


def _path(aid: Aid) -> Lines:
    along = _along(aid)
    aside = aid.wide_mm / 2 * np.array([-along[1], along[0], 0.0])
    start, end = _right_across(aid, 0.0)
    return np.concatenate([start - aside, start + aside]), np.concatenate(
        [end - aside, end + aside]
    )


def _grid(aid: Aid) -> Lines:
    middle, along = np.array([*aid.place_mm, aid.height_mm]), _along(aid)
    away = np.array([-along[1], along[0], 0.0])
    steps = (np.arange(aid.squares + 1) - aid.squares / 2)[:, None] * aid.wide_mm
    reach = aid.squares / 2 * aid.wide_mm
    across, deep = middle + steps * away, middle + steps * along
    starts = np.concatenate([across - reach * along, deep - reach * away])
    return starts, np.concatenate([across + reach * along, deep + reach * away])


def _carried(aid: Aid) -> Lines:
    foot = np.array([*aid.place_mm, aid.height_mm])
    first = np.array([*aid.from_mm, aid.height_mm])
    up = np.array([0.0, 0.0, aid.high_mm])
    return np.array([foot, first, first + up]), np.array([foot + up, foot, foot + up])


LINES: dict[str, Callable[[Aid], Lines]] = {
    said("floor line"): lambda aid: _right_across(aid, 0.0),
    said("shelf edge"): lambda aid: _right_across(aid, aid.height_mm),
    said("back wall"): _back_wall,
    said("shelf"): _shelf,
    said("path"): _path,
    said("ground grid"): _grid,
    said("carried height"): _carried,
}
"""The lines of every kind of aid."""

KINDS = tuple(LINES)
