"""A picture decoded for the screen: whole, and closer where it is looked at closely."""

from functools import lru_cache

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QRect, QRectF, QSize
from PyQt6.QtGui import QImage, QImageReader

from isometron.document.picture import PictureFile

MOST_PX = 3_000_000
"""The whole picture is held in no more pixels than this; closer looks decode a part of it anew."""

DETAIL_PX = 1400
"""Side of the part that is decoded for a closer look, px of the picture."""


@lru_cache(maxsize=2)
def whole(file: PictureFile) -> QImage:
    """The whole picture, made smaller when it is large; a null image when it cannot be decoded."""
    reader, _content = _reader(file)
    size = reader.size()
    count = size.width() * size.height()
    if count > MOST_PX:
        share = (MOST_PX / count) ** 0.5
        reader.setScaledSize(
            QSize(max(round(size.width() * share), 1), max(round(size.height() * share), 1))
        )
    return reader.read()


@lru_cache(maxsize=1)
def _part(file: PictureFile, left: int, top: int, wide: int, high: int) -> QImage:
    reader, _content = _reader(file)
    reader.setClipRect(QRect(left, top, wide, high))
    return reader.read()


def detail(file: PictureFile, seen: QRectF, size: tuple[int, int]) -> tuple[QImage, QRectF]:
    """A part of the picture in all its pixels round what is seen of it (px from its upper left
    corner), and where that part lies."""
    wide, high = (
        min(max(DETAIL_PX, 2 * round(s)), m)
        for s, m in zip((seen.width(), seen.height()), size, strict=True)
    )
    step = DETAIL_PX // 4
    left = min(max(round((seen.center().x() - wide / 2) / step) * step, 0), size[0] - wide)
    top = min(max(round((seen.center().y() - high / 2) / step) * step, 0), size[1] - high)
    return _part(file, left, top, wide, high), QRectF(left, top, wide, high)


def _reader(file: PictureFile) -> tuple[QImageReader, QBuffer]:
    """A reader of an encoded picture; the buffer must live as long as it."""
    buffer = QBuffer()
    buffer.setData(QByteArray(file.content))
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    return QImageReader(buffer), buffer
