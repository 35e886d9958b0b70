"""Finding a rim in a picture: the ellipse that most rays from the middle of a box agree on."""

import math

import numpy as np
from numpy.typing import NDArray

from isometron.nearness import SAME
from isometron.reading.finding import between
from isometron.reading.rims import RimError, fit_rim

Array = NDArray[np.float64]

RAYS, REACH = 120, (0.5, 1.3)
"""A rim is looked for along so many rays from the middle of its box, between these shares of the
way to the ellipse that the box holds."""

PER_RAY, TRIALS = 5, 1500
"""So many edges along each ray are looked at, and so many ellipses through five of them tried."""

ON_RIM_PX = 1.2
"""An edge lies on an ellipse when it misses it by less, px."""

BOX_SHARE = 0.12
"""The box was drawn round the rim to about this share of its size."""

LEAST_SEEN = 0.3
"""A rim shows when it is seen along this share of the rays at least."""


def rim_in_box(grey: NDArray[np.uint8], box: Array) -> Array:
    """Points (n, 2), px from the lower left corner, along the rim that a box (2, 2) was drawn
    round; none when no rim shows.

    Along rays from the middle the places where the grey values change fastest are taken; of many
    ellipses through five of them the one that most rays agree on, and that fills the box, is kept
    (Fischler and Bolles' random sample consensus)."""
    low, high = box.min(axis=0), box.max(axis=0)
    rows, columns = grey.shape
    beside = (high < 0).any() or (low > (columns, rows)).any()
    if beside or (high - low).min() < 6 or (high - low > (2 * columns, 2 * rows)).any():
        return np.empty((0, 2))
    places, rays = _edges_along_rays(grey, (low + high) / 2, (high - low) / 2)
    if len(set(rays.tolist())) < LEAST_SEEN * RAYS:
        return np.empty((0, 2))
    scale = float((high - low).max()) / 2
    own = (places - (low + high) / 2) / scale
    goal = (high - low) / 2 / scale
    picks = np.random.default_rng(1).integers(len(own), size=(TRIALS, 5))
    x, y = own[picks, 0], own[picks, 1]
    rows = np.stack([x * x, x * y, y * y, x, y, np.ones_like(x)], axis=2)
    conics = np.linalg.svd(rows)[2][:, -1]
    best, worth = np.zeros(len(own), dtype=bool), 0.0
    for conic in conics[_fills(conics, goal)]:
        on = np.abs(_off_conic(own, conic)) < ON_RIM_PX / scale
        agreed = len(set(rays[on].tolist()))
        if agreed > worth:
            best, worth = on, agreed
    return _refined_rim(places, rays, best)


def _edges_along_rays(grey: NDArray[np.uint8], middle: Array, half: Array) -> tuple[Array, Array]:
    """Places (n, 2) where grey values change fastest along rays from a middle, and the number of
    the ray of each (n,)."""
    rows, columns = grey.shape
    reach = float(np.hypot(*half)) * REACH[1] + 4
    low = np.maximum((middle - reach).astype(int), 0)
    high = np.minimum((middle + reach).astype(int) + 1, (columns, rows))
    part = grey[rows - high[1] : rows - low[1], low[0] : high[0]].astype(float)
    turn = 2 * np.pi * np.arange(RAYS) / RAYS
    way = np.stack([half[0] * np.cos(turn), half[1] * np.sin(turn)], axis=1)
    count = max(int((REACH[1] - REACH[0]) * float(np.hypot(*way.T).max()) / 0.5), 16)
    shares = np.linspace(*REACH, count)
    places = middle + way[:, None, :] * shares[None, :, None]
    inside = ((places > low + 1) & (places < high - 2)).all(axis=2)
    own = np.stack([places[..., 0] - low[0], high[1] - places[..., 1]], axis=2)
    profile = between(part, own) if min(part.shape) > 2 else np.zeros(places.shape[:2])
    smooth = (profile[:, :-4] + profile[:, 1:-3] + profile[:, 2:-2] + profile[:, 3:-1]) / 4
    steep = np.abs(smooth[:, 4:] - smooth[:, :-4])
    steep *= inside[:, 4 : 4 + steep.shape[1]]
    peak = np.zeros_like(steep, dtype=bool)
    peak[:, 1:-1] = (steep[:, 1:-1] >= steep[:, :-2]) & (steep[:, 1:-1] > steep[:, 2:])
    peak &= steep > max(4.0, 0.15 * float(steep.max(initial=0.0)))
    found, rays = [], []
    for ray in range(RAYS):
        at = np.flatnonzero(peak[ray])
        at = at[np.argsort(-steep[ray, at], kind="stable")][:PER_RAY]
        for place in at.tolist():
            one, two, three = steep[ray, place - 1 : place + 2]
            bend = one - 2 * two + three
            shift = 0.0 if bend > -SAME else float(np.clip(0.5 * (one - three) / bend, -0.5, 0.5))
            share = shares[0] + (place + shift + 3.5) * (shares[1] - shares[0])
            found.append(middle + way[ray] * share)
            rays.append(ray)
    return np.array(found).reshape(-1, 2), np.array(rays, dtype=int)


def _fills(conics: Array, goal: Array) -> NDArray[np.bool_]:
    """Which conics (n, 6) are ellipses whose upright box is about the goal's half sides (2,), about
    the origin."""
    a, b, c, d, e, f = conics.T
    det = 4 * a * c - b * b
    fair = det > SAME
    safe = np.where(fair, det, 1.0)
    cx, cy = (b * e - 2 * c * d) / safe, (b * d - 2 * a * e) / safe
    level = a * cx * cx + b * cx * cy + c * cy * cy + d * cx + e * cy + f
    square_x, square_y = -4 * c * level / safe, -4 * a * level / safe
    fair &= (square_x > 0) & (square_y > 0)
    half = np.sqrt(np.maximum(np.stack([square_x, square_y], axis=1), 0.0))
    off = np.abs(half - goal).max(axis=1) + np.hypot(cx, cy)
    return np.asarray(fair & (off < 3 * BOX_SHARE))


def _off_conic(places: Array, conic: Array) -> Array:
    """How far places (n, 2) lie off a conic, to first order."""
    a, b, c, d, e, f = conic
    x, y = places.T
    value = a * x * x + b * x * y + c * y * y + d * x + e * y + f
    slope = np.hypot(2 * a * x + b * y + d, b * x + 2 * c * y + e)
    missed: Array = value / np.maximum(slope, 1e-12)
    return missed


def _refined_rim(places: Array, rays: Array, on: NDArray[np.bool_]) -> Array:
    """The places on the rim that the first ones tell, one for each ray."""
    for _unused in range(4):
        if len(set(rays[on].tolist())) < LEAST_SEEN * RAYS:
            return np.empty((0, 2))
        try:
            cx, cy, long, short, angle = fit_rim(places[on]).values
        except RimError:
            return np.empty((0, 2))
        c, s = math.cos(angle), math.sin(angle)
        own = (places - (cx, cy)) @ np.array([[c, -s], [s, c]])
        conic = np.array([1 / long**2, 0.0, 1 / short**2, 0.0, 0.0, -1.0])
        on = np.abs(_off_conic(own, conic)) < ON_RIM_PX
    return places[on]
