"""Twelve jobs of the trade from a blank sheet to the written page, with seeded numbers, in counted
actions: what is said in a line counts two, the file that is written two."""

import random
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pypdf
import pytest

from isometron.document.document import Document
from isometron.document.lights.table import LIGHTS
from isometron.drawing.scene import scene_of
from tests.ui.lessons import Hands


def sides(hands):
    return [tuple(round(mm, 6) for mm in one.sides) for one in hands.at.document.volumes]


def named(hands, name):
    return next(one for one in hands.at.document.volumes if one.name == name)


def three_crates(hands, n):
    wide, deep, high, gap = n(40, 70), n(30, 50), n(30, 45), n(8, 20)
    hands.line(f"box {wide} × {deep} × {high} cm")
    for other in (1, 2):
        hands.line(f"box {wide} × {deep} × {high} cm, {gap} cm right of Box {other}")
    assert sides(hands) == [(10 * wide, 10 * deep, 10 * high)] * 3
    corners = [one.corners() @ hands.at.document.volumes[0].pose[1][0] for one in volumes(hands)]
    assert [b.min() - a.max() for a, b in pairwise(corners)] == pytest.approx([10 * gap] * 2)


def volumes(hands):
    return hands.at.document.volumes


def l_block(hands, n):
    wide, deep, high, share = n(150, 240), n(70, 110), n(60, 95), n(30, 60) / 100
    hands.line(f"box {wide} × {deep} × {high} cm")
    hands.line(f"step upper, right, {share}, 1/2")
    whole = 1e3 * wide * deep * high
    assert hands.at.document.volume.contents_mm3 == pytest.approx(whole * (1 - share / 2))


def cabinet(hands, n):
    deep, high, gap = n(11, 17), n(34, 48), n(2, 5) / 4
    hands.line(f"box 2 ft × {deep} in × {high} in")
    hands.line(f"opening from left 2 in, up 2 in, wide 20 in, high {high - 4} in, "
               f"deep {deep - 1} in, across 2, upward 4, gap {gap} in")  # fmt: skip
    box = hands.at.document.volume
    assert box.width_mm == pytest.approx(609.6) and len(box.face_rings) == 8
    hollow = (20 - gap) * (high - 4 - 3 * gap) * (deep - 1)
    assert box.contents_mm3 == pytest.approx((24 * deep * high - hollow) * 25.4**3)


def masts(hands, n):
    thick, high, low = n(6, 12), n(190, 260), n(20, 60)
    hands.line(f"box {thick} × {thick} × {high} cm")
    hands.line(f"row 11, {1800 + thick} cm")
    hands.line(f"rail 2, {high - 5} cm, 2 cm, {low} cm")
    *posts, upper, lower = volumes(hands)
    across = [one.corners().mean(axis=0) for one in posts]
    assert np.linalg.norm(np.diff(across, axis=0), axis=1) == pytest.approx([1800.0] * 10)
    for rail, top in ((upper, high - 5), (lower, high - 5 - low)):
        ends = rail.corners()
        assert rail.width_mm == pytest.approx(18_000.0) and rail.shape.axis == 0
        assert ends[:, 2].max() == pytest.approx(10.0 * top)
        middles = ends[[0, 2, 4, 6]].mean(axis=0), ends[[1, 3, 5, 7]].mean(axis=0)
        for middle, post in zip(middles, (across[0], across[-1]), strict=True):
            assert middle[:2] == pytest.approx(post[:2], abs=1e-6)


def jar(hands, n):
    high, mouth, lid = n(16, 24), n(6, 9), n(2, 4)
    hands.line(f"turned object {high} cm, mouth diameter {mouth} cm, lid height {lid} cm, joints 2")
    assert named(hands, "Turned object").height_mm == pytest.approx(10 * high)
    assert named(hands, "Lid").height_mm == pytest.approx(10 * lid)


def two_wheels(hands, n):
    wheel, base, saddle, handle = n(45, 60), n(110, 150), n(78, 92), n(95, 115)
    hands.line(f"two wheels {wheel} cm, wheelbase {base} cm, saddle height {saddle} cm, "
               f"handle height {handle} cm")  # fmt: skip
    for name, high in (("Saddle", saddle), ("Handle", handle), ("Front wheel", wheel)):
        assert named(hands, name).corners()[:, 2].max() == pytest.approx(10.0 * high)


def saloon(hands, n):
    wheel, base, high, lean = n(56, 68), n(170, 215), n(128, 150), n(6, 15)
    hands.line(f"vehicle {wheel} cm, wheelbase {base} cm, height {high} cm, "
               f"lean of side glass {lean}, boxes bonnet and boot")  # fmt: skip
    one, two = named(hands, "Front wheel"), named(hands, "Rear wheel")
    assert two.x_mm - one.x_mm == pytest.approx(10 * base) and one.height_mm == 10 * wheel
    assert named(hands, "Cabin").corners()[:, 2].max() == pytest.approx(10 * high)


def chair(hands, n):
    seat, back, splay = n(38, 48), n(34, 50), n(2, 9)
    hands.line(f"seat {seat} cm, back height {back} cm, slats 3, splay {splay}")
    names = {one.name for one in volumes(hands)}
    assert {"Slat 1", "Slat 2", "Slat 3", "Back post", "Back post twin"} <= names
    assert named(hands, "Seat").corners()[:, 2].max() == pytest.approx(10 * seat)


def carrier(hands, n):
    wheel, base = n(66, 84), n(24, 31) / 10
    hands.line(f"vehicle {wheel} cm, wheelbase {base}, boxes all cabin")
    hands.command("Sun")
    light = hands.at.document.light
    assert isinstance(light, LIGHTS["sun"]) and hands.at.document.shading.shadows
    assert named(hands, "Front wheel").height_mm == pytest.approx(10 * wheel)


def ring(hands, n):
    across, piers, high = n(58, 84) / 10, n(5, 9), n(24, 30)
    hands.line(f"ring of piers {across} m, piers {piers}, height {high / 10} m")
    hands.line("boards, tiles 10 cm, 40 cm, every upright side")
    for one in volumes(hands):
        assert len({skin.surface for skin in one.skins}) >= 4, one.name
    assert sum(one.name.startswith("Pier") for one in volumes(hands)) == piers


def shed(hands, n):
    long, high, door, window = n(36, 48), n(23, 29), n(75, 95), n(40, 60)
    hands.line(f"shed {long / 10} m, front height {high / 10} m")
    hands.click_in_list("Walls")
    hands.line(f"opening up 0, from left 30 cm, wide {door} cm, high 190 cm, deep 6 cm, on front")
    hands.line(f"opening up 1 m, from left 1.6 m, wide {2 * window + 20} cm, high 60 cm, "
               "deep 6 cm, across 2, gap 20 cm, on front")  # fmt: skip
    walls = named(hands, "Walls")
    assert len(walls.cuts) + len(walls.face_rings) == 3
    gone = 60.0 * 10 * door * 1900 + 2 * 60.0 * 10 * window * 600
    whole = replace(walls, cuts=(), face_rings=()).contents_mm3
    assert walls.contents_mm3 == pytest.approx(whole - gone)


def two_views(hands, n):
    base = n(27, 34) / 10
    hands.line(f"vehicle wheelbase {base}, boxes bonnet and boot")
    hands.actions += 2  # the place, and its page
    hands.at.page(1, "stand")
    hands.press("Worm and bird")
    heights = sorted(view.eye.height_mm for view in hands.at.document.views)
    top = max(one.corners()[:, 2].max() for one in volumes(hands))
    assert len(heights) == 2 and heights[0] < 0.4 * top < top < heights[1]


JOBS = {
    "three crates": (three_crates, 8),
    "L block": (l_block, 6),
    "cabinet": (cabinet, 10),
    "masts with cables": (masts, 8),
    "jar with lid": (jar, 9),
    "two wheels": (two_wheels, 9),
    "saloon": (saloon, 9),
    "chair with slats": (chair, 10),
    "carrier in the sun": (carrier, 8),
    "ring in courses": (ring, 8),
    "shed": (shed, 14),
    "two views": (two_views, 12),
}


@pytest.mark.sample(3)
@pytest.mark.parametrize("name", JOBS)
def test_a_job_takes_few_actions_and_its_numbers_are_those_that_were_said(desk, tmp_path, name):
    job, most = JOBS[name]
    hands = Hands(desk(Document()))
    job(hands, random.Random(name).randint)
    hands.print_to(tmp_path / "page.pdf")
    assert hands.actions <= most, hands.actions
    assert len(pypdf.PdfReader(tmp_path / "page.pdf").pages) == 1
    document, paper = hands.at.document, hands.at.document.sheet.paper
    extents = np.array([picture.extent for picture in scene_of(document).pictures])
    if name != "two views":
        assert (extents[:, :2].min(axis=0) >= paper[:2]).all(), "all of it is on the page"
        assert (extents[:, 2:].max(axis=0) <= paper[2:]).all()
