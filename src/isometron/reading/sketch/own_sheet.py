"""A sketch of one's own as a picture of the sheet: straightened, its strokes found and told apart
into families."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import change_picture, in_work, mean_framework
from isometron.document.marks import (
    FAINT,
    FAMILIES,
    Edge,
    MarksError,
    Round,
)
from isometron.document.picture import PictureFile, SheetPicture
from isometron.perspective.eye import Eye, sight_axes
from isometron.perspective.lengths import write_number
from isometron.perspective.places import Place
from isometron.perspective.watching import part_of_whole, tick
from isometron.reading.model import Array
from isometron.reading.of_picture import STRAY, likely_axle, reading_of
from isometron.reading.pictures import read_picture
from isometron.reading.sketch.curves import off_rims, rims_on
from isometron.reading.sketch.families import APART, NEAR_DEG, misses_deg
from isometron.reading.sketch.meant import EYE_LEVEL, meant
from isometron.reading.sketch.paper import paper_corners, straightened
from isometron.reading.sketch.strokes import strokes_in
from isometron.words import _, quoted

FEWEST_OF_A_KIND, FAINTER, GAP_SHARE = 3, 0.65, 0.25
"""Faint strokes are told from object lines when there are so many of each, the faint ones are less
dark than this share of the others, and so much of the way between lies no stroke."""


def corners_of(content: bytes) -> tuple[Place, ...]:
    """The corners of the paper in an encoded picture, as a proposal: those that show, else the
    picture's own. Raises PictureError."""
    grey = read_picture(content, _("the picture")).grey
    rows, columns = grey.shape
    whole = [(0.0, 0.0), (float(columns), 0.0), (float(columns), float(rows)), (0.0, float(rows))]
    return tuple(paper_corners(grey) or whole)


def own_sheet(
    content: bytes,
    name: str,
    corners: Sequence[Place],
    size_mm: tuple[float, float],
) -> SheetPicture:
    """A sheet of one's own from an encoded picture of it: straightened to its size, its strokes
    found, each with the family it is meant for. Raises MarksError for corners that make no sheet,
    PictureError."""
    flat, px_per_mm = straightened(content, corners, size_mm)
    tick(0.3)
    grey = read_picture(flat, _("the picture")).grey
    rows, columns = grey.shape
    strokes = strokes_in(grey, px_per_mm)
    tick(0.5)
    with part_of_whole(0.5, 0.8):
        rims = rims_on(grey, strokes, px_per_mm)
    strokes = off_rims(strokes, rims, px_per_mm)
    tick(0.8)
    lines = np.array([(one.start, one.end) for one in strokes]).reshape(-1, 2, 2)
    names = meant(lines, 1 / px_per_mm, size_mm[0]).names
    weights = [FAINT if faint else 1.0 for faint in faint_ones([one.dark for one in strokes])]
    edges = tuple(
        Edge(
            one.start,
            one.end,
            family or STRAY,
            open_ends=True,
            weight=weight,
            left=family in ("", EYE_LEVEL),
            found=True,
        )
        for one, family, weight in zip(strokes, names, weights, strict=True)
    )
    sheet = SheetPicture(
        quoted(name),
        PictureFile(flat),
        columns,
        rows,
        cropped=True,
        edges=edges,
        paper_mm=size_mm,
    )
    return with_rims(sheet, rims)


def with_rims(sheet: SheetPicture, rims: Sequence[Array]) -> SheetPicture:
    """A sheet with rims (points (n, 2), px), each about the axle that suits it best."""
    if not rims:
        return sheet
    try:
        read = reading_of(sheet)
    except MarksError:
        read = None
    rounds = []
    for rim in rims:
        points = tuple((float(x), float(y)) for x, y in rim.tolist())
        rounds.append(Round(points, likely_axle(sheet, points, read)))
    return replace(sheet, rounds=(*sheet.rounds, *rounds))


def faint_ones(dark: Sequence[float]) -> list[bool]:
    """Which strokes are faint construction beside object lines, by how dark they are: where the
    two kinds lie clearly apart, else none (the split that leaves the least variance, Otsu's)."""
    values = np.sort(np.asarray(dark, dtype=float))
    spreads = [
        n * float(values[:n].var()) + (len(values) - n) * float(values[n:].var())
        for n in range(FEWEST_OF_A_KIND, len(values) - FEWEST_OF_A_KIND + 1)
    ]
    if not spreads:
        return [False] * len(dark)
    split = FEWEST_OF_A_KIND + int(np.argmin(spreads))
    low, high = float(np.median(values[:split])), float(np.median(values[split:]))
    clear = low < FAINTER * high and values[split] - values[split - 1] > GAP_SHARE * (high - low)
    return [bool(clear and value < values[split]) for value in dark]


def as_framework(document: Document) -> Document:
    """The sketch in work meant to be the framework on the sheet: its eye is taken, and every found
    stroke runs with the side of the framework's volume in work whose point it misses least. Raises
    ChoiceError as `mean_framework`."""
    document = mean_framework(document)
    lead, picture = document.lead, in_work(document)
    assert lead is not None and picture.laid is not None
    eye, scale = document.eye, picture.laid.mm_per_px
    right, up, away = _frame(eye)
    points = []
    for axis in lead.axes():
        way = np.asarray(axis, dtype=float)
        ahead = float(way @ away)
        cx, cy = eye.centre_of_vision_mm
        d = eye.station_distance_mm
        points.append(
            np.array(
                [
                    (cx * ahead + d * float(way @ right)) / scale,
                    (cy * ahead + d * float(way @ up)) / scale,
                    ahead,
                ]
            )
        )

    def meant(edge: Edge) -> Edge:
        if not edge.found or edge.corners is not None:
            return edge
        off = [misses_deg(np.array([edge.start, edge.end]), point) for point in points]
        near = sorted(range(3), key=off.__getitem__)
        clear = off[near[1]] > APART * off[near[0]] + 1.0
        if off[near[0]] < NEAR_DEG and clear:
            return replace(edge, family=FAMILIES[near[0]], left=False)
        return replace(edge, family=STRAY, left=True)

    edges = tuple(meant(edge) for edge in picture.edges)
    return change_picture(document, lambda one: replace(one, edges=edges))


def _frame(eye: Eye) -> tuple[Array, Array, Array]:
    """Right, up and away (3,) of an eye in the world."""
    right, up, away = (np.asarray(axis, dtype=float) for axis in sight_axes(eye))
    return right, up, away


def told_of_sheet(picture: SheetPicture) -> str:
    """What is said when a sheet of one's own has been straightened."""
    wide, high = picture.paper_mm or (0.0, 0.0)
    taken = sum(not edge.left for edge in picture.edges)
    return _("Your sheet is {wide} × {high} mm; {count} strokes run with a family.").format(
        wide=write_number(wide), high=write_number(high), count=taken
    )
