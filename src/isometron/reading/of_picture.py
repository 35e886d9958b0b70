"""What is marked on a picture of a sheet, as marks to be read; and what is found on it."""

from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from isometron.document.marks import Edge, Lens, Marks, Place
from isometron.document.picture import SheetPicture
from isometron.reading.fit import Fit
from isometron.reading.reading import read_with_fit
from isometron.reading.results import Reading

KEPT = 24
"""Readings that are kept."""


class PictureReading(NamedTuple):
    """The marks of a picture with what they say, and the fit it is told from."""

    marks: Marks
    reading: Reading
    fit: Fit | None


def straight(picture: SheetPicture, place: Place) -> Place:
    """Where a lens that bends nothing would show a place of the picture, px."""
    if not picture.bend:
        return place
    (x, y), (cx, cy) = place, picture.middle
    swell = 1 + picture.bend * ((x - cx) ** 2 + (y - cy) ** 2) / max(picture.size) ** 2
    return cx + (x - cx) * swell, cy + (y - cy) * swell


def bent(picture: SheetPicture, place: Place) -> Place:
    """Where the picture shows a place that a lens without bend would show there, px; a fixed point
    of `straight`, found by going back and forth."""
    if not picture.bend:
        return place
    found = place
    for _unused in range(12):
        told = straight(picture, found)
        found = found[0] + place[0] - told[0], found[1] + place[1] - told[1]
    return found


def marks_of(picture: SheetPicture) -> Marks:
    """All marks on a picture, freed of what its lens bends."""

    def to(place: Place) -> Place:
        return straight(picture, place)

    marks = picture.marks
    if not picture.bend:
        return marks
    return replace(
        marks,
        edges=tuple(replace(one, start=to(one.start), end=to(one.end)) for one in marks.edges),
        rounds=tuple(replace(rim, points=tuple(map(to, rim.points))) for rim in marks.rounds),
        rows=tuple(replace(row, points=tuple(map(to, row.points))) for row in marks.rows),
    )


def reading_of(picture: SheetPicture) -> PictureReading:
    """What the marks of a picture say. Raises MarksError when nothing is marked."""
    return _read(marks_of(picture))


@lru_cache(maxsize=KEPT)
def _read(marks: Marks) -> PictureReading:
    reading, fit = read_with_fit(marks)
    return PictureReading(marks, reading, fit)


class Lines(NamedTuple):
    """Lines that were found on a picture: all that were seen, those of no family left; how the lens
    bends them, 0 when that is not clear, and how many long ones show it."""

    edges: tuple[Edge, ...]
    bend: float
    long_lines: int


def find_lines(content: bytes, lens: Lens | None) -> Lines:
    """The lines on an encoded picture and their families. Raises PictureError."""
    from isometron.reading.finding import CLEARLY, bend_of, families_of, lines_in, straightened
    from isometron.reading.pictures import read_picture

    picture = read_picture(content, "")
    lines, places = lines_in(picture.grey)
    bend = bend_of(lines, places, picture.size)
    clear = bend.told and abs(bend.k) >= CLEARLY * bend.standard_error
    names = families_of(straightened(lines, bend, picture.size), picture.size, lens)
    edges = tuple(
        Edge((x0, y0), (x1, y1), name or STRAY, left=not name, found=True)
        for ((x0, y0), (x1, y1)), name in zip(lines.tolist(), names, strict=True)
    )
    return Lines(edges, bend.k if clear else 0.0, bend.lines)


STRAY = "stray"
"""The family of lines that run with no other."""


def snapped(content: bytes, start: Place, end: Place, beside: float) -> tuple[Place, Place]:
    """A line drawn by hand along an edge of an encoded picture, laid where the grey values change
    fastest within `beside` px of it; as it was where nothing clear lies there."""
    from isometron.reading.finding import laid_along

    line = laid_along(_grey(content), np.array([start, end]), beside)
    (x0, y0), (x1, y1) = line.tolist()
    return (x0, y0), (x1, y1)


@lru_cache(maxsize=1)
def _grey(content: bytes) -> "np.ndarray[tuple[int, ...], np.dtype[np.uint8]]":
    from isometron.reading.pictures import read_picture

    return read_picture(content, "").grey
