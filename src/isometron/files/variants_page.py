"""Variants side by side on a page: each from the same eye and at one scale, with what differs from
the first of them beside it."""

import math

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.varying import differences, take_variant
from isometron.drawing.layers import DIVISIONS, HIDDEN, OBJECT, SECTIONS
from isometron.drawing.page import page_strokes
from isometron.drawing.pencils import Pencil
from isometron.drawing.scene import scene_of
from isometron.pages import pdf, svg
from isometron.pages.page import Arcs, Item, Layer, Lines, Page, Pages, Words
from isometron.perspective.eye import Array
from isometron.words import _, many

MARGIN, GAP, NAME_MM, WORDS_MM = 12.0, 8.0, 5.0, 3.2
MOST_LINES = 8
"""More differences than this are counted."""

BESIDE = 0.08
"""So much smaller, as a share, they may be to stand side by side."""

LEAST_SCALE = 0.02
"""Smaller nothing is drawn, though it runs off the page."""


def variants_page(document: Document) -> Page:
    """All variants on one page of the sheet's size; of one framework that one."""
    count = len(document.variants)
    every = [take_variant(document, number) for number in range(count)] or [document]
    names = [one.name for one in document.variants] or [_("as it is")]
    drawn = [_drawn(one) for one in every]
    reach = [bounds for _layers, bounds in drawn if bounds is not None]
    wide, high = document.sheet.width_mm, document.sheet.height_mm
    told = [differences(every[0], one) for one in every]
    words = (1 + min(max(map(len, told)), MOST_LINES + 1)) * 1.5 * WORDS_MM + NAME_MM
    low = np.min([one[:2] for one in reach], axis=0) if reach else np.zeros(2)
    far = np.max([one[2:] for one in reach], axis=0) if reach else np.ones(2)
    size = np.maximum(far - low, 1.0)

    def fitting(columns: int) -> float:
        """The scale at which all fit in so many columns."""
        rows = math.ceil(len(every) / columns)
        across = (wide - 2 * MARGIN - (columns - 1) * GAP) / columns / size[0]
        up = ((high - 2 * MARGIN - (rows - 1) * GAP) / rows - words) / size[1]
        return float(min(across, up, 1.0))

    columns = max(range(1, len(every) + 1), key=lambda n: fitting(n) * (1.0 + BESIDE * (n > 1)))
    scale = max(fitting(columns), LEAST_SCALE)
    rows = math.ceil(len(every) / columns)
    cell = (wide - 2 * MARGIN - (columns - 1) * GAP) / columns
    tall = scale * float(size[1]) + words
    spare = max((high - rows * tall - (rows - 1) * GAP) / 2, MARGIN)
    layers: list[Item] = []
    for number, (one, (strokes, _bounds)) in enumerate(zip(names, drawn, strict=True)):
        column, row = number % columns, number // columns
        left = MARGIN + column * (cell + GAP)
        top = high - spare - row * (tall + GAP)
        left += (cell - scale * float(size[0])) / 2
        by = np.array([left, top - scale * size[1]]) - scale * low
        items: list[Item] = []
        for pencil, lines, arcs in strokes:
            items.append(Lines(pencil, lines * scale + np.tile(by, 2)))
            if len(arcs):
                items.append(Arcs(pencil, _scaled(arcs, scale, by)))
        y = top - scale * size[1] - NAME_MM - 2
        items.append(Words(one, (left, y), NAME_MM, bold=True))
        for line in _lines(told[number], first=number == 0):
            y -= 1.5 * WORDS_MM
            items.append(Words(line, (left, y), WORDS_MM))
        layers.append(Layer(one, tuple(items)))
    return Page((wide, high), tuple(layers))


Stroke = tuple[Pencil, Array, Array]


def _drawn(document: Document) -> tuple[list[Stroke], Array | None]:
    """The lines of a variant by their pencils, and the box (4,) round them, sheet mm."""
    found: list[Stroke] = []
    places: list[Array] = [np.empty((0, 2))]
    for strokes in page_strokes(document, scene_of(document), {}):
        if strokes.layer.name not in {one.name for one in (HIDDEN, DIVISIONS, SECTIONS, OBJECT)}:
            continue
        found.append((strokes.layer.pencil, strokes.lines, strokes.arcs))
        places.append(strokes.lines.reshape(-1, 2))
        if len(strokes.arcs):
            ends = strokes.arcs[:, [0, 2]].reshape(-1, 3)
            places.append(ends[:, :2] / ends[:, 2:])
    every = np.concatenate(places)
    if not len(every):
        return found, None
    return found, np.concatenate([every.min(axis=0), every.max(axis=0)])


def _scaled(arcs: Array, scale: float, by: Array) -> Array:
    """Homogeneous arcs (n, 3, 3) scaled and moved."""
    moved = arcs.copy()
    moved[..., :2] = scale * arcs[..., :2] + arcs[..., 2:] * by
    return moved


def _lines(told: list[str], *, first: bool) -> list[str]:
    if first:
        return []
    more = len(told) - MOST_LINES
    if more > 0:
        return [*told[:MOST_LINES], many("and {n} more", "and {n} more", more).format(n=more)]
    return told or [_("the same")]


def variants_pdf(document: Document) -> bytes:
    """The page as PDF."""
    return pdf.pdf_of(Pages(_("Variants"), (variants_page(document),)))


def variants_svg(document: Document) -> bytes:
    """The page as SVG, a layer for each variant."""
    return svg.svg_of(variants_page(document), _("Variants"))
