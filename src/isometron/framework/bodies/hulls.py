"""Points whose hull holds a surface: what lies apart from all of them cannot meet it."""

import math
from typing import NamedTuple

import numpy as np

from isometron.framework.bodies.body import Body, Indices, SweptPatch, TurnedPatch, is_straight
from isometron.nearness import SAME
from isometron.perspective.conics import between, circle_arcs
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered

ROUND = 16
"""Corners of the polygon round a circle that stands for it."""

QUARTERS = np.linspace(0.0, 1.0, 5)


class Hulls(NamedTuple):
    """For each surface of a body points, own mm, whose hull holds it: points (p, 3) of all, those
    of surface i from first[i] to first[i + 1]."""

    points: Array
    first: Indices


@remembered()
def hulls_of(body: Body) -> Hulls:
    """The hulls of the surfaces of a body."""
    own = body.surfaces
    if own is None:
        found = [body.face_corners(face) for face in range(body.faces)]
    else:
        found = [np.empty((0, 3))] * len(own.forms)
        for number in np.flatnonzero(own.plane).tolist():
            found[number] = _controls(own.rims[own.rim_surface == number])
        for turned in own.turned:
            found[turned.surface] = _round_turned(turned)
        for swept in own.swept:
            found[swept.surface] = _round_swept(swept)
    ends = np.cumsum([0, *(len(one) for one in found)])
    return Hulls(np.concatenate([np.empty((0, 3)), *found]), ends)


def _controls(arcs: Array) -> Array:
    """Control points (p, 3) of arcs, bent ones cut in four first: they lie close to them."""
    bent = arcs[~is_straight(arcs)]
    ends = [between(bent, *np.tile(QUARTERS[i : i + 2, None], len(bent))) for i in range(4)]
    every = np.concatenate([arcs[:, [0, 2]].reshape(-1, 4), *(one.reshape(-1, 4) for one in ends)])
    every = every[every[:, 3] > SAME]
    return np.asarray(every[:, :3] / every[:, 3:])


def _round_turned(one: TurnedPatch) -> Array:
    """Polygons round the circles at the ends of a turned piece and where it is widest."""
    piece = one.segment
    heights = [piece.low, piece.high]
    if piece.c < 0 and piece.low < -piece.b / (2 * piece.c) < piece.high:
        heights.append(-piece.b / (2 * piece.c))
    across = np.linalg.svd(one.axle[None])[2][1:]
    turn = 2 * math.pi * np.arange(ROUND) / ROUND
    ring = np.stack([np.cos(turn), np.sin(turn)], axis=1) @ across / math.cos(math.pi / ROUND)
    return np.concatenate([one.place + h * one.axle + piece.radius(h) * ring for h in heights])


def _round_swept(one: SweptPatch) -> Array:
    """Control points of the arc, as far along the way as it reaches anywhere."""
    arcs = circle_arcs(
        np.append(one.centre, 0.0),
        np.array([one.radius, 0.0, 0.0]),
        np.array([0.0, one.radius, 0.0]),
        math.degrees(one.first),
        math.degrees(one.turn),
    )
    feet = _controls(arcs)[:, :2] @ one.plane
    return np.concatenate(
        [feet + float(one.ends.begin.min()) * one.way, feet + float(one.ends.stop.max()) * one.way]
    )
