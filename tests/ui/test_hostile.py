"""Whatever a name holds is shown and written, never obeyed; a failing paint is said once."""

import random
import sys
import textwrap
from dataclasses import replace

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QWidget

from isometron.deeds.table import deeds
from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.places.laying import add_box, lay_near_edge
from isometron.document.edits.starters import STARTERS
from isometron.drawing.scene import scene_of
from isometron.files.formats import OUTGOING, Asked
from isometron.files.sheet_file import (
    sample_sheet,
    sheet_as_text,
    sheet_from_text,
    volumes_from_text,
)
from isometron.files.table import table_of, take_table
from isometron.perspective.errors import FileError, IsometronError
from isometron.remarks.second_look import second_look
from isometron.render.painting import QtPainting
from isometron.ui.board.standing_layer import StandingLayer
from isometron.ui.cards.second_look import SecondLookStrip
from isometron.ui.parts.plain import plain_tip

HOSTILE = (
    '<img src="/dev/zero">', "&lt;b&gt; & more", "=HYPERLINK(1)", "+1-1", "@sum", "-2+3", "'quoted",
    "]]><x/>", "%s {name} {0}", "back\\slash/../up", "“Leg”", "two  spaces", "Ω≈ç√ 机 🜨",
)  # fmt: skip


def named(names):
    """A sheet whose volumes and groups have these names, some of them shared."""
    before = sample_sheet("turned eyepiece cases")
    every = [
        replace(before.volumes[0], name=name, group=name, key=number, x_mm=90.0 * number)
        for number, name in enumerate([*names, names[0]])
    ]
    return replace(before, volumes=tuple(every))


def test_hostile_names_leave_in_every_format_and_come_back(qapp):
    document = named(textwrap.wrap("".join(HOSTILE), 60, drop_whitespace=False))
    assert sheet_from_text(sheet_as_text(document).encode(), "it") == document
    for outgoing in OUTGOING:
        for form in outgoing.formats:
            assert form.write(document, Asked(QtPainting(), dpi=20.0))


def test_hostile_names_run_in_no_spreadsheet_and_find_their_volumes_again():
    document = named(HOSTILE)
    table = table_of(document)
    for row in table.decode().splitlines()[1:]:
        assert not row.lstrip('"').startswith(("=", "+", "-", "@"))
    wider = tuple(replace(v, width_mm=1.5 * v.width_mm) for v in document.volumes)
    assert take_table(replace(document, volumes=wider), table, "it") == document


def test_no_widget_takes_a_name_for_markup(desk):
    at = desk(choosing.rename_volume(sample_sheet("supply crawler"), HOSTILE[0]))
    for tab in ("stand", "build", "draw", "picture"):
        at.bench.open_place(tab)
        at.settle()
    at.bench.board.refuse(HOSTILE[0])
    labels = at.bench.findChildren(QLabel)
    assert len(labels) > 50
    rich = [one.text() for one in labels if one.textFormat() != Qt.TextFormat.PlainText]
    assert rich == []
    assert [w for w in at.bench.findChildren(QWidget) if "<img" in w.toolTip()] == []
    assert "<img" not in plain_tip(HOSTILE[0]) and plain_tip("a plain tip") == "a plain tip"
    assert at.bench.findChildren(SecondLookStrip)


def test_a_layer_that_cannot_be_painted_is_said_once_and_the_window_lives(desk, monkeypatch):
    at, met = desk(), []
    monkeypatch.setattr(sys, "excepthook", lambda kind, error, where: met.append(error))

    def fails(*_given):
        raise ValueError("no such pen")

    monkeypatch.setattr(StandingLayer, "picture", fails)
    for _frame in range(20):
        at.board.repaint()
    assert len(met) == 1
    monkeypatch.undo()
    at.run("Make it a cube")
    at.board.repaint()
    at.settle()
    assert not at.board.grab().isNull()


CLIPBOARDS = (
    "[" * 10_000, "{}", "null", '{"volumes": 3}', '{"volumes": [NaN]}', "plain words", "\ud800",
    '{"volumes": [{"name": "A"}]}', '{"isometron volumes": 4, "volumes": [1e999]}',
)  # fmt: skip


@pytest.mark.parametrize("text", CLIPBOARDS)
def test_what_is_no_volume_is_not_pasted(text):
    with pytest.raises(FileError) as told:
        volumes_from_text(text)
    assert "\n" not in str(told.value) and len(str(told.value)) < 300


@pytest.mark.parametrize("kept", [3, "a\0b", ["x" * 5000, "", "/dev/zero"], {"a": 1}, None, b"x"])
def test_settings_that_make_no_sense_are_passed_over(desk, kept):
    at = desk()
    at.bench.settings.setValue("recent", kept)
    at.bench.settings.setValue("room", kept)
    assert at.bench.keeping.recent() == []


TILTS = range(-80, 81, 20)


@pytest.mark.parametrize("tilt", TILTS)
def test_an_edge_laid_anywhere_gives_a_volume_or_one_sentence(tilt, many):
    seeded = random.Random(tilt)
    for _drag in range(many(12, 300)):
        blank = Document()
        eye = replace(blank.eye, tilt_deg=tilt, heading_deg=seeded.uniform(-180, 180))
        blank = blank.with_eye(eye)
        x, y = seeded.uniform(-50, 470), seeded.uniform(-50, 340)
        try:
            laid = lay_near_edge(
                blank, (x, y), (x + seeded.uniform(-9, 9), y + 90 * seeded.uniform(-2, 2))
            )
        except IsometronError as told:
            assert str(told).endswith(".")
            continue
        assert laid.volume.height_mm > 0
        second_look(laid, scene_of(laid))
    assert add_box(blank).volume is not None


VALUES = (
    *(
        "3",
        "1/2",
        "12 cm",
        "-4",
        "0",
        "1e9",
        "nan",
        "upper",
        "yes",
        "12 x 4 x 6 cm",
        "70 × 2",
        "× ×",
    ),
    *(
        "45°",
        "all",
        ": :",
        '"',
        "3,5",
        "up 2 cm",
        "on the ground",
        "9" * 40,
        "{x}",
        "%s",
        "<b>1</b>",
    ),
)


def test_any_line_is_done_or_left_and_the_sheet_can_be_kept(desk, many):
    at, rng = desk(sample_sheet()), random.Random(11)
    words = [deed.text for deed in deeds().values()] + [one.name for one in STARTERS]
    words += ["vehicle wheel diameter 0 cm", "vehicle wheel diameter -3"]  # a module of no length
    for _line in range(many(16, 300)):
        given = rng.choice((", ", "; ", ": ")).join(rng.choices(VALUES, k=rng.randint(1, 4)))
        at.bench.find_deed()
        QTest.keyClicks(at.bench.finder, f"{rng.choice(words).lower()} {given}")
        QTest.keyClick(at.bench.finder, Qt.Key.Key_Return)
        at.settle()
        if at.bench.finder.answers.isVisible():  # nothing is called so
            QTest.keyClick(at.bench.finder, Qt.Key.Key_Escape)
        if at.slip.panel is not None:  # what is to be mended
            QTest.keyClick(at.slip.panel.asked[0].widget, Qt.Key.Key_Escape)
        assert at.slip.panel is None and not at.bench.finder.answers.isVisible()
        assert sheet_from_text(sheet_as_text(at.document).encode(), "it") == at.document
        at.bench.session.open(sample_sheet(), None)
