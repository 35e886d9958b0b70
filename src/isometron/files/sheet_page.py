"""The sheet as a page: the picture under it, its values and shadows, its lines by layers."""

from collections.abc import Iterator
from typing import TYPE_CHECKING

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import sent_underlay_of
from isometron.drawing.page import Known, page_strokes
from isometron.drawing.pencils import GRAPHITE
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import Strokes
from isometron.pages import pdf, svg
from isometron.pages.page import Arcs, Area, Item, Layer, Lines, Page, Pages, Picture, words_of
from isometron.perspective.eye import Array
from isometron.words import _

if TYPE_CHECKING:
    from isometron.document.light import Light
    from isometron.drawing.shading.shown import Wash


def svg_of(document: Document, scene: Scene | None = None) -> bytes:
    """The sheet as SVG in true millimetres, one named layer per role of line."""
    return svg.svg_of(sheet_page(document, scene), _("Isometron sheet"))


def pdf_of(document: Document, scene: Scene | None = None) -> bytes:
    """The sheet as one PDF page of exactly its size."""
    return pdf.pdf_of(Pages(_("Isometron sheet"), (sheet_page(document, scene),)))


def sheet_page(document: Document, scene: Scene | None = None) -> Page:
    """Everything on the paper by layers, the lowest first: the picture when it goes out with the
    sheet, values and shadows by their kind, then lines."""
    scene = scene or scene_of(document)
    known: Known = {}
    layers = [*_underlay(document), *_washes(document, scene, known)]
    layers += [_drawn(strokes) for strokes in page_strokes(document, scene, known)]
    return Page((document.sheet.width_mm, document.sheet.height_mm), tuple(layers))


def _underlay(document: Document) -> Iterator[Layer]:
    laid, picture = sent_underlay_of(document), document.photograph
    if laid is not None and picture is not None:
        size = picture.width * laid.mm_per_px, picture.height * laid.mm_per_px
        corner = laid.on_sheet((0.0, 0.0))
        shown = Picture(picture.file.content, corner, size, laid.turn_deg, laid.strength)
        yield Layer(_("picture"), (shown,), "picture")


def _washes(document: Document, scene: Scene, known: Known) -> Iterator[Layer]:
    light = document.light
    if light is None:
        return
    from isometron.drawing.page import page_washes

    by_name: dict[str, list[Item]] = {}
    for wash in page_washes(document, scene, known):
        by_name.setdefault(wash.name, []).append(_area(wash, light))
    for name, areas in by_name.items():
        yield Layer(name, tuple(areas))


def _area(wash: "Wash", light: "Light") -> Area:
    def polygons() -> list[Array]:
        return [ring for polygon in wash.area.rings() for ring in polygon]

    def rings() -> list[Array]:
        from isometron.drawing.shading.outlines import outlines_of

        outlines = outlines_of(wash.scene, light, wash.area)
        return [ring for polygon in outlines for ring in polygon]

    return Area(GRAPHITE, wash.cover, polygons, rings)


def _drawn(strokes: Strokes) -> Layer:
    """Lines, curves and words of one layer."""
    pencil = strokes.layer.pencil
    items: list[Item] = [Lines(pencil, strokes.lines)]
    if len(strokes.arcs):
        items.append(Arcs(pencil, strokes.arcs))
    items += [words_of(label, pencil.colour) for label in strokes.labels]
    return Layer(strokes.layer.name, tuple(items))
