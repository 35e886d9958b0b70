"""Every item of a page, through every writer."""

import io
from typing import get_args
from xml.etree import ElementTree as ET

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader
from PyQt6.QtGui import QColor, QImage
from svgelements import SVG, Path, Shape

from isometron.drawing.dimension_marks import Label
from isometron.drawing.pencils import Pencil
from isometron.pages import pdf, svg
from isometron.pages.flow import LEADING, MARGIN_MM, Flow, broken
from isometron.pages.page import (
    Arcs,
    Area,
    Bookmark,
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
    circle,
    words_of,
)
from isometron.pages.raster import PAPER, raster_of
from isometron.perspective.conics import straight
from isometron.render.pages import paint
from isometron.render.painter import painting_on
from isometron.render.view import View

SIZE, PX = (60.0, 40.0), 6.0
THICK = Pencil("#102030", 0.8)
BOX = np.array([[10.0, 10.0], [30.0, 10.0], [30.0, 22.0], [10.0, 22.0]])
ROUND = np.array([[[10.0, 10.0, 1.0], [20.0, 30.0, 1.0], [40.0, 10.0, 1.0]]])  # a parabola
LINE = Lines(THICK, np.array([[10.0, 8.0, 40.0, 30.0], [10.0, 30.0, 25.0, 30.0]]))


def png(colour):
    content = io.BytesIO()
    Image.new("RGB", (40, 20), colour).save(content, "PNG")
    return content.getvalue()


def area():
    ring = np.concatenate([BOX, BOX[:1]])
    return Area("#204060", 1.0, lambda: [ring], lambda: [straight(ring[:-1], ring[1:])])


ZOO = {
    "lines": LINE,
    "arcs": Arcs(THICK, ROUND),
    "cubics": circle(THICK, (30.0, 20.0), 12.0),
    "area": area(),
    "boxes": Boxes("#000000", np.array([[10.0, 10.0, 20.0, 5.0], [40.0, 12.0, 5.0, 20.0]])),
    "disc": Disc("#804020", (30.0, 25.0), 6.0),
    "words": Words("Eye level", (12.0, 20.0), 8.0),
    "leaning words": Words("Axle", (30.0, 20.0), 8.0, "#176b78", "middle", True, 30.0),
    "words at their end": Words("Depth", (50.0, 20.0), 8.0, stands="end"),
    "label": words_of(Label("1 m", (30.0, 20.0), 0.0, 5.0, True), "#8f2b39"),
    "picture": Picture(png("#305070"), (20.0, 8.0), (20.0, 10.0)),
    "leaning picture": Picture(png("#305070"), (20.0, 8.0), (20.0, 10.0), 30.0, 0.5),
    "layer": Layer("edges of all", (LINE, circle(Pencil("#804020", 0.4), (30.0, 20.0), 5.0))),
    "placed": Placed((LINE,), (8.0, -4.0), (15.0, 5.0, 20.0, 18.0)),
    "placed in placed": Placed((Placed((LINE,), (4.0, 2.0)),), (8.0, -4.0)),
    "kept": Kept("once", (0.0, 0.0, 60.0, 40.0), lambda: (LINE,)),
    "link": Link((10.0, 10.0, 20.0, 5.0), "there"),
}


def painted(page):
    image = QImage(round(SIZE[0] * PX), round(SIZE[1] * PX), QImage.Format.Format_RGB888)
    image.fill(QColor(*PAPER))
    with painting_on(image) as painter:
        paint(painter, View(PX, 0.0, SIZE[1] * PX), page.items)
    memory = image.constBits().asarray(image.sizeInBytes())
    rows = np.frombuffer(memory, np.uint8).reshape(image.height(), image.bytesPerLine())
    return rows[:, : 3 * image.width()].reshape(image.height(), image.width(), 3).astype(float)


def drawn_round(shape):
    return shape.stroke.value is not None


def bounds(pixels):
    """Left, bottom, right, top of what is not paper, mm."""
    rows, columns = np.nonzero(np.abs(pixels - PAPER).max(axis=2) > 60)
    edges = columns.min(), pixels.shape[0] - rows.max() - 1, columns.max() + 1
    return np.array([*edges, pixels.shape[0] - rows.min()]) / PX


def test_the_zoo_holds_every_kind_of_item():
    assert {type(item) for item in ZOO.values()} == set(get_args(Item))


@pytest.mark.parametrize("name", ZOO)
def test_every_item_lies_at_the_same_place_whoever_writes_it(qapp, name):
    page = Page(SIZE, (ZOO[name],), (Bookmark("there", "There", 30.0),))
    printed, shown = raster_of(page, PX).astype(float), painted(page)
    drawn = svg.svg_of(page, name)
    content = PdfReader(io.BytesIO(pdf.pdf_of(Pages(name, (page,))))).pages[0]
    assert np.allclose(np.array(content.mediabox[2:], dtype=float) * 25.4 / 72, SIZE)
    if name == "link":
        assert (printed == PAPER).all() and (shown == PAPER).all() and "/Annots" in content
        return
    near = 0.5 if "words" in name or name == "label" else 0.35  # letters are hinted by one only
    assert np.abs(bounds(printed) - bounds(shown)).max() < near
    dark = np.array([(np.array(PAPER) - one).sum() for one in (printed, shown)])
    assert dark[0] == pytest.approx(dark[1], rel=0.12)
    if "words" in name or name == "label":
        assert ZOO[name].text in content.extract_text()
        (text,) = ET.fromstring(drawn).iter(f"{{{svg.SVG_NAMESPACE}}}text")
        assert text.text == ZOO[name].text
    elif "picture" not in name and name != "placed":  # (a reader of SVG that knows no clips)
        shapes = SVG.parse(io.BytesIO(drawn), ppi=25.4).elements(lambda e: isinstance(e, Shape))
        every = [(Path(one).bbox(), one.stroke_width / 2 * drawn_round(one)) for one in shapes]
        outer = np.array([[x0 - w, y0 - w, x1 + w, y1 + w] for (x0, y0, x1, y1), w in every])
        left, top, right, low = *outer[:, :2].min(axis=0), *outer[:, 2:].max(axis=0)
        assert np.abs(bounds(shown) - [left, 40.0 - low, right, 40.0 - top]).max() < 0.35


def test_words_flow_over_pages_with_their_numbers_and_are_found_by_title():
    flow = Flow((105.0, 148.0))
    flow.mark("one", "First of all")
    flow.words("Rule the eye level. " * 200)
    flow.mark("two", "And then")
    flow.words("to the first", leads_to="one")
    pages = flow.pages()
    file = PdfReader(io.BytesIO(pdf.pdf_of(Pages("A flow", pages))))
    told = " ".join(page.extract_text() for page in file.pages)
    assert told.replace("\n", " ").count("Rule the eye") + told.count("Rule\nthe") >= 195
    count = len(file.pages)
    assert count > 1 and all(
        page.extract_text().rstrip().endswith(f"{n} / {count}")
        or f"{n} / {count}" in page.extract_text()
        for n, page in enumerate(file.pages, start=1)
    )
    assert [one.title for one in file.outline] == ["First of all", "And then"]
    assert [file.get_destination_page_number(one) for one in file.outline] == [0, count - 1]
    assert "/Annots" in file.pages[-1] and file.metadata.title == "A flow"
    lowest = min(
        item.place[1] for page in pages for item in page.items[:-1] if isinstance(item, Words)
    )
    assert lowest >= MARGIN_MM - LEADING * 3.6
    assert all(len(line) for line in broken("a b " * 40, 20.0, 3.0))


NOTHING = {
    "lines": Lines(THICK, np.empty((0, 4))),
    "arcs": Arcs(THICK, np.empty((0, 3, 3))),
    "cubics": Cubics(THICK, np.empty((0, 4, 2))),
    "area": Area("#204060", 1.0, list, list),
    "boxes": Boxes("#000000", np.empty((0, 4))),
    "no width": Boxes("#000000", np.array([[5.0, 5.0, 0.0, 0.0]])),
    "words": Words("", (5.0, 5.0), 3.0),
    "layer": Layer("nothing", ()),
    "placed": Placed((), (3.0, 3.0), (0.0, 0.0, 0.0, 0.0)),
    "kept": Kept("nothing", (0.0, 0.0, 1.0, 1.0), tuple),
    "link to nowhere": Link((1.0, 1.0, 5.0, 5.0), "nobody has marked this"),
    "far off": Disc("#804020", (1e5, -1e5), 1.0),
}


@pytest.mark.parametrize("name", NOTHING)
def test_nothing_is_written_of_nothing(qapp, name):
    page = Page(SIZE, (NOTHING[name],))
    assert (raster_of(page, 2.0) == PAPER).all() and (painted(page) == PAPER).all()
    ET.fromstring(svg.svg_of(page, name))
    assert "/Annots" not in PdfReader(io.BytesIO(pdf.pdf_of(Pages(name, (page,))))).pages[0]
