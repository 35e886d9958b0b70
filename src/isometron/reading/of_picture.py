"""What is marked on a picture of a sheet, as marks to be read; and what is found on it."""

import math
from collections import deque
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from isometron.document.marks import (
    FAMILIES,
    Edge,
    Lens,
    Marks,
    MarksError,
)
from isometron.document.picture import CUT, LEAST_NOISE_PX, WAYS, PictureFile, SheetPicture
from isometron.perspective.places import Place
from isometron.perspective.watching import part_of_whole, tick
from isometron.reading.fit import Fit
from isometron.reading.reading import read_with_fit
from isometron.reading.results import Reading
from isometron.words import _, quoted

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

    marks = replace(picture.marks, least_noise=LEAST_NOISE_PX)
    if not picture.bend:
        return marks
    return replace(
        marks,
        edges=tuple(replace(one, start=to(one.start), end=to(one.end)) for one in marks.edges),
        rounds=tuple(replace(rim, points=tuple(map(to, rim.points))) for rim in marks.rounds),
        rows=tuple(replace(row, points=tuple(map(to, row.points))) for row in marks.rows),
    )


DOUBT = {
    WAYS: _(
        "These lines can be seen in more than one way, so nothing is told of them. Draw a box "
        "round the thing (B), or mark its edges yourself (E)."
    ),
    CUT: _(
        "These lines do not tell whether the picture is all that the camera saw, or a part of it. "
        "Say which: the whole (O), or a part (X)."
    ),
}
"""What to do where the lines that were found are in doubt."""


def reading_of(picture: SheetPicture) -> PictureReading:
    """What the marks of a picture say. Raises MarksError when nothing is marked, and when the lines
    that were found can be seen in more than one way and none has been taken in."""
    if picture.doubt and not picture.rounds and all(edge.left for edge in picture.edges):
        raise MarksError(DOUBT[picture.doubt])
    return _read(marks_of(picture))


def reading_kept(picture: SheetPicture) -> PictureReading | None:
    """What the marks of a picture say when that has been read lately; None else."""
    marks = marks_of(picture)
    return next((read for read in reversed(_LATELY) if read.marks == marks), None)


_LATELY: deque[PictureReading] = deque(maxlen=KEPT)


@lru_cache(maxsize=KEPT)
def _read(marks: Marks) -> PictureReading:
    reading, fit = read_with_fit(marks)
    told = PictureReading(marks, reading, fit)
    _LATELY.append(told)
    return told


class Lines(NamedTuple):
    """Lines that were found on a picture: all that were seen, those of no family left; how the lens
    bends them with its standard error, 0 when that is not clear, and how many long ones show it;
    whether the picture is a part of another; what is in doubt of them, so that all are left."""

    edges: tuple[Edge, ...]
    bend: float
    bend_error: float
    long_lines: int
    cropped: bool = False
    doubt: str = ""


def find_lines(content: bytes, lens: Lens | None) -> Lines:
    """The lines on an encoded picture and their families. Raises PictureError."""
    from isometron.reading.finding import CLEARLY, bend_of, families_of, lines_in, straightened
    from isometron.reading.pictures import read_picture

    picture = read_picture(content, _("the picture"))
    tick(0.1)
    lines, places = lines_in(picture.grey)
    tick(0.6)
    bend = bend_of(lines, places, picture.size)
    tick(0.7)
    clear = bend.told and abs(bend.k) >= CLEARLY * bend.standard_error
    found = families_of(straightened(lines, bend, picture.size), picture.size, lens)
    names = [""] * len(lines) if found.doubt else found.names
    tick(1.0)
    edges = tuple(
        Edge((x0, y0), (x1, y1), name or STRAY, left=not name, found=True)
        for ((x0, y0), (x1, y1)), name in zip(lines.tolist(), names, strict=True)
    )
    k, error = (bend.k, bend.standard_error) if clear else (0.0, 0.0)
    return Lines(edges, k, error, bend.lines, found.cropped, found.doubt)


def weighed(
    picture: SheetPicture, box: tuple[Place, Place] | None = None, whole: bool | None = None
) -> SheetPicture:
    """A picture whose found lines are weighed again: those in a box only, where one is drawn round
    the thing; whole: whether it is all that the camera saw, where that is said. What was marked by
    hand, or is spoken of, stays as it is. Raises MarksError where no lines lie in the box."""
    from isometron.reading.finding import families_of

    spoken_of = {number for one in picture.known for number in one.edges}
    own = [
        number
        for number, edge in enumerate(picture.edges)
        if edge.found and edge.corners is None and number not in spoken_of
        if box is None or (_within(edge.start, box) and _within(edge.end, box))
    ]
    ends = [picture.edges[number] for number in own]
    lines = np.array(
        [[straight(picture, one.start), straight(picture, one.end)] for one in ends]
    ).reshape(-1, 2, 2)
    if box is not None and len(own) < LEAST_IN_BOX:
        raise MarksError(_("Too few lines lie in this box: draw it round the whole thing."))
    lens = picture.lens if picture.lens_used else None
    found = families_of(lines, picture.size, lens, whole)
    edges = list(picture.edges)
    for number, edge in enumerate(edges):
        if edge.found and edge.corners is None and number not in spoken_of:
            edges[number] = replace(edge, family=STRAY, left=True)
    for number, name in zip(own, found.names, strict=True):
        if name and not found.doubt:
            edges[number] = replace(edges[number], family=name, left=False)
    cropped = picture.cropped if whole is not None else found.cropped
    return replace(picture, edges=tuple(edges), cropped=cropped, doubt=found.doubt)


LEAST_IN_BOX = 6
"""Fewer lines tell no eye."""


def _within(place: Place, box: tuple[Place, Place]) -> bool:
    (x0, y0), (x1, y1) = box
    return min(x0, x1) <= place[0] <= max(x0, x1) and min(y0, y1) <= place[1] <= max(y0, y1)


def said_whole(picture: SheetPicture, whole: bool) -> SheetPicture:
    """A picture said to be all that the camera saw, or a part of it; where its lines were in doubt
    they are weighed again with that."""
    said = replace(picture, cropped=not whole)
    return weighed(said, whole=whole) if picture.doubt else said


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

    return read_picture(content, _("the picture")).grey


AGREES_DEG = 6.0
"""A line drawn by hand runs with a family whose point it misses by less."""

UPRIGHT_DEG = 20.0


def likely_family(picture: SheetPicture, start: Place, end: Place, read: Reading | None) -> str:
    """The family a line runs with: of those that are read, the one whose point it misses least;
    else height for an upright line, and width or depth as it rises to the right or the left."""
    one, two = straight(picture, start), straight(picture, end)
    (mx, my), run = ((one[0] + two[0]) / 2, (one[1] + two[1]) / 2), np.subtract(two, one)
    best, least = "", AGREES_DEG
    for vanishing in read.vanishing if read is not None else ():
        if vanishing.family == STRAY:
            continue
        if vanishing.at is None:
            away = np.array(vanishing.direction[:2])
        else:
            away = np.array([vanishing.at[0] - mx, vanishing.at[1] - my])
        across = abs(float(run[0] * away[1] - run[1] * away[0]))
        off = math.degrees(math.atan2(across, abs(float(run @ away))))
        if off < least:
            best, least = vanishing.family, off
    if best:
        return best
    if math.degrees(math.atan2(abs(run[0]), abs(run[1]))) < UPRIGHT_DEG:
        return "height"
    return "width" if run[0] * run[1] >= 0 else "depth"


def likely_axle(picture: SheetPicture, points: Sequence[Place], read: PictureReading | None) -> str:
    """The family the axle of a rim runs with: the one about which a circle fits it best from where
    the edges put us; upright when they put us nowhere."""
    from isometron.reading.fit import fitted_rim

    if read is None or read.fit is None or read.reading.view is None:
        return "height"
    origin, state = read.fit.seen.origin, read.fit.state
    places = np.array([straight(picture, place) for place in points]) - origin
    marked = {edge.family for edge in picture.edges if not edge.left}
    names = [name for name in FAMILIES if name in marked] or list(FAMILIES)
    return min(names, key=lambda name: fitted_rim(state, places, FAMILIES.index(name)))


def corner_at(
    content: bytes, at: Place, ends: Sequence[Place], beside: float
) -> tuple[Place, list[Place]]:
    """A corner and the far ends of its edges, drawn by hand, laid to the edges of the picture: the
    place nearest to all laid lines, and the ends moved square onto theirs. As drawn where fewer
    than two lines are clear."""
    from isometron.reading.finding import laid_along

    grey = _grey(content)
    if any(math.dist(at, end) < 2.0 for end in ends):
        return at, list(ends)

    lines = [laid_along(grey, np.array([at, end]), beside) for end in ends]
    normals, offs = [], []
    for line in lines:
        run = line[1] - line[0]
        normal = np.array([-run[1], run[0]]) / np.hypot(*run)
        normals.append(normal)
        offs.append(float(normal @ line[0]))
    both = np.array(normals)
    if len(both) < 2 or np.linalg.svd(both, compute_uv=False)[1] < 0.1:
        return at, list(ends)
    x, y = np.linalg.lstsq(both, np.array(offs), rcond=None)[0].tolist()
    if math.dist((x, y), at) > 3 * beside:
        return at, list(ends)
    laid = [
        np.array(end) + (off - float(normal @ np.array(end))) * normal
        for end, normal, off in zip(ends, normals, offs, strict=True)
    ]
    return (x, y), [(float(p[0]), float(p[1])) for p in laid]


def likely_corner(
    picture: SheetPicture, at: Place, ends: Sequence[tuple[str, Place]], noise: float
) -> int:
    """Which corner of its box a marked corner is (bits as in the report): whether its height runs
    down to the far end, and of the ways to turn width and depth the one that fits best."""
    from isometron.reading.fit import fit_all

    down = any(name == "height" and place[1] < at[1] for name, place in ends)
    best, least = 4 if down else 0, math.inf
    for turned in (0, 1):
        corner = (4 if down else 0) | turned
        edges = tuple(
            Edge(at, place, name, (corner, corner ^ 1 << FAMILIES.index(name)))
            for name, place in ends
        )
        loose = tuple(edge for edge in picture.edges if edge.corners is None)
        marks = replace(marks_of(replace(picture, edges=(*edges, *loose), known=())), noise=noise)
        cost = fit_all(marks).cost
        if cost < least:
            best, least = corner, cost
    return best


def rim_in(
    content: bytes, box: tuple[Place, Place], px_per_mm: float | None = None
) -> tuple[Place, ...]:
    """Points along the rim that a box was drawn over, on an encoded picture; on a straightened
    sheet (px_per_mm) along its pencil line. Raises MarksError when no rim shows there."""
    from isometron.reading.rim_finding import rim_in_box

    points = rim_in_box(_grey(content), np.array(box))
    if not len(points):
        raise MarksError(_("No rim shows in this box: click points along it instead."))
    if px_per_mm is not None:
        from isometron.reading.sketch.strokes import round_stroke

        points = round_stroke(_grey(content), points, px_per_mm)
    return tuple((float(x), float(y)) for x, y in points)


def picture_in(content: bytes, called: str) -> SheetPicture:
    """A picture file as a sheet carries it, its lines found. `called`: its name. Raises
    PictureError."""
    from isometron.reading.pictures import FOCAL_ERROR, take_in

    taken = take_in(content, called)
    tick(0.2)
    distance, dpi = taken.station_distance, taken.dpi
    lens = None if distance is None else Lens(distance, FOCAL_ERROR * distance)
    with part_of_whole(0.2, 1.0):
        found = find_lines(taken.content, lens)
    return SheetPicture(
        quoted(called),
        PictureFile(taken.content),
        taken.width,
        taken.height,
        taken.smaller,
        lens=lens,
        dpi=dpi,
        bend=found.bend,
        bend_error=found.bend_error,
        long_lines=found.long_lines,
        cropped=found.cropped,
        doubt=found.doubt,
        edges=found.edges,
    )
