from dataclasses import replace

import numpy as np
import pytest

from isometron.document.edits.choosing import choose_all, group
from isometron.document.edits.places import spanning, standing
from isometron.drawing.scene import scene_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.projection import project
from isometron.remarks.second_look import second_look
from tests.scenes import case, eye, sheet

GROUND = case(z_mm=0.0)


def remarks(document, rule):
    return [r for r in second_look(document, scene_of(document)) if r.rule == rule]


def test_what_touches_nothing_floats_and_is_set_down():
    upon = case(name="Upon", z_mm=180.0, key=1)
    aloft = case(name="Aloft", z_mm=700.0, x_mm=900.0, key=2)
    (remark,) = remarks(sheet(GROUND, upon, aloft), "floating")
    assert remark.volume == 2 and remark.value == pytest.approx(700.0)
    done = remark.remedy().edit(sheet(GROUND, upon, aloft))
    assert done.volumes[2].z_mm == pytest.approx(0.0) and not remarks(done, "floating")
    assert not remarks(sheet(case(), case(name="Upon", z_mm=1180.0, key=1)), "floating")


def test_unrelated_volumes_that_run_through_each_other_are_told_once():
    across = Volume("Across", 100, 600, 60, 100, 1900, 20, key=1)
    document = sheet(GROUND, across)
    (remark,) = remarks(document, "overlapping_volumes")
    assert remark.value > 4 * 60 and "Across" in remark.title
    assert not remarks(group(choose_all(document), "Body"), "overlapping_volumes")
    touching = case(name="Upon", z_mm=180.0, key=1)
    assert not remarks(sheet(GROUND, touching), "overlapping_volumes")


def test_a_rail_through_the_posts_it_was_laid_along_is_no_remark():
    post = replace(case(yaw_deg=0.0), width_mm=40.0, depth_mm=40.0)
    row = standing.repeat(sheet(post), 3, (500.0, 0.0, 0.0))
    for level in (False, True):
        railed = spanning.lay_along_row(row, 2, 150.0, 20.0, 60.0, level=level)
        assert len(railed.volumes) == 6 and remarks(railed, "overlapping_volumes") == []
        assert remarks(railed, "no_guide_fits") == []
    with pytest.raises(VolumeError, match="set it in a row first"):
        spanning.lay_along_row(sheet(post), 1, 150.0, 20.0, 60.0, level=True)


def test_a_square_far_to_the_side_reads_off_square_by_what_its_place_says():
    side = 200.0
    for angle in (20.0, 40.0):
        away = 3000.0 * np.tan(np.radians(angle))
        cube = Volume("Cube", side, side, side, away - side / 2, 3000.0, 1500.0 - side / 2)
        found = remarks(sheet(cube, by=eye()), "square_off_square")
        # Face on, the front's width is foreshortened by cos² more than its height by cos.
        expected = 100 * (1 / np.cos(np.radians(angle)) - 1)
        if angle == 20.0:
            assert not found
        else:
            assert found[0].value == pytest.approx(expected, abs=2.0)


def test_what_runs_off_the_sheet_is_measured_and_fitted():
    document = sheet(GROUND, by=eye(centre_of_vision_mm=(60.0, 180.0)))
    (remark,) = remarks(document, "off_the_sheet")
    lines = scene_of(document).pictures[0].seen_lines
    t = (np.arange(20_000) + 0.5) / 20_000
    x = lines[:, 0, None] + t * (lines[:, 2] - lines[:, 0])[:, None]
    y = lines[:, 1, None] + t * (lines[:, 3] - lines[:, 1])[:, None]
    length = np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1])
    off = ((x < 0) | (x > 420) | (y < 0) | (y > 297)).mean(axis=1) @ length
    assert remark.value == pytest.approx(off, rel=1e-3)
    assert not remarks(remark.remedy().edit(document), "off_the_sheet")


def test_corners_that_fall_together_by_accident_are_told_and_real_contacts_are_not():
    base = case()
    corner = project(eye(), base.corners()[[6]]).sheet[0]
    ray = base.corners()[6] - eye().place
    behind = case(name="Behind", key=1).standing_so_that(4, np.array(eye().place) + 1.6 * ray)
    remark, *_ = remarks(sheet(base, behind), "coincidence")
    assert "a corner" in remark.title
    assert remark.sheet_mm == pytest.approx(corner, abs=0.5) and remark.value < 0.5
    moved = replace(behind, x_mm=behind.x_mm + 40.0)
    assert not remarks(sheet(base, moved), "coincidence")
    assert not remarks(sheet(GROUND, case(name="Upon", z_mm=180.0, key=1)), "coincidence")


def test_edges_that_fall_together_by_accident_are_told():
    front = Volume("Front", 200, 100, 100, -100, 2000, 1400)
    behind = Volume("Behind", 300, 100, 300, -150, 4000, 1300, key=1)  # tops: 1500, at eye height
    high = replace(behind, z_mm=1500.0 - 300.0 + 0.0)
    assert front.corners()[:, 2].max() == high.corners()[:, 2].max() == 1500.0
    (remark,) = remarks(sheet(front, high), "coincidence")
    assert "an edge" in remark.title


def test_of_one_group_only_the_worst_is_told():
    row = [case(name=f"C{i}", x_mm=1800.0 + 400 * i, key=i, group="Row") for i in range(3)]
    found = remarks(sheet(*row), "outside_the_cone")
    assert len(found) == 1 and found[0].volume == 2
    assert len(remarks(sheet(*[replace(v, group="") for v in row]), "outside_the_cone")) == 3
