"""Adding a format, tab, layer, handle or command is one entry in its table: a throw-away one of
each shows up everywhere the table is read."""

from types import SimpleNamespace

import numpy as np
import pytest
from PyQt6.QtCore import QSettings, QSize, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtTest import QTest

from isometron.cli import main
from isometron.deeds.deed import Deed, Matter, Measured, Parameter
from isometron.deeds.table import deeds, matters
from isometron.document.edits.shapes.shaping import lean
from isometron.drawing.layers import LAYERS, Depends, Layer
from isometron.drawing.pencils import Pencil
from isometron.files.dxf import dxf_of
from isometron.files.formats import DRAWING, Format
from isometron.files.sheet_file import sample_sheet, write_sheet
from isometron.files.sheet_page import svg_of
from isometron.ui.bench.app import Sheet, application, fill, show_shell
from isometron.ui.bench.asking import Unsaved
from isometron.ui.bench.commands.command import EDIT, of_deed
from isometron.ui.bench.commands.help_pages import keys_page
from isometron.ui.bench.commands.table import COMMANDS, Command
from isometron.ui.bench.place_table import PLACES, Leaf, Place
from isometron.ui.board.handles.handle import Handle
from isometron.ui.board.handles.table import KINDS, Kind
from isometron.ui.parts import theme
from isometron.ui.parts.card import EditCard
from isometron.ui.parts.shell import Shell
from tests.ui.desk import Answers


@pytest.fixture
def added():
    """Adds entries to tables, and takes them out again."""
    done = []

    def add(table, entry):
        table.append(entry)
        done.append((table, entry))

    yield add
    for table, entry in done:
        table.remove(entry)


def test_a_format_is_in_dialogs_help_and_on_the_command_line(added, desk, tmp_path, capsys):
    added(DRAWING.formats, Format(".dots", "Dots", lambda document, asked: b"dots"))
    at = desk()
    at.answers.draws = tmp_path / "case.dots"
    at.run("Draw to a file…")
    assert (tmp_path / "case.dots").read_bytes() == b"dots"
    assert "Dots (*.dots)" in [one.filter for one in DRAWING.formats] and "Dots" in keys_page(
        COMMANDS
    )
    sheet = tmp_path / "case.isometron"
    write_sheet(sample_sheet(), sheet)
    assert main(["draw", str(sheet), "-o", str(tmp_path / "other.dots")]) == 0
    assert (tmp_path / "other.dots").read_bytes() == b"dots"
    assert main(["draw", str(sheet), "-o", str(tmp_path / "x.odd")]) == 2
    assert ".dots" in capsys.readouterr().err


def test_a_tab_stands_on_the_rail_and_is_opened(added, desk):
    class Notes(EditCard):
        told = None

        def show_document(self, shown):
            self.told = shown.document

    added(
        PLACES,
        Place(
            "notes",
            "Notes",
            "Notes on the sheet.",
            (Leaf("Notes", lambda wishes: Notes(wishes, "Notes")),),
        ),
    )
    at = desk()
    last = at.bench.rail.tabRect(at.bench.rail.count() - 1).center()
    QTest.mouseClick(at.bench.rail, Qt.MouseButton.LeftButton, pos=last)
    at.settle()
    assert isinstance(at.bench.open_card, Notes) and at.bench.open_card.told == at.document


def test_a_layer_is_on_the_board_and_in_every_drawing(added, desk):
    upright = np.array([[210.0, 20.0, 210.0, 60.0]])
    plumb = Layer(
        "plumb line",
        Pencil("#ff00aa", 1.0),
        Depends.EYE,
        lambda given: (upright, np.empty((0, 3, 3))),
    )
    added(LAYERS, plumb)
    at = desk()
    place = at.board.view.point((210.0, 40.0)).toPoint()
    assert QColor(at.board.grab().toImage().pixel(place)).name() == "#ff00aa"
    assert b"plumb-line" in svg_of(at.document) and b"plumb line" in dxf_of(at.document)


def test_a_handle_is_on_the_board_told_and_in_the_help(added, desk):
    def finds(document, scene):
        at = (30.0, 30.0)
        return [Handle("peg", "Peg", at, lambda d, to: d, "all stays", lambda d, s: "3 cm")]

    added(KINDS, Kind(40, "Pegs", "everything stays", finds))
    at = desk()
    assert at.handle("peg").place == (30.0, 30.0)
    QTest.mouseMove(at.board, at.place("peg"))
    at.settle()
    assert at.board.plate.text() == "Peg: all stays." and "Pegs" in keys_page(COMMANDS)


def test_a_command_is_in_its_menu_with_its_key_and_in_the_help(added, desk):
    done = []
    menu = COMMANDS[0].menu
    added(COMMANDS, Command("wink", menu, "Wink", "Wink once.", done.append, ("Ctrl+Alt+W",)))
    at = desk()
    action = next(a for c, a in at.bench.actions_of if c.key == "wink")
    assert action.shortcut().toString() == "Ctrl+Alt+W"
    at.run("Wink")
    assert done == [at.bench] and "Ctrl+Alt+W" in keys_page(COMMANDS)


def test_two_windows_live_in_one_process_each_with_its_own_room_and_sheet(desk):
    one, other = desk(), desk(sample_sheet("supply crawler"))
    one.run("Dark room")
    assert (one.bench.room.name, other.bench.room.name) == ("dark", "light")
    felts = [d.bench.grab().toImage().pixelColor(3, 300).name() for d in (one, other)]
    assert felts[0] != felts[1]
    one.run("Make it a cube")
    assert other.document == sample_sheet("supply crawler")
    assert one.bench.session.undo_name and not other.bench.session.undo_name


def test_a_bench_takes_its_place_in_the_shell_that_was_shown_first(tmp_path, qtbot, monkeypatch):
    large = SimpleNamespace(availableSize=lambda: QSize(1920, 1080))
    monkeypatch.setattr(Shell, "screen", lambda _shell: large)
    settings = QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat)
    app = application()
    shell = show_shell(settings)
    assert shell.isVisible() and shell.grab().toImage().pixelColor(640, 300).name() == theme.PAPER
    bench = fill(shell, Sheet(None, sample=True), settings)
    app.processEvents()
    bench.settle()
    assert bench.window() is shell and not bench.isWindow() and bench.isVisible()
    assert "eyepiece case" in shell.windowTitle()
    bench.keeping.asking = Answers()
    bench.wishes.do("make cube")
    assert shell.isWindowModified()
    assert not shell.close() and bench.keeping.asking.asked == 1
    bench.keeping.asking.unsaved = Unsaved.DISCARD
    bench.wishes.do("leave")
    assert not shell.isVisible()
    shell.deleteLater()
    app.processEvents()


def test_a_deed_is_on_the_slip_in_its_menu_and_on_its_key(added, desk, monkeypatch):
    inward = Parameter("inward", "How far both sides lean in.", Measured.LENGTH, 20.0)
    monkeypatch.setitem(
        deeds(),
        "lean in",
        Deed(
            "lean in",
            "Lean it in",
            "Lean left and right in.",
            "lean it in",
            lambda d, given: lean(lean(d, "left", given[inward]), "right", given[inward]),
            (inward,),
            keys=("Ctrl+Alt+I",),
        ),
    )
    monkeypatch.setitem(matters(), "lean in", Matter.SHAPE)
    added(COMMANDS, of_deed(EDIT, "lean in"))
    at = desk()
    at.deed("lean in", inward="35 mm")
    assert at.document.volume.shape.leans[2:] == (35.0, 35.0)
    at.run("Lean it in")
    assert at.slip.panel["inward"].text() == "3.5 cm", "what was given last is proposed"
    at.do(at.slip.panel)
    at.run("Undo")
