"""One's own sheet in a picture: its four corners, and the sheet straightened to true mm."""

import io
import itertools
import math
from collections.abc import Sequence
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.document.marks import MarksError
from isometron.nearness import SAME
from isometron.perspective.places import Place
from isometron.reading.finding import laid_along
from isometron.words import _

Array = NDArray[np.float64]

LOOKED_AT_PX = 900
"""The paper is looked for in a picture of about this many px across."""

LEAST_SHARE = 0.1
"""A sheet that fills less of the picture is not taken for one."""

FILLED = 0.95
"""Four corners are those of a sheet when the shape between them fills so much of what is light."""

BESIDE_PX = 12
MOST_PX = 20_000_000
"""A straightened sheet has no more pixels."""

BESIDE_SIDE_PX = 5.0
"""What lies beside a side of a sheet is looked at so far from it, px of the small picture."""

FAINTEST = 8.0
"""A side of a sheet parts what lies beside it by so many grey values at least."""

THINNEST = 0.02
"""Corners that make a shape with a smaller sine at one of them are no sheet."""


def paper_corners(grey: NDArray[np.uint8]) -> list[Place] | None:
    """The corners of a light sheet of paper on a darker desk, px of the picture (y upward from its
    lower left): lower left first, counter-clockwise; None when no four-sided sheet shows.

    Light and dark are told apart by Otsu's threshold, over all and again over what lies below and
    above it, since a lamp shades a sheet; of the largest light shapes that of which even the
    weakest side stands out most is taken. Its sides are laid where the grey values change fastest,
    and cut with each other."""
    import cv2

    rows, columns = grey.shape
    smaller = max(max(rows, columns) / LOOKED_AT_PX, 1.0)
    size = round(columns / smaller), round(rows / smaller)
    small: Any = cv2.GaussianBlur(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), (0, 0), 2.0)
    rings = [ring for level in _levels(small) if (ring := _four_sided(small > level)) is not None]
    if (
        not rings
        or _stands_out(small, ring := max(rings, key=partial(_stands_out, small))) < FAINTEST
    ):
        return None
    places = (ring.reshape(-1, 2).astype(float) + 0.5) * smaller
    places[:, 1] = rows - places[:, 1]
    edge = 2.5 * smaller
    full = [_at_border(place, (columns, rows), edge) for place in places]
    if all(full):  # a scan: the sheet fills the picture
        return in_order([(0.0, 0.0), (columns, 0.0), (columns, rows), (0.0, rows)])
    return in_order(_sharpened(grey, places, BESIDE_PX * max(smaller / 2, 1.0)))


def _levels(small: NDArray[np.uint8]) -> list[float]:
    """Grey values that may part paper from desk."""
    import cv2

    found = []
    first = float(cv2.threshold(small, 0, 255, cv2.THRESH_OTSU)[0])
    for part in (small, small[small <= first], small[small > first]):
        if part.size > LEAST_SHARE * small.size:
            flat = np.ascontiguousarray(part).reshape(1, -1)
            found.append(float(cv2.threshold(flat, 0, 255, cv2.THRESH_OTSU)[0]))
    return found


def _four_sided(light: NDArray[np.bool_]) -> Any:
    """The corners (4, 1, 2) of the largest light shape, when it has four sides; or None."""
    import cv2

    whole = cv2.morphologyEx(light.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((9, 9), np.uint8))
    outlines, _unused = cv2.findContours(whole, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
    if not outlines:
        return None
    largest = max(outlines, key=cv2.contourArea)
    if cv2.contourArea(largest) < LEAST_SHARE * light.size:
        return None
    hull: Any = cv2.convexHull(largest)
    for share in (0.01, 0.02, 0.03, 0.05):
        ring: Any = cv2.approxPolyDP(hull, share * cv2.arcLength(hull, True), True)
        if len(ring) == 4 and cv2.contourArea(ring) > FILLED * cv2.contourArea(hull):
            return ring
    return None


def _stands_out(small: NDArray[np.uint8], ring: Any) -> float:
    """By how many grey values the weakest side of a ring (4, 1, 2) parts what lies on both sides of
    it; a side along the picture's border parts nothing and does not count."""
    rows, columns = small.shape
    corners = ring.reshape(4, 2).astype(float)
    middle, share = corners.mean(axis=0), np.linspace(0.1, 0.9, 33)[:, None]
    parted = []
    for one, two in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        places = one + share * (two - one)
        out = np.array([two[1] - one[1], one[0] - two[0]]) / max(math.dist(one, two), 1e-9)
        out = out if out @ (places.mean(axis=0) - middle) > 0 else -out
        beyond, within = places + BESIDE_SIDE_PX * out, places - BESIDE_SIDE_PX * out
        both = np.stack([beyond, within])
        inside = ((both >= 0) & (both <= (columns - 1, rows - 1))).all(axis=(0, 2))
        if inside.sum() > len(share) / 2:
            (x, y), (u, v) = (np.round(some[inside]).astype(int).T for some in (beyond, within))
            parted.append(float(np.median(small[v, u].astype(float) - small[y, x])))
    return min(parted, default=FAINTEST)


def _at_border(place: Array, size: tuple[int, int], edge: float) -> bool:
    x, y = place.tolist()
    return bool(min(x, size[0] - x) < edge and min(y, size[1] - y) < edge)


def _sharpened(grey: NDArray[np.uint8], ring: Array, beside: float) -> list[Place]:
    """Corners (4, 2) laid to the sides of the paper: each side to where the grey values change
    fastest, the corners where neighbouring sides cross."""
    sides = [
        laid_along(grey, np.array([one, two]), beside)
        for one, two in zip(ring, np.roll(ring, -1, axis=0), strict=True)
    ]
    found = []
    for number, place in enumerate(ring):
        before, after = sides[number - 1], sides[number]
        crossed = _crossing(before, after)
        near = crossed is not None and math.dist(crossed, place) < 4 * beside
        found.append(
            crossed if near and crossed is not None else (float(place[0]), float(place[1]))
        )
    return found


def _crossing(one: Array, two: Array) -> Place | None:
    run, other, off = one[1] - one[0], two[1] - two[0], two[0] - one[0]
    det = run[0] * other[1] - run[1] * other[0]
    if abs(det) < SAME * float(np.hypot(*run) * np.hypot(*other)):
        return None
    share = (off[0] * other[1] - off[1] * other[0]) / det
    place = one[0] + share * run
    return float(place[0]), float(place[1])


def in_order(corners: Sequence[Place]) -> list[Place]:
    """Four corners counter-clockwise, that nearest to the lower left first."""
    places = np.array(corners, dtype=float)
    off = places - places.mean(axis=0)
    ring = places[np.argsort(np.arctan2(off[:, 1], off[:, 0]))]
    first = int(np.argmin(ring @ [1.0, 1.0]))
    return [(float(x), float(y)) for x, y in np.roll(ring, -first, axis=0).tolist()]


def homography(corners: Sequence[Place], size_mm: tuple[float, float]) -> Array:
    """The homography (3, 3) from px to mm of a sheet whose corners are those, lower left first,
    counter-clockwise: exact, from four pairs of places. Raises MarksError for corners that make no
    sheet."""
    ring = np.array(corners, dtype=float)
    if ring.shape != (4, 2) or not np.isfinite(ring).all():
        raise no_sheet()
    for one, two, three in zip(
        ring, np.roll(ring, -1, axis=0), np.roll(ring, -2, axis=0), strict=True
    ):
        a, b = two - one, three - two
        cross = float(a[0] * b[1] - a[1] * b[0])
        if cross <= THINNEST * float(np.hypot(*a) * np.hypot(*b)):
            raise no_sheet()
    wide, high = size_mm
    goal = np.array([[0, 0], [wide, 0], [wide, high], [0, high]], dtype=float)
    middle, scale = ring.mean(axis=0), float(np.ptp(ring, axis=0).max())
    own = (ring - middle) / scale  # of like size, so that the solve is sound
    rows, right = [], []
    for (x, y), (u, v) in zip(own.tolist(), goal.tolist(), strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    found = np.append(np.linalg.solve(np.array(rows), np.array(right)), 1.0).reshape(3, 3)
    moved = np.array(
        [[1 / scale, 0, -middle[0] / scale], [0, 1 / scale, -middle[1] / scale], [0, 0, 1]]
    )
    way: Array = found @ moved
    return way


def no_sheet() -> MarksError:
    """What is said of corners that make no sheet."""
    return MarksError(
        _("These four corners make no sheet of paper: drag each to a corner of the paper.")
    )


def through(way: Array, places: Array) -> Array:
    """Places (n, 2) through a homography."""
    seen = np.concatenate([places, np.ones((len(places), 1))], axis=1) @ way.T
    found: Array = seen[:, :2] / seen[:, 2:]
    return found


def straightened(
    content: bytes, corners: Sequence[Place], size_mm: tuple[float, float]
) -> tuple[bytes, float]:
    """An encoded picture of a sheet of paper straightened: JPEG of the sheet alone, and its px per
    mm, as many as the picture shows of it. Raises MarksError, PictureError."""
    import cv2
    from PIL import Image

    from isometron.reading.pictures import QUALITY, colours

    way = homography(corners, size_mm)
    pixels = colours(content)
    rows = pixels.shape[0]
    sides = [math.dist(one, two) for one, two in itertools.pairwise([*corners, corners[0]])]
    wanted = max(max(sides[0], sides[2]) / size_mm[0], max(sides[1], sides[3]) / size_mm[1])
    most = math.sqrt(MOST_PX / (size_mm[0] * size_mm[1]))
    px_per_mm = min(wanted, most)
    wide, high = (max(round(side * px_per_mm), 2) for side in size_mm)
    flip = np.array([[1, 0, 0], [0, -1, rows], [0, 0, 1.0]])  # px downward to px upward
    lay = np.array([[wide / size_mm[0], 0, 0], [0, -high / size_mm[1], high], [0, 0, 1.0]])
    halves = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1.0]])  # pixel middles lie at halves
    whole = np.linalg.inv(halves) @ lay @ way @ flip @ halves
    laid: Any = cv2.warpPerspective(
        pixels, whole, (wide, high), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE
    )
    kept = io.BytesIO()
    Image.fromarray(laid).save(kept, "JPEG", quality=QUALITY, subsampling=0)
    return kept.getvalue(), wide / size_mm[0]
