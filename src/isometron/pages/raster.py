"""A page as pixels, as a printer lays it on paper: without Qt, for what looks at pages."""

import io
from functools import lru_cache, singledispatch
from importlib import resources
from typing import Any

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.curves import along_cubics, begins_run, cubics
from isometron.pages.page import (
    END,
    MIDDLE,
    Arcs,
    Area,
    Boxes,
    Cubics,
    Disc,
    Item,
    Kept,
    Layer,
    Lines,
    Link,
    Page,
    Picture,
    Placed,
    Words,
)
from isometron.perspective.eye import Array
from isometron.perspective.places import Place

PAPER = (246, 244, 238)
FINER = 4
"""So many times finer than asked is drawn, each way."""

CUBIC_MM, PARTS, FRACTION = 0.01, 32, 4
"""How far a cubic may miss an arc, into how many chords each is cut, and bits behind the point of a
place in pixels."""

ANCHORS = {END: "rs", MIDDLE: "ms"}


def raster_of(page: Page, px_per_mm: float) -> NDArray[np.uint8]:
    """A page as pixels (rows, columns, 3), red, green, blue, on paper of an ordinary white."""
    import cv2

    wide, high = (round(side * px_per_mm) for side in page.size_mm)
    canvas = _Canvas(page.size_mm, (wide * FINER, high * FINER), px_per_mm * FINER)
    for item in page.items:
        _lay(item, canvas, (0.0, 0.0))
    return np.asarray(cv2.resize(canvas.pixels, (wide, high), interpolation=cv2.INTER_AREA))


class _Canvas:
    """Pixels under way, and where a place of the page lies among them."""

    def __init__(self, size_mm: Place, size: tuple[int, int], scale: float) -> None:
        row = np.tile(np.array(PAPER, dtype=np.uint8), size[0])
        self.pixels = np.tile(row, size[1]).reshape(size[1], size[0], 3)
        self.scale, self._high = scale, size_mm[1]

    def at(self, places: Array) -> Array:
        """Places (..., 2) mm in pixels, right and down from the middle of the first."""
        return np.asarray(
            places * (self.scale, -self.scale) + (-0.5, self._high * self.scale - 0.5)
        )

    def px(self, places: Array) -> NDArray[np.int32]:
        """The same in whole pixels."""
        return np.rint(self.at(places)).astype(np.int32)

    def thick(self, width_mm: float) -> int:
        """A width in whole pixels."""
        return max(round(width_mm * self.scale), 1)


def _rgb(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


@singledispatch
def _lay(item: Item, on: _Canvas, by: Place) -> None:
    raise TypeError(f"the raster does not know {type(item).__name__}")


@_lay.register
def _lines(item: Lines, on: _Canvas, by: Place) -> None:
    import cv2

    ends = on.px(item.ends.reshape(-1, 2, 2) + by)
    for one, two in ends.tolist():
        cv2.line(on.pixels, one, two, _rgb(item.pencil.colour), on.thick(item.pencil.width_mm))


@_lay.register
def _cubics(item: Cubics, on: _Canvas, by: Place) -> None:
    import cv2

    if not len(item.cubics):
        return
    run = np.rint(on.at(along_cubics(item.cubics, PARTS) + by) * (1 << FRACTION)).astype(np.int32)
    wide = max(on.thick(item.pencil.width_mm) - 2, 1)  # discs at its joints are wider than that
    cv2.polylines(on.pixels, [run], False, _rgb(item.pencil.colour), wide, shift=FRACTION)


@_lay.register
def _arcs(item: Arcs, on: _Canvas, by: Place) -> None:
    curves, number = cubics(item.arcs, CUBIC_MM)
    begins = np.flatnonzero(begins_run(item.arcs)[number] & (np.diff(number, prepend=-1) > 0))
    for run in np.split(curves, begins[1:]):  # one without a cubic where there is no arc
        _cubics(Cubics(item.pencil, run), on, by)


@_lay.register
def _area(item: Area, on: _Canvas, by: Place) -> None:
    import cv2

    shape = np.zeros(on.pixels.shape[:2], dtype=np.uint8)
    cv2.fillPoly(shape, [on.px(ring + by) for ring in item.polygons()], 255)
    _blend(on, shape * (item.cover / 255.0), np.array(_rgb(item.colour)))


def _blend(on: _Canvas, cover: Any, colour: Any) -> None:
    """Lay a colour over the pixels (rows, columns, 3), as much of it as each (rows, columns) is
    covered, 0 to 1."""
    part = cover[..., None]
    on.pixels[:] = np.rint(on.pixels * (1 - part) + colour * part)


@_lay.register
def _boxes(item: Boxes, on: _Canvas, by: Place) -> None:
    low = item.boxes[:, :2] + by
    corners = on.px(np.stack([low, low + item.boxes[:, 2:]], axis=1))
    for (left, bottom), (right, top) in corners.tolist():
        on.pixels[top + 1 : bottom + 1, left + 1 : right + 1] = _rgb(item.colour)


@_lay.register
def _disc(item: Disc, on: _Canvas, by: Place) -> None:
    import cv2

    centre = on.px(np.array(item.place) + by).tolist()
    cv2.circle(on.pixels, centre, on.thick(item.radius_mm), _rgb(item.colour), cv2.FILLED)


@_lay.register
def _words(item: Words, on: _Canvas, by: Place) -> None:
    from PIL import Image, ImageDraw

    size = max(round(item.size_mm * on.scale), 1)
    written = Image.new("L", (on.pixels.shape[1], on.pixels.shape[0]))
    x, y = on.at(np.array(item.place) + by).tolist()
    pen, anchor = ImageDraw.Draw(written), ANCHORS.get(item.stands, "ls")
    pen.text((x, y), item.text, 255, _face(item.bold, size), anchor=anchor)
    if item.angle_deg:
        written = written.rotate(item.angle_deg, center=(x, y), resample=Image.Resampling.BILINEAR)
    box = written.getbbox()
    if box is not None:
        left, top, right, bottom = box
        part = on.pixels[top:bottom, left:right]
        cover = np.asarray(written.crop(box), dtype=float)[..., None] / 255.0
        part[:] = np.rint(part * (1 - cover) + np.array(_rgb(item.colour)) * cover)


@lru_cache(maxsize=16)
def _face(bold: bool, size: int) -> Any:
    from PIL import ImageFont

    name = f"fonts/B612-{'Bold' if bold else 'Regular'}.otf"
    content = resources.files("isometron").joinpath(name).read_bytes()
    return ImageFont.truetype(io.BytesIO(content), size)


@_lay.register
def _picture(item: Picture, on: _Canvas, by: Place) -> None:
    import cv2
    from PIL import Image

    image = np.asarray(Image.open(io.BytesIO(item.content)).convert("RGB"))
    rows, columns = image.shape[:2]
    (wide, high), turn = item.size, np.radians(item.turn_deg)
    corners = np.array([[0.0, high], [wide, high], [0.0, 0.0]])
    way = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
    target = on.at(corners @ way + item.corner + by).astype(np.float32)
    source = np.array([[0, 0], [columns, 0], [0, rows]], dtype=np.float32) - np.float32(0.5)
    moved = cv2.getAffineTransform(source, target)
    size = on.pixels.shape[1::-1]
    laid = cv2.warpAffine(image, moved, size, flags=cv2.INTER_LINEAR)
    cover = cv2.warpAffine(np.full((rows, columns), item.strength), moved, size)
    _blend(on, cover, laid)


@_lay.register
def _link(item: Link, on: _Canvas, by: Place) -> None:
    pass  # nothing to see


@_lay.register
def _layer(item: Layer, on: _Canvas, by: Place) -> None:
    for one in item.items:
        _lay(one, on, by)


@_lay.register
def _placed(item: Placed, on: _Canvas, by: Place) -> None:
    before = None if item.box is None else on.pixels.copy()
    for one in item.items:
        _lay(one, on, (by[0] + item.by[0], by[1] + item.by[1]))
    if before is not None and item.box is not None:
        inside = np.zeros(before.shape[:2], dtype=bool)
        low = np.array(item.box[:2]) + by
        (left, bottom), (right, top) = on.px(np.stack([low, low + item.box[2:]])).tolist()
        inside[max(top + 1, 0) : bottom + 1, max(left + 1, 0) : right + 1] = True
        on.pixels[~inside] = before[~inside]


@_lay.register
def _kept(item: Kept, on: _Canvas, by: Place) -> None:
    for one in item.items():
        _lay(one, on, by)
