"""Somebody who presses anything: nothing breaks, and undo leads all the way back."""

import random

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit, QPushButton

from isometron.files.sheet_file import sample_sheet, sheet_as_text, sheet_from_text
from isometron.ui.bench.place_table import PLACES

KEEPS_OUT = {"Leave", "New", "Print…", "Open…"}
"""Commands that leave the sheet or wait for an answer."""

TYPED = ["0", "-5", "12.5", "1/3", "40%", "900000", "abc", "", "15°", "2 w", "7 in", "1e9"]
TYPED += ["abc w", "0 4, 9 2", "0 x, 1 2", "1/0", "nan", "3, 4, 5", "10-80/0", "½", "0 60%, 1 5%"]


def commands(at):
    return [
        action
        for command, action in at.bench.actions_of
        if command.text not in KEEPS_OUT
        and command.menu != "Help"
        and not command.text.startswith(("Sample", "Starter", "Follow"))
        and action.isEnabled()
    ]


def buttons(at):
    return [
        b
        for b in at.bench.findChildren(QPushButton)
        if b.isVisible() and b.isEnabled() and b.text() not in (*KEEPS_OUT, "Follow on paper")
    ]


def act(at, rng):
    """One careless deed; gives what it was."""
    deed = rng.choice(["command", "button", "button", "drag", "pick", "type", "type", "tab", "key"])
    if deed == "command":
        action = rng.choice(commands(at))
        deed += f" {action.text()}"
        action.trigger()
    elif deed == "button" and buttons(at):
        button = rng.choice(buttons(at))
        deed += f" {button.text()}"
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    elif deed == "drag":
        start = QPoint(rng.randrange(at.board.width()), rng.randrange(at.board.height()))
        if at.board.handles and rng.random() < 0.7:
            start = at.place(rng.choice(at.board.handles).key)
        at.drag(start, (rng.randint(-90, 90), rng.randint(-70, 70)), shift=rng.random() < 0.2)
    elif deed == "pick" and at.document.volumes:
        extent = rng.choice(at.bench.session.scene.pictures).extent
        if extent[0] <= extent[2]:
            place = at.board.view.point((rng.uniform(*extent[::2]), rng.uniform(*extent[1::2])))
            at.click(place.toPoint())
    elif deed == "type":
        fields = [f for f in at.bench.findChildren(QLineEdit) if f.isVisible() and f.isEnabled()]
        if fields:
            field, text = rng.choice(fields), rng.choice(TYPED)
            deed += f" {text} into {field.objectName()}"
            at.write(field, text)
    elif deed == "tab":
        key = rng.choice(PLACES).key
        at.bench.open_place(key)
        if hasattr(at.bench.card(key), "open_page"):
            at.bench.card(key).open_page(rng.randrange(len(at.bench.card(key).LEAVES)))
    else:
        at.key(rng.choice([Qt.Key.Key_PageDown, Qt.Key.Key_Up, Qt.Key.Key_Left, Qt.Key.Key_Escape]))
    at.settle()
    return deed


@pytest.mark.sample(1)
@pytest.mark.parametrize(
    "name", ["eyepiece case", "supply crawler", "observing chair", "red lamp", "telescope tube"]
)
def test_careless_hands_break_nothing_and_undo_leads_back(desk, name, many):
    start = sample_sheet(name)
    at, rng, done = desk(start), random.Random(f"careless {name}"), []
    for _ in range(many(4, 60)):
        done.append(act(at, rng))
        document, scene = at.document, at.bench.session.scene
        assert len(document.volumes) < 200, done
        for picture in scene.pictures:
            assert np.isfinite(picture.world).all(), done
        assert sheet_from_text(sheet_as_text(document).encode(), "it") == document, done
        assert not at.answers.told or all(told.endswith(".") for told in at.answers.told), done
    session = at.bench.session
    while session.redo_name:
        session.redo()
    last = at.document
    while session.undo_name:
        session.undo()
    at.settle()
    assert at.document.volumes == start.volumes and at.document.eye == start.eye, done
    while session.redo_name:
        session.redo()
    at.settle()
    assert at.document.volumes == last.volumes and at.document.eye == last.eye, done
