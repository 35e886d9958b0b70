"""The sample camera: a sheet's things as a photograph, with its truth known to the last digit."""

import io
import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.framework.kinds.kind import Triangles
from isometron.framework.triangles import triangles_of
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import eye_level, sight_axes
from isometron.perspective.projection import project
from isometron.words import _

Array = NDArray[np.float64]

FINER = 2
"""The scene is painted so many times finer than the picture, and sampled."""

NEAR_MM = 1.0
LIGHT = np.array([-0.45, -0.55, 0.70])
AMBIENT = 0.38
TONES = (
    (206, 190, 160),
    (150, 168, 172),
    (186, 150, 128),
    (132, 140, 120),
    (200, 198, 190),
    (120, 118, 126),
)
"""Colours of the things, one after the other."""

GROUND, WALL = (176, 172, 164), (214, 216, 214)
FILLS = 0.8
"""Things fill this share of an aimed picture, either way."""

FILM_DIAGONAL_MM = 43.27
"""Focal lengths in EXIF are told for the usual film."""

MOST_PX = 12_000


class CameraError(IsometronError):
    """A photograph that cannot be taken."""


@dataclass(frozen=True)
class Camera:
    """How the photograph is taken. width_px: of the whole sheet's picture; aim: whether the camera
    looks at the middle of the things from where the sheet's eye stands, as photographers do, or
    takes the sheet's own view; roll_deg: positive when the eye level's right end lies higher; crop:
    left, bottom, right, top as shares of the whole picture;
    distortion: k in p_ideal − c = (p − c)(1 + k r²), r in station distances; blur_px, grain (of
    256 levels), exposure in stops; exif: whether the focal length is told; seed of the grain."""

    width_px: int = 1600
    aim: bool = True
    roll_deg: float = 0.0
    crop: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)
    distortion: float = 0.0
    blur_px: float = 0.6
    grain: float = 3.0
    exposure: float = 0.0
    exif: bool = True
    seed: int = 1

    def __post_init__(self) -> None:
        left, bottom, right, top = self.crop
        fair = (
            16 <= self.width_px <= MOST_PX
            and abs(self.roll_deg) <= 45
            and 0 <= left < right <= 1
            and 0 <= bottom < top <= 1
            and abs(self.distortion) <= 1
            and 0 <= self.blur_px <= 50
            and 0 <= self.grain <= 100
            and abs(self.exposure) <= 4
        )
        if not fair:
            raise CameraError(
                _(
                    "The camera cannot do that: 16 to {most} px wide, roll to 45°, a crop inside "
                    "the sheet, distortion to 1, blur to 50 px, grain to 100, exposure to 4 stops."
                ).format(most=MOST_PX)
            )


def aimed(document: Document) -> Document:
    """The document seen by a camera where its eye stands, aimed at the middle of all things, its
    centre of vision the middle of the picture, its focal length so that they fill most of it.
    Raises CameraError when there is nothing before the camera."""
    eye, sheet = document.eye, document.sheet
    bits = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)], dtype=float)
    corners = [
        volume.pose[0] + bits * volume.sides @ volume.pose[1]
        for volume in document.volumes
        if volume.shown and not volume.ghost
    ]
    if not corners:
        raise CameraError(_("There is nothing to photograph: lay down a near edge first."))
    every = np.concatenate(corners)
    ahead = (every.min(axis=0) + every.max(axis=0)) / 2 - np.array(eye.place)
    level = math.hypot(float(ahead[0]), float(ahead[1]))
    turned = replace(
        eye,
        heading_deg=math.degrees(math.atan2(float(ahead[0]), float(ahead[1]))),
        tilt_deg=math.degrees(math.atan2(float(ahead[2]), level)),
        centre_of_vision_mm=(sheet.width_mm / 2, sheet.height_mm / 2),
    )
    seen = project(turned, every)
    if not seen.seen.all():
        raise CameraError(_("Part of the things lies beside the camera: step back first."))
    off = np.abs(seen.sheet - turned.centre_of_vision_mm).max(axis=0)
    grow = FILLS * min(sheet.width_mm / 2 / float(off[0]), sheet.height_mm / 2 / float(off[1]))
    distance = turned.station_distance_mm * grow
    return document.with_eye(replace(turned, station_distance_mm=distance))


class Sight:
    """Where things lie in the photograph: pixels from its lower left corner, y upward."""

    def __init__(self, document: Document, camera: Camera) -> None:
        self.eye, self.camera = document.eye, camera
        sheet = document.sheet
        self.scale = camera.width_px / sheet.width_mm
        left, bottom, right, top = camera.crop
        self.corner = self.scale * np.array([left * sheet.width_mm, bottom * sheet.height_mm])
        exact = self.scale * np.array(
            [(right - left) * sheet.width_mm, (top - bottom) * sheet.height_mm]
        )
        self.width, self.height = (max(round(side), 1) for side in exact.tolist())
        # whole pixels take as little off either side, so that the middle stays the middle
        self.corner = self.corner + (exact - (self.width, self.height)) / 2
        self.centre = self.scale * np.array(self.eye.centre_of_vision_mm)
        self.distance = self.scale * self.eye.station_distance_mm
        roll = math.radians(camera.roll_deg)
        self._turn = np.array([[math.cos(roll), -math.sin(roll)], [math.sin(roll), math.cos(roll)]])

    def ideal(self, pixels: Array) -> Array:
        """Sheet places (n, 2), mm, of what a photograph shows at pixels (n, 2)."""
        off = pixels + self.corner - self.centre
        square = (off**2).sum(axis=1, keepdims=True) / self.distance**2
        level = off * (1 + self.camera.distortion * square) @ self._turn
        ideal: Array = (level + self.centre) / self.scale
        return ideal

    def pixels(self, places: Array) -> Array:
        """Where sheet places (n, 2), mm, lie in the photograph."""
        off = (places * self.scale - self.centre) @ self._turn.T
        bent = off.copy()
        for _unused in range(60):
            square = (bent**2).sum(axis=1, keepdims=True) / self.distance**2
            bent = off / (1 + self.camera.distortion * square)
        found: Array = bent + self.centre - self.corner
        return found


def photograph(document: Document, camera: Camera, kind: str = "JPEG") -> bytes:
    """The things of a document as a picture file (JPEG, PNG, TIFF, WEBP). Raises CameraError."""
    from PIL import Image, ImageFilter

    document = aimed(document) if camera.aim else document
    sight = Sight(document, camera)
    painted = _painted(document, sight)
    y, x = np.mgrid[0 : sight.height, 0 : sight.width]
    middles = np.stack([x.ravel() + 0.5, sight.height - y.ravel() - 0.5], axis=1)
    colours = painted.at(sight.ideal(middles)).reshape(sight.height, sight.width, 3)
    colours = colours * 2.0**camera.exposure
    image = Image.fromarray(np.clip(colours, 0, 255).astype(np.uint8))
    if camera.blur_px:
        image = image.filter(ImageFilter.GaussianBlur(camera.blur_px))
    if camera.grain:
        noise = np.random.default_rng(camera.seed).normal(0.0, camera.grain, colours.shape)
        image = Image.fromarray(np.clip(np.asarray(image) + noise, 0, 255).astype(np.uint8))
    content = io.BytesIO()
    more: dict[str, Any] = {"quality": 92} if kind in ("JPEG", "WEBP") else {}
    if camera.exif and kind != "PNG":
        more["exif"] = _exif(document, sight)
    image.save(content, kind, **more)
    return content.getvalue()


def _exif(document: Document, sight: Sight) -> Any:
    """What a camera writes beside its picture: make-believe, and the focal length."""
    from PIL import Image
    from PIL.TiffImagePlugin import IFDRational

    whole = document.sheet.width_mm, document.sheet.height_mm
    focal = document.eye.station_distance_mm / math.hypot(*whole) * FILM_DIAGONAL_MM
    exif = Image.Exif()
    exif[0x010F], exif[0x0110], exif[0x0112] = "Brackenmoor", "Sample camera", 1
    told = exif.get_ifd(0x8769)
    told[0x920A] = IFDRational(round(focal * 100), 100)
    told[0xA405] = round(focal)
    return exif


class Painted:
    """A painted scene: colours by sheet place."""

    def __init__(self, low: Array, step: float, colours: NDArray[np.float32]) -> None:
        self.low, self.step, self.colours = low, step, colours

    def at(self, places: Array) -> Array:
        """Colours (n, 3) at sheet places (n, 2), between the painted ones."""
        x, y = ((places - self.low) / self.step - 0.5).T
        rows, columns = self.colours.shape[:2]
        x, y = np.clip(x, 0, columns - 1.001), np.clip(y, 0, rows - 1.001)
        left, low = x.astype(int), y.astype(int)
        u, v = (x - left)[:, None], (y - low)[:, None]
        c = self.colours
        found: Array = (c[low, left] * (1 - u) + c[low, left + 1] * u) * (1 - v) + (
            c[low + 1, left] * (1 - u) + c[low + 1, left + 1] * u
        ) * v
        return found


def _painted(document: Document, sight: Sight) -> Painted:
    """Ground, wall and all shown things, the nearest in front."""
    edge = [(0, 0), (sight.width, 0), (0, sight.height), (sight.width, sight.height)]
    ends = sight.ideal(np.array(edge, dtype=float))
    low, high = ends.min(axis=0), ends.max(axis=0)
    spare = 0.02 * (high - low)
    low, high = low - spare, high + spare
    step = 1.0 / (FINER * sight.scale)
    columns, rows = (np.ceil((high - low) / step).astype(int) + 2).tolist()
    colours = np.empty((rows, columns, 3), dtype=np.float32)
    colours[:] = WALL
    level = eye_level(document.eye)
    if level is not None:
        up = low[1] + (np.arange(rows) + 0.5) * step
        below = np.clip((level - up) / (0.02 * document.sheet.height_mm), 0, 1)[:, None]
        tone = np.array(WALL) * (1 - below) + np.array(GROUND) * below
        colours[:] = tone[:, None, :]
    depths = np.full((rows, columns), np.inf, dtype=np.float32)
    for number, volume in enumerate(document.volumes):
        found = triangles_of(volume) if volume.shown and not volume.ghost else None
        if found is not None:
            tone = np.array(TONES[number % len(TONES)], dtype=float)
            _paint(document, found, tone, (low, step), colours, depths)
    return Painted(low, step, colours)


def _paint(
    document: Document,
    skin: Triangles,
    tone: Array,
    grid: tuple[Array, float],
    colours: NDArray[np.float32],
    depths: NDArray[np.float32],
) -> None:
    """One thing, triangle by triangle, where it is nearest."""
    vertices, triangles = skin
    seen = project(document.eye, vertices)
    places = (seen.sheet - grid[0]) / grid[1] - 0.5
    a, b, c = (vertices[triangles[:, i]] for i in range(3))
    normals = np.cross(b - a, c - a)
    lengths = np.linalg.norm(normals, axis=1)
    light = LIGHT / np.linalg.norm(LIGHT)
    shade = AMBIENT + (1 - AMBIENT) * np.maximum(normals @ light / np.maximum(lengths, 1e-12), 0)
    facing = (normals * (np.array(document.eye.place) - a)).sum(axis=1) > 0
    rows, columns = depths.shape
    for number in np.flatnonzero(facing & (lengths > 0)):
        corners = triangles[number]
        if (seen.depth[corners] < NEAR_MM).any():
            continue
        points = places[corners]
        left, bottom = np.maximum(np.ceil(points.min(axis=0)), 0).astype(int)
        right, top = np.minimum(np.floor(points.max(axis=0)), (columns - 1, rows - 1)).astype(int)
        if left > right or bottom > top:
            continue
        x, y = np.meshgrid(np.arange(left, right + 1), np.arange(bottom, top + 1))
        (ax, ay), (bx, by), (cx, cy) = points
        whole = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
        if abs(whole) < ROUNDING:
            continue
        v = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / whole
        w = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / whole
        inside = (v >= -SAME) & (w >= -SAME) & (v + w <= 1 + SAME)
        near = 1.0 / seen.depth[corners]
        depth = 1.0 / ((1 - v - w) * near[0] + v * near[1] + w * near[2])
        part = depths[bottom : top + 1, left : right + 1]
        front = inside & (depth < part)
        part[front] = depth[front]
        colours[bottom : top + 1, left : right + 1][front] = tone * shade[number]


def truth(document: Document, camera: Camera) -> dict[str, Any]:
    """What the photograph truly shows: the eye in pixels, and for every volume its sides, the
    heading counted from its width, and its box's corners in pixels."""
    document = aimed(document) if camera.aim else document
    sight = Sight(document, camera)
    ahead = sight_axes(document.eye).astype(float)[2]
    found = []
    for volume in document.volumes:
        axes = np.array([np.asarray(axis, dtype=float) for axis in volume.axes()])
        bits = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)], dtype=float)
        place, own = volume.pose
        seen = project(document.eye, place + bits * volume.sides @ own)
        pixels = sight.pixels(np.where(seen.seen[:, None], seen.sheet, 0.0))
        heading = math.degrees(math.atan2(float(axes[0] @ ahead), float(axes[1] @ ahead)))
        found.append(
            {
                "name": volume.name,
                "sides_mm": list(volume.sides),
                "heading_deg": heading,
                "corners": [
                    p if s else None for p, s in zip(pixels.tolist(), seen.seen, strict=True)
                ],
            }
        )
    level = eye_level(document.eye)
    return {
        "picture": {"width": sight.width, "height": sight.height},
        "view": {
            "station_distance": sight.distance,
            "tilt_deg": document.eye.tilt_deg,
            "roll_deg": camera.roll_deg,
            "centre_of_vision": (sight.centre - sight.corner).tolist(),
            "distortion": camera.distortion,
        },
        "eye_level": None
        if level is None
        else sight.pixels(np.array([[0.0, level], [document.sheet.width_mm, level]])).tolist(),
        "volumes": found,
    }
