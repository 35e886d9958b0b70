"""The sample hand: a sheet drawn as a person would, with a known unsteadiness and known mistakes,
on paper that is photographed at a slant or scanned."""

import io
import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.rounds import DrawnCircle, all_circles
from isometron.drawing.scene import scene_of
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Eye
from isometron.words import _, quoted

Array = NDArray[np.float64]

PAPER, DESK = (246, 243, 234), (62, 70, 68)
GRAPHITE = 58.0
FINER = 2
"""Strokes are painted so many times finer than the picture, and sampled."""

FAINT = 0.35
"""How dark construction is drawn, in that of object lines."""

CORNER_ASIDE = math.radians(20.0)
"""Which way a corner is drawn aside, from the level."""

STEP_MM = 1.5
"""A hand's wobble has no parts shorter than this."""

MARGIN = 0.08
"""Desk around a photographed paper, as a share of it."""

THIN_MM = 1.0
LEAST_VISIBLE = 0.5
"""Edges of which less is seen, as a share, are not drawn."""

MISTAKES = (
    "miss",
    "long",
    "level",
    "corner",
    "scatter",
    "lean",
    "swell",
    "axis",
    "size",
    "shift",
)


class HandError(IsometronError):
    """A drawing that no hand makes."""


@dataclass(frozen=True)
class Mistake:
    """One known mistake of a volume: "miss", its edge number `part` turned by degrees about its
    first end; "level", the edge climbing less by this share of its climb; "long", its side `part`
    (0 width, 1 depth, 2 height) drawn `by` per cent longer; "corner", its corner `part` drawn `by`
    mm aside; "scatter", edges along its side `part` missing by mm to either side; "lean", its
    uprights leaning by degrees; of its circle number `part`: "swell", outside its ellipse at the
    ends of its axes by per cent of its radius (inside for less than 0), "axis" turned by degrees,
    "size" larger by per cent, "shift" drawn aside by mm."""

    kind: str
    volume: int
    part: int
    by: float

    def __post_init__(self) -> None:
        if self.kind not in MISTAKES or not math.isfinite(self.by):
            raise HandError(
                _("“{kind}” is no mistake a hand makes here: use {kinds}.").format(
                    kind=self.kind, kinds=", ".join(MISTAKES)
                )
            )


def mistake_of(text: str) -> Mistake:
    """A mistake typed as kind:volume:part:by. Raises HandError."""
    kind, *rest = text.split(":")
    try:
        volume, part, by = rest
        return Mistake(kind, int(volume), int(part), float(by))
    except ValueError as error:
        raise HandError(
            _(
                "“{text}” is no mistake: type, say, miss:0:3:2.5 (kind, volume, part, how far)."
            ).format(text=quoted(text))
        ) from error


@dataclass(frozen=True)
class Hand:
    """How the sheet is drawn and taken. unsteady_mm: how far a line wanders; searching: how many
    lines more are drawn along each edge; overshoot_mm: how far lines run on; dpi of a scan, or the
    px per mm of a photograph; slant: how far the camera stands off the middle, as shares of the
    distance, right and toward us; None for a scan; construction: whether what is hidden is drawn
    too, faint."""

    unsteady_mm: float = 0.2
    searching: int = 1
    overshoot_mm: float = 3.0
    mistakes: tuple[Mistake, ...] = ()
    px_per_mm: float = 5.0
    slant: tuple[float, float] | None = (0.12, -0.28)
    grain: float = 3.0
    construction: bool = False
    seed: int = 1

    def __post_init__(self) -> None:
        fair = (
            0 <= self.unsteady_mm <= 5
            and 0 <= self.searching <= 6
            and 0 <= self.overshoot_mm <= 50
            and 1 <= self.px_per_mm <= 24
            and 0 <= self.grain <= 60
            and (self.slant is None or all(abs(v) <= 0.6 for v in self.slant))
        )
        if not fair:
            raise HandError(
                _(
                    "No hand draws so: unsteady to 5 mm, 6 searching lines, 50 mm of overshoot, "
                    "1 to 24 px a mm, slant to 0.6."
                )
            )


@dataclass(frozen=True, eq=False)
class Stroke:
    """What is drawn of one edge or circle: its path (n, 2) on the sheet, mm, before the hand's
    wobble; of which volume, which edge or circle of it."""

    kind: str
    volume: int
    part: int
    path: Array
    mistakes: tuple[str, ...] = field(default=())
    faint: bool = False


def strokes_of(document: Document, hand: Hand) -> list[Stroke]:
    """The strokes a hand sets out to draw, its mistakes among them: every edge of a body that is
    seen, every circle. Raises HandError when there is nothing to draw."""
    drawn = _longer(document, hand.mistakes)
    scene = scene_of(drawn)
    found = []
    for number, picture in enumerate(scene.pictures):
        if not picture.volume.shown:
            continue
        for edge, (one, two) in enumerate(picture.edges.tolist()):
            ends = np.asarray(picture.sheet[[one, two]], dtype=float)
            if not np.isfinite(ends).all() or np.hypot(*(ends[1] - ends[0])) < 2 * STEP_MM:
                continue
            seen = sum(end - start for start, end in picture.visible[edge]) >= LEAST_VISIBLE
            if not seen and not hand.construction:
                continue
            found.append(_edge((number, edge, one, two), ends, hand.mistakes, faint=not seen))
    circles = all_circles(scene)
    for circle in circles:
        if circle.ellipse is not None and _faces_us(circle, circles, scene.eye):
            found.append(_circle(circle, hand.mistakes))
    if not found:
        raise HandError(_("There is nothing to draw: lay down a near edge first."))
    return found


def _faces_us(circle: DrawnCircle, circles: Sequence[DrawnCircle], eye: Eye) -> bool:
    """Whether a circle lies on the side of its volume that is turned to us."""
    own = [one.centre for one in circles if one.volume == circle.volume]
    out = float((circle.centre - np.mean(own, axis=0)) @ circle.normal)
    toward = float((np.asarray(eye.place) - circle.centre) @ circle.normal)
    return out * toward >= 0 or abs(out) < THIN_MM


def _longer(document: Document, mistakes: Sequence[Mistake]) -> Document:
    """The document with the sides that the hand draws too long."""
    volumes = list(document.volumes)
    for one in mistakes:
        if one.kind != "long":
            continue
        if not 0 <= one.volume < len(volumes) or one.part not in (0, 1, 2):
            raise HandError(_("No volume of this sheet has such a side: name one that has."))
        sides = list(volumes[one.volume].sides)
        sides[one.part] *= 1 + one.by / 100
        volumes[one.volume] = replace(
            volumes[one.volume], width_mm=sides[0], depth_mm=sides[1], height_mm=sides[2]
        )
    return replace(document, volumes=tuple(volumes))


def _edge(
    which: tuple[int, int, int, int],
    ends: Array,
    mistakes: Sequence[Mistake],
    *,
    faint: bool = False,
) -> Stroke:
    """The stroke of an edge: its volume and number, the corners it joins."""
    volume, edge, *joined = which
    told, faults = [], [] if faint else [one for one in mistakes if one.volume == volume]
    side = int(joined[0] ^ joined[1]).bit_length() - 1
    for one in faults:
        run = ends[1] - ends[0]
        if (one.kind, one.part) == ("miss", edge) or (one.kind == "lean" and side == 2):
            ends = np.array([ends[0], ends[0] + _turned(run, math.radians(one.by))])
        elif (one.kind, one.part) == ("level", edge):
            ends = np.array([ends[0], [ends[1][0], ends[1][1] - one.by * run[1]]])
        elif one.kind == "corner" and one.part in joined:
            aside = one.by * np.array([math.cos(CORNER_ASIDE), math.sin(CORNER_ASIDE)])
            ends = ends + aside * np.array([[c == one.part] for c in joined])
        elif (one.kind, one.part) == ("scatter", side):
            off = one.by * (1 if (edge % 2) ^ (edge // 2 % 2) else -1) / float(np.hypot(*run))
            ends = np.array([ends[0], ends[0] + _turned(run, math.atan(off))])
        else:
            continue
        told.append(one.kind)
    return Stroke("edge", volume, edge, ends, tuple(told), faint)


def _turned(run: Array, angle: float) -> Array:
    c, s = math.cos(angle), math.sin(angle)
    return np.array([[c, -s], [s, c]]) @ run


def _circle(circle: DrawnCircle, mistakes: Sequence[Mistake]) -> Stroke:
    ellipse = circle.ellipse
    assert ellipse is not None
    long, short = ellipse.semi_major_mm, ellipse.semi_minor_mm
    tilt, centre = math.radians(ellipse.major_axis_deg), np.array(ellipse.centre_mm)
    turn = np.linspace(0, 2 * np.pi, 241)
    swell, told = np.ones_like(turn), []
    for one in mistakes:
        if (one.volume, one.part) != (circle.volume, circle.number):
            continue
        if one.kind == "swell":
            swell = swell * (1 + one.by / 100 * np.cos(4 * turn))
        elif one.kind == "axis":
            tilt += math.radians(one.by)
        elif one.kind == "size":
            swell = swell * (1 + one.by / 100)
        elif one.kind == "shift":
            centre = centre + np.array([one.by, 0.0])
        else:
            continue
        told.append(one.kind)
    own = np.stack([long * np.cos(turn), short * np.sin(turn)], axis=1) * swell[:, None]
    c, s = math.cos(tilt), math.sin(tilt)
    path = own @ np.array([[c, s], [-s, c]]) + centre
    return Stroke("rim", circle.volume, circle.number, path, tuple(told))


def _wandered(path: Array, hand: Hand, rng: np.random.Generator) -> Array:
    """A path as the hand draws it: starting aside, wandering smoothly, running on at its ends."""
    runs = np.hypot(*np.diff(path, axis=0).T)
    closed = bool(np.allclose(path[0], path[-1])) and len(path) > 3
    if not closed and hand.overshoot_mm:
        way = (path[-1] - path[0]) / max(float(np.hypot(*(path[-1] - path[0]))), 1e-9)
        on = rng.uniform(0.3, 1.0, 2) * hand.overshoot_mm
        path = np.concatenate([path[:1] - way * on[0], path[1:-1], path[-1:] + way * on[1]])
        runs = np.hypot(*np.diff(path, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(runs)])
    count = max(int(along[-1] / STEP_MM), 4)
    places = np.linspace(0, along[-1], count)
    points = np.stack([np.interp(places, along, path[:, i]) for i in (0, 1)], axis=1)
    normal = np.gradient(points, axis=0)[:, ::-1] * [-1.0, 1.0]
    normal /= np.maximum(np.hypot(*normal.T), 1e-9)[:, None]
    share = np.linspace(0, 1, count)
    ends = rng.normal(0, hand.unsteady_mm, 2)
    off = ends[0] * (1 - share) + ends[1] * share  # each end lands aside by itself
    if closed:
        off = np.full(count, ends[0] * 0.3)
    for wave in (1, 2, 3):
        phase = rng.uniform(0, 2 * np.pi) if closed else 0.0
        turn = 2 * np.pi if closed else np.pi
        off = off + rng.normal(0, 0.35 * hand.unsteady_mm / wave) * np.sin(
            turn * wave * share + phase
        )
    return np.asarray(points + off[:, None] * normal)


def drawn_by(document: Document, hand: Hand) -> list[tuple[Stroke, Array]]:
    """Every stroke of a sheet with the path (n, 2), sheet mm, along which the hand draws it. Raises
    HandError."""
    rng = np.random.default_rng(hand.seed)
    return [(one, _wandered(one.path, hand, rng)) for one in strokes_of(document, hand)]


def sketch(document: Document, hand: Hand, kind: str = "JPEG") -> bytes:
    """A sheet drawn by hand, as a picture file: photographed at a slant, or scanned. Raises
    HandError."""

    sheet = document.sheet
    rng = np.random.default_rng(hand.seed)
    scale = hand.px_per_mm
    size = round(sheet.width_mm * scale), round(sheet.height_mm * scale)
    grey = _paper(size, rng)
    for stroke in strokes_of(document, hand):
        for number in range(1 if stroke.faint else 1 + hand.searching):
            dark = 1.0 if number == 0 else rng.uniform(0.35, 0.7)
            if stroke.faint:
                dark = FAINT
            _paint(grey, _wandered(stroke.path, hand, rng) * scale, dark, rng)
    return taken(np.clip(grey, 0, 1)[..., None] * np.array(PAPER) * 1.0, hand, rng, kind)


def taken(page: Array, hand: Hand, rng: np.random.Generator, kind: str = "JPEG") -> bytes:
    """A drawn page (rows, columns, 3), of hand.px_per_mm, as it is photographed at a slant, or
    scanned: a picture file."""
    from PIL import Image

    if hand.slant is not None:
        page = _photographed(page, _ways(page.shape[1], page.shape[0], hand), hand)
    grained = rng.normal(0, hand.grain, page.shape)
    grained += page
    content = io.BytesIO()
    image = Image.fromarray(np.clip(grained, 0, 255, out=grained).astype(np.uint8))
    more: dict[str, Any] = {"quality": 92} if kind in ("JPEG", "WEBP") else {}
    if hand.slant is None:
        more["dpi"] = (25.4 * hand.px_per_mm, 25.4 * hand.px_per_mm)
    image.save(content, kind, **more)
    return content.getvalue()


def draw_over(grey: NDArray[np.float32], path: Array, hand: Hand, rng: np.random.Generator) -> None:
    """A pencil stroke along a path (n, 2), mm from the lower left corner, on paper given as shares
    of its lightness (rows, columns), of hand.px_per_mm."""
    _paint(grey, _wandered(path, hand, rng) * hand.px_per_mm, 1.0, rng)


def _paper(size: tuple[int, int], rng: np.random.Generator) -> NDArray[np.float32]:
    """Paper with its tooth, as shares of its own lightness (rows, columns)."""
    import cv2

    tooth = rng.normal(0, 1, (size[1], size[0])).astype(np.float32)
    tooth = np.asarray(cv2.GaussianBlur(tooth, (0, 0), 1.6), dtype=np.float32)
    light = np.linspace(1.0, 0.94, size[1], dtype=np.float32)[:, None]
    return np.asarray(light * (1 + 0.012 * tooth), dtype=np.float32)


def _paint(grey: NDArray[np.float32], path: Array, dark: float, rng: np.random.Generator) -> None:
    """A pencil stroke (n, 2) px from the lower left corner, painted onto paper."""
    import cv2

    rows = grey.shape[0]
    wide = 1.7
    low = np.floor(path.min(axis=0) - 6).astype(int)
    high = np.ceil(path.max(axis=0) + 6).astype(int)
    span = (high - low) * FINER
    if (span > 40_000).any() or (span < 1).any():
        return
    layer = np.zeros((span[1], span[0]), dtype=np.uint8)
    own = (path - low) * FINER
    own[:, 1] = span[1] - own[:, 1]
    fine = np.round(own * 16).astype(np.int32).reshape(-1, 1, 2)
    cv2.polylines(layer, [fine], False, 255, round(wide * FINER), cv2.LINE_AA, 4)
    small = cv2.resize(layer, (span[0] // FINER, span[1] // FINER), interpolation=cv2.INTER_AREA)
    ink = np.asarray(small, dtype=np.float32) / 255 * dark * rng.uniform(0.75, 0.95)
    top, left = rows - high[1], low[0]
    r0, c0 = max(top, 0), max(left, 0)
    r1, c1 = min(top + ink.shape[0], rows), min(left + ink.shape[1], grey.shape[1])
    if r1 <= r0 or c1 <= c0:
        return
    part = ink[r0 - top : r1 - top, c0 - left : c1 - left]
    grey[r0:r1, c0:c1] *= 1 - part * (1 - GRAPHITE / 255)


def _ways(width: float, height: float, hand: Hand) -> Array:
    """The homography (3, 3) from px of a page (down from its upper left corner) to those of the
    photograph: a camera over the page that stands aside."""
    right, near = hand.slant or (0.0, 0.0)
    size = max(width, height)
    eye = np.array([right, -near, -1.0]) * 1.35 * size  # over the page, which lies at depth 0
    ahead = -eye / np.linalg.norm(eye)
    across = np.cross([0.0, 1.0, 0.0], ahead)
    across /= np.linalg.norm(across)
    down = np.cross(ahead, across)
    turned = np.stack([across, down, ahead])
    middle = np.array([[1, 0, -width / 2], [0, 1, -height / 2], [0, 0, 1.0]])
    plane = np.stack([turned[:, 0], turned[:, 1], -turned @ eye], axis=1)
    lens = np.diag([1.35 * size, 1.35 * size, 1.0])
    return np.asarray(lens @ plane @ middle)


def placed(way: Array, places: Array) -> Array:
    """Places (n, 2) through a homography (3, 3)."""
    seen = np.concatenate([places, np.ones((len(places), 1))], axis=1) @ way.T
    found: Array = seen[:, :2] / seen[:, 2:]
    return found


def _framed(way: Array, width: float, height: float) -> tuple[Array, tuple[int, int]]:
    """The homography moved so that the page lies inside a frame, and the size of the frame."""
    corners = placed(way, np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=float))
    low, high = corners.min(axis=0), corners.max(axis=0)
    rim = MARGIN * (high - low)
    shift = np.array([[1, 0, rim[0] - low[0]], [0, 1, rim[1] - low[1]], [0, 0, 1.0]])
    size = np.ceil(high - low + 2 * rim).astype(int)
    return shift @ way, (int(size[0]), int(size[1]))


def _photographed(page: Array, way: Array, hand: Hand) -> Array:
    import cv2

    height, width = page.shape[:2]
    framed, size = _framed(way, width, height)
    halves = np.array([[1, 0, -0.5], [0, 1, -0.5], [0, 0, 1.0]])  # pixel middles lie at halves
    way = halves @ framed @ np.linalg.inv(halves)
    taken = cv2.warpPerspective(
        page.astype(np.float32),
        way,
        size,
        flags=cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=tuple(float(v) for v in DESK),
    )
    return np.asarray(cv2.GaussianBlur(taken, (0, 0), 0.7), dtype=float)


def truth_of_sketch(document: Document, hand: Hand) -> dict[str, Any]:
    """What a sketch truly shows: the paper's corners in px of the picture (lower left first,
    counter-clockwise, y upward), mm per px of a scan, the strokes as they were set out, mm, and the
    mistakes."""
    sheet = document.sheet
    width, height = (round(side * hand.px_per_mm) for side in (sheet.width_mm, sheet.height_mm))
    ring = np.array([[0, height], [width, height], [width, 0], [0, 0]], dtype=float)
    size = (width, height)
    if hand.slant is not None:
        framed, size = _framed(_ways(width, height, hand), width, height)
        ring = placed(framed, ring)
    ring[:, 1] = size[1] - ring[:, 1]
    return {
        "picture": {"width": size[0], "height": size[1]},
        "sheet": {"width_mm": sheet.width_mm, "height_mm": sheet.height_mm},
        "mm_per_px": None if hand.slant is not None else 1 / hand.px_per_mm,
        "corners": ring.tolist(),
        "strokes": [
            {
                "kind": one.kind,
                "volume": one.volume,
                "part": one.part,
                "from_mm": one.path[0].tolist(),
                "to_mm": one.path[-1].tolist(),
                "faint": one.faint,
                "mistakes": list(one.mistakes),
            }
            for one in strokes_of(document, hand)
        ],
        "mistakes": [
            {"kind": one.kind, "volume": one.volume, "part": one.part, "by": one.by}
            for one in hand.mistakes
        ],
    }
