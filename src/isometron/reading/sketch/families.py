"""Where the strokes of one family of a sketch point at."""

import math

import numpy as np

from isometron.reading.model import Array

NEAR_DEG = 8.0
"""A stroke is meant for a family whose point it misses by less, when it misses the others by much
more."""

APART = 1.6


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
