"""Pages as PDF at 1 : 1: the page box and every coordinate true to far less than a micrometre."""

import io
from collections.abc import Sequence
from functools import singledispatchmethod
from typing import Any

import numpy as np

from isometron.drawing.curves import begins_run, cubics
from isometron.drawing.pencils import Pencil
from isometron.framework.bodies.body import is_straight
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
    Pages,
    Picture,
    Placed,
    Words,
)
from isometron.perspective.errors import FileError
from isometron.perspective.eye import Array
from isometron.words import _

POINTS_PER_MM = 72.0 / 25.4

CUBIC_MM = 1e-4
"""PDF has no arcs of ellipses: they are written as cubic curves that miss them by less than this.
"""


def pdf_of(pages: Pages) -> bytes:
    """Pages as one PDF file, each page of exactly its own size. Raises FileError for a damaged
    picture."""
    from reportlab.pdfgen.canvas import Canvas

    file = io.BytesIO()
    canvas = Canvas(file, pagesize=_points(pages.pages[0].size_mm), invariant=1, pageCompression=1)
    canvas.setTitle(pages.title)
    canvas.setCreator("Isometron")
    canvas.setViewerPreference("PrintScaling", "None")
    hand = _Hand(canvas, {mark.key for page in pages.pages for mark in page.bookmarks})
    for page in pages.pages:
        hand.page(page)
    canvas.save()
    return file.getvalue()


def _points(place: Sequence[float]) -> tuple[float, ...]:
    return tuple(mm * POINTS_PER_MM for mm in place)


class _Hand:
    """Draws items on a canvas; knows which it has drawn to be kept, and what links can lead to."""

    def __init__(self, canvas: Any, marked: set[str]) -> None:
        self._canvas, self._marked = canvas, marked
        self._kept: set[str] = set()

    def page(self, page: Page) -> None:
        """One page and its bookmarks."""
        canvas = self._canvas
        canvas.setPageSize(_points(page.size_mm))
        for mark in page.bookmarks:
            canvas.bookmarkHorizontal(mark.key, 0, mark.top_mm * POINTS_PER_MM)
            canvas.addOutlineEntry(mark.title, mark.key)
        self._all(page.items)
        canvas.showPage()

    def _all(self, items: Sequence[Item]) -> None:
        for item in items:
            self._draw(item)

    @singledispatchmethod
    def _draw(self, item: Item) -> None:
        raise TypeError(f"PDF does not know {type(item).__name__}")

    @_draw.register
    def _(self, item: Lines) -> None:
        self._take(item.pencil)
        self._canvas.lines((item.ends * POINTS_PER_MM).tolist())

    @_draw.register
    def _(self, item: Arcs) -> None:
        self._take(item.pencil)
        path = self._canvas.beginPath()
        curves, number = cubics(item.arcs, CUBIC_MM)
        fresh = begins_run(item.arcs)[number] & (np.diff(number, prepend=-1) > 0)
        placed = (curves * POINTS_PER_MM).reshape(-1, 8).tolist()
        for begins, curve in zip(fresh.tolist(), placed, strict=True):
            if begins:
                path.moveTo(*curve[:2])
            path.curveTo(*curve[2:])
        self._canvas.drawPath(path)

    @_draw.register
    def _(self, item: Cubics) -> None:
        if not len(item.cubics):
            return
        self._take(item.pencil)
        path = self._canvas.beginPath()
        placed = item.cubics * POINTS_PER_MM
        path.moveTo(*placed[0, 0].tolist())
        for curve in placed[:, 1:].reshape(-1, 6).tolist():
            path.curveTo(*curve)
        self._canvas.drawPath(path)

    @_draw.register
    def _(self, item: Area) -> None:
        self._canvas.saveState()
        self._fill(item.colour)
        self._canvas.setFillAlpha(item.cover)
        path = self._canvas.beginPath()
        for ring in item.rings():
            _run_round(path, ring)
        self._canvas.drawPath(path, stroke=0, fill=1, fillMode=0)
        self._canvas.restoreState()

    @_draw.register
    def _(self, item: Boxes) -> None:
        self._fill(item.colour)
        for box in (item.boxes * POINTS_PER_MM).tolist():
            self._canvas.rect(*box, stroke=0, fill=1)

    @_draw.register
    def _(self, item: Disc) -> None:
        self._fill(item.colour)
        self._canvas.circle(*_points((*item.place, item.radius_mm)), stroke=0, fill=1)

    @_draw.register
    def _(self, item: Words) -> None:
        from isometron.pages.type_family import register

        register()
        canvas = self._canvas
        self._fill(item.colour)
        canvas.setFont("B612-Bold" if item.bold else "B612", item.size_mm * POINTS_PER_MM)
        ways = {MIDDLE: canvas.drawCentredString, END: canvas.drawRightString}
        write = ways.get(item.stands, canvas.drawString)
        if not item.angle_deg:
            write(*_points(item.place), item.text)
            return
        canvas.saveState()
        canvas.translate(*_points(item.place))
        canvas.rotate(item.angle_deg)
        write(0, 0, item.text)
        canvas.restoreState()

    @_draw.register
    def _(self, item: Picture) -> None:
        canvas, image = self._canvas, _image(item.content)
        canvas.saveState()
        canvas.translate(*_points(item.corner))
        canvas.rotate(item.turn_deg)
        canvas.setFillAlpha(item.strength)
        canvas.drawImage(image, 0, 0, *_points(item.size))
        canvas.restoreState()

    @_draw.register
    def _(self, item: Link) -> None:
        if item.to not in self._marked:
            return
        left, bottom, wide, high = _points(item.box)
        self._canvas.linkRect("", item.to, (left, bottom, left + wide, bottom + high), thickness=0)

    @_draw.register
    def _(self, item: Layer) -> None:
        self._all(item.items)

    @_draw.register
    def _(self, item: Placed) -> None:
        canvas = self._canvas
        canvas.saveState()
        if item.box is not None:
            path = canvas.beginPath()
            path.rect(*_points(item.box))
            canvas.clipPath(path, stroke=0, fill=0)
        if any(item.by):
            canvas.translate(*_points(item.by))
        self._all(item.items)
        canvas.restoreState()

    @_draw.register
    def _(self, item: Kept) -> None:
        self._keep(item)
        self._canvas.doForm(item.key)

    def _keep(self, item: Kept) -> None:
        """Draw what is kept into the file, once; first what it is itself made of."""
        if item.key in self._kept:
            return
        items = item.items()
        for one in items:
            if isinstance(one, Kept):
                self._keep(one)
        self._canvas.beginForm(item.key, *_points(item.around))
        self._all(items)
        self._canvas.endForm()
        self._kept.add(item.key)

    def _take(self, pencil: Pencil) -> None:
        from reportlab.lib.colors import HexColor

        self._canvas.setStrokeColor(HexColor(pencil.colour))
        self._canvas.setLineWidth(pencil.width_mm * POINTS_PER_MM)
        self._canvas.setLineCap(0 if pencil.dash_mm else 1)
        self._canvas.setDash([mm * POINTS_PER_MM for mm in pencil.dash_mm])

    def _fill(self, colour: str) -> None:
        from reportlab.lib.colors import HexColor

        self._canvas.setFillColor(HexColor(colour))


def _run_round(path: Any, ring: Array) -> None:
    """A closed ring of arcs (n, 3, 3)."""
    curves, number = cubics(ring, CUBIC_MM)
    level = is_straight(ring)[number].tolist()
    path.moveTo(*(curves[0, 0] * POINTS_PER_MM).tolist())
    for flat, curve in zip(level, (curves * POINTS_PER_MM).reshape(-1, 8).tolist(), strict=True):
        if flat:
            path.lineTo(*curve[6:])
        else:
            path.curveTo(*curve[2:])
    path.close()


def _image(content: bytes) -> Any:
    """An encoded picture for a page. Raises FileError for a damaged one."""
    from reportlab.lib.utils import ImageReader

    try:
        image = ImageReader(io.BytesIO(content))
        image.getRGBData()
    except Exception as error:  # whatever a decoder raises for what is no sound picture
        raise FileError(
            _("The picture under the sheet is damaged: let it not go out with the sheet.")
        ) from error
    return image
