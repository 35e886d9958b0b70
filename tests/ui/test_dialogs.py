"""The questions the bench asks, answered through the real dialogs, and what it says in pages."""

import re
from dataclasses import replace
from html import unescape
from pathlib import Path

import pypdf
import pytest
from PyQt6.QtCore import QEvent, QSize, Qt
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QDialog, QFileDialog, QLineEdit, QMenu, QMessageBox, QTextBrowser

from isometron.cli import main
from isometron.document.document import Document
from isometron.document.edits.judging import judging
from isometron.document.edits.starters import STARTERS
from isometron.document.edits.starters.from_sheet import starter_from
from isometron.files import own_bands, own_starters
from isometron.files.journal import Stamp
from isometron.files.sheet_file import read_sheet
from isometron.perspective.errors import VolumeError
from isometron.ui.bench import starter_dialog
from isometron.ui.bench.asking import Asking, Unsaved
from isometron.ui.bench.commands.help_pages import about_page, here_page, keys_page
from isometron.ui.bench.commands.table import COMMANDS
from isometron.ui.bench.place_table import PLACES
from isometron.ui.bench.recent import RECENT, drawing_of
from isometron.ui.bench.starter_dialog import StarterDialog
from isometron.ui.board.handles.table import KINDS
from isometron.ui.parts.theme import LIGHT_ROOM
from tests.ui.lessons import Hands


@pytest.fixture
def chosen(monkeypatch):
    """Answers for the system's file dialogs, and what they were asked."""
    answers = {"name": "", "kind": "SVG (*.svg)", "asked": []}

    def answer(_parent, title, proposal, kinds, **_options):
        answers["asked"].append((title, proposal, kinds))
        return answers["name"], answers["kind"]

    monkeypatch.setattr(QFileDialog, "getOpenFileName", answer)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", answer)
    return answers


def asked_for_real(at):
    at.bench.keeping.asking = Asking(at.bench)
    return at


def test_a_sheet_is_saved_opened_and_drawn_through_the_files_dialogs(desk, chosen, tmp_path):
    at = asked_for_real(desk())
    chosen["name"] = str(tmp_path / "pier block")
    at.run("Save as…")
    assert read_sheet(tmp_path / "pier block.isometron") == at.document
    assert at.bench.keeping.recent()[0].name == "pier block.isometron"
    at.type("width", "500")
    chosen["name"] = str(tmp_path / "drawn")
    at.run("Draw to a file…")
    assert (tmp_path / "drawn.svg").read_text().startswith("<?xml")
    chosen["kind"] = "Booklet (*.pdf)"
    chosen["name"] = str(tmp_path / "steps")
    at.run("Write a short build order…")
    assert (tmp_path / "steps.pdf").read_bytes().startswith(b"%PDF")
    assert Path(chosen["asked"][-1][1]).name == "pier block build order.pdf"
    chosen["name"] = ""
    count = len(list(tmp_path.iterdir()))
    for words in ("Save as…", "Draw to a file…", "Write the build order…", "Open…"):
        at.run(words)
    assert len(list(tmp_path.iterdir())) == count, "nothing is written when one thinks better of it"


@pytest.mark.parametrize(
    ("button", "answer", "saved"),
    [("Save them", Unsaved.SAVE, True), ("Throw them away", Unsaved.DISCARD, False),
     ("Go back", Unsaved.STAY, False)],
)  # fmt: skip
def test_unsaved_changes_are_asked_about_once(
    desk, chosen, monkeypatch, tmp_path, button, answer, saved
):
    at = asked_for_real(desk())
    at.type("width", "500")
    changed = at.document
    shown = []

    def press(box):
        shown.append(box.text())
        next(b for b in box.buttons() if b.text() == button).click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", press)
    chosen["name"] = str(tmp_path / "kept.isometron")
    assert at.bench.keeping.asking.about_unsaved("case") is answer
    at.run("New")
    assert "not saved" in shown[-1] and len(shown) == 2
    assert (at.document == changed) == (answer is Unsaved.STAY)
    assert (tmp_path / "kept.isometron").exists() == saved


def test_bad_files_get_one_sentence_in_a_box_and_the_sheet_stays(
    desk, chosen, monkeypatch, tmp_path
):
    at = asked_for_real(desk())
    said = []
    monkeypatch.setattr(QMessageBox, "exec", lambda box: said.append(box.text()))
    before = at.document
    (tmp_path / "odd.isometron").write_text('{"isometron": 99}')
    for name, words in (("odd.isometron", "newer"), ("none.isometron", "no file"), ("x.csv", "")):
        chosen["name"] = str(tmp_path / name)
        at.run("Take dimensions…" if name.endswith("csv") else "Open…")
        assert words in said[-1] and "Traceback" not in said[-1]
    assert len(said) == 3 and at.document == before


@pytest.mark.parametrize("accepted", [True, False])
def test_printing_asks_for_a_printer_and_tells_what_came_of_it(
    desk, monkeypatch, tmp_path, accepted
):
    at = desk()
    out = tmp_path / "printed.pdf"

    def to_file(dialog):
        printer = dialog.printer()
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(out))
        return QDialog.DialogCode.Accepted if accepted else QDialog.DialogCode.Rejected

    monkeypatch.setattr(QPrintDialog, "exec", to_file)
    at.run("Print…")
    assert out.exists() == accepted
    if accepted:
        box = pypdf.PdfReader(out).pages[0].mediabox
        assert float(box.width) * 25.4 / 72 == pytest.approx(420.0, abs=0.2)
        assert "Printed at true size" in at.board.plate.text()


def test_the_pages_of_help_name_every_key_and_every_handle(desk, monkeypatch):
    at = desk()
    shown = []
    monkeypatch.setattr(
        QDialog, "exec", lambda page: shown.append(page.findChild(QTextBrowser).toPlainText())
    )
    for command in (c for c in COMMANDS if c.menu == "Help"):
        at.run(command.text)
    assert len(shown) == 2
    told = "".join(shown)
    for command in COMMANDS:
        assert all(key in told for key in command.keys), command.text
    assert all(kind.name in told for kind in KINDS)
    assert "licensed professional" in about_page() and "ergonomic" in about_page()
    assert "<script" not in keys_page(COMMANDS)


def test_every_command_has_a_tip_and_no_key_is_given_twice():
    keys = [key for command in COMMANDS for key in command.keys]
    assert len(keys) == len(set(keys))
    for command in COMMANDS:
        assert command.tip.endswith(".") and command.text == command.text.strip()


@pytest.mark.sample(4)
@pytest.mark.parametrize("starter", STARTERS, ids=lambda s: s.name)
def test_a_starter_shows_its_picture_and_takes_only_numbers_that_can_be(desk, starter):
    at = desk()
    dialog = StarterDialog(at.bench, starter, LIGHT_ROOM, "cm")
    dialog.show()
    dialog.event(QEvent(QEvent.Type.LayoutRequest))
    assert set(dialog.values) == set(starter.proposal)
    picture = dialog.grab().toImage()
    inks = {picture.pixelColor(x, y).name() for x in range(0, picture.width(), 3)
            for y in range(0, picture.height(), 3)}  # fmt: skip
    assert len(inks) > 8
    assert dialog.windowModality() != Qt.WindowModality.NonModal or dialog.isVisible()
    dialog.reject()


def test_a_starter_takes_lengths_and_modules_alike_and_keeps_what_was_typed_as_a_length(desk):
    dialog = StarterDialog(desk().bench, STARTERS[0], LIGHT_ROOM, "cm")

    def write(name, text):
        field = dialog.fields[name]
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
        return field.text(), dialog.wrong.text()

    assert write("wheel diameter", "60cm") == ("60 cm", "")
    assert write("height", "150cm") == ("150 cm", "") and dialog.values["height"] == 2.5
    assert write("width", "2.2 w") == ("2.2", "")
    assert write("rear overhang", "1/4 wheelbase") == ("0.75", "")
    assert write("wheel diameter", "1/2 height") == ("75 cm", "")
    assert dialog.values["height"] == 2.0 and dialog.values["width"] == pytest.approx(2.2)
    assert not dialog.fill({"height": "3 cm"}) and dialog.wrong.text(), "no room is left"
    assert dialog.values["height"] == 2.0 and dialog.fields["height"].kept
    assert dialog.fill({"height": "150 cm"}) and not dialog.fields["height"].kept
    for spoilt in ("78 parsec", "cm", "150 cm²", "1/0 w"):
        shown, said = write("height", spoilt)
        assert shown == spoilt and said and dialog.values["height"] == 2.0
    assert write("height", "3 m")[1] == "" and dialog.values["height"] == 4.0


@pytest.mark.sample(4)
@pytest.mark.parametrize("tab", [tab.key for tab in PLACES])
def test_help_speaks_of_what_has_the_keyboard_first(desk, tab):
    at = desk()
    at.bench.open_place(tab)
    card = at.bench.open_card
    for number in range(len(getattr(card, "LEAVES", ())) or 1):
        if hasattr(card, "open_page"):
            card.open_page(number)
        at.settle()
        for field in card.findChildren(QLineEdit):
            if field.isVisible() and field.isEnabled():
                title, words = here_page(field)
                assert title.startswith(card.title.text())
                first = re.search(r"<b>(.*?)</b></td><td>&nbsp;&nbsp;(.*?)</td>", words)
                assert unescape(first[1]) == field.accessibleName()
                assert unescape(first[2]) == field.toolTip()
    assert here_page(at.board)[0] == "Board" and here_page(None) is None


@pytest.mark.sample(5)
@pytest.mark.parametrize("starter", STARTERS, ids=lambda one: one.name)
def test_a_starter_is_no_larger_than_its_screen_and_keeps_its_buttons(qtbot, starter, monkeypatch):
    small = QSize(675, 435)
    monkeypatch.setattr(starter_dialog, "within_screen", lambda _w, size: size.boundedTo(small))
    dialog = starter_dialog.StarterDialog(None, starter, LIGHT_ROOM, "cm")
    qtbot.addWidget(dialog)
    dialog.show()
    assert dialog.width() <= small.width() and dialog.height() <= small.height()
    assert dialog.rect().contains(dialog.put.geometry())


def test_recent_sheets_are_drawn_as_they_were_left_and_those_that_are_gone_are_not_kept(
    desk, tmp_path
):
    at = desk()
    for number in range(RECENT + 2):
        at.bench.keeping.session.mark_saved(tmp_path / f"{number}.isometron", "", Stamp.of(b""))
        at.bench.keeping.save()
        at.bench.keeping.finish()
    listed = next(m for m in at.bench.findChildren(QMenu) if m.title() == "Open recent")
    listed.aboutToShow.emit()
    entries = listed.actions()
    assert [one.text() for one in entries] == [f"{n}.isometron" for n in range(9, 1, -1)]
    assert not any(one.icon().isNull() for one in entries)
    kept = list(drawing_of(tmp_path / "9.isometron").parent.iterdir())
    assert len(kept) == RECENT and all(one.stat().st_mode & 0o77 == 0 for one in kept)
    drawing_of((tmp_path / "9.isometron").resolve()).write_bytes(b"no picture")
    listed.aboutToShow.emit()
    assert len(listed.actions()) == RECENT


def test_bands_of_ones_own_are_kept_for_new_sheets_and_a_damaged_file_of_them_is_passed_over(desk):
    at = desk()
    at.answers.unsaved = Unsaved.DISCARD
    own = judging.set_band(at.document, ("Seat", "seat height"), 300.0, 600.0).bands
    at.bench.session.edit("own", lambda d: replace(d, bands=own))
    at.run("Bands for new sheets")
    assert "1 band kept" in at.board.plate.text()
    at.run("New")
    assert at.document.bands == own and at.document.volumes == ()
    assert own_bands.place().stat().st_mode & 0o77 == 0
    for damaged in (b"", b"\xff", b"[]", b'{"bands": [{"of": 1}]}', b'{"bands": 3}', b"[" * 5000):
        own_bands.place().write_bytes(damaged)
        assert own_bands.kept_bands() == ()


def test_a_framework_of_ones_own_is_kept_as_a_starter_and_used_in_eight_actions(desk, tmp_path):
    hands = Hands(desk(Document()))
    at = hands.at
    hands.line("wheel 62 cm")
    hands.type("width", "w = 62 cm")
    kept = at.document
    assert [one.name for one in kept.modules] == ["w"]
    hands.actions = 0
    at.answers.saves = tmp_path / "my wheel.isometron"
    at.bench.keeping.save_as()
    listed = next(m for m in at.bench.findChildren(QMenu) if m.title() == "Begin with one of mine")

    def choose(words):
        hands.actions += 2
        listed.aboutToShow.emit()
        next(a for a in listed.actions() if a.text() == words).trigger()
        at.settle()

    choose("Keep this sheet as one")
    hands.command("New")
    at.answers.answers_to_starter = {"w": 900.0}
    choose("my wheel…")
    hands.actions += 2  # the field, and its button
    assert at.document.volumes[0].sides[0] == 900.0 and hands.actions <= 8
    assert at.document.begun == () and at.document.modules[0].mm == 900.0
    at.bench.keeping.finish()
    listed.aboutToShow.emit()
    assert not next(a for a in listed.actions() if a.text() == "my wheel…").icon().isNull()
    out = tmp_path / "begun.isometron"
    assert main(["begin", "my-wheel", "w=70cm", "-o", str(out)]) == 0
    assert read_sheet(out).volumes[0].sides[0] == 700.0
    (own_starters.folder() / "bad.isometron").write_text("{")
    assert main(["begin", "--list"]) == 0
    choose("bad…")
    assert at.answers.told and at.document.volumes[0].sides[0] == 900.0
    with pytest.raises(VolumeError, match="have a name"):
        starter_from(Document(), "nothing")
