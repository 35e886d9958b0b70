"""A page of several views of one framework."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.cli import main
from isometron.document.edits import finishing, lighting, viewing, volume_edits
from isometron.document.errors import ChoiceError
from isometron.document.light import HATCH
from isometron.document.lights.sun import Sun
from isometron.document.view import Frame
from isometron.drawing.finish import weights
from isometron.drawing.page import others_shown, page_strokes, page_washes, part_of, views_shown
from isometron.drawing.scene import scene_of
from isometron.drawing.shading import areas
from isometron.files.report import report_of
from isometron.files.sheet_file import (
    read_sheet,
    sample_sheet,
    sheet_as_text,
    sheet_from_text,
    write_sheet,
)
from isometron.framework.kinds.turned import CYLINDER
from isometron.framework.volume import Volume
from isometron.perspective.errors import FileError
from isometron.perspective.eye import eye_level
from isometron.perspective.projection import project
from isometron.remarks.second_look import second_look
from isometron.ui.board.other_views import OtherViews
from tests.exact import vanishing
from tests.published import checker
from tests.scenes import case, sheet

CRAWLER = sample_sheet("supply crawler")
PART = replace(CRAWLER, volumes=CRAWLER.volumes[:3])


def page_of_four(document=CRAWLER):
    page = viewing.add_from_behind(document)
    page = viewing.add_side(page, "side")
    return viewing.add_detail(page)


def test_a_worm_and_a_bird_share_eye_level_and_points_and_part_at_the_third():
    page = viewing.worm_and_bird(sheet(case(z_mm=0.0)))
    bird, worm = (view.eye for view in page.views)
    assert eye_level(bird) == pytest.approx(eye_level(worm), abs=1e-9)
    yaw = math.radians(page.lead_yaw_deg)
    for way in ((math.cos(yaw), math.sin(yaw), 0), (-math.sin(yaw), math.cos(yaw), 0)):
        one, two = (vanishing(eye, way) for eye in (bird, worm))
        assert [float(v) for v in one] == pytest.approx([float(v) for v in two], abs=1e-9)
    below, above = (float(vanishing(eye, (0, 0, 1))[1]) for eye in (bird, worm))
    assert below < part_of(page, page.views[0])[1] and above > part_of(page, page.views[1])[3]
    for view in page.views:
        drawn = project(view.eye, page.volumes[0].corners()).sheet
        left, bottom, right, top = part_of(page, view)
        assert (drawn > (left, bottom)).all() and (drawn < (right, top)).all()


@pytest.mark.sample(1)
@pytest.mark.parametrize("way", ["flat", HATCH])
def test_every_line_and_value_stays_in_the_frame_of_its_view(way):
    page = lighting.set_shading(lighting.set_light(page_of_four(PART), Sun(255.0, 40.0)), way=way)
    frames = [part_of(page, view) for view in page.views]
    scene = scene_of(page)
    places = [
        strokes.lines.reshape(-1, 2)
        for strokes in page_strokes(page, scene)
        if not strokes.layer.of_paper
    ]
    for wash in page_washes(page, scene):
        places += [ring for polygon in wash.area.rings() for ring in polygon]
    for place in np.concatenate(places):
        assert any(
            left - 1e-6 <= place[0] <= right + 1e-6 and bottom - 1e-6 <= place[1] <= top + 1e-6
            for left, bottom, right, top in frames
        )
    names = [strokes.layer.name for strokes in page_strokes(page, scene)]
    assert len(names) == len(set(names)), "one layer for all views"
    assert bool(page_washes(page, scene)) == (way == "flat")


def test_a_change_in_one_view_shows_in_all_and_what_stays_is_not_drawn_anew():
    page, known = page_of_four(), {}
    before = {shown.number: shown.scene for shown in others_shown(page, known)}
    again = {shown.number: shown.scene for shown in others_shown(page, known)}
    assert all(again[number] is before[number] for number in before)
    longer = volume_edits.set_side(page, 0, 1.25 * page.volumes[0].depth_mm)
    for shown in views_shown(longer, scene_of(longer), known):
        true = longer.volumes[0].world()
        assert shown.scene.pictures[0].world == pytest.approx(true)
        drawn = project(longer.views[shown.number].eye, true).sheet
        assert shown.scene.pictures[0].sheet == pytest.approx(drawn, nan_ok=True)


def test_plans_and_elevations_are_drawn_true_to_scale():
    drum = Volume("Drum", 400, 400, 300, 100, 2000, 0, shape=CYLINDER)
    box = case(x_mm=-700.0, z_mm=0.0, yaw_deg=0.0, key=1)
    page = viewing.add_side(sheet(box, drum), "plan")
    page = viewing.set_scale(viewing.add_side(page, "front"), 1, 12.0)
    plan = next(shown for shown in others_shown(page, {}) if shown.number == 1)
    world, drawn = plan.scene.pictures[0].world, plan.scene.pictures[0].sheet
    off = (world - world[0]) / 12.0
    assert drawn - drawn[0] == pytest.approx(off[:, :2], abs=1e-9)
    arcs = plan.scene.pictures[1].curves_drawn("seen")
    ends = arcs[:, 0, :2] / arcs[:, 0, 2:]
    middle = drawn[0] + ((300.0, 2200.0) - world[0, :2]) / 12.0
    assert np.hypot(*(ends - middle).T) == pytest.approx(np.full(len(ends), 200 / 12), abs=1e-9)
    front = next(shown for shown in others_shown(page, {}) if shown.number == 2)
    high = np.ptp(front.scene.pictures[0].sheet[:, 1]) / page.views[2].eye.parallel
    assert high == pytest.approx(box.height_mm)
    seen = [spans for spans in front.scene.pictures[0].visible if spans]
    assert seen, "the edges that turn to us are seen from infinitely far too"
    with pytest.raises(ChoiceError, match="no eye to work from"):
        viewing.choose_view(page, 1)
    with pytest.raises(FileError, match="no eye to work from"):
        sheet_from_text(sheet_as_text(replace(page, view=2)).encode(), "it")
    assert viewing.next_view(page) == page and eye_level(page.views[1].eye) is None


def test_views_are_moved_framed_named_and_taken_off():
    page = page_of_four()
    old = page.views[1]
    moved = viewing.set_frame(page, 1, "left_mm", old.frame.left_mm - 30.0).views[1]
    assert moved.eye.centre_of_vision_mm[0] == old.eye.centre_of_vision_mm[0] - 30.0
    thirds = viewing.to_thirds(page, 1).views[1].frame
    assert thirds.left_mm % 140.0 == pytest.approx(0) and thirds.width_mm % 140 == pytest.approx(0)
    with pytest.raises(ChoiceError, match="needs 15 mm"):
        viewing.set_frame(page, 1, "width_mm", 2.0)
    dragged = viewing.drag_frame(page, 1, (-50.0, -50.0)).views[0].frame
    assert (dragged.width_mm, dragged.height_mm) == (15.0, 15.0)
    kept = viewing.keep_before(page, True)
    closer = kept.with_eye(replace(kept.eye, x_mm=kept.eye.x_mm + 300.0))
    layers = {strokes.layer.name for strokes in page_strokes(closer, scene_of(closer))}
    assert "before" in layers and viewing.keep_before(kept, False) == page
    less = viewing.take_off_view(page)
    assert len(less.views) == 3 and less.eye.parallel is None
    assert len(viewing.take_off_numbered(page, 2).views) == 3
    last = viewing.take_off_view(viewing.add_from_behind(CRAWLER))
    assert last.views[0].frame is None
    with pytest.raises(ChoiceError, match="last view"):
        viewing.take_off_view(CRAWLER)
    overlapping = viewing.move_view(page, 1, Frame(20.0, 150.0, 196.0, 120.0))
    told = [r for r in second_look(overlapping, scene_of(overlapping)) if r.rule == "views overlap"]
    assert len(told) == 1
    shared = told[0].remedy().edit(overlapping)
    assert "views overlap" not in {r.rule for r in second_look(shared, scene_of(shared))}


def test_a_page_is_written_read_reported_and_drawn_view_by_view(tmp_path, qapp, capsys):
    page = viewing.name_view(page_of_four(), 1, "Rear")
    path = tmp_path / "page.isometron"
    write_sheet(page, path)
    assert read_sheet(path) == page
    report = report_of(page)
    checker("report")(report)
    assert [view["name"] for view in report["views"]] == ["View", "Rear", "Side", "Detail"]
    assert report["views"][0]["volumes"] == report["volumes"]
    corner = report["views"][1]["volumes"][0]["corners"][2]
    drawn = project(page.views[1].eye, np.array([corner["world_mm"]])).sheet[0]
    assert corner["sheet_mm"] == pytest.approx(drawn.tolist())
    for name in ("Rear", "Side"):
        out = tmp_path / f"{name}.svg"
        assert main(["draw", str(path), "-o", str(out), "--view", name]) == 0
        assert out.read_text().count('id="object-lines"') == 1
    lit = ["draw", str(path), "-o", str(out), "--view", "Side", "--values", "flat", "--curved"]
    assert main(lit) == 0 and b'id="values"' in out.read_bytes()
    assert main(["draw", str(path), "-o", str(out), "--view", "Roof"]) == 2
    assert "no view “Roof”" in capsys.readouterr().err


def test_what_is_worked_out_beside_the_window_is_not_asked_for_on_every_step(monkeypatch):
    """The other views of a lit page: their lines at once, values and hatching beside the window."""
    page = lighting.set_light(page_of_four(), Sun(255.0, 40.0))
    page = finishing.set_finish(lighting.set_shading(page, way=HATCH), weighted=True, mirror=True)

    def asked(*_given):
        raise AssertionError("worked out under the hand")

    monkeypatch.setattr(areas, "_areas", asked)
    monkeypatch.setattr(weights, "silhouette_of", asked)
    other = OtherViews()
    other.show_document(page)
    names = {strokes.layer.name for strokes in other._strokes}
    assert "object lines" in names and "hatching" not in names
    width = next(s.layer.pencil.width_mm for s in other._strokes if s.layer.name == "object lines")
    assert width == page.finish.edge_mm
