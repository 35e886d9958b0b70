"""A series by mouse, one by keyboard alone, one by a pen; the log asked for once."""

from dataclasses import replace

import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QImage, QInputDevice, QPointingDevice, QTabletEvent
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from isometron.deeds.drawing import as_data
from isometron.files.practice import exercises_pdf
from isometron.files.sheet_file import sample_sheet
from isometron.practice.adapting import SERIES
from isometron.practice.drill import drill_of, drills
from isometron.practice.hand import SampleHand
from isometron.practice.log import Log, now
from isometron.practice.paper.layout import PAGE_MM, pages_of
from isometron.practice.paper.reading import read_page
from isometron.practice.paper.sample import photographed
from isometron.practice.small import drawing_of_drill
from isometron.render.painter import painting_on
from isometron.render.printing import layout_of, print_pages
from isometron.stand_ins.hand import Hand, sketch
from isometron.ui.bench.asking import Unsaved
from tests.scenes import case, sheet


@pytest.fixture
def card(desk, tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    at = desk()
    at.bench.open_place("practice")
    at.settle()
    found = at.bench.open_card
    found.desk = at  # the window lives as long as its card is used
    return found


def begin(card, key):
    card.which.setCurrentIndex(1 + list(drills()).index(key))
    QTest.mouseClick(card.begin, Qt.MouseButton.LeftButton)
    return card.sheet


def test_every_drill_is_drawn_and_begun_by_its_drawing(desk):
    drawn = {key: as_data(drawing_of_drill(key)) for key in drills()}
    assert all({"stays", "new"} & set(one) for one in drawn.values())
    assert len({repr(one) for one in drawn.values()}) == len(drawn), "no two look the same"
    at = desk()
    at.bench.open_place("practice")
    at.settle()
    card = at.bench.card("practice")
    tiles = card.sheet.gallery.tiles
    assert [tile.text() for tile in tiles] == [drill.title for drill in drills().values()]
    at.click(tiles[4].rect().center(), on=tiles[4])
    assert card.exercise.drill == list(drills())[4] and not card.sheet.gallery.isVisible()


def test_a_series_by_mouse_is_judged_logged_and_ends_with_what_it_says(card):
    QTest.mouseClick(card.allow, Qt.MouseButton.LeftButton)
    sheet = begin(card, "cube")
    for number in range(SERIES):
        exercise = card.exercise
        assert card.note.text() == f"{number + 1} / {SERIES}" and sheet.verdict is None
        for n, true in enumerate(exercise.truth.places):
            start, end = (sheet.at(place).toPoint() for place in (sheet.places[n], true))
            QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=start)
            QTest.mouseMove(sheet, end)
            QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=end)
            assert sheet.places[n] == pytest.approx(true, abs=0.5)
        QTest.mouseClick(card.answer, Qt.MouseButton.LeftButton)
        assert sheet.verdict is not None and "far edge" in card.says.text()
        assert max(abs(miss.error) for miss in sheet.verdict.misses) < 6.0
        QTest.mouseClick(card.answer, Qt.MouseButton.LeftButton)
    assert card.series is None and "never a score" in card.says.text()
    entries = Log().entries(kind="drill")
    assert len(entries) == SERIES and {one.about for one in entries} == {"cube"}
    assert not card.allow.isVisible()
    assert card.desk.document.volumes, "the sheet on the bench is as it was"


def test_a_series_by_keyboard_alone_needs_no_pointer(card):
    sheet = begin(card, "level")
    sheet.setFocus()
    for _number in range(SERIES):
        true, (_x, y) = card.exercise.truth.places[0][1], sheet.places[0]
        steps = round((true - y) / 0.5)
        key = Qt.Key.Key_Up if steps > 0 else Qt.Key.Key_Down
        many, few = divmod(abs(steps), 10)
        for _n in range(many):
            QTest.keyClick(sheet, key, Qt.KeyboardModifier.ShiftModifier)
        for _n in range(few):
            QTest.keyClick(sheet, key)
        assert f"{sheet.places[0][1]:.1f} mm up" in sheet.accessibleDescription()
        QTest.keyClick(sheet, Qt.Key.Key_Return)
        assert abs(sheet.verdict.misses[0].error) <= 0.3
        assert sheet.verdict.sentence in sheet.accessibleDescription()
        QTest.keyClick(sheet, Qt.Key.Key_Return)
    assert card.exercise is None
    assert Log().allowed is None and not Log().place.exists(), "nothing is kept unasked"


def pen(sheet, kind, place, pressure):
    at = QPointF(place)
    device = QPointingDevice(
        "pen",
        7,
        QInputDevice.DeviceType.Stylus,
        QPointingDevice.PointerType.Pen,
        QInputDevice.Capability.Pressure,
        1,
        1,
    )
    event = QTabletEvent(
        kind, device, at, at, pressure, 0.0, 0.0, 0.0, 0.0, 0.0,
        Qt.KeyboardModifier.NoModifier, Qt.MouseButton.LeftButton, Qt.MouseButton.LeftButton,
    )  # fmt: skip
    QApplication.sendEvent(sheet, event)


def test_a_series_by_pen_is_drawn_in_strokes_whose_pressure_is_not_judged(card):
    sheet = begin(card, "line")
    for number in range(SERIES):
        start, end = (np.array(place) for place in card.exercise.truth.stroke)
        across = np.array([start[1] - end[1], end[0] - start[0]]) / np.hypot(*(end - start))
        for n, t in enumerate(np.linspace(0, 1, 12)):
            kind = QEvent.Type.TabletPress if n == 0 else QEvent.Type.TabletMove
            place = start + t * (end - start) + 3.0 * t * (1 - t) * (number % 2) * across
            pen(sheet, kind, sheet.at(tuple(place.tolist())), 0.1 + 0.8 * t)
        pen(sheet, QEvent.Type.TabletRelease, sheet.at(tuple(end.tolist())), 0.0)
        assert sheet.verdict is not None, "a stroke is an answer"
        bow = next(m for m in sheet.verdict.misses if m.measure == "straightness")
        assert (abs(bow.error) > 0.1) == bool(number % 2)
        QTest.keyClick(sheet, Qt.Key.Key_Return)
    assert card.series is None


def test_choices_and_numbers_are_answered_on_the_card_and_bad_ones_said(card):
    begin(card, "which")
    right = card.exercise.truth.choice
    buttons = [card.choices.itemAt(n).widget() for n in range(card.choices.count())]
    assert [button.text() for button in buttons] == card.exercise.asks.lettered
    QTest.mouseClick(buttons[right], Qt.MouseButton.LeftButton)
    assert card.sheet.verdict.within and card.says.text() == "right"
    QTest.keyClick(card.sheet, Qt.Key.Key_Return)
    wrong = (card.exercise.truth.choice + 1) % 3
    assert card.exercise.asks.lettered[wrong] in card.sheet.accessibleDescription()
    QTest.keyClicks(card.sheet, "abc"[wrong])
    assert card.says.text().startswith("no: ")
    begin(card, "ratio")
    QTest.keyClick(card.sheet, Qt.Key.Key_Return)
    QTest.keyClick(card.number, Qt.Key.Key_Return)
    card.desk.settle()
    assert card.sheet.verdict is None, "what was not typed is no answer"
    QTest.keyClicks(card.number, "much")
    QTest.keyClick(card.number, Qt.Key.Key_Return)
    card.desk.settle()
    assert card.sheet.verdict is None and "no number" in card.says.text()
    card.number.selectAll()
    QTest.keyClicks(card.number, f"{2 * card.exercise.truth.number:g}")
    QTest.keyClick(card.number, Qt.Key.Key_Return)
    card.desk.settle()
    assert "100 % too long" in card.says.text()


def test_the_log_shows_days_errors_and_notes_and_finds_words(card, tmp_path):
    QTest.mouseClick(card.allow, Qt.MouseButton.LeftButton)
    sheet = begin(card, "level")
    for _n in range(3):
        QTest.keyClick(sheet, Qt.Key.Key_Return)
        QTest.keyClick(sheet, Qt.Key.Key_Return)
    at = card.desk
    at.bench.open_log()
    at.settle()
    log = at.bench.open_card
    assert log.page.isVisible() and log.page.rows.rowCount() == 3
    names = [log.which.itemText(n) for n in range(log.which.count())]
    assert names == ["journal", "what I get wrong", "Find the eye level: eye level"]
    assert log.page.journal.accessibleDescription() == "1 day of work."
    assert len(log.page.journal.days[0].ticks) == 3
    for number, kind, said in (
        (0, "csv", ",3,0,0,0,0\n"),
        (2, "csv", "number,error"),
        (2, "svg", "<svg"),
    ):
        log.which.activated.emit(number)
        written = tmp_path / f"chart.{kind}"
        at.answers.sends = written
        QTest.mouseClick(log.chart_out, Qt.MouseButton.LeftButton)
        assert said in written.read_text()
    log.which.activated.emit(1)
    assert "on the average of 3" in log.page.wrongs.text()
    log.which.activated.emit(2)
    assert "on the average of 3" in log.page.curve.accessibleDescription()
    log.which.activated.emit(0)
    days = log.page.journal
    today = days.line(len(days.days) - 1).center().toPoint()
    QTest.mouseClick(days, Qt.MouseButton.LeftButton, pos=today)
    assert log.page.rows.rowCount() == 3
    assert days.accessibleDescription().startswith(f"{now()[:10]}: 3 exercises")
    QTest.keyClicks(log.tag_field, "eye")
    QTest.keyClicks(log.note_field, "Step back more")
    QTest.keyClick(log.note_field, Qt.Key.Key_Return)
    at.settle()
    assert log.page.rows.rowCount() == 4 and [e.tag for e in Log().entries(kind="note")] == ["eye"]
    QTest.keyClicks(log.page.looking, "step BACK")
    shown = [r for r in range(4) if not log.page.rows.isRowHidden(r)]
    assert len(shown) == 1 and log.page.rows.item(shown[0], 3).text() == "Step back more"
    log.page.looking.clear()
    drill = next(r for r in range(4) if "eye level" in log.page.rows.item(r, 2).text())
    log.page.rows.selectRow(drill)
    entry = Log().entries(kind="drill")[-1 - drill if drill < 3 else 0]
    shown = log.page.sheet
    assert shown.isVisible() and shown.exercise.seed in {
        one.kept["seed"] for one in Log().entries(kind="drill")
    }
    assert shown.verdict.sentence == log.page.rows.item(drill, 3).text() and entry
    at.answers.saves = tmp_path / "kept.isometron"
    at.run("Save")
    at.bench.keeping.finish()
    saved = Log().entries(kind="sheet")
    assert [one.about for one in saved] == ["kept.isometron"] and saved[0].kept["did"] == "saved"
    assert saved[0].kept["view"] == "two-point" and Log().picture(saved[0].number)[:4] == b"\x89PNG"
    document = at.document
    at.bench.session.edit("empty", lambda d: replace(d, volumes=(), selected=None))
    at.settle()
    log.page.rows.selectRow(0)
    assert not log.page.picture.pixmap().isNull() and log.open_button.isVisible()
    at.bench.settle()
    log.show_document(None)
    assert log.page.picture.isVisible(), "what is looked at stays while nothing is written"
    at.answers.unsaved = Unsaved.DISCARD
    QTest.mouseClick(log.open_button, Qt.MouseButton.LeftButton)
    assert at.document.volumes == document.volumes
    saved_path = at.answers.saves
    saved_path.unlink()
    at.bench.open_log()
    log = at.bench.open_card
    log.page.rows.selectRow(1)
    QTest.mouseClick(log.open_button, Qt.MouseButton.LeftButton)
    assert "no longer where it was" in log.says.text()
    for kind, said in (("csv", "at,kind,about"), ("json", '"kind": "sheet"')):
        at.answers.sends = tmp_path / f"all.{kind}"
        QTest.mouseClick(log.out, Qt.MouseButton.LeftButton)
        assert said in at.answers.sends.read_text() and "Written to" in log.says.text()
    at.answers.throws_away = False
    QTest.mouseClick(log.erase, Qt.MouseButton.LeftButton)
    assert Log().count == 6
    at.answers.throws_away = True
    QTest.mouseClick(log.erase, Qt.MouseButton.LeftButton)
    assert Log().count == 0 and Log().allowed is None and log.page.rows.rowCount() == 0
    at.bench.open_place("build")
    at.settle()
    assert at.board.isVisible() and not log.page.isVisible()


def test_a_photographed_page_is_shown_with_what_was_found_and_judged(card, tmp_path):
    exercises = [drill_of("cube").exercise(4 + n, 0.4) for n in (0, 1)]
    answers = [SampleHand(2.0, 0.0).answer(exercises[0])]
    hand = Hand(seed=3, searching=0, overshoot_mm=0.3, unsteady_mm=0.1, px_per_mm=6.0)
    photo = tmp_path / "page.jpg"
    photo.write_bytes(photographed(exercises, answers, hand))
    card.paper.take(photo)
    assert card.note.text() == "1 / 2" and "was found" in card.says.text()
    for found, true in zip(card.sheet.places, answers[0].places, strict=True):
        assert found == pytest.approx(true, abs=0.6)
    QTest.mouseClick(card.answer, Qt.MouseButton.LeftButton)
    assert "long" in card.sheet.verdict.sentence
    QTest.keyClick(card.sheet, Qt.Key.Key_Return)
    assert "Not surely found: right far edge, left far edge" in card.says.text()
    truth = card.exercise.truth.places
    card.measures.selectAll()
    QTest.keyClicks(card.measures, "; ".join(f"{x:.1f} {y:.1f}" for x, y in truth))
    QTest.keyClick(card.measures, Qt.Key.Key_Return)
    QTest.mouseClick(card.answer, Qt.MouseButton.LeftButton)
    assert card.sheet.verdict.within
    photo.write_bytes(b"nothing")
    card.paper.take(photo)
    assert "picture" in card.says.text() and card.sheet.verdict is not None


def test_a_written_sheet_is_answered_by_typing_what_stands_on_it(card, tmp_path):
    out = tmp_path / "mine.pdf"
    card.which.setCurrentIndex(1 + list(drills()).index("level"))
    card.desk.answers.sends = out
    QTest.mouseClick(card.paper.write, Qt.MouseButton.LeftButton)
    assert out.exists() and (tmp_path / "mine-answers.pdf").exists()
    named = card.paper.name.text()
    assert named.count("level") == 4
    card.paper.name.clear()
    QTest.keyClicks(card.paper.name, named)
    QTest.keyClick(card.paper.name, Qt.Key.Key_Return)
    assert card.note.text() == "1 / 4"
    for words, said in (("12", "mm to the right"), ("1 2; 3 4", "Type 1 places")):
        card.measures.setText("")
        QTest.keyClicks(card.measures, words)
        QTest.keyClick(card.measures, Qt.Key.Key_Return)
        assert said in card.says.text() and card.sheet.verdict is None
    x, y = card.exercise.truth.places[0]
    card.measures.setText("")
    QTest.keyClicks(card.measures, f"{x} {y + 3:.2f}")
    QTest.keyClick(card.measures, Qt.Key.Key_Return)
    QTest.keyClick(card.sheet, Qt.Key.Key_Return)
    assert card.sheet.verdict.misses[0].error == pytest.approx(3.0, abs=0.006)
    for name, said in (("cube 3", "names no exercise"), ("juggling 3 0.3", "no drill")):
        card.paper.name.clear()
        QTest.keyClicks(card.paper.name, name)
        QTest.keyClick(card.paper.name, Qt.Key.Key_Return)
        assert said in card.says.text()


def test_helps_show_light_lines_or_the_build_order_and_say_nothing_of_the_eye(card):
    sheet = begin(card, "cube")
    helps = [card.help.itemText(n) for n in range(card.help.count())]
    assert helps == ["no help", "45° point", "measuring point", "the build order"]
    plain = sheet.grab().toImage()
    card.help.setCurrentIndex(2)
    card.help.activated.emit(2)
    assert sheet.grab().toImage() != plain
    card.help.activated.emit(3)
    assert card.order.isVisible() and "eye level" in card.order.text.text().lower() + str(
        [step.text for step in card.order._stages.steps]
    )
    card.order.close()
    before = dict(card.person.difficulty)
    sheet.set_places(card.exercise.truth.places)
    QTest.keyClick(sheet, Qt.Key.Key_Return)
    assert sheet.verdict.within and not card.person.errors
    assert card.person.difficulty["cube"] == before.get("cube", 0.3)


def test_what_stands_on_the_sheet_is_judged_when_its_time_is_over(card):
    card.limit.setCurrentIndex(3)
    sheet = begin(card, "level")
    assert card._time.interval() == 15_000 and card._time.isActive()
    card._time.timeout.emit()
    assert sheet.verdict is not None and card.says.text().startswith("Time is over. ")
    assert not card._time.isActive()
    begin(card, "which")
    card._time.timeout.emit()
    assert sheet.verdict is None and card.says.text() == "Time is over."


@pytest.mark.sample(1)
@pytest.mark.parametrize("printed", [False, True])
def test_a_printed_page_is_true_to_size_and_is_read_from_its_print(card, tmp_path, printed):
    """What leaves for paper, rendered as a scanner would see it, is read like a photograph."""
    exercises = [drill_of(key).exercise(31, 0.4) for key in ("order", "photo", "masts")]
    out = tmp_path / "page.pdf"
    if printed:
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(out))
        printer.setPageLayout(layout_of(PAGE_MM))
        print_pages(pages_of(exercises), printer)
    else:
        out.write_bytes(exercises_pdf(exercises))
    paper = QPdfDocument(None)
    paper.load(str(out))
    assert paper.pageCount() == 2
    read = []
    for number in (0, 1):
        size = paper.pagePointSize(number)
        assert (size.width(), size.height()) == pytest.approx((595.3, 841.9), abs=0.8)
        page = QImage((size * 200 / 72).toSize(), QImage.Format.Format_RGB32)
        page.fill(Qt.GlobalColor.white)
        with painting_on(page) as painter:
            painter.drawImage(0, 0, paper.render(number, page.size()))
        scan = tmp_path / f"{number}.png"
        page.save(str(scan))
        read += read_page(scan.read_bytes())
    assert [(one.exercise.drill, one.exercise.seed) for one in read] == [
        ("order", 31),
        ("photo", 31),
        ("masts", 31),
    ]
    masts = read[2]
    blue = masts.picture[:, :, 0].astype(int) < 200  # printed lines take red light
    rows, columns = np.nonzero(blue)
    drawn = np.stack([(columns + 0.5) / 8, 125.0 - (rows + 0.5) / 8], axis=1)
    for x0, y0, x1, y1 in masts.exercise.lines.tolist():
        middle = np.array([(x0 + x1) / 2, (y0 + y1) / 2])
        assert np.hypot(*(drawn - middle).T).min() < 0.25, "printed where it should be"
    assert masts.sure == (False, False)


def test_a_remark_put_right_and_pictures_read_are_kept_in_the_log(desk, tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    at = desk(sheet(case(yaw_deg=45.0)))
    label, remark = "Turn it to 30°", at.bench.strip.remarks[0]
    at.press(label)
    assert not Log().place.exists(), "nothing is kept unasked"
    at.run("Undo")
    Log().allow(True)
    at.settle()
    at.press(label)
    (kept,) = Log().entries(kind="remark")
    assert kept.about == remark.title and label in kept.kept["words"]
    drawn = tmp_path / "sketch.jpg"
    drawn.write_bytes(sketch(sample_sheet("eyepiece case"), Hand(seed=5)))
    at.answers.picture = drawn
    at.bench.open_place("picture")
    at.run("Open a picture…")
    at.bench.keeping.straighten("A3")
    (read,) = Log().entries(kind="reading")
    assert read.about == "sketch.jpg" and "420 × 297 mm" in read.kept["words"]
