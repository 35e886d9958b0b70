"""Every handle pulled anywhere, from every stance, at every tilt: a legal sheet or one sentence."""

import random
from dataclasses import astuple, replace

import numpy as np
import pytest

from isometron.document.edits.projecting import applied
from isometron.document.edits.stances import STANCES, take_stance
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sample_sheet, sheet_as_text, sheet_from_text
from isometron.perspective.errors import IsometronError
from isometron.remarks.second_look import second_look
from isometron.ui.board.handles.table import handles_of, load
from tests import kinds
from tests.scenes import sheet, some

SHEETS = [
    sample_sheet(),
    sample_sheet("red lamp"),
    sample_sheet("curved crawler"),
    sample_sheet("crawler in the sun"),
    sample_sheet("case by lamplight"),
    *(sheet(kinds.volume(*some[0], z_mm=0.0)) for some in kinds.EXAMPLES.values()),
]


def drags(handle, shifted):
    """What a drag of a handle means: plain ones, and those that snap."""
    if shifted and handle.shifted:
        return handle.shifted
    slide = handle.shift_slides if shifted else handle.slides
    return handle.drag if slide is None else lambda d, to: slide(d, to, True).document


@pytest.mark.sample(3)
@pytest.mark.parametrize("tilt", range(-80, 81, 20))
def test_a_drag_gives_a_sheet_that_can_be_drawn_and_kept_or_is_refused(tilt, many):
    load()
    seeded, refused, wanted = random.Random(f"drag {tilt}"), 0, many(10, 300)
    for _drag in range(wanted):
        document = seeded.choice(SHEETS)
        if seeded.random() < 0.7:
            stance = seeded.choice(STANCES)
            document = applied(lambda d, s=stance: take_stance(d, s), document)
        eye = replace(document.eye, tilt_deg=tilt, heading_deg=seeded.uniform(-180, 180))
        document = document.with_eye(eye) if seeded.random() < 0.9 else document
        handles = handles_of(document, scene_of(document))
        handle = seeded.choice(handles)
        to = (seeded.uniform(-100, 520), seeded.uniform(-100, 400))
        if seeded.random() < 0.2:
            to = handle.place
        try:
            drag = drags(handle, seeded.random() < 0.3)
            after = applied(lambda d, t=to, pull=drag: pull(d, t), document)
        except IsometronError as told:
            assert str(told).endswith("."), handle.key
            refused += 1
            continue
        scene = scene_of(after)
        for picture in scene.pictures:
            assert np.isfinite(picture.world).all() and np.isfinite(picture.lines).all()
        second_look(after, scene)
        assert handle.number(after, scene) is not None
        assert sheet_from_text(sheet_as_text(after).encode(), "it") == after
    assert refused < wanted


SAMPLES = ["case by lamplight", "red lamp", "curved crawler", "crawler in the sun", "crawler page"]


@pytest.mark.parametrize("name", some(SAMPLES, 2))
def test_taking_hold_moves_nothing_and_no_handle_runs_ahead_of_the_hand(name):
    load()
    document = sample_sheet(name)
    scene = scene_of(document)
    for handle in handles_of(document, scene):
        held = applied(lambda d, h=handle: h.drag(d, h.place), document)
        assert astuple(held.eye)[:6] == pytest.approx(astuple(document.eye)[:6], abs=1e-6)
        for picture, before in zip(scene_of(held).pictures, scene.pictures, strict=True):
            assert np.allclose(picture.world, before.world, atol=1e-6)
        for by in ((2.0, -1.5), (-7.0, 4.0)):
            x, y = to = np.add(handle.place, by).tolist()
            try:
                after = applied(lambda d, h=handle, t=(x, y): h.drag(d, t), document)
            except IsometronError:
                continue
            there = next(
                (h for h in handles_of(after, scene_of(after)) if h.key == handle.key), None
            )
            assert there is not None, handle.key
            if handle.key != "light tip":  # another corner's shadow may fall farther then
                assert np.hypot(*np.subtract(to, there.place)) < 1.1 * np.hypot(*by), handle.key
