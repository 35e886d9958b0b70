"""Twelve corrections of proportion, each in two actions at most, and the framework right after it:
measured on corners and arcs, not on what the program says of itself."""

import numpy as np
import pypdf
import pytest

from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.eye_edits import fit_on_page, step_back
from isometron.document.edits.volume_edits import set_side
from isometron.document.near_edge import near_edge_world
from isometron.framework.volume import Volume
from isometron.perspective.projection import project
from tests.ui.lessons import Hands

W = 620.0


def named(hands, name):
    return next(one for one in hands.at.document.volumes if one.name == name)


def middle(volume):
    return volume.corners().mean(axis=0)


def right(hands):
    """Arches round their wheels and the cabin on its body: from three places of each arc."""
    body, cabin = named(hands, "Body"), named(hands, "Cabin")
    arcs = [arc[:, :3] / arc[:, 3:] for arc in body.bare.arcs]
    for name in ("Front wheel", "Rear wheel"):
        wheel = named(hands, name)
        axle, radius = (middle(wheel) - body.place)[[0, 2]], wheel.width_mm / 2
        ends = np.concatenate([one[[0, 2]][:, [0, 2]] for one in arcs])
        off = np.abs(np.linalg.norm(ends - axle, axis=1) - 1.14 * radius)
        assert (off < 1e-6).sum() >= 4, f"an arch about {name}, on both sides"
    reach = [np.sort(one.corners()[:, 0])[[0, -1]] for one in (body, cabin)]
    assert reach[0][0] - 1e-6 <= reach[1][0] < reach[1][1] <= reach[0][1] + 1e-6
    assert cabin.corners()[:, 2].min() <= body.corners()[:, 2].max() + 1e-6


def tenth_shorter(hands):
    long = named(hands, "Body").width_mm
    hands.type("width", "90 %")
    assert named(hands, "Body").width_mm == pytest.approx(0.9 * long)


def wheels_apart(hands):
    before = middle(named(hands, "Rear wheel")) - middle(named(hands, "Front wheel"))
    hands.line("wheelbase 3.5")
    after = middle(named(hands, "Rear wheel")) - middle(named(hands, "Front wheel"))
    assert after[0] - before[0] == pytest.approx(W / 2)


def wheels_larger(hands):
    hands.line("wheel diameter 68 cm")
    assert named(hands, "Front wheel").width_mm == named(hands, "Rear wheel").width_mm == 680.0


def cabin_back(hands):
    place = named(hands, "Cabin").corners()[:, 0].min()
    hands.line("bonnet 1.6")
    assert named(hands, "Cabin").corners()[:, 0].min() - place == pytest.approx(W / 2)


def roof_lower(hands):
    hands.line("height of the vehicle 2.2")
    assert named(hands, "Cabin").corners()[:, 2].max() == pytest.approx(2.2 * W)


def nose_shorter(hands):
    hands.line("front overhang 0.75")
    off = middle(named(hands, "Front wheel"))[0] - named(hands, "Body").corners()[:, 0].min()
    assert off == pytest.approx(0.75 * W)


def belt_higher(hands):
    hands.line("belt height 95 cm")
    assert named(hands, "Cabin").corners()[:, 2].min() == pytest.approx(950.0)


def lower_slung(hands):
    hands.line("ground clearance 0.3")
    assert named(hands, "Body").corners()[:, 2].min() == pytest.approx(0.3 * W)


def seat_lower(hands):
    back = named(hands, "Back").height_mm
    hands.line("seat height 40 cm")
    assert named(hands, "Seat").corners()[:, 2].max() == pytest.approx(400.0)
    assert named(hands, "Back").height_mm == back
    assert named(hands, "Front leg").corners()[:, 2].min() == pytest.approx(0.0, abs=1e-9)
    assert named(hands, "Front leg").corners()[:, 2].max() == pytest.approx(350.0)


def seat_deeper(hands):
    hands.line("depth of the seat 50 cm")
    assert named(hands, "Seat").depth_mm == 500.0
    assert np.ptp(named(hands, "Arm").corners()[:, 1]) == pytest.approx(410.0)


def boards_more(hands):
    hands.line("boards: 5")
    boards = [one for one in hands.at.document.volumes if one.name.startswith("Board")]
    gaps = np.diff(sorted(one.z_mm for one in boards))
    assert len(boards) == 5 and gaps == pytest.approx([gaps[0]] * 4)


def lid_higher(hands):
    hands.line("lid height 30")
    jar, lid = named(hands, "Turned object"), named(hands, "Lid")
    assert lid.height_mm == 300.0
    assert middle(lid)[:2] == pytest.approx(middle(jar)[:2])


CORRECTIONS = {
    "vehicle 62 cm": (
        *(tenth_shorter, wheels_apart, wheels_larger, cabin_back),
        *(roof_lower, nose_shorter, belt_higher, lower_slung),
    ),
    "seat 44 cm": (seat_lower, seat_deeper),
    "shelf 120 cm": (boards_more,),
    "turned object 18 cm, lid height 2 cm": (lid_higher,),
}


@pytest.mark.sample(4)
@pytest.mark.parametrize(
    ("begun", "correction"), [(name, one) for name, all_ in CORRECTIONS.items() for one in all_]
)
def test_a_correction_takes_two_actions_and_leaves_the_framework_right(desk, begun, correction):
    hands = Hands(desk(Document()))
    hands.line(begun)
    eye, hands.actions = hands.at.document.eye, 0
    correction(hands)
    assert hands.actions <= 2 and hands.at.document.eye == eye
    if begun.startswith("vehicle"):
        right(hands)
    hands.command("Undo")
    assert hands.at.document.begun_with is not None


def test_the_next_answer_gives_way_elsewhere_and_one_undo_takes_it_back(desk):
    hands = Hands(desk(Document()))
    hands.line("vehicle 62 cm")
    before, seen = hands.at.document, []
    hands.type("width", "90 %")
    for _turn in range(3):
        cabin, wheel = named(hands, "Cabin"), named(hands, "Rear wheel")
        seen.append((round(cabin.width_mm), round(wheel.x_mm)))
        assert named(hands, "Body").width_mm == pytest.approx(0.9 * 2914.0)
        right(hands)
        hands.command("Another answer")
    assert len(set(seen)) == 3, "trimmed cabin, slid cabin, wheels in proportion"
    hands.command("Undo")
    assert hands.at.document.same_work(before)
    hands.command("Another answer")
    assert hands.at.document.same_work(before)
    assert "no other answer" in hands.at.board.plate.text()


def test_a_drag_that_snaps_is_offered_to_be_kept_once_and_a_key_keeps_it(desk):
    row = Volume("Table", 1200, 700, 740), Volume("Lamp", 240, 310, 300, 333, 111, 740)
    two = choosing.select(choosing.with_new(Document(), row), 1)
    at = desk(fit_on_page(step_back(two, 5000.0)))
    lamp, table = (named(Hands(at), name) for name in ("Lamp", "Table"))
    held = near_edge_world(at.document.eye, lamp)[0]
    there = held + [0.0, middle(table)[1] - middle(lamp)[1], 0.0]
    foot, wanted = project(at.document.eye, np.array([held, there])).sheet
    view = at.board.view
    by = view.point(tuple(wanted)) - view.point(tuple(foot))
    start = at.face_place(1, 2)
    at.drag(start, (round(by.x()), round(by.y())))
    assert middle(named(Hands(at), "Lamp"))[1] == pytest.approx(350.0), "it snapped"
    assert "Meant? Lamp stays in the middle of the depth of Table" in at.board.plate.text()
    at.run("Keep it so")
    assert at.document.intentions and at.bench.session.undo_name == "keep it so"
    at.bench.session.edit("wider", lambda d: set_side(choosing.select(d, 0), 1, 900.0))
    at.settle()
    own = middle(named(Hands(at), "Lamp")) - middle(named(Hands(at), "Table"))
    assert own[1] == pytest.approx(0.0, abs=1e-6)
    for _step in range(3):
        at.bench.session.undo()
    assert at.document.volumes[1].place == lamp.place and not at.document.intentions


def test_two_variants_side_by_side_on_a_page_take_nine_actions_at_most(desk, tmp_path):
    hands = Hands(desk(Document()))
    hands.line("vehicle 62 cm")
    hands.actions = 0
    hands.command("New variant")
    hands.line("wheelbase 3.5")
    hands.command("Next variant")
    assert "variant A" in hands.at.bench.state.text()
    hands.command("Next variant")
    hands.at.answers.sends = tmp_path / "both.pdf"
    hands.actions += 2
    hands.at.run("Write variants…")
    text = pypdf.PdfReader(tmp_path / "both.pdf").pages[0].extract_text()
    assert "wheelbase 3 w → 3.5 w" in text and hands.actions <= 9
    for _step in range(4):
        hands.command("Undo")
    assert hands.at.document.variants == () and named(hands, "Body").width_mm == 2914.0


def test_what_looks_wrong_is_told_and_put_right_with_one_press(desk):
    hands = Hands(desk(Document()))
    hands.line("seat 60 cm")
    told = " ".join(remark.title for remark in hands.at.bench.strip.list.rows.remarks)
    assert "Seat height of Seat: too much" in told
    hands.press("Make it 53 cm")
    assert named(hands, "Seat").corners()[:, 2].max() == pytest.approx(530.0)
    assert named(hands, "Front leg").corners()[:, 2].min() == pytest.approx(0.0, abs=1e-6)
