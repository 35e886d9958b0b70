"""Every kind of sheet with everything the window does by itself: bounded, and never blank where
there is something. A new writer joins by standing in its table, a new kind of sheet by a line here.
"""

import base64
import signal
from contextlib import contextmanager
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from PyQt6.QtCore import QSize
from PyQt6.QtGui import QImage
from PyQt6.QtPrintSupport import QPrinter

from isometron.document.document import Document
from isometron.document.edits.pictures import bringing
from isometron.document.edits.projecting import Projecting
from isometron.document.picture import PictureFile, SheetPicture
from isometron.document.view import View
from isometron.drawing import curves
from isometron.drawing.scene import scene_of
from isometron.drawing.small import small_of
from isometron.drawing.stations import plan_view, side_view
from isometron.files.formats import OUTGOING, Asked
from isometron.files.journal import Journal, LeftBehind
from isometron.files.sheet_file import sample_picture, sample_sheet
from isometron.perspective.errors import IsometronError
from isometron.practice.log import Log
from isometron.remarks.second_look import second_look
from isometron.render.painting import QtPainting
from isometron.render.printing import layout_of, print_sheet
from isometron.render.small import small_png
from isometron.ui.bench.found_reading import what_is_found
from isometron.ui.bench.logged import SAVED, log_sheet
from isometron.ui.bench.waiting import patiently
from tests.scenes import case, crowd, eye, seen_by, sheet

HANGS_AFTER_S = 120
MOST_PIECES = 200_000
"""Cubics made for one deed: a page has a few hundred, what never came back made millions."""


@contextmanager
def bounded(monkeypatch):
    """Ends what hangs, and counts the pieces that curves are cut into."""
    made, plain = SimpleNamespace(pieces=0), curves.cubics

    def counted(*given):
        found = plain(*given)
        made.pieces += len(found[0])
        return found

    for module in ("drawing.curves", "render.painter", "pages.pdf", "pages.svg"):
        monkeypatch.setattr(f"isometron.{module}.cubics", counted)
    signal.alarm(HANGS_AFTER_S)
    try:
        yield
    finally:
        signal.alarm(0)
    assert made.pieces < MOST_PIECES


curved = Projecting(curved=True)


def pictured():
    content = sample_picture("red lamp")
    picture = SheetPicture("red lamp", PictureFile(content), 1600, 1131)
    return bringing.bring_picture(Document(), picture)


def yard(count):
    """Boxes in rows, none touching another."""
    return [
        case(name=f"Case {n}", x_mm=500.0 * (n % 40 - 20), y_mm=2000.0 + 600.0 * (n // 40))
        for n in range(count)
    ]


def kinds(many):
    round_ones, page = sample_sheet("red lamp"), sample_sheet("crawler page")
    lit = sample_sheet(many("case by lamplight", "crawler in the sun"))
    boxes = sheet(case(), case(name="Tin", y_mm=1500.0, x_mm=300.0))
    beside = (case(), case(name="Beside", x_mm=400.0, y_mm=0.0), case(name="Behind", y_mm=-900.0))
    seen = lambda **by: sheet(*beside, by=eye(**by))  # noqa: E731
    crawler = sample_sheet("supply crawler")
    return {
        "flat": boxes,
        "round": round_ones,
        "curved": curved(boxes),
        "curved round": curved(crawler),
        "curved, all about the eye": curved(sheet(*beside)),
        "curved, eye within": curved(sheet(case(x_mm=-100.0, y_mm=-90.0, z_mm=1400.0))),
        "parallel": replace(page, views=page.views[:1] + page.views[-1:]),
        "page of views": page,
        "curved page": replace(page, views=tuple(map(bent, page.views))),
        "lit": lit,
        "lit, curved": curved(lit),
        "with picture": pictured(),
        "picture under a framework": replace(pictured(), volumes=boxes.volumes),
        "blank": Document(),
        "crowd": sheet(*crowd(many(40, 250))),
        "yard": sheet(*yard(many(60, 2000))),
        "beside and behind": sheet(*beside),
        "straight down": seen(tilt_deg=-90.0),
        "all behind": sheet(case(y_mm=-2000.0)),
        "eye within a box": sheet(case(x_mm=-100.0, y_mm=-90.0, z_mm=1400.0)),
        "off the paper": sheet(case(x_mm=3000.0)),
        "round beside": replace(
            round_ones, views=seen_by(eye(x_mm=0.0, y_mm=0.0, height_mm=300.0))
        ),
        "at the ends of the world": sheet(case(x_mm=9e5, y_mm=9e5), case(y_mm=0.4, x_mm=-180.0)),
    }


def bent(view: View) -> View:
    return (
        view if view.eye.parallel is not None else replace(view, eye=replace(view.eye, curved=True))
    )


def shown(png):
    """Whether an encoded picture shows more than paper."""
    image = QImage.fromData(png).convertToFormat(QImage.Format.Format_Grayscale8)
    bits = image.constBits()
    bits.setsize(image.sizeInBytes())
    grey = np.frombuffer(bits, dtype=np.uint8).reshape(image.height(), -1)[:, : image.width()]
    return int(np.ptp(grey)) > 60


DEAR, ALSO = (".pdf", ".ora"), "curved, all about the eye"
"""Of a build order these take seconds: written of one kind of sheet, of all with --full."""


def wrote(one, form, document):
    """What a writer makes of a document, or the sentence it says."""
    try:
        return len(form.write(document, Asked(QtPainting(), dpi=50.0)))
    except IsometronError as error:
        assert str(error)
        return 0


ODD = ("blank", "curved page", "lit, curved", ALSO, "beside and behind", "at the ends of the world")
NAMES = list(kinds(lambda usually, _every: usually))


@pytest.mark.sample(7)
@pytest.mark.parametrize("name", NAMES)
def test_what_the_window_does_by_itself_ends_and_shows_what_is_there(
    name, tmp_path, monkeypatch, many, qapp
):
    document = kinds(many)[name]
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    Log().allow(True)
    something = bool(document.volumes or document.pictures)
    with bounded(monkeypatch):
        scene = scene_of(document)
        for made in (small_of(document, scene), small_of(document)):
            assert made.empty != something
            assert not something or shown(small_png(made, QSize(190, 134), 1.6))
        drawing = log_sheet(document, scene, name, SAVED)
        drawing.join()
        (entry,) = Log().entries()
        assert bool(Log().picture(entry.number)) == something
        journal = Journal(tmp_path / "journal")
        journal.write(document, name, None)
        journal.let_go()
        told = what_is_found(journal.path)
        assert "error" not in told and bool(told["found"]) == something
        assert not something or shown(base64.b64decode(told["found"]))
        behind = LeftBehind(tmp_path / "journal")
        assert behind.found[0].document == document
        behind.let_go()
        for remark in second_look(document, scene):
            assert remark.text and np.isfinite(remark.value)
        plan, side = plan_view(document, scene, 0.0), side_view(document, scene)
        assert np.isfinite(plan.extent).all() and np.isfinite(side.extent).all()
        printer = QPrinter()
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(tmp_path / "print.pdf"))
        printer.setPageLayout(layout_of((document.sheet.width_mm, document.sheet.height_mm)))
        assert patiently(lambda: print_sheet(document, scene, printer), "Printing…") == 1


@pytest.mark.sample(2)
@pytest.mark.parametrize(
    "name", [one if one in ODD else pytest.param(one, marks=pytest.mark.full) for one in NAMES]
)
def test_every_writer_ends_on_every_kind_of_sheet(name, monkeypatch, many, qapp):
    document = kinds(lambda few, every: few if isinstance(few, int) else many(few, every))[name]
    with bounded(monkeypatch):
        for one in OUTGOING:
            for form in one.formats:
                dear = one.key == "steps" and form.ending in DEAR and name != ALSO
                if dear and not many(False, True):
                    continue
                assert wrote(one, form, document) or one.needs_volumes or form.ending != ".svg"
