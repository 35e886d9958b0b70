"""Pictures as they come from a camera: what is taken, how large, and what they tell of the lens."""

import io
import math
import warnings
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from isometron.perspective.errors import IsometronError
from isometron.words import _, quoted

T = TypeVar("T")

KINDS = {
    "PNG": (".png",),
    "JPEG": (".jpg", ".jpeg"),
    "TIFF": (".tif", ".tiff"),
    "WEBP": (".webp",),
    "BMP": (".bmp",),
    "GIF": (".gif",),
    "AVIF": (".avif",),
}
"""What is taken, and how its files are named."""

PLENTY, MOST = 40_000_000, 200_000_000
"""Pixels above which a picture is made smaller while it is read, and above which it is refused."""

MOST_WHOLE = 80_000_000
"""What is no JPEG is unpacked whole before it can be made smaller: it has no more pixels."""

HALVES = (2, 4, 8)
"""A JPEG is unpacked so many times smaller."""

LEAST = 16
FILM_DIAGONAL_MM = 43.27
FOCAL_ERROR = 0.05
"""A focal length in EXIF is rounded, and the lens breathes: its share of error."""

FOCAL_OF_FILM, ORIENTATION, EXIF_FOLDER = 0xA405, 0x0112, 0x8769


MOST_BYTES_IN, SMALLER_STEP = 12_000_000, 0.8
"""A picture that is kept with a sheet takes no more bytes; one that takes more is made smaller by
steps."""

LEAST_DPI, MOST_DPI = 100.0, 4800.0
"""Scans have no fewer and no more dots per inch."""

QUALITY = 92
"""Of JPEG: what it loses lies far below the grain."""


class PictureError(IsometronError):
    """A picture that cannot be read."""


@dataclass(frozen=True, eq=False)
class GreyPicture:
    """A picture as grey values (rows from above, columns); how many times smaller than the file it
    was read; its station distance by EXIF in its own pixels, or None."""

    grey: NDArray[np.uint8]
    smaller: float
    station_distance: float | None

    @property
    def size(self) -> tuple[float, float]:
        """Width and height, px."""
        rows, columns = self.grey.shape
        return float(columns), float(rows)


@dataclass(frozen=True, eq=False)
class TakenIn:
    """A picture as a sheet keeps it: encoded anew, upright, with nothing private; its size in px;
    how many times smaller than the file it is; its station distance by EXIF, px, or None; the dpi
    that its file says, in its own px, or None."""

    content: bytes
    width: int
    height: int
    smaller: float
    station_distance: float | None
    dpi: float | None = None


def take_in(content: bytes, called: str) -> TakenIn:
    """A picture for a sheet, from the bytes of a file. JPEG stays JPEG, what is without loss stays
    so while it is small enough. Raises PictureError as `read_picture`."""
    return _opened(content, called, _taken_in)


def colours(
    content: bytes, most_px: int | None = None, box: tuple[int, int, int, int] | None = None
) -> NDArray[np.uint8]:
    """The colours (rows, columns, 3) of an encoded picture, in no more pixels than `most_px`; or of
    a box of it, left, top, right, bottom in px from its upper left corner. Raises PictureError."""

    def made(image: Any) -> NDArray[np.uint8]:
        width, height = image.size
        if most_px is not None and width * height > most_px:
            share = math.sqrt(most_px / (width * height))
            image.draft("RGB", (round(width * share), round(height * share)))
            image = _plain(image, "RGB")
            image.thumbnail((max(round(width * share), 1), max(round(height * share), 1)))
        image = _plain(image, "RGB")
        return np.asarray(image if box is None else image.crop(box), dtype=np.uint8)

    return _opened(content, "", made)


def is_picture(content: bytes) -> bool:
    """Whether bytes begin as one of the kinds of picture."""
    begins = (b"\x89PNG", b"\xff\xd8\xff", b"II*\x00", b"MM\x00*", b"BM", b"GIF8")
    boxed = content[:4] == b"RIFF" and content[8:12] == b"WEBP"
    return content.startswith(begins) or boxed or _brand(content) != ""


def _brand(content: bytes) -> str:
    """What a picture in boxes calls itself: AVIF or HEIC; nothing of another."""
    if content[4:8] != b"ftyp":
        return ""
    brand = content[8:12]
    if brand in (b"avif", b"avis"):
        return "AVIF"
    return "HEIC" if brand in (b"heic", b"heix", b"hevc", b"mif1", b"msf1") else ""


def read_picture(content: bytes, called: str) -> GreyPicture:
    """A picture from the bytes of a file; `called` is its name, whose ending must be true. Stands
    upright as EXIF says. Raises PictureError: for other kinds, a wrong ending, more than 200
    megapixels, a damaged or cut file."""
    return _opened(content, called, _grey)


def _opened(content: bytes, called: str, made: Callable[[Any], T]) -> T:
    """Something made of a picture, opened with all care."""
    from PIL import Image, UnidentifiedImageError

    name = quoted(called)
    if not content:
        raise PictureError(_("“{name}” is empty: copy it again.").format(name=name))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        before, Image.MAX_IMAGE_PIXELS = Image.MAX_IMAGE_PIXELS, None
        try:  # sizes are looked at here, from the header, before anything is unpacked
            Image.init()
            read = [kind for kind in KINDS if kind in Image.OPEN]
            with Image.open(io.BytesIO(content), formats=read) as image:
                _check(image, name, called)
                return made(image)
        except UnidentifiedImageError as error:
            kind = _brand(content)
            told = (
                _("“{name}” is a {kind} picture, which is not read here: save it as JPEG first.")
                if kind
                else _("“{name}” is no picture: take PNG, JPEG, TIFF or WebP.")
            )
            raise PictureError(told.format(name=name, kind=kind)) from error
        except (OSError, SyntaxError, ValueError, EOFError, MemoryError) as error:
            raise PictureError(
                _("“{name}” is damaged or cut off: take it again.").format(name=name)
            ) from error
        finally:
            Image.MAX_IMAGE_PIXELS = before


def _check(image: Any, name: str, called: str) -> None:
    """Refuse a wrong ending and a wrong size, by the header alone."""
    endings = KINDS[image.format]
    dot = called.rfind(".")
    ending = called[dot:].lower() if dot > 0 else ""
    if ending in {e for kind in KINDS.values() for e in kind} and ending not in endings:
        raise PictureError(
            _("“{name}” is a {kind} by its content: end its name in {ending}.").format(
                name=name, kind=image.format, ending=endings[0]
            )
        )
    width, height = image.size
    if width * height > MOST:
        raise PictureError(
            _("“{name}” has {count} megapixels, more than {most}: make it smaller first.").format(
                name=name, count=round(width * height / 1e6), most=MOST // 1_000_000
            )
        )
    if image.format != "JPEG" and width * height > MOST_WHOLE:
        raise PictureError(
            _(
                "“{name}” has {count} megapixels, more than {most} in a {kind}: save it as JPEG, "
                "or smaller."
            ).format(
                name=name,
                count=round(width * height / 1e6),
                most=MOST_WHOLE // 1_000_000,
                kind=image.format,
            )
        )
    if min(width, height) < LEAST:
        raise PictureError(
            _("“{name}” is too small to read: take one of at least {least} px.").format(
                name=name, least=LEAST
            )
        )


def _upright(image: Any, mode: str) -> tuple[Any, float]:
    """The picture upright, made smaller when it has plenty of pixels; how many times smaller."""
    from PIL import Image, ImageOps

    width, height = image.size
    smaller = 1.0
    if width * height > PLENTY:
        smaller = math.sqrt(width * height / PLENTY)
        goal = max(round(width / smaller), 1), max(round(height / smaller), 1)
        halved = next((n for n in HALVES if width * height <= PLENTY * n * n), HALVES[-1])
        image.draft(mode, (width // halved, height // halved))  # a JPEG is unpacked smaller at once
        goal = min(goal, image.size)
        plain = _plain(image, mode).resize(goal, Image.Resampling.BOX)
        plain.info, plain_exif = {}, image.getexif()
        if plain_exif.get(ORIENTATION):
            plain.getexif()[ORIENTATION] = plain_exif[ORIENTATION]
        smaller = width / goal[0]
    else:
        plain = _plain(image, mode)
    return ImageOps.exif_transpose(plain), smaller


def _plain(image: Any, mode: str) -> Any:
    """A picture in grey or colour; what is transparent lies on white paper, sixteen bits become
    eight."""
    from PIL import Image

    if image.mode.startswith("I;16"):
        return image.point(lambda value: value / 256).convert("L").convert(mode)
    if "A" in image.mode or "transparency" in image.info:
        clear = image.convert("RGBA")
        paper = Image.new("RGBA", clear.size, "white")
        paper.alpha_composite(clear)
        return paper.convert(mode)
    return image.convert(mode)


def _grey(image: Any) -> GreyPicture:
    focal = _focal_of_film(image)
    upright, smaller = _upright(image, "L")
    grey = np.asarray(upright, dtype=np.uint8)
    return GreyPicture(grey, smaller, _distance(focal, upright.size))


def _distance(focal: float | None, size: tuple[int, int]) -> float | None:
    """The station distance of a focal length for the usual film, px."""
    return None if focal is None else focal / FILM_DIAGONAL_MM * math.hypot(*size)


def _taken_in(image: Any) -> TakenIn:
    from PIL import Image

    focal, lossless = _focal_of_film(image), image.format == "PNG"
    dpi = _dpi(image)
    upright, smaller = _upright(image, "RGB")
    before = upright.width
    while len(content := _encoded(upright, lossless=lossless)) > MOST_BYTES_IN:
        if lossless:
            lossless = False
            continue
        goal = [max(round(side * SMALLER_STEP), 1) for side in upright.size]
        upright = upright.resize(goal, Image.Resampling.BOX)
    smaller *= before / upright.width
    width, height = upright.size
    distance = _distance(focal, upright.size)
    return TakenIn(content, width, height, smaller, distance, dpi and dpi / smaller)


def _encoded(image: Any, *, lossless: bool) -> bytes:
    """A picture as PNG or JPEG with nothing but its pixels."""
    from PIL import Image

    # comments, colour profiles and the like would be written along with an image that was read
    bare = Image.frombytes(image.mode, image.size, image.tobytes())
    kept = io.BytesIO()
    if lossless:
        bare.save(kept, "PNG")
    else:
        bare.save(kept, "JPEG", quality=QUALITY, subsampling=0)
    return kept.getvalue()


def _dpi(image: Any) -> float | None:
    """The dpi of a scan as its file says; None where it says none, or what no scanner does: cameras
    and programs write 72 or 96."""
    try:
        across, along = (float(v) for v in image.info.get("dpi", (0.0, 0.0)))
    except (ValueError, TypeError, ArithmeticError):
        return None
    fair = LEAST_DPI <= across <= MOST_DPI and abs(along - across) <= 0.01 * across
    return across if fair else None


def _focal_of_film(image: Any) -> float | None:
    """The focal length that EXIF tells for the usual film, mm, or None."""
    try:
        told = image.getexif().get_ifd(EXIF_FOLDER).get(FOCAL_OF_FILM)
        value = float(told) if told is not None else 0.0
    except (ValueError, TypeError, ArithmeticError, KeyError, OSError):
        return None
    return value if math.isfinite(value) and 4 <= value <= 2000 else None
