"""A second camera, written apart from the one that ships: rays through a pinhole, one for each
point of the picture, against boxes, a floor and a wall; with what photographs have besides the
thing they are of. Truth is what the rays were made from.

Kinds: plain, lines (forty of a background in five directions), crop (cut to one side of a larger
picture, and taken for whole), laths (slanting stripes on every face), several (other things, turned
otherwise), lens (k = -0.15), one-point, poor (blur, dark rims, JPEG), and shadow.
"""

import io
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

KINDS = (
    *("plain", "lines", "crop", "laths", "several", "lens", "one-point", "poor", "shadow"),
    *("scatter", "round"),
)
WIDE, HIGH, FINER = 760, 540, 2
ROUND = 7.0
"""A hand draws a box so far round the thing, px."""


@dataclass(frozen=True)
class Shot:
    """An encoded picture and its truth: station distance in px of the picture, where we looked (px
    from its lower left), tilt and roll in degrees, and the heading of the main thing, which repeats
    after a quarter turn."""

    content: bytes
    kind: str
    distance: float
    centre: tuple[float, float]
    tilt: float
    heading: float
    size: tuple[int, int]
    box: tuple[tuple[float, float], tuple[float, float]]
    """What a person would draw round the thing."""


def _turn(yaw):
    c, s = np.cos(yaw), np.sin(yaw)
    return np.array([[c, s, 0.0], [-s, c, 0.0], [0.0, 0.0, 1.0]])


def _thing(rng):
    """Boxes (low corner, sides) of one thing in its own axes: a body and parts square to it."""
    w, d, h = rng.uniform([1.2, 0.7, 0.5], [2.4, 1.3, 1.0])
    legs = rng.uniform(0.0, 0.35)
    parts = [((0, 0, legs), (w, d, h))]
    t = 0.09 * w
    if legs > 0.12:
        parts += [((x, y, 0), (t, t, legs)) for x in (0, w - t) for y in (0, d - t)]
    else:
        parts[0] = ((0, 0, 0), (w, d, h + legs))
    top = parts[0][0][2] + parts[0][1][2]
    a, b = rng.uniform(0.1, 0.3) * w, rng.uniform(0.55, 0.85) * w
    if rng.random() < 0.75:
        parts.append(((a, 0.06 * d, top), (b - a, 0.88 * d, rng.uniform(0.2, 0.45))))
    if rng.random() < 0.6:
        parts.append(((0.12 * w, -0.1 * d, 0.4 * top), (0.3 * w, 0.1 * d, 0.35 * top)))
    if rng.random() < 0.6:
        parts.append(((0.6 * w, -0.06 * d, 0.3 * top), (0.22 * w, 0.06 * d, 0.5 * top)))
    return [(np.array(low, float), np.array(side, float)) for low, side in parts]


def _hits(origin, rays, box):
    """Where rays (n, 3) first meet a box: how far (inf for none), which face, own place there."""
    yaw, place, low, sides, _name = box
    turn = _turn(yaw)
    o, d = turn @ (origin - place) - low, rays @ turn.T
    with np.errstate(divide="ignore", invalid="ignore"):
        one, two = -o / d, (sides - o) / d
    near, far = np.minimum(one, two), np.maximum(one, two)
    axis = near.argmax(axis=1)
    begin, end = near.max(axis=1), far.min(axis=1)
    at = np.where((begin < end) & (begin > 1e-6), begin, np.inf)
    face = 2 * axis + (d[np.arange(len(d)), axis] < 0)
    return at, face, o + np.where(np.isfinite(at), at, 0.0)[:, None] * d


def _scene(kind, rng, yaw):
    """All boxes (yaw, place, low corner, sides, number), and how far the main thing reaches."""
    thing = _thing(rng)
    reach = np.array([low + side for low, side in thing]).max(axis=0)
    boxes = [(yaw, np.zeros(3), low, side, n) for n, (low, side) in enumerate(thing)]
    middle = _turn(yaw).T @ (reach / 2)
    for n in range(3 if kind == "several" else 0):
        way = np.pi * (rng.uniform(-0.15, 0.15) + (0.0, 1.0, 0.35)[n])
        off = rng.uniform(1.5, 2.0) * np.array([np.cos(way), np.sin(way), 0.0])
        size = rng.uniform(0.4, 1.0, 3)
        place = middle * [1, 1, 0] + off
        boxes.append((yaw + np.radians(rng.uniform(15, 75)), place, np.zeros(3), size, 10 + n))
    return boxes, reach, middle


def _inside(box, eye, shape):
    """Numbers of the points of the picture (rows, columns) within which a box may lie."""
    origin, frame, distance = eye
    yaw, place, low, sides, _name = box
    corners = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)]) * sides + low
    seen = (corners @ _turn(yaw) + place - origin) @ frame.T
    flat = distance * seen[:, :2] / seen[:, 2:]
    flat = flat * 1.06 * FINER  # a lens may bend it
    rows, columns = shape
    left, right = (flat[:, 0].min() - 9 + columns / 2, flat[:, 0].max() + 9 + columns / 2)
    top, foot = (rows / 2 - flat[:, 1].max() - 9, rows / 2 - flat[:, 1].min() + 9)
    y, x = np.mgrid[
        max(int(top), 0) : min(int(foot), rows), max(int(left), 0) : min(int(right), columns)
    ]
    return (y * columns + x).ravel()


def _face_tones(kind, own, number, base, bright):
    """Grey values at own places on a face of a box."""
    values = np.full(len(own), base * bright + 20)
    if kind == "laths":
        u, v = (own[:, one] for one in range(3) if one != number // 2)
        slant = np.radians(25.0 + 10 * (number // 2))
        values *= 1 - 0.18 * (np.floor((u * np.cos(slant) + v * np.sin(slant)) / 0.16) % 2)
    return values


def _paint(kind, seed, rng, boxes, middle, eye, size):
    """Grey values, and which points lie beside all boxes, (rows, columns), finer than a picture."""
    (wide, high), (origin, frame, distance) = size, eye
    shape = high * FINER, wide * FINER
    x, y = np.meshgrid(
        (np.arange(shape[1]) + 0.5) / FINER - wide / 2,
        high / 2 - (np.arange(shape[0]) + 0.5) / FINER,
    )
    if kind == "lens":  # each point of the picture is seen along a ray of its own
        swell = 1 - 0.15 * (x**2 + y**2) / max(wide, high) ** 2
        x, y = x * swell, y * swell
    rays = (np.stack([x, y, np.full_like(x, distance)], axis=-1) @ frame).reshape(-1, 3)
    light = np.array([-1.0, -0.5, 0.55] if kind == "shadow" else [-0.5, -0.65, 0.8])
    light /= np.linalg.norm(light)
    floor, wall = (
        -origin[2] / rays[:, 2],
        (middle[1] + rng.uniform(2.5, 4.0) - origin[1]) / rays[:, 1],
    )
    floor[floor <= 0], wall[wall <= 0] = np.inf, np.inf
    best, ground = np.minimum(floor, wall), floor < wall
    tone = np.where(ground, rng.uniform(120, 175), rng.uniform(170, 215))
    near = np.flatnonzero(ground)
    places = origin + floor[near, None] * rays[near]
    within = np.abs(places[:, :2] - middle[:2]).max(axis=1) < 4.5
    near, places = near[within], places[within]
    dark = np.zeros(len(near), bool)
    for yaw, place, low, side, _name in boxes:
        turn = _turn(yaw)
        o, d = (places - place) @ turn.T - low, turn @ light
        with np.errstate(divide="ignore"):
            one, two = -o / d, (side - o) / d
        dark |= np.minimum(one, two).max(axis=1) < np.maximum(one, two).min(axis=1)
    tone[near[dark]] *= 0.62 if kind == "shadow" else 0.8
    free = np.ones(len(rays), bool)
    for box in boxes:
        some = _inside(box, eye, shape)
        at, face, own = _hits(origin, rays[some], box)
        nearer = at < best[some]
        best[some[nearer]], free[some[nearer]] = at[nearer], False
        base = np.random.default_rng([seed, box[4]]).uniform(90, 190)
        for number in range(6):
            on = nearer & (face == number)
            normal = np.zeros(3)
            normal[number // 2] = 1.0 if number % 2 else -1.0
            bright = 0.45 + 0.55 * max(float((_turn(box[0]).T @ normal) @ light), 0.0)
            tone[some[on]] = _face_tones(kind, own[on], number, base, bright)
    return tone.reshape(shape), free.reshape(shape)


def _clutter(kind, rng, picture):
    """A copy of a picture with lines and rims that belong to nothing."""
    full = np.array(picture.size)
    pen = ImageDraw.Draw(over := picture.copy())
    ways = rng.uniform(0, np.pi, 5)
    for n in range({"lines": 40, "scatter": 8}.get(kind, 0)):
        way = ways[n % 5] + rng.normal(0, 0.01) if kind == "lines" else rng.uniform(0, np.pi)
        a, thick = rng.uniform(0, full), int(rng.integers(1, 4)) * FINER
        b = a + rng.uniform(0.12, 0.5) * full[0] * np.array([np.cos(way), np.sin(way)])
        pen.line([*a, *b], fill=int(rng.uniform(30, 110)), width=thick)
    for _n in range(6 if kind == "round" else 0):
        a, r = rng.uniform(0, full), rng.uniform(0.04, 0.14) * full[0] * np.array([1, 0.6])
        pen.ellipse([*(a - r), *(a + r)], outline=40, width=2 * FINER)
    return over


def _worn(kind, rng, picture):
    """A picture as a camera and a file leave it."""
    blur = 4.0 if kind == "poor" else rng.uniform(0.3, 1.0)
    values = np.asarray(picture.filter(ImageFilter.GaussianBlur(blur)), float)
    if kind == "poor":
        y, x = np.mgrid[: values.shape[0], : values.shape[1]]
        off = (x / values.shape[1] - 0.5) ** 2 + (y / values.shape[0] - 0.5) ** 2
        values = values * (1 - off)
    values = values + rng.normal(0, rng.uniform(1.5, 4.0), values.shape)
    stream = io.BytesIO()
    out = Image.fromarray(np.clip(values, 0, 255).astype(np.uint8)).convert("RGB")
    out.save(stream, "JPEG", quality=40 if kind == "poor" else 88)
    return stream.getvalue()


def shot(kind, seed):
    """A picture of a kind."""
    rng = np.random.default_rng([seed, KINDS.index(kind)])
    distance, tilt = rng.uniform(0.95, 2.0) * WIDE, np.radians(rng.uniform(-24.0, -6.0))
    roll, heading = np.radians(rng.normal(0.0, 1.0)), np.radians(rng.normal(0.0, 0.3))
    yaw = np.radians(rng.normal(0.0, 0.15) if kind == "one-point" else rng.uniform(20.0, 70.0))
    boxes, reach, middle = _scene(kind, rng, yaw)
    away = np.array([np.sin(heading) * np.cos(tilt), np.cos(heading) * np.cos(tilt), np.sin(tilt)])
    right = np.array([np.cos(heading), -np.sin(heading), 0.0])
    up = np.cross(right, away)
    right, up = np.cos(roll) * right + np.sin(roll) * up, np.cos(roll) * up - np.sin(roll) * right
    origin = middle - away * np.linalg.norm(reach) * distance / (0.62 * WIDE)
    eye = origin, np.stack([right, up, away]), distance
    corners = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)])
    things = [corners * side + low for _y, _p, low, side, name in boxes if name < 10]
    away_by = (np.concatenate(things) @ _turn(yaw) - origin) @ eye[1].T
    flat = distance * away_by[:, :2] / away_by[:, 2:]
    size = (3 * WIDE // 2, 27 * HIGH // 20) if kind == "crop" else (WIDE, HIGH)
    grey, free = _paint(kind, seed, rng, boxes, middle, eye, size)
    picture = Image.fromarray(np.clip(grey, 0, 255).astype(np.uint8))
    over = _clutter(kind, rng, picture)
    picture.paste(over, mask=Image.fromarray((free * 255).astype(np.uint8)))
    picture = picture.resize(size, Image.Resampling.BOX)
    centre = np.array(size) / 2
    if kind == "crop":
        left, top = (
            int(share * side / 3) for share, side in zip(rng.integers(0, 2, 2), size, strict=True)
        )
        left, top = min(left, size[0] - WIDE), min(top, size[1] - HIGH)
        picture = picture.crop((left, top, left + WIDE, top + HIGH))
        centre = np.array([size[0] / 2 - left, top + HIGH - size[1] / 2])
    return Shot(
        _worn(kind, rng, picture),
        kind,
        float(distance),
        (float(centre[0]), float(centre[1])),
        float(np.degrees(tilt)),
        float(np.degrees(yaw + heading)),
        picture.size,
        (tuple(centre + flat.min(axis=0) - ROUND), tuple(centre + flat.max(axis=0) + ROUND)),
    )
