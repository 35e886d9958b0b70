"""Strokes of a sketch told apart into families by the places they point at."""

import math

import numpy as np
from numpy.typing import NDArray

from isometron.reading.finding import AGREES_DEG, groups_of
from isometron.reading.model import Array
from isometron.reading.sketch.faults import COVERED, LEVEL_NEAR_DEG, is_level

NEAR_DEG = 8.0
"""A stroke is meant for a family whose point it misses by less, when it misses the others by much
more."""

APART = 1.6
UPRIGHT_DEG = 12.0

LOOSE_DEG = 5.0
"""Strokes of a family that shares no point still miss one place by less."""


def families_of_strokes(lines: Array, size: tuple[float, float]) -> list[str]:
    """The family each stroke (n, 2, 2) is meant for, "" for those of none: groups that point at one
    place, uprights first, and what misses one of these places by little and the others by much."""
    groups = _groups(lines, size)
    if len(groups) < 2:
        return [""] * len(lines)
    run = lines[:, 1] - lines[:, 0]
    lengths = np.hypot(*run.T)

    def lean(number: int) -> float:
        some = np.abs(run[groups[number]]).sum(axis=0)
        return math.degrees(math.atan2(float(some[0]), float(some[1])))

    order = sorted(range(len(groups)), key=lean)
    upright = order[:1] if lean(order[0]) < UPRIGHT_DEG else []
    level = sorted(order[len(upright) :], key=lambda n: -float(lengths[groups[n]].sum()))
    called = dict(zip(upright, ["height"], strict=False))
    called |= dict(zip(level, ["width", "depth", "third"], strict=False))
    points = [point_of(lines[group]) for group in groups]
    covered = sum(float(lengths[group].sum()) for group in groups) / float(lengths.sum())
    meant = NEAR_DEG if covered > COVERED else AGREES_DEG
    names = []
    for line in lines:
        off = [misses_deg(line, point) for point in points]
        near = sorted(range(len(off)), key=off.__getitem__)
        clear = off[near[1]] > APART * off[near[0]] + 1.0
        limit = max(meant, LEVEL_NEAR_DEG) if is_level(line) and covered > COVERED else meant
        names.append(called[near[0]] if off[near[0]] < limit and clear else "")
    return names


def _groups(lines: Array, size: tuple[float, float]) -> list[NDArray[np.bool_]]:
    """At most three groups of strokes that point at one place each; where a box lacks one, what is
    left may be a family that shares no point."""
    groups = groups_of(lines, size)[:3]
    left = ~np.any(groups, axis=0) if groups else np.ones(len(lines), dtype=bool)
    lengths = np.hypot(*(lines[:, 1] - lines[:, 0]).T)
    lacking = float(lengths[left].sum()) > (1 - COVERED) * float(lengths.sum())
    if len(groups) < 3 and lacking and left.any():
        numbers = np.flatnonzero(left)
        for some in groups_of(lines[left], size, LOOSE_DEG)[: 3 - len(groups)]:
            group = np.zeros(len(lines), dtype=bool)
            group[numbers[some]] = True
            groups.append(group)
    return groups


def point_of(lines: Array) -> Array:
    """The place (homogeneous, 3) that lines (n, 2, 2) point at, by least squares, twice: the second
    time without those that miss most."""
    middle = lines.reshape(-1, 2).mean(axis=0)
    scale = float(np.ptp(lines.reshape(-1, 2), axis=0).max())
    own = (lines - middle) / scale
    ones = np.ones((len(own), 1))
    flat = np.cross(
        np.concatenate([own[:, 0], ones], axis=1), np.concatenate([own[:, 1], ones], axis=1)
    )
    keep = np.ones(len(flat), dtype=bool)
    point = np.zeros(3)
    for _unused in range(2):
        point = np.linalg.svd(flat[keep])[2][-1]
        off = np.array([misses_deg(line, point) for line in own])
        keep = off <= max(2.0 * float(np.median(off)), 0.2)
    moved: Array = np.array([*(point[:2] * scale + point[2] * middle), point[2]])
    return moved


def misses_deg(line: Array, point: Array) -> float:
    """By how many degrees a line (2, 2) misses a homogeneous point, seen from its middle."""
    middle, run = line.mean(axis=0), line[1] - line[0]
    away = point[:2] - point[2] * middle
    across = abs(float(run[0] * away[1] - run[1] * away[0]))
    return math.degrees(math.atan2(across, abs(float(run @ away))))
