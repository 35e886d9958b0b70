"""The Picture tab under the hand: from a photograph to a sheet, another view and a print."""

import struct
import zlib
from dataclasses import replace

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QCheckBox

from isometron.document.document import Document
from isometron.document.edits.pictures import marking
from isometron.document.edits.pictures.bringing import bring_picture, change_picture
from isometron.document.picture import EDGE, Laid, Mark, PictureFile, SheetPicture
from isometron.files.sheet_file import read_sheet, sample_picture, sample_sheet, write_sheet
from isometron.perspective.lengths import write_mm
from isometron.stand_ins.camera import Camera, truth
from isometron.stand_ins.hand import Hand as DrawingHand
from isometron.stand_ins.hand import Mistake, sketch
from isometron.ui.bench import waiting
from isometron.ui.bench.place_table import number_of
from isometron.ui.board.pictures import tools
from isometron.ui.cards.second_look import SecondLookStrip

TOLD = truth(sample_sheet("supply crawler"), Camera())
BODY = [tuple(place) for place in TOLD["volumes"][0]["corners"]]


class Hand:
    """A hand on the picture board that counts what it does."""

    def __init__(self, at):
        self.at, self.actions = at, 0
        self.board = at.bench.picture_board

    def settle(self):
        self.at.settle()
        self.at.settle()

    def press(self, words):
        self.actions += 1
        self.at.press(words)
        self.settle()

    def tab(self, key):
        self.actions += 1
        place = self.at.bench.rail.tabRect(number_of(key)).center()
        QTest.mouseClick(self.at.bench.rail, Qt.MouseButton.LeftButton, pos=place)
        self.settle()

    def page(self, number):
        self.actions += 1
        card = self.at.bench.card("picture")
        QTest.mouseClick(card.page_buttons[number], Qt.MouseButton.LeftButton)
        self.settle()
        return card.page(number)

    def click(self, place, keys=Qt.KeyboardModifier.NoModifier):
        self.actions += 1
        spot = self.board.view.point(place).toPoint()
        QTest.mouseClick(self.board, Qt.MouseButton.LeftButton, keys, spot)
        self.settle()

    def drag(self, start, end, *, alt=False):
        self.actions += 1
        one, two = (self.board.view.point(place).toPoint() for place in (start, end))
        self.at.drag(QPointF(one), ((two - one).x(), (two - one).y()), on=self.board, alt=alt)
        self.settle()

    def write(self, field, text):
        self.actions += 1
        self.at.write(field, text)
        self.settle()

    @property
    def picture(self):
        return self.at.document.photograph

    @property
    def slip(self):
        return self.at.bench.column.picture_slip.lines.told


@pytest.fixture
def pinned(desk):
    at = desk(Document())
    hand = Hand(at)
    hand.tab("picture")
    hand.press("Sample: supply crawler")
    return hand


def test_from_a_picture_to_a_sheet_to_another_view_to_print(pinned, tmp_path):
    hand, at = pinned, pinned.at
    assert "eye level" in hand.slip and hand.picture.edges
    hand.press("Corner")
    for corner in (0, 1, 2, 4):
        hand.click(BODY[corner])
    page = hand.page(1)
    hand.write(page["is"], "310 cm")
    hand.page(3)
    hand.press("Lay a sheet over it")
    (box,) = at.document.volumes
    sides = sorted(TOLD["volumes"][0]["sides_mm"])
    assert sorted(box.sides) == pytest.approx(sides, rel=0.02)
    assert not at.bench.pictured and "true size" in hand.slip
    assert at.document.eye.tilt_deg == pytest.approx(TOLD["view"]["tilt_deg"], abs=0.3)
    hand.tab("stand")
    hand.press("Low down")
    assert at.document.volumes == (box,), "the proportions stay"
    at.answers.draws = tmp_path / "crawler.pdf"
    at.run("Draw to a file…")
    hand.actions += 1
    assert (tmp_path / "crawler.pdf").read_bytes().startswith(b"%PDF")
    assert hand.actions <= 20
    at.answers.saves = tmp_path / "crawler.isometron"
    at.run("Save")
    assert read_sheet(tmp_path / "crawler.isometron") == at.document


def test_lines_in_doubt_are_asked_for_with_what_to_do_and_one_answer_settles_them(pinned):
    hand, at = pinned, pinned.at
    told, lines = hand.slip, hand.picture.edges

    def doubtful(what):
        left = tuple(replace(edge, family="stray", left=True) for edge in lines)
        at.bench.session.edit(
            "doubt",
            lambda d: change_picture(d, lambda one: replace(one, edges=left, doubt=what)),
        )
        hand.settle()
        assert at.bench.column.picture_slip.lines.told != told

    doubtful("ways")
    assert "Draw a box round the thing (B)" in hand.slip
    hand.press("Thing")
    hand.drag((5.0, 5.0), (hand.picture.width - 5.0, hand.picture.height - 5.0))
    assert not hand.picture.doubt and "eye level" in hand.slip
    assert any(not edge.left for edge in hand.picture.edges)
    for words, cropped in (("All that the camera saw", False), ("A part of it", True)):
        doubtful("cut")
        assert "a part (X)" in hand.slip
        at.run(words)
        hand.settle()
        assert hand.picture.cropped is cropped


def test_a_click_picks_a_line_another_leaves_it_out_and_undo_takes_it_in_again(pinned):
    hand, at = pinned, pinned.at
    number = next(i for i, e in enumerate(hand.picture.edges) if e.family == "depth")
    edge = hand.picture.edges[number]
    middle = tuple((a + b) / 2 for a, b in zip(edge.start, edge.end, strict=True))
    hand.click(middle)
    assert not hand.picture.edges[number].left, "a click that picks throws nothing out"
    hand.click(middle)
    assert hand.picture.edges[number].left and at.bench.picture_board.chosen == (
        Mark(EDGE, number),
    )
    at.run("Undo")
    assert not hand.picture.edges[number].left
    families = at.bench.card("picture").page(0)["families"]
    QTest.mouseClick(families.buttons["depth"], Qt.MouseButton.LeftButton)
    hand.settle()
    assert all(e.left for e in hand.picture.edges if e.family == "depth")
    assert "depth runs to" not in hand.slip or "width runs to" in hand.slip
    at.run("Undo")
    assert "depth runs to" in hand.slip


def test_marks_are_drawn_named_nudged_and_taken_away_by_hand_and_keys(pinned):
    hand, at = pinned, pinned.at
    count, board = len(hand.picture.edges), hand.board
    hand.press("Edge")
    start, end = BODY[2], BODY[6]
    off = (start[0] + 3, start[1] + 4), (end[0] + 3, end[1] - 4)
    hand.drag(*off, alt=True)
    assert hand.picture.edges[count].start == pytest.approx(off[0], abs=2)
    assert hand.picture.edges[count].family == "height"
    hand.drag(*off)
    laid = hand.picture.edges[count + 1]
    assert abs(laid.start[0] - start[0]) < 1.5 and abs(laid.end[0] - end[0]) < 1.5
    page = at.bench.card("picture").page(0)
    at.write(page["name"], "the prow")
    hand.settle()
    assert hand.picture.edges[count + 1].name == "the prow"
    board.setFocus()
    QTest.keyClick(board, Qt.Key.Key_Escape)
    QTest.keyClick(board, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    hand.settle()
    assert hand.picture.edges[count + 1].start[0] == pytest.approx(laid.start[0] + 10)
    at.run("Count less, or as much again")
    assert hand.picture.edges[count + 1].weight < 1
    at.run("Take the volume away")
    assert len(hand.picture.edges) == count + 1
    QTest.keyClick(board, Qt.Key.Key_PageDown)
    assert board.chosen and "arrow keys" in board.accessibleDescription()
    hand.press("Along a line")
    for share in (0.0, 0.4, 1.0):
        hand.click(tuple(a + (b - a) * share for a, b in zip(BODY[4], BODY[5], strict=True)))
    QTest.keyClick(board, Qt.Key.Key_Return)
    hand.settle()
    assert len(hand.picture.rows) == 1 and "along 1: 1 :" in hand.slip
    hand.press("Point")
    hand.click((800.0, 300.0))
    hand.press("Rim")
    hand.drag((480.0, 140.0), (712.0, 390.0))
    assert len(hand.picture.spots) == len(hand.picture.rounds) == 1
    assert hand.picture.rounds[0].axle in ("width", "depth") and "rim 1" in hand.slip


def test_pictures_are_dropped_pasted_copied_and_refused_with_a_sentence(pinned, desk, tmp_path):
    hand, at = pinned, pinned.at
    at.run("Copy")
    other = desk(Document())
    other.run("Paste")
    assert other.document.photograph == hand.picture and other.bench.pictured
    image = QImage(64, 48, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.gray)
    QApplication.clipboard().setImage(image)
    other.run("Paste")
    assert len(other.document.pictures) == 2 and other.document.photograph.width == 64
    bad = tmp_path / "broken.jpg"
    bad.write_bytes(sample_picture("red lamp")[:4000])
    good = tmp_path / "lamp.jpg"
    good.write_bytes(sample_picture("red lamp"))
    before = at.document
    for path, more in ((bad, 0), (tmp_path / "none.jpg", 0), (good, 1)):
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        keys, buttons = Qt.KeyboardModifier.NoModifier, Qt.MouseButton.LeftButton
        drop = QDropEvent(QPointF(99, 99), Qt.DropAction.CopyAction, mime, buttons, keys)
        hand.board.dropEvent(drop)
        hand.settle()
        assert len(at.document.pictures) == len(before.pictures) + more
    assert "damaged" in at.answers.told[0] and len(at.answers.told) == 2
    QApplication.clipboard().clear()


def test_finding_lines_can_be_stopped_and_changes_nothing(pinned, monkeypatch):
    hand = pinned
    before = hand.at.document
    monkeypatch.setattr(waiting, "SHOWN_AFTER_MS", -1)
    monkeypatch.setattr(waiting.Waiting, "look", lambda self: self.give_up())
    hand.at.run("Find lines anew")
    assert hand.at.document is before
    assert "nothing has changed" in hand.board.plate.text()


def test_the_picture_goes_out_with_the_sheet_only_when_it_is_wanted(pinned, tmp_path):
    hand, at = pinned, pinned.at
    hand.press("Corner")
    for corner in (0, 1, 2, 4):
        hand.click(BODY[corner])
    at.run("Lay a sheet over it")
    sizes = {}
    for sent in (False, True):
        if sent:
            at.bench.open_place("picture")
            hand.page(3)
            hand.press("Goes out")
        for ending in ("svg", "pdf", "png"):
            at.answers.draws = tmp_path / f"out.{ending}"
            at.run("Draw to a file…")
            sizes[sent, ending] = at.answers.draws.read_bytes()
    for ending in ("svg", "pdf", "png"):
        assert len(sizes[True, ending]) > len(sizes[False, ending]) + 50_000
    assert b"data:image/jpeg;base64" in sizes[True, "svg"]
    at.run("Picture under the sheet")
    at.answers.draws = tmp_path / "away.svg"
    at.run("Draw to a file…")
    assert at.answers.draws.read_bytes() == sizes[False, "svg"], "put away, it stays here"


@pytest.mark.sample(2)
@pytest.mark.parametrize(
    "content", [b"\xff\xd8\xff", b"\x89PNG\r\n\x1a\n then nothing", "bomb", "cut"]
)
def test_a_damaged_picture_in_a_sheet_harms_nothing(desk, tmp_path, content):
    if content == "cut":
        content = sample_picture("red lamp")[:9000]
    elif content == "bomb":
        header = struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0)
        parts = ((b"IHDR", header), (b"IDAT", b""), (b"IEND", b""))
        content = b"\x89PNG\r\n\x1a\n" + b"".join(chunk(*part) for part in parts)
    laid = Laid((50.0, 40.0), (200.0, 150.0), 2.0, 0.0, Document().eye, sent=True)
    picture = SheetPicture("broken", PictureFile(content), 100, 80, laid=laid)
    path = tmp_path / "broken.isometron"
    write_sheet(bring_picture(Document(), picture), path)
    at = desk(read_sheet(path), path)
    at.bench.open_place("picture")
    at.settle()
    at.bench.grab()
    at.run("Find lines anew")
    assert len(at.answers.told) == 1 and "the picture" in at.answers.told[0]
    board = at.bench.picture_board
    board.arm(tools.EDGE)
    at.drag(board.view.point((10.0, 10.0)), (60, 5), on=board)
    at.bench.open_place("stand")
    for ending in ("pdf", "png", "svg"):
        at.answers.draws = tmp_path / f"out.{ending}"
        at.run("Draw to a file…")
    assert "is damaged" in at.answers.told[-1]
    assert (tmp_path / "out.svg").exists() and (tmp_path / "out.png").exists()


def chunk(name, content):
    body = name + content
    return struct.pack(">I", len(content)) + body + struct.pack(">I", zlib.crc32(body))


def test_a_sketch_of_ones_own_is_straightened_judged_and_its_corrections_written(desk, tmp_path):
    case = sample_sheet("eyepiece case")
    drawn = tmp_path / "sketch.jpg"
    drawn.write_bytes(sketch(case, DrawingHand(seed=5, mistakes=(Mistake("miss", 0, 3, 2.5),))))
    at = desk(Document())
    hand = Hand(at)
    hand.tab("picture")
    at.answers.picture = drawn
    hand.press("Open a picture…")
    page = hand.page(2)
    hand.press("This is my sheet")
    corners = hand.picture.corners
    hand.drag(corners[2], (corners[2][0] - 60, corners[2][1] - 40))
    assert (
        hand.picture.corners[2] == pytest.approx((corners[2][0] - 60, corners[2][1] - 40), abs=6)
        and hand.picture.corners[0] == corners[0]
    )
    at.run("Undo")
    assert hand.picture.corners == corners
    told = []
    at.bench.keeping.told.connect(told.append)
    hand.press("Straighten it")
    assert hand.picture.paper_mm == (420.0, 297.0) and "420 × 297" in told[0]
    (fault,) = page["faults"].faults
    assert fault.rule == "misses its point" and fault.by_deg == pytest.approx(2.5, abs=0.4)
    assert at.bench.picture_board.faults == [fault]
    at.answers.sends = tmp_path / "corrections.pdf"
    hand.press("Write the correction sheet…")
    content = (tmp_path / "corrections.pdf").read_bytes()
    assert content.startswith(b"%PDF") and b"MediaBox [ 0 0 1190.55" in content
    assert hand.actions <= 18
    at.answers.saves = tmp_path / "judged.isometron"
    at.run("Save")
    assert read_sheet(tmp_path / "judged.isometron") == at.document
    other = desk(sample_sheet())
    other.bench.open_place("picture")
    other.bench.keeping.straighten("A3")
    assert "No picture lies" in other.answers.told[0]


def test_the_sample_sketch_is_opened_with_its_sheet_and_mended_against_it(desk):
    at = desk(Document())
    hand = Hand(at)
    at.run("Sample: sketch with mistakes")
    hand.settle()
    assert len(at.document.volumes) == 3 and at.bench.pictured
    page = hand.page(2)
    hand.press("Straighten it")
    hand.press("Meant as the framework")
    assert len(page["faults"].faults) == 4
    hand.press(f"1   {write_mm(page['faults'].faults[0].by_mm)}")
    assert at.bench.picture_board.chosen == (page["faults"].faults[0].mark,)


def test_unsure_strokes_are_asked_in_one_pass_and_faults_are_ticked_off(desk):
    at = desk(Document())
    hand = Hand(at)
    at.bench.wishes.do("ask strokes")
    assert "straighten your sheet first" in at.bench.plate.text()
    at.run("Sample: sketch with mistakes")
    hand.page(2)
    hand.press("Straighten it")
    told = [Mark(EDGE, n) for n, edge in enumerate(hand.picture.edges) if edge.left]
    sure = marking.change_marks(at.document, told, family="width", left=False)
    at.bench.session.edit("tell", lambda _document: sure)
    at.run("Ask me of unsure strokes")
    assert "Every stroke has its family" in at.bench.plate.text()
    strays = [Mark(EDGE, number) for number in (0, 2, 5)]
    loose = at.document
    for mark in strays:
        loose = marking.change_marks(loose, [mark], family="stray", left=True)
    at.bench.session.edit("loosen", lambda _document: loose)
    hand.settle()
    before = hand.picture.edges
    at.run("Ask me of unsure strokes")
    board = at.bench.picture_board
    for key, chosen in ((Qt.Key.Key_3, 0), (Qt.Key.Key_0, 2), (Qt.Key.Key_Space, 4)):
        assert board.chosen == (Mark(EDGE, chosen),), "what comes after one taken away moves down"
        QTest.keyClick(board, key)
        hand.settle()
    assert board.asking is None and "have been looked at" in at.bench.plate.text()
    edges = hand.picture.edges
    assert (edges[0].family, edges[0].left) == ("height", False)
    assert len(edges) == len(before) - 1 and edges[4] == before[5]
    at.run("Undo")
    assert len(hand.picture.edges) == len(before)
    for _step in range(2 + bool(told)):
        at.run("Undo")
    hand.press("Meant as the framework")
    page = hand.page(2)
    strip = at.bench.findChild(SecondLookStrip)
    at.bench.settle()
    told = [one.title for one in strip.remarks if one.rule.startswith("sketch")]
    assert told == [fault.title for fault in page["faults"].faults]
    first = page["faults"].faults[0]
    tick = next(b for b in page["faults"].findChildren(QCheckBox) if b.isVisible())
    assert tick.accessibleName() == "1 is mended"
    tick.click()
    hand.settle()
    at.bench.settle()
    assert page["faults"].faults[0] == first._replace(mended=True)
    assert len([one for one in strip.remarks if one.rule.startswith("sketch")]) == len(told) - 1
    at.bench.picture_board.choose(())
    at.bench.wishes.show_place(hand.picture.laid.on_sheet(page["faults"].faults[1].at))
    assert board.chosen == (page["faults"].faults[1].mark,)
