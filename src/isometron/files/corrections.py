"""The correction sheet: a sketch at 1 : 1, its strokes pale, what is to be redrawn thin in teal."""

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import in_work
from isometron.document.picture import ROUND
from isometron.drawing.pencils import TEAL, Pencil
from isometron.pages.flow import MM_PER_POINT
from isometron.pages.page import Item, Lines, Page, Pages, Words, circle
from isometron.pages.pdf import pdf_of
from isometron.perspective.errors import FileError
from isometron.reading.sketch.faults import Fault
from isometron.reading.sketch.judging import faults_in
from isometron.words import _

PALE, THIN = Pencil("#c9c4b6", 0.35), Pencil(TEAL, 0.18)
MARK_MM, NUMBER_MM = 4.0, 9.0 * MM_PER_POINT
BESIDE_MM = 6.0 * MM_PER_POINT
"""A number stands so far to the right of its place, and above it."""


def corrections_of(document: Document) -> bytes:
    """The corrections of the sketch in work as one PDF page of exactly its size. Raises FileError
    for a picture that is no straightened sheet, or has nothing to correct."""
    picture = in_work(document)
    if picture.paper_mm is None:
        raise FileError(_("The picture is no straightened sheet: straighten your sheet first."))
    faults = [fault for fault in faults_in(document) if not fault.mended]
    if not faults:
        raise FileError(_("Nothing on this sheet is off by more than a hand's own precision."))
    scale = picture.paper_mm[0] / picture.width
    edges = [[*edge.start, *edge.end] for edge in picture.edges if not edge.left]
    items: list[Item] = [Lines(PALE, scale * np.array(edges).reshape(-1, 4))]
    for rim in picture.rounds:
        ring = np.array([*rim.points, rim.points[0]])
        items.append(Lines(PALE, scale * np.concatenate([ring[:-1], ring[1:]], axis=1)))
    for number, fault in enumerate(faults, start=1):
        items += _correction(number, fault, scale)
    return pdf_of(Pages(_("Corrections"), (Page(picture.paper_mm, tuple(items)),)))


def _correction(number: int, fault: Fault, scale: float) -> list[Item]:
    """One correction: its line from edge to edge of the paper, and its number."""
    items: list[Item] = []
    if fault.redraw is not None:
        items.append(Lines(THIN, np.array(fault.redraw).reshape(1, 4)))
    x, y = (v * scale for v in fault.at)
    if fault.mark.kind == ROUND:
        items.append(circle(THIN, (x, y), MARK_MM / 2))
    return [*items, Words(str(number), (x + BESIDE_MM, y + BESIDE_MM), NUMBER_MM, TEAL)]
