"""A second hand, written apart from the one that ships: a thing of boxes and wheels drawn on a
sheet with pens of other widths, doubled and broken search lines, dashes, hatching, labels, an eye
level of its own, toned paper; scanned or photographed on a desk. Truth is what it set out to draw.

Kinds: plain, loose (freehand), searched (three lines for one, in pieces), hatched, dashed (hidden
edges), labels, toned (dark paper in a slanting light), level (the eye level is drawn), turned (a
second thing stands otherwise), hubs (rims within rims), unlike (wheels that differ on purpose).
Every odd seed has one mistake of three hands' size at least; even ones have none.
"""

import io
import itertools
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

KINDS = (
    *("plain", "loose", "searched", "hatched", "dashed", "labels"),
    *("toned", "level", "turned", "hubs", "unlike"),
)
MISTAKES = ("angle", "lean", "level", "axis", "size", "swell", "aside")
PAPERS = {"A4": (297.0, 210.0), "A3": (420.0, 297.0)}


@dataclass(frozen=True)
class Line:
    """A straight stroke as it is set out, (2, 2) mm from the lower left corner of the sheet: which
    family it is meant for ("" for none), the mistake in it."""

    ends: np.ndarray
    family: str
    mistake: str = ""


@dataclass(frozen=True)
class Rim:
    """A drawn ellipse: middle, half axes, mm, the turn of its long axis, radians, its mistake."""

    centre: np.ndarray
    long: float
    short: float
    turn: float
    mistake: str = ""
    swell: float = 0.0


@dataclass(frozen=True)
class Drawing:
    """An encoded picture of a sheet, and its truth; corners in px, lower left first, y upward."""

    content: bytes
    kind: str
    paper: str
    lines: list
    rims: list
    corners: np.ndarray
    mistake: str
    level_mm: float
    scanned: bool


def _rot(yaw):
    c, s = np.cos(yaw), np.sin(yaw)
    return np.array([[c, -s, 0.0], [s, c, 0.0], [0.0, 0.0, 1.0]])


class _View:
    """A pinhole over a sheet: world to mm."""

    def __init__(self, rng, wide, high):
        self.far = rng.uniform(0.85, 1.5) * wide
        self.yaw = np.radians(rng.uniform(28.0, 62.0))
        self.middle = np.array([wide / 2, high * rng.uniform(0.62, 0.8)])
        self.eye = np.zeros(3)
        self.size = 1.0

    def stand(self, parts, goal, span):
        """Steps back until the parts are span mm wide, and looks so that they lie at a goal."""
        low = np.array([corner for box in parts for corner in box.corners()])
        middle = (low.min(axis=0) + low.max(axis=0)) / 2
        reach = float(np.ptp(low, axis=0).max())
        back = self.far * reach / span
        rise = np.clip((self.middle[1] - goal[1]) / self.far, 0.1, 0.6) * back
        self.eye = middle + np.array([0.0, -back, rise])
        seen = self.on(low)
        off = goal - (seen.min(axis=0) + seen.max(axis=0)) / 2
        self.middle = self.middle + np.array([off[0], 0.0])
        self.eye = self.eye + np.array([0.0, 0.0, -off[1] * back / self.far])

    def on(self, places):
        own = np.asarray(places, float) - self.eye
        return self.middle + self.far * own[..., [0, 2]] / own[..., 1:2]


class _Box:
    def __init__(self, low, sides, yaw, foot=(0.0, 0.0, 0.0)):
        self.low, self.sides = np.array(low, float), np.array(sides, float)
        self.turn, self.foot, self.yaw = _rot(yaw), np.array(foot, float), yaw

    def world(self, own):
        return np.asarray(own, float) @ self.turn.T + self.foot

    def corners(self):
        bits = np.array([[n & 1, n >> 1 & 1, n >> 2] for n in range(8)], float)
        return self.world(bits * self.sides + self.low)

    def covers(self, eye, places):
        """Which places lie behind or inside this box, seen from an eye."""
        start = (eye - self.foot) @ self.turn - self.low
        run = (places - self.foot) @ self.turn - self.low - start
        with np.errstate(divide="ignore", invalid="ignore"):
            one, two = -start / run, (self.sides - start) / run
        begin = np.nanmax(np.minimum(one, two), axis=1)
        end = np.nanmin(np.maximum(one, two), axis=1)
        return (begin < end - 1e-4) & (begin < 1 - 1e-3) & (end > 1e-3)


def _thing(rng, yaw):
    w, d, h = rng.uniform([1.9, 0.9, 0.7], [2.8, 1.3, 1.0])
    body = _Box((0, 0, 0), (w, d, h), yaw)
    a, b = rng.uniform(0.12, 0.3) * w, rng.uniform(0.6, 0.85) * w
    return [body, _Box((a, 0.08 * d, h), (b - a, 0.84 * d, rng.uniform(0.3, 0.5)), yaw)]


NAMES = ("width", "depth", "height")


def _edges(view, boxes, dashed, named):
    """Lines and dashes of boxes: visible stretches and, wished, the hidden ones of each."""
    seen, hidden = [], []
    share = np.linspace(0.0, 1.0, 61)
    for number, box in enumerate(boxes):
        corners = box.corners()
        for a in range(8):
            for axis in range(3):
                if a >> axis & 1:
                    continue
                ends = corners[[a, a | 1 << axis]]
                places = ends[0] + share[:, None] * (ends[1] - ends[0])
                covered = np.any([one.covers(view.eye, places) for one in boxes], axis=0)
                flat = view.on(places)
                family = NAMES[axis] if number in named else f"{NAMES[axis]}'{number}"
                for run in _runs(~covered):
                    if run[1] - run[0] >= 5:
                        seen.append(Line(flat[[run[0], run[1]]], family))
                if dashed and covered[8:-8].all():
                    hidden.append(flat[[0, -1]])
    return seen, hidden


def _runs(seen):
    marks = np.diff(np.concatenate([[0], seen.astype(int), [0]]))
    return list(zip(np.flatnonzero(marks == 1), np.flatnonzero(marks == -1) - 1, strict=True))


def _rim(view, box, middle, radius):
    """A circle on the front (own y = 0) of a box as drawn: by the conic through its points."""
    turn = np.linspace(0, 2 * np.pi, 40, endpoint=False)
    ring = np.stack([np.cos(turn), np.zeros_like(turn), np.sin(turn)], axis=1) * radius
    x, y = view.on(box.world(ring + middle)).T
    mx, my, s = x.mean(), y.mean(), np.ptp(x)
    u, v = (x - mx) / s, (y - my) / s
    form = np.linalg.svd(np.stack([u * u, u * v, v * v, u, v, np.ones_like(u)], axis=1))[2][-1]
    a, b, c, d, e, f = form
    square = np.array([[a, b / 2], [b / 2, c]])
    at = np.linalg.solve(-2 * square, [d, e])
    left = f + 0.5 * (d * at[0] + e * at[1])
    values, ways = np.linalg.eigh(square)
    halves = np.sqrt(-left / values) * s
    big = int(halves.argmax())
    return Rim(
        np.array([mx, my]) + at * s,
        float(halves[big]),
        float(halves[1 - big]),
        float(np.arctan2(ways[1, big], ways[0, big])),
    )


def _marred(rng, kind, mistake, lines, rims, hand):
    """Lines and rims with a mistake in one of them, and which mistake came of it."""
    lines, rims = list(lines), list(rims)
    along = [float(np.hypot(*(one.ends[1] - one.ends[0]))) for one in lines]
    least = max(3.5, 3.5 * hand)
    if mistake in ("axis", "size", "swell") and rims:
        number = len(rims) - 1 if mistake == "size" else int(rng.integers(len(rims)))
        one, sign = rims[number], rng.choice([-1, 1])
        if mistake == "axis" and one.short / one.long < 0.8:
            turned = one.turn + sign * np.radians(rng.uniform(11, 15))
            rims[number] = Rim(one.centre, one.long, one.short, turned, "axis")
        elif mistake == "size":
            grown = 1 + sign * rng.uniform(0.09, 0.13)
            rims[number] = Rim(one.centre, one.long * grown, one.short * grown, one.turn, "size")
        else:
            swell = sign * rng.uniform(0.05, 0.07)
            rims[number] = Rim(one.centre, one.long, one.short, one.turn, "swell", swell)
        return lines, rims, rims[number].mistake
    if mistake == "lean":
        fit = [n for n, one in enumerate(lines) if one.family == "height" and along[n] > 30]
    else:
        fit = [n for n, one in enumerate(lines) if one.family in NAMES[:2] and along[n] > 45]
    if mistake == "level":
        climb = [abs(float(one.ends[1][1] - one.ends[0][1])) for one in lines]
        fit = [n for n in fit if least + 0.5 < climb[n] < 0.22 * along[n]]
        mistake = "level" if fit else "angle"
        if mistake == "angle":
            fit = [n for n, one in enumerate(lines) if one.family in NAMES[:2] and along[n] > 45]
    number = int(rng.choice(fit or [int(np.argmax(along))]))
    one = lines[number]
    ends = one.ends.copy()
    if mistake == "level":
        ends[1, 1] = ends[0, 1]
    else:
        mistake = mistake if mistake == "lean" else "angle"
        run = (ends[1] - ends[0]) / along[number]
        off = np.clip(rng.uniform(1.0, 1.6) * least, 3.5, 0.12 * along[number])
        off = max(off, 3.5)
        ends[1] += rng.choice([-1, 1]) * off * np.array([-run[1], run[0]])
    lines[number] = Line(ends, one.family, mistake)
    return lines, rims, mistake


def _path(rng, ends, hand, bow, tremor, over):
    """A straight stroke as drawn, (n, 2) mm."""
    ends = np.array(ends, float)
    run = ends[1] - ends[0]
    length = float(np.hypot(*run))
    run = run / max(length, 1e-9)
    t = np.linspace(-over[0] / length, 1 + over[1] / length, max(int(length / 1.5), 8))
    aside = rng.normal(0, hand, 2)
    off = aside[0] * (1 - t) + aside[1] * t + rng.normal(0, bow) * length * 4 * t * (1 - t)
    for waves in rng.uniform(2.0, 6.0, 2):
        off = off + rng.normal(0, tremor) * np.sin(2 * np.pi * (waves * t + rng.random()))
    return ends[0] + t[:, None] * length * run + off[:, None] * np.array([-run[1], run[0]])


class _Page:
    """Ink on a page, as what is left of the paper's light (rows, columns)."""

    def __init__(self, rng, wide, high, scale):
        self.rng, self.scale = rng, scale
        self.left = np.ones((round(high * scale), round(wide * scale)), np.float32)

    def draw(self, path, wide_mm, dark):
        rows, columns = self.left.shape
        fine = np.array(path) * self.scale
        fine[:, 1] = rows - fine[:, 1]
        x0, y0 = np.maximum(np.floor(fine.min(axis=0)).astype(int) - 8, 0)
        x1, y1 = np.minimum(np.ceil(fine.max(axis=0)).astype(int) + 8, [columns, rows])
        if x1 - x0 < 2 or y1 - y0 < 2:
            return
        ink = Image.new("L", (3 * (x1 - x0), 3 * (y1 - y0)))
        pen = ImageDraw.Draw(ink)
        for one, two in itertools.pairwise(fine):
            press = wide_mm * self.scale * 3 * self.rng.uniform(0.85, 1.15)
            (ax, ay), (bx, by) = ((one - (x0, y0)) * 3, (two - (x0, y0)) * 3)
            pen.line([ax, ay, bx, by], fill=255, width=max(round(press), 1))
        small = np.asarray(ink.resize((x1 - x0, y1 - y0), Image.Resampling.BOX), np.float32) / 255
        small = small * dark * self.rng.uniform(0.72, 1.0, small.shape).astype(np.float32)
        self.left[y0:y1, x0:x1] *= 1 - small


def _dash(path):
    """A path in dashes."""
    return [path[n : n + 4] for n in range(0, len(path) - 3, 6)]


def set_out(kind, seed, rng):
    """What is drawn on a sheet of a kind: its format, lines, hidden lines and rims, how unsteady
    the hand is, mm, the mistake and where the eye level is drawn, mm."""
    paper = "A3" if rng.random() < 0.5 else "A4"
    wide, high = PAPERS[paper]
    view = _View(rng, wide, high)
    boxes = _thing(rng, view.yaw)
    named = {0, 1}
    view.stand(boxes, np.array([wide * 0.47, high * 0.42]), wide * rng.uniform(0.5, 0.62))
    if kind == "turned":
        other = view.yaw + np.radians(rng.choice([-1, 1]) * rng.uniform(18, 30))
        foot = boxes[0].world((boxes[0].sides[0] * 1.25, -0.3, 0.0))
        boxes.append(_Box((0, 0, 0), rng.uniform([0.5, 0.4, 0.4], [0.8, 0.7, 0.7]), other, foot))
    lines, hidden = _edges(view, boxes, kind == "dashed", named)
    body = boxes[0]
    rims = []
    if kind in ("hubs", "unlike") or rng.random() < 0.45:
        radius = body.sides[2] * rng.uniform(0.3, 0.38)
        second = radius * (rng.uniform(0.68, 0.74) if kind == "unlike" else 1.0)
        for share, own in ((0.2, radius), (0.78, second)):
            at = np.array([share * body.sides[0], 0.0, own + 0.06])
            rims.append(_rim(view, body, at, own))
            if kind == "hubs":
                rims.insert(0, _rim(view, body, at, 0.55 * own))
    level = float(view.middle[1])
    loose = kind == "loose"
    hand = rng.uniform(0.7, 1.0) if loose else rng.uniform(0.2, 0.35)
    mistake = ""
    if seed % 2:
        wished = MISTAKES[(seed // 2) % len(MISTAKES)]
        if wished == "aside" and kind != "level":
            wished = "angle"
        if wished in ("axis", "size") and kind in ("hubs", "unlike"):
            wished = "swell"
        if wished == "aside":
            mistake, level = "aside", level + rng.choice([-1, 1]) * rng.uniform(8, 14)
        else:
            lines, rims, mistake = _marred(rng, kind, wished, lines, rims, hand)
    if kind == "level":
        ends = np.array([[0.04 * wide, level], [0.96 * wide, level]])
        lines.append(Line(ends, "eye level", "aside" if mistake == "aside" else ""))
    return paper, lines, hidden, rims, hand, mistake, level


def drawing(kind, seed):
    """A sketch of a kind."""
    rng = np.random.default_rng([77, seed, KINDS.index(kind)])
    paper, lines, hidden, rims, hand, mistake, level = set_out(kind, seed, rng)
    scanned = bool(rng.random() < 0.4)
    page = _drawn(rng, kind, PAPERS[paper], lines, hidden, rims, hand)
    content, corners = _taken(rng, kind, page, scanned)
    return Drawing(content, kind, paper, lines, rims, corners, mistake, level, scanned)


def _drawn(rng, kind, size, lines, hidden, rims, hand):
    page = _Page(rng, *size, 5.5 if size[0] > 300 else 7.0)
    pen, dark = rng.uniform(0.3, 0.8), rng.uniform(0.45, 0.9)
    bow = 0.006 if kind == "loose" else 0.0012
    tremor = 0.1 if kind == "loose" else 0.05
    for one in lines:
        thin = 0.6 if one.family == "eye level" else 1.0
        for number in range(3 if kind == "searched" else 1 + int(rng.random() < 0.25)):
            over = rng.uniform(0.0, 3.0, 2)
            path = _path(rng, one.ends, hand, bow, tremor, over)
            shade = dark * (1.0 if number == 0 else rng.uniform(0.4, 0.8))
            pieces = [path]
            if kind == "searched" and len(path) > 24:
                cuts = sorted(rng.integers(6, len(path) - 6, 2))
                pieces = [path[: cuts[0] + 4], path[cuts[0] - 2 : cuts[1] + 3], path[cuts[1] - 2 :]]
            for piece in pieces:
                if len(piece) > 1:
                    page.draw(piece, pen * thin, shade * thin)
    for ends in hidden:
        for piece in _dash(_path(rng, ends, hand, bow, tremor, (0.0, 0.0))):
            page.draw(piece, 0.7 * pen, 0.8 * dark)
    turn = np.linspace(0, 2 * np.pi * 1.04, 150)
    for one in rims:
        for _line in range(2 if kind == "searched" else 1):
            grown = 1 + one.swell * np.cos(4 * turn)
            off = (
                hand
                * 0.5
                * rng.normal(0, 1, 3)
                @ [np.ones_like(turn), np.cos(2 * turn + 1), np.cos(3 * turn)]
            )
            x, y = (one.long * grown + off) * np.cos(turn), (one.short * grown + off) * np.sin(turn)
            c, s = np.cos(one.turn), np.sin(one.turn)
            aside = one.centre + rng.normal(0, hand * 0.4, 2)
            page.draw(np.stack([c * x - s * y, s * x + c * y], axis=1) + aside, pen, dark)
    _beside(rng, kind, size, lines, page, (pen, dark, bow, tremor))
    return page.left


def _beside(rng, kind, size, lines, page, drawn):
    """What is on a sheet besides the thing: hatching, words."""
    pen, dark, bow, tremor = drawn
    if kind == "hatched":
        base = max(lines, key=lambda one: float(np.hypot(*(one.ends[1] - one.ends[0])))).ends
        way = np.radians(rng.uniform(35, 60))
        for share in np.linspace(0.1, 0.6, 26):
            start = base[0] + share * (base[1] - base[0]) + (0.0, 4.0)
            stop = start + rng.uniform(14, 20) * np.array([np.cos(way), np.sin(way)])
            page.draw(_path(rng, [start, stop], 0.3, bow, tremor, (0, 0)), 0.6 * pen, 0.6 * dark)
    if kind in ("labels", "level"):
        for _word in range(5):
            at = rng.uniform([20, 15], [size[0] - 50, 0.16 * size[1]])
            for letter in range(int(rng.integers(4, 9))):
                points = rng.uniform(0, 1, (5, 2)) * (2.4, 4.0) + at + (3.2 * letter, 0.0)
                page.draw(points, 0.35, dark)


def _taken(rng, kind, left, scanned):
    """A page as it is scanned or photographed: a picture file and the corners of the paper, px."""
    rows, columns = left.shape
    tone = np.array([196, 176, 146] if kind == "toned" else rng.uniform([232, 230, 222], 242))
    grain = np.asarray(
        Image.fromarray(
            (128 + 40 * rng.normal(0, 1, left.shape)).clip(0, 255).astype(np.uint8)
        ).filter(ImageFilter.GaussianBlur(1.2)),
        np.float32,
    )
    light = 1 + 0.0012 * (grain - 128)
    if kind == "toned":
        y, x = np.mgrid[:rows, :columns]
        light = light * (0.72 + 0.28 * x / columns) * (0.9 + 0.1 * y / rows)
    page = tone * (left * light)[..., None]
    picture = Image.fromarray(page.clip(0, 255).astype(np.uint8))
    stream, quality = io.BytesIO(), int(rng.integers(72, 93))
    if scanned:
        noisy = np.asarray(picture, np.float32) + rng.normal(0, 2.0, (rows, columns, 1))
        picture = Image.fromarray(noisy.clip(0, 255).astype(np.uint8))
        dpi = 25.4 * columns / (PAPERS["A3"][0] if columns > 2200 else PAPERS["A4"][0])
        picture.save(stream, "JPEG", quality=quality, dpi=(dpi, dpi))
        ring = np.array([[0, 0], [columns, 0], [columns, rows], [0, rows]], float)
        return stream.getvalue(), ring
    rim = np.array([0.06, 0.07]) * (columns, rows)
    flat = np.array([[0, 0], [columns, 0], [columns, rows], [0, rows]], float)  # from the top left
    seen = flat + rim + rng.uniform(-0.05, 0.05, (4, 2)) * (columns, rows)
    matrix, goal = [], []
    for (x, y), (u, v) in zip(seen, flat, strict=True):
        matrix += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        goal += [u, v]
    way = np.linalg.solve(np.array(matrix), np.array(goal))
    size = round(columns + 2 * rim[0]), round(rows + 2 * rim[1])
    desk = np.array([92, 74, 60]) + rng.normal(0, 5, (size[1], size[0], 1))
    board = Image.fromarray(desk.clip(0, 255).astype(np.uint8))
    laid = picture.transform(size, Image.Transform.PERSPECTIVE, way, Image.Resampling.BICUBIC)
    mask = Image.new("L", picture.size, 255)
    mask = mask.transform(size, Image.Transform.PERSPECTIVE, way, Image.Resampling.BILINEAR)
    board.paste(laid, mask=mask)
    values = np.asarray(board.filter(ImageFilter.GaussianBlur(0.7)), np.float32)
    values = values + rng.normal(0, 2.5, values.shape[:2])[..., None]
    Image.fromarray(values.clip(0, 255).astype(np.uint8)).save(stream, "JPEG", quality=quality)
    corners = seen[[3, 2, 1, 0]]
    corners[:, 1] = size[1] - corners[:, 1]
    return stream.getvalue(), corners
