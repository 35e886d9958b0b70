"""Every value of the slip, for every kind of volume, and every field of the other places."""

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit

from isometron.files.sheet_file import sample_sheet, sheet_as_text, sheet_from_text
from isometron.ui.parts.fields import NumberField
from tests import kinds
from tests.scenes import sheet

SHOWN_MM = 1.0
"""Fields show a tenth of a millimetre, ratios two digits: typed again they say no more."""


def put(at, field, text):
    field.setFocus()
    field.selectAll()
    field.insert(text)
    QTest.keyClick(field, Qt.Key.Key_Return)
    at.settle()


def corners(at):
    return np.concatenate([picture.world for picture in at.bench.session.scene.pictures])


def drawn(at):
    places = [picture.sheet for picture in at.bench.session.scene.pictures]
    return np.nan_to_num(np.concatenate(places))


def fields_of(at, place):
    """The fields of every page of a place, one page after the other."""
    card = at.bench.card(place)
    at.bench.open_place(place)
    for page in range(len(getattr(card, "LEAVES", [0]))):
        if hasattr(card, "open_page"):
            card.open_page(page)
            at.settle()
        yield from card.findChildren(QLineEdit)


def ready(field):
    return field.isVisible() and field.isEnabled() and bool(field.text())


def try_field(at, field):
    """Type what stands, then another value; undo what that did."""
    text, before, stood, lay = field.text(), at.document, corners(at), drawn(at)
    put(at, field, text)
    assert corners(at).shape == stood.shape, text
    assert np.abs(corners(at) - stood).max(initial=0.0) < SHOWN_MM, text
    assert np.abs(drawn(at) - lay).max(initial=0.0) < SHOWN_MM, text
    if not isinstance(field, NumberField) or field.value is None:
        return
    steady = at.document
    put(at, field, field.write(1.3 * field.value + 2 * field.step))
    after = at.document
    assert sheet_from_text(sheet_as_text(after).encode(), "it") == after, text
    for picture in at.bench.session.scene.pictures:
        assert np.isfinite(picture.world).all() and np.isfinite(picture.lines).all()
    if after != steady:
        at.run("Undo")
        assert at.document.volumes == steady.volumes and at.document.eye == steady.eye, text
    if at.document != before and at.bench.session.undo_name:
        at.run("Undo")


@pytest.mark.sample(3)
@pytest.mark.parametrize("number", range(len(kinds.EVERY)))
def test_a_value_typed_again_moves_nothing_and_another_can_be_undone(desk, number, many):
    """Of the values one in 4 is tried for each kind, all of them with --full."""
    kind, sides = kinds.EVERY[number]
    at = desk(sheet(kinds.volume(kind, sides, z_mm=0.0)))
    tried = 0
    for matter, group in at.slip.groups.items():
        if not group.isVisible():
            continue
        group.unfold()
        at.settle()
        for row in group.rows[number % 2 :: many(2, 1)]:
            if isinstance(row.asked.widget, QLineEdit) and ready(row.asked.widget):
                try_field(at, row.asked.widget)
                tried += 1
        assert group.matter is matter
    assert tried > 3


@pytest.mark.sample(3)
@pytest.mark.parametrize("place", ["stand", "draw", "finish"])
@pytest.mark.parametrize("name", ["supply crawler", "curved crawler", "case by lamplight"])
def test_so_it_is_at_the_other_places(desk, place, name, many):
    at, each = desk(sample_sheet(name)), many(29, 1)
    for number, field in enumerate(fields_of(at, place)):
        if ready(field) and number % each == len(name) % each:
            try_field(at, field)
