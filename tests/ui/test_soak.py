"""A long day at one sheet: memory, handles and widgets stay level, and the person is told when undo
no longer leads back to the beginning."""

import gc
import random
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject

from isometron.document import history
from isometron.document.edits import eye_edits, volume_edits
from isometron.files.sheet_file import sample_sheet
from isometron.ui.bench.place_table import PLACES


def work(at, rng, number):
    """One edit of many kinds, now and then dragged, taken back or looked at from another tab."""
    session = at.bench.session
    edit = rng.choice(
        [
            partial(volume_edits.set_side, axis=rng.randrange(3), mm=rng.uniform(80, 300)),
            partial(volume_edits.turn_volume, yaw_deg=rng.uniform(-60, 60)),
            partial(volume_edits.move_volume, place_mm=(rng.uniform(-50, 50), 900.0, 0.0)),
            partial(eye_edits.set_eye_height, height_mm=rng.uniform(300, 900)),
        ]
    )
    if number % 7 == 0:
        for _move in range(3):
            session.drag(edit)
        session.drop("drag")
    else:
        assert session.edit("edit", edit)
    if number % 11 == 0:
        session.undo()
    if number % 25 == 0:
        at.bench.open_place(rng.choice(PLACES).key)
        at.settle()


def held(at):
    at.bench.journalling.write_now()
    gc.collect()
    return (
        len(gc.get_objects()),
        len(list(Path("/proc/self/fd").iterdir())),
        len(at.bench.findChildren(QObject)),
    )


def test_a_long_day_keeps_memory_and_handles_level(desk, many, monkeypatch):
    monkeypatch.setattr(history, "MOST_BYTES", 60_000)
    at, rng, told = desk(sample_sheet()), random.Random("soak"), []
    at.bench.keep_journal()
    at.bench.session.told.connect(told.append)
    for tab in PLACES:
        at.bench.open_place(tab.key)
        at.settle()
    edits = many(120, 5000)
    for number in range(edits // 2):
        work(at, rng, number)
    at.settle()
    objects, handles, widgets = held(at)
    for number in range(edits // 2, edits):
        work(at, rng, number)
    at.settle()
    now = held(at)
    assert now[0] < objects * 1.01 + 500 and now[1] <= handles and now[2] <= widgets * 1.02
    assert len([one for one in told if "undo" in one]) == 1
    at.bench.journalling.write_now()
