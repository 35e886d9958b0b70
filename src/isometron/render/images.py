"""A picture decoded for the screen: whole, and closer where it is looked at closely."""

from functools import lru_cache

import numpy as np
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage

from isometron.document.picture import PictureFile
from isometron.perspective.errors import IsometronError

MOST_PX = 3_000_000
"""The whole picture is held in no more pixels than this; closer looks decode a part of it anew."""

DETAIL_PX = 1400
"""Side of the part that is decoded for a closer look, px of the picture."""


@lru_cache(maxsize=2)
def whole(file: PictureFile) -> QImage:
    """The whole picture, made smaller when it is large; a null image when it cannot be decoded."""
    return _decoded(file, MOST_PX, None)


@lru_cache(maxsize=1)
def _part(file: PictureFile, left: int, top: int, wide: int, high: int) -> QImage:
    return _decoded(file, None, (left, top, left + wide, top + high))


def _decoded(
    file: PictureFile, most_px: int | None, box: tuple[int, int, int, int] | None
) -> QImage:
    from isometron.reading.pictures import colours

    try:
        pixels = colours(file.content, most_px, box)
    except IsometronError:
        return QImage()
    rows, columns = pixels.shape[:2]
    shown = QImage(
        np.ascontiguousarray(pixels).tobytes(),
        columns,
        rows,
        3 * columns,
        QImage.Format.Format_RGB888,
    )
    return shown.convertToFormat(QImage.Format.Format_RGB32)  # its own memory


def detail(file: PictureFile, seen: QRectF, size: tuple[int, int]) -> tuple[QImage, QRectF]:
    """A part of the picture in all its pixels round what is seen of it (px from its upper left
    corner), and where that part lies."""
    wide, high = (
        min(max(DETAIL_PX, 2 * round(side)), most)
        for side, most in zip((seen.width(), seen.height()), size, strict=True)
    )
    step = DETAIL_PX // 4
    left = min(max(round((seen.center().x() - wide / 2) / step) * step, 0), size[0] - wide)
    top = min(max(round((seen.center().y() - high / 2) / step) * step, 0), size[1] - high)
    return _part(file, left, top, wide, high), QRectF(left, top, wide, high)
