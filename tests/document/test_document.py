"""Views, kit and origin of a document, and what it refuses."""

import gc
import pickle
import weakref
from dataclasses import replace

import pytest

from isometron.construction.targets import aid_for
from isometron.document.document import Document
from isometron.document.edits import sheet_edits
from isometron.document.edits.shapes import ellipses
from isometron.document.errors import ChoiceError
from isometron.document.history import History, own_bytes
from isometron.document.kit import Hand, Kit
from isometron.document.view import Frame, View
from isometron.drawing.picks.point import PointPick
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.figures import figure_of
from tests.scenes import case, eye, sheet


def two_views():
    one = sheet(case())
    other = View("from above", eye(height_mm=3000.0, tilt_deg=-30.0), Frame(10, 10, 200, 150))
    return replace(one, views=(*one.views, other), view=1)


def test_the_eye_is_that_of_the_view_in_work_and_edits_leave_the_others():
    document = two_views()
    assert document.eye.tilt_deg == -30.0 and scene_of(document).eye == document.eye
    moved = document.with_eye(replace(document.eye, height_mm=2500.0))
    assert moved.views[0] is document.views[0] and moved.views[1].name == "from above"
    assert moved.views[1].frame == Frame(10, 10, 200, 150) and moved.eye.height_mm == 2500.0
    larger = sheet_edits.change_sheet(document, replace(document.sheet, width_mm=594.0))
    assert larger.views[0] == document.views[0]
    assert sheet_from_text(sheet_as_text(document).encode(), "it") == document


def test_ruler_guides_and_spare_paper_are_the_kit_s():
    document = ellipses.set_guides(sheet(case()), (30.0,), (40.0,))
    document = sheet_edits.set_ruler(document, 600.0)
    assert document.kit == Kit(600.0, guide_degrees=(30.0,), guide_sizes_mm=(40.0,))
    for ruler, told in ((60.0, True), (5000.0, False)):
        short = sheet_edits.set_ruler(document, ruler)
        reading = PointPick(0, family="right").reading(short, scene_of(short))
        assert ("out of reach" in [row.value for row in reading.rows]) == told
    beside = (document.sheet.width_mm + 300.0, 100.0)
    assert aid_for(document, beside) == "strip"
    bare = replace(document, kit=replace(document.kit, spare_paper_mm=0.0))
    assert aid_for(bare, beside) != "strip"


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: Kit(ruler_mm=1.0), "ruler"),
        (lambda: Kit(ruler_step_mm=0.0), "step"),
        (lambda: Kit(compass_mm=-1.0), "compass"),
        (lambda: Kit(guide_degrees=(0.0,)), "guide"),
        (lambda: Kit(spare_paper_mm=float("nan")), "paper"),
        (lambda: Hand(mark_mm=-0.1), "hand"),
        (lambda: Frame(0, 0, 0, 10), "size"),
        (lambda: Frame(float("inf"), 0, 10, 10), "paper"),
        (lambda: View("a\nb"), "plain letters"),
        (lambda: Document(views=()), "1 to 24 views"),
        (lambda: Document(view=1), "1 to 24 views"),
        (lambda: Document(origin_mm=(2e6, 0.0, 0.0)), "origin"),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence(make, words):
    with pytest.raises(ChoiceError, match=f"(?i){words}") as caught:
        make()
    assert str(caught.value).endswith(".")


def test_history_leads_back_and_on_again_and_choosing_is_no_step():
    first, second = sheet(case(), case(name="Tin", x_mm=900.0)), two_views()
    history = History(first)
    history.take("choose", replace(first, selected=1))
    assert history.undo_name is None and history.document.selected == 1
    history.take("two views", second)
    history.undo()
    assert history.document.selected == 1 and history.redo_name == "two views"
    history.redo()
    assert history.document is second and history.unsaved
    history.mark_saved()
    assert not history.unsaved
    history.undo()
    history.take("another way", first.with_eye(eye(height_mm=900.0)))
    assert history.redo_name is None and history.unsaved


def test_history_is_bounded_by_what_the_steps_weigh_and_counts_those_it_lost():
    start = sheet(case(), case(name="Tin", x_mm=900.0))
    steps = [start.with_volume(0, replace(start.volumes[0], width_mm=300.0 + i)) for i in range(60)]
    one = own_bytes(steps[1], steps[0])
    assert own_bytes(start, start) < one < len(pickle.dumps(steps[1])) * 10
    history = History(start, most_bytes=20 * one)
    for number, document in enumerate(steps):
        history.take(f"step {number}", document)
    assert 35 <= history.lost <= 45
    back = 0
    while history.undo_name:
        history.undo()
        back += 1
    assert back == 60 - history.lost and history.document is steps[59 - back]
    while history.redo_name:
        history.redo()
    assert history.document is steps[-1]


def test_a_single_step_heavier_than_the_bound_can_still_be_taken_back():
    history = History(sheet(), most_bytes=1)
    history.take("narrower", sheet(case(width_mm=300.0)))
    history.undo()
    assert history.document.volumes == sheet().volumes


def test_what_a_step_left_behind_holds_no_workings():
    start = sheet(case(), case(name="Tin", x_mm=900.0))
    history = History(start)
    figures = [weakref.ref(figure_of(volume)) for volume in start.volumes]
    history.take("narrower", start.with_volume(0, replace(start.volumes[0], width_mm=300.0)))
    gc.collect()
    assert figures[0]() is None and figures[1]() is not None
    history.undo()
    assert figure_of(history.document.volumes[0]).world == pytest.approx(case().world())
