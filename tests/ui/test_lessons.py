"""The first lessons in counted actions, and the numbers on the finished sheets."""

import numpy as np
import pypdf
import pytest

from isometron.document.document import Document
from isometron.drawing.measures import kind_of_sheet
from isometron.drawing.scene import scene_of
from isometron.perspective.eye import eye_level
from isometron.perspective.projection import project
from tests.ui.lessons import LESSONS, OWN, Hands


def on_paper(document):
    """Whether all that is drawn lies on the paper."""
    paper = document.sheet.paper
    extents = np.array([picture.extent for picture in scene_of(document).pictures])
    low, high = extents[:, :2].min(axis=0), extents[:, 2:].max(axis=0)
    return (low >= paper[:2]).all() and (high <= paper[2:]).all()


def three_crates(document):
    assert kind_of_sheet(document) == "one-point" and len(document.volumes) == 3
    level = eye_level(document.eye)
    spans = [project(document.eye, v.corners()).sheet[:, 1] for v in document.volumes]
    under, across, above = ((s.min() - level, s.max() - level) for s in spans)
    assert under[1] < 0 and across[0] < 0 < across[1] and above[0] > 0
    assert document.volumes[0].z_mm == pytest.approx(0.0, abs=1e-9)
    assert max(max(v.sides) for v in document.volumes) < 1500.0


def pier_block(document):
    width, depth, height = document.volume.sides
    assert (width, depth, height) == pytest.approx((1750.0, 1000.0, 750.0))
    opening = 0.4 * 0.7 * width * depth * height
    assert document.volume.contents_mm3 == pytest.approx(width * depth * height - opening)


def marker_masts(document):
    along = document.volumes[0].pose[1][0]
    reach = np.array([v.reach_along(along) for v in document.volumes])
    assert len(reach) == 11 and reach[:, 1].max() - reach[:, 0].min() == pytest.approx(18080.0)
    assert document.volumes[10].sides == pytest.approx((80.0, 80.0, 2100.0))
    assert np.diff(reach[:, 0]) == pytest.approx([1800.0] * 10)


def named(document, name):
    return next(volume for volume in document.volumes if volume.name == name)


def plate_cabinet(document):
    cabinet = document.volume
    assert cabinet.sides == pytest.approx((810.0, 380.0, 1120.0)) and len(document.aids) == 1
    wide, high = (750.0 - 2 * 18.0) / 3, (1000.0 - 4 * 18.0) / 5
    assert len(cabinet.face_rings) == 15
    left = 810.0 * 380.0 * 1120.0 - 15 * wide * high * 300.0
    assert cabinet.contents_mm3 == pytest.approx(left)


def desiccant_jar(document):
    body, lid = document.volumes
    assert kind_of_sheet(document) == "one-point"
    assert body.sides == pytest.approx((140.0, 140.0, 210.0))
    assert lid.corners()[:, 2].min() == pytest.approx(210.0) and lid.width_mm == 90.0
    assert [height for height, _radius in body.shape.rings] == pytest.approx([1 / 2])


def rail_cycle(document):
    front, rear, drum = (named(document, n) for n in ("Front wheel", "Rear wheel", "Hub drum"))
    middles = [v.corners().mean(axis=0) for v in (front, rear, drum)]
    along = front.pose[1][0]
    assert (middles[1] - middles[0]) @ along == pytest.approx(2.4 * 560.0)
    assert drum.width_mm == pytest.approx(0.3 * 560.0)
    assert np.cross(middles[2] - middles[0], front.pose[1][1]) == pytest.approx([0.0] * 3, abs=1e-6)
    plane = (named(document, "Steering post").corners().mean(axis=0) - middles[0]) @ front.pose[1][
        1
    ]
    assert plane == pytest.approx(0.0, abs=1e-6)


def survey_saloon(document):
    body, cabin = named(document, "Body"), named(document, "Cabin")
    assert body.corners()[:, 2].max() == pytest.approx((1.44 + 0.1) * 620.0)
    rise = (2.4 - 1.44) * 620.0
    lean = rise * np.tan(np.radians([44.0, 26.0, 12.0, 12.0]))
    front, back, left, right = cabin.shape.insets
    assert (left, right, front, back) == pytest.approx(lean)
    (window,) = cabin.face_rings
    assert window.twin == 1 and len(cabin.drawn_rings) == 2


def observing_chair(document):
    assert not document.sheet.lying and document.eye.height_mm == pytest.approx(1900.0)
    slats = [v for v in document.volumes if v.name.startswith("Slat")]
    assert len(slats) == 4 and sum("Back post" in v.name for v in document.volumes) == 2
    assert max(v.corners()[:, 2].max() for v in slats) == pytest.approx(500.0 + 430.0)


def mirror_carrier(document):
    body = named(document, "Body")
    assert body.width_mm == pytest.approx(1.06 * 4.7 * 620.0, abs=0.1)
    (lamp,) = body.face_rings
    assert lamp.twin == 1 and lamp.deep_mm == 40.0
    depth = body.depth_mm
    across = sorted({round(float(c.centre[1]), 6) for c in body.bare.circles})
    assert across == pytest.approx([240.0 + 110.0, depth - 350.0])


def ring_of_piers(document):
    for name, courses in (("Beam 1", 4), ("Beam 3", 4), ("Pier 1", 18), ("Pier 4", 18)):
        one = named(document, name)
        assert one.skins and all(skin.high_mm == 150.0 for skin in one.skins)
        heights = {
            round(float(z), 6)
            for skin, laid in zip(one.skins, one.laid_skins, strict=True)
            if skin.surface >= 0  # the soffit of an arch is measured along it
            for z in laid.starts[np.abs(laid.ends - laid.starts)[:, 2] < 1e-9, 2]
        }
        assert {150.0 * n for n in range(1, courses)} == heights
    assert len([v for v in document.volumes if v.name.startswith("Pier")]) == 6


def generator_shed(document):
    walls, drum = named(document, "Walls"), document.volumes[-1]
    louvres, flue = walls.face_rings[:7], walls.face_rings[7]
    assert len(walls.face_rings) == 8 and all(one.deep_mm == 60.0 for one in walls.face_rings)
    assert {one.face for one in louvres} == {flue.face}
    assert walls.unopened.normals[flue.face] == pytest.approx([-1.0, 0.0, 0.0])
    gap = walls.corners()[:, 1].min() - drum.corners()[:, 1].max()
    assert drum.sides == pytest.approx((580.0, 580.0, 880.0)) and gap == pytest.approx(450.0)
    roof = named(document, "Roof")
    assert roof.corners()[:, 0].min() == pytest.approx(walls.corners()[:, 0].min() - 220.0)


def crawler(document):
    assert kind_of_sheet(document) == "three-point"
    assert sum("wheel" in v.name for v in document.volumes) == 4
    assert named(document, "Cabin").corners()[:, 2].max() == pytest.approx(2.7 * 620.0)


CHECKS = {
    "three crates": three_crates,
    "pier block": pier_block,
    "plate cabinet": plate_cabinet,
    "marker masts": marker_masts,
    "desiccant jar": desiccant_jar,
    "rail inspection cycle": rail_cycle,
    "survey saloon": survey_saloon,
    "observing chair": observing_chair,
    "mirror carrier": mirror_carrier,
    "ring of piers": ring_of_piers,
    "generator shed": generator_shed,
    "three-point crawler": crawler,
}


@pytest.mark.sample(2)
@pytest.mark.parametrize("name", LESSONS)
def test_a_lesson_is_done_in_its_actions_and_its_numbers_are_right(desk, tmp_path, name):
    lesson, most = LESSONS[name]
    hands = Hands(desk(Document()))
    lesson(hands)
    CHECKS[name](hands.at.document)
    assert on_paper(hands.at.document)
    hands.print_to(tmp_path / "page.pdf")
    assert hands.actions <= most
    page = pypdf.PdfReader(tmp_path / "page.pdf").pages[0].mediabox
    wide = hands.at.document.sheet.width_mm
    assert float(page.width) / 72 * 25.4 == pytest.approx(wide, abs=0.01)
    hands.at.run("Undo")
    assert hands.at.bench.session.redo_name


def wall_lamp(document):
    plate, arm, shade, bulb = document.volumes
    assert plate.sides == (120.0, 30.0, 200.0) and arm.on.parent == plate.key
    assert (shade.width_mm, bulb.width_mm) == (160.0, 60.0)


def handcart(document):
    bed, wheel, twin, handle, leg = document.volumes
    assert bed.z_mm == pytest.approx(350.0) and wheel.height_mm == twin.height_mm == 550.0
    assert handle.shape.thick_mm == 30.0
    assert leg.corners()[:, 2].min() == pytest.approx(0.0, abs=1e-6)


def cut_out_desk(document):
    top, side, twin = document.volumes
    assert len(top.face_rings) == 1 and top.face_rings[0].through
    left, right = (one.corners() for one in (side, twin))
    assert np.allclose(left[:, 2], right[:, 2]) and not np.allclose(left[:, 0], right[:, 0])


@pytest.mark.sample(1)
@pytest.mark.parametrize(("name", "check"), [
    ("wall lamp", wall_lamp), ("handcart", handcart), ("cut-out desk", cut_out_desk)
])  # fmt: skip
def test_an_object_of_ones_own_takes_half_the_actions_it_took_with_pages(desk, name, check):
    make, before, most = OWN[name]
    hands = Hands(desk(Document()))
    make(hands)
    check(hands.at.document)
    assert hands.actions <= most <= 0.5 * before, hands.actions
