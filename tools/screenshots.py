"""Take the pictures in docs/screenshots from the sample sheet, offscreen.

.venv/bin/python tools/screenshots.py
"""

import os
import tempfile
import unittest.mock
from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PyQt6.QtCore import QBuffer, QIODevice, QPointF, QSettings, QSize, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from isometron.deeds.deed import Matter
from isometron.document.document import Document
from isometron.document.edits import (
    choosing,
    finishing,
    lighting,
    sheet_edits,
    volume_edits,
)
from isometron.document.edits.faces import on_faces, skinning
from isometron.document.edits.pictures import bringing, marking
from isometron.document.edits.stances import LOOKING_DOWN, take_stance
from isometron.document.edits.starters import SHED, with_starter
from isometron.document.lights.sun import Sun
from isometron.drawing.picks.face import FacePick
from isometron.drawing.scene import scene_of
from isometron.drawing.small import small_of
from isometron.files.building.booklet import booklet_of
from isometron.files.journal import Stamp
from isometron.files.sheet_file import (
    SAMPLE_NAME,
    SKETCH_SAMPLE,
    SKETCH_SHEET,
    sample_picture,
    sample_sheet,
)
from isometron.framework.skins import Skin
from isometron.practice.drill import drill_of
from isometron.practice.hand import SampleHand
from isometron.practice.log import Entry, Log
from isometron.practice.paper.reading import read_page
from isometron.practice.paper.sample import photographed
from isometron.practice.series import Person, Series, entry_of
from isometron.reading.laying import lay_sheet
from isometron.reading.of_picture import (
    likely_axle,
    likely_corner,
    likely_family,
    picture_in,
    reading_of,
    rim_in,
)
from isometron.reading.sketch.own_sheet import as_framework, corners_of, own_sheet
from isometron.reading.sketch.sizes import size_of
from isometron.render.small import small_png
from isometron.stand_ins.camera import Camera, truth
from isometron.stand_ins.hand import Hand
from isometron.ui.bench.app import application
from isometron.ui.bench.logged import HIGH, WEIGHT, WIDE
from isometron.ui.bench.window import Bench
from isometron.ui.parts.theme import DARK_ROOM

OUT = Path(os.environ.get("SHOTS", Path(__file__).parents[1] / "docs" / "screenshots"))


def open_bench(document: Document, called: str = SAMPLE_NAME) -> Bench:
    settings = QSettings(f"{tempfile.mkdtemp()}/settings.ini", QSettings.Format.IniFormat)
    bench = Bench(document, settings=settings, called=called)
    bench.show()
    QApplication.processEvents()
    bench.settle()
    return bench


def take(bench: Bench, name: str) -> None:
    bench.settle()
    for _time in range(200):  # small drawings come one at a time
        QApplication.processEvents()
    bench.grab().save(str(OUT / f"{name}.png"))
    bench.session.mark_saved(OUT / name, "", Stamp(0, ""))
    bench.close()


def press_and_move(bench: Bench, start: QPointF, end: QPointF) -> None:
    QTest.mousePress(bench.board, Qt.MouseButton.LeftButton, pos=start.toPoint())
    for step in (0.3, 0.7, 1.0):
        QTest.mouseMove(bench.board, (start + (end - start) * step).toPoint())
        QApplication.processEvents()


def main() -> None:
    app = application()
    take(open_bench(sample_sheet()), "bench")

    down = volume_edits.make_cube(take_stance(sample_sheet(), LOOKING_DOWN))
    inches = sheet_edits.set_ruler(sheet_edits.set_unit(down, "in"), 24 * 25.4)
    bench = open_bench(sheet_edits.show_see_through(inches, False))
    bench.enter_room(DARK_ROOM)
    take(bench, "dark-room")

    bench = open_bench(sample_sheet("supply crawler"), "supply crawler")
    cabin = next(i for i, v in enumerate(bench.session.document.volumes) if "cabin" in v.name)
    picture = bench.session.scene.pictures[cabin]
    roof = next(i for i, n in enumerate(picture.body.normals) if n[2] > 0.99)
    ring = picture.sheet[list(picture.body.rings[roof][0])]
    place = bench.board.view.point((float(ring[:, 0].mean()), float(ring[:, 1].mean())))
    QTest.mouseClick(bench.board, Qt.MouseButton.LeftButton, pos=place.toPoint())
    bench.settle()
    press_and_move(bench, place, place + QPointF(0, -22))
    take(bench, "crawler")

    bench = open_bench(choosing.choose_all(sample_sheet("observing chair")), "observing chair")
    bench.slip.groups[Matter.COPIES].unfold()
    take(bench, "chair")

    app.processEvents()
    slip()
    openings()
    rounds()
    photograph()
    own_sketch()
    bench = open_bench(sample_sheet("crawler in the sun"), "crawler in the sun")
    bench.open_place("finish")
    take(bench, "light")
    views()
    practice()
    build_order()


def views() -> None:
    """A page of four views, lit and finished, and a curved sheet."""
    page = lighting.set_light(sample_sheet("crawler page"), Sun(255.0, 40.0))
    page = lighting.set_shading(page, steps=6)
    bench = open_bench(finishing.set_finish(page, weighted=True), "crawler page")
    bench.open_place("stand")
    bench.open_card.open_page(1)
    take(bench, "views")
    bench = open_bench(sample_sheet("curved crawler"), "curved crawler")
    bench.open_place("stand")
    bench.open_card.open_page(1)
    take(bench, "curved")


def small_picture(document: Document) -> bytes:
    """The small picture that the log keeps of a sheet."""
    drawn = small_of(document, scene_of(document))
    return small_png(drawn, QSize(WIDE, HIGH), WEIGHT)


def practice() -> None:
    """A drill answered, a photographed page, and the log of some made-up months, in a data place of
    its own."""
    with (
        tempfile.TemporaryDirectory() as place,
        unittest.mock.patch.dict(os.environ, {"XDG_DATA_HOME": place}),
    ):
        log, person, hand = Log(), Person(), SampleHand(bias=0.9, unsteady=1.2, seed=3)
        log.allow(True)
        keys = ("cube", "divide", "level", "ellipse", "which")
        for number in range(40):
            series = Series(person, 1000 * number, keys[number % len(keys)])
            day = date.today() - timedelta(days=round(3.4 * (40 - number)) + number % 3)
            while not series.over:
                exercise = series.exercise()
                done = series.answer(exercise, hand.answer(exercise), seconds=21.0)
                at = f"{day}T18:{len(series.done):02d}:00"
                log.add(entry_of(done, person)._replace(at=at))
            if number % 7 == 3:
                log.add(Entry(f"{day}T19:00:00", "note", "Step back more.", {}, "eye"))
            if number % 5 == 2:
                name = ("supply crawler", "observing chair", "red lamp")[number // 5 % 3]
                entry = Entry(f"{day}T20:00:00", "sheet", name, {"words": "saved"}, "sheet")
                log.add(entry, small_picture(sample_sheet(name)))
        bench = open_bench(sample_sheet("supply crawler"), "supply crawler")
        bench.open_place("practice")
        card = bench.open_card
        card._begin(Series(person, 4711, "cube"))
        card.sheet.set_places(SampleHand(-7.0, 2.0, 3).answer(card.exercise).places)
        card.go_on()
        take(bench, "practice")
        bench = open_bench(sample_sheet("supply crawler"), "supply crawler")
        bench.open_place("practice")
        card = bench.open_card
        exercises = [drill_of("cube3").exercise(12 + n, 0.4) for n in (0, 1)]
        answers = [SampleHand(2.0, 1.0, n).answer(one) for n, one in enumerate(exercises)]
        drawn = Hand(seed=3, searching=0, overshoot_mm=1.0, unsteady_mm=0.15, px_per_mm=7.0)
        card.begin_brought(read_page(photographed(exercises, answers, drawn)))
        take(bench, "on-paper")
        bench = open_bench(sample_sheet("supply crawler"), "supply crawler")
        bench.open_log()
        take(bench, "log")


def openings() -> None:
    """The generator shed with its openings and boards."""
    shed = choosing.select(with_starter(Document(), SHED, SHED.proposal), 0)
    for side, wanted in (
        (0, on_faces.Wanted("round", "60 cm", "1.6 m", "34 cm", "34 cm", "10 cm")),
        (
            0,
            on_faces.Wanted(
                "square", "50 cm", "70 cm", "90 cm", "75 cm", "6 cm", upward=7, gap_mm=20
            ),
        ),
        (2, on_faces.Wanted("square", "45 cm", "8 cm", "95 cm", "2 m", "12 cm")),
        (
            2,
            on_faces.Wanted(
                "square", "1.9 m", "1.2 m", "1.8 m", "70 cm", "12 cm", across=3, gap_mm=80
            ),
        ),
    ):
        shed = on_faces.put_on(shed, lambda v, s=side: on_faces.face_to(v, s), wanted)
    walls = skinning.surfaces_of(shed.volume, "upright")
    shed = skinning.lay_skins(shed, walls, Skin(0, "boards", 160.0, 160.0))
    bench = open_bench(sheet_edits.show_see_through(shed, False), "generator shed")
    bench.slip.groups[Matter.SIZE].line.setChecked(False)
    bench.slip.groups[Matter.OPENINGS].unfold()
    take(bench, "openings")


def slip() -> None:
    """A face picked and pushed, with what is being typed shown on the sheet."""
    bench = open_bench(sample_sheet("eyepiece case"))
    bench.wishes.pick(FacePick(0, 2))
    bench.settle()
    bench.board.setFocus()
    QTest.keyClicks(bench.board, "8")
    take(bench, "slip")


def rounds() -> None:
    """Ellipses, wheels and turned forms."""
    crawler = sample_sheet("supply crawler")
    wheel = next(i for i, v in enumerate(crawler.volumes) if v.name == "Front wheel")
    bench = open_bench(replace(crawler, selected=wheel), "supply crawler")
    bench.open_place("build")
    take(bench, "ellipse")


def photograph() -> None:
    """The sample photograph with its families and eye level, and the sheet laid over it."""
    crawler = sample_sheet("supply crawler")
    corners = [tuple(place) for place in truth(crawler, Camera())["volumes"][0]["corners"]]
    picture = picture_in(sample_picture("supply crawler"), "supply crawler.jpg")
    read = reading_of(picture)
    document = bringing.bring_picture(Document(), picture)
    ends = [
        (likely_family(picture, corners[0], corners[end], read.reading), corners[end])
        for end in (1, 2, 4)
    ]
    corner = likely_corner(picture, corners[0], ends, 1.0)
    first = len(document.photograph.edges)
    document = marking.add_corner(document, corner, corners[0], ends)
    document = marking.say_known(document, "length", [first], 3100.0)
    wheel = rim_in(picture.file.content, ((480.0, 140.0), (712.0, 390.0)))
    axle = likely_axle(picture, wheel, read)
    document = marking.add_round(document, wheel, axle, "front wheel")
    bench = open_bench(document, "supply crawler")
    bench.open_place("picture")
    take(bench, "picture")

    bench = open_bench(lay_sheet(document), "supply crawler")
    bench.open_place("build")
    take(bench, "laid")


def own_sketch() -> None:
    """The sample sketch with what is off in it, and its correction sheet."""
    content = sample_picture(SKETCH_SAMPLE)
    corners = corners_of(content)
    picture = own_sheet(content, SKETCH_SAMPLE, corners, size_of("A3", corners))
    document = as_framework(bringing.bring_picture(sample_sheet(SKETCH_SHEET), picture))
    bench = open_bench(document, SKETCH_SHEET)
    bench.open_place("picture")
    bench.card("picture").open_page(2)
    bench.settle()
    take(bench, "sketch")


def build_order() -> None:
    """The build order at two stages, followed on paper, and a page of the booklet."""
    crawler = sample_sheet("supply crawler")
    for key, name in (("v2.circle-1.touching", "build-order"),):
        bench = open_bench(crawler, "supply crawler")
        bench.open_place("draw")
        bench.settle()
        card = bench.card("draw")
        card.steps.choose_key(next(s.key for s in card.order.steps if s.key.endswith(key)))
        take(bench, name)

    bench = open_bench(sample_sheet("observing chair"), "observing chair")
    bench.open_place("draw")
    bench.settle()
    card = bench.card("draw")
    card.steps.choose_key(card.order.steps[19].key)
    card.follow_on_paper()
    card.page.showNormal()
    card.page.resize(1280, 800)
    QApplication.processEvents()
    card.page.grab().save(str(OUT / "follow.png"))
    card.page.close()
    bench.close()

    take_page(booklet_of(sample_sheet("red lamp")), 14, 1.5, "booklet")


def take_page(pages: bytes, number: int, scale: float, name: str) -> None:
    """One page of a PDF."""
    booklet = QPdfDocument(None)
    held = QBuffer()
    held.setData(pages)
    held.open(QIODevice.OpenModeFlag.ReadOnly)
    booklet.load(held)
    size = booklet.pagePointSize(number)
    page = booklet.render(number, (size * scale).toSize())
    opaque = QImage(page.size(), QImage.Format.Format_RGB32)
    opaque.fill(Qt.GlobalColor.white)
    painter = QPainter(opaque)
    painter.drawImage(0, 0, page)
    painter.end()
    opaque.save(str(OUT / f"{name}.png"))


if __name__ == "__main__":
    main()
