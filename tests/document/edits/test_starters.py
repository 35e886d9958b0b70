"""What starters set down, against sums by hand."""

import math

import numpy as np
import pytest

from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.starters import (
    RING_OF_PIERS,
    SEAT,
    SHED,
    SHELF,
    STARTERS,
    TRAILER,
    TURNED,
    TWO_WHEELS,
    VEHICLE,
    with_starter,
)
from isometron.drawing.between import vehicle
from isometron.drawing.measuring import measure
from isometron.drawing.picks.curve import CirclePick
from isometron.drawing.scene import scene_of
from isometron.framework.figures import figure_of
from isometron.hiding.contact import How, contact
from isometron.perspective.errors import VolumeError


def set_down(starter, **answers):
    return with_starter(Document(), starter, {**starter.proposal, **answers})


def named(document, name):
    return next(v for v in document.volumes if v.name == name)


def test_a_vehicle_has_the_track_and_the_width_that_were_asked_for():
    document = choosing.choose_all(set_down(VEHICLE, width=2.4, track=1.8))
    rows = {row.label: row.value for row in vehicle(document).rows}
    assert rows["wheelbase"].endswith("= 3 w")
    assert rows["track at Front wheel"].endswith("= 1.8 w")
    assert rows["track at Rear wheel"].endswith("= 1.8 w")
    assert named(document, "Body").depth_mm == pytest.approx(2.4 * 620.0)


@pytest.mark.parametrize(("boxes", "long"), [(1, 4.7), (2, 3.6), (3, 2.9)])
def test_a_vehicle_of_so_many_boxes_rises_narrows_and_carries_its_cabin_where_it_is_said(
    boxes, long
):
    answers = {"belt rise": 0.2, "nose height": 1.1, "nose width": 1.5, "boot": 0.7}
    document = set_down(VEHICLE, boxes=float(boxes), **answers)
    body, cabin = named(document, "Body"), named(document, "Cabin")
    assert cabin.width_mm == pytest.approx(long * 620.0)
    place, axes = body.pose
    own = (cabin.corners()[0] - place) @ axes.T
    assert own[0] == pytest.approx((0.0 if boxes == 1 else 1.1) * 620.0)
    assert cabin.corners()[:, 2].max() == pytest.approx(2.4 * 620.0)
    assert body.corners()[:, 2].max() == pytest.approx((1.44 + 0.2) * 620.0)
    points = body.bare.vertices
    nose, tail = points[points[:, 0] < 1e-6], points[points[:, 0] > body.width_mm - 1e-6]
    assert np.ptp(nose[:, 1]) == pytest.approx(1.5 * 620.0)
    assert np.ptp(tail[:, 1]) == pytest.approx(2.3 * 620.0)
    high = 1.44 if boxes == 1 else 1.1
    assert nose[:, 2].max() == pytest.approx((high - 0.4) * 620.0)


def test_trailer_seat_and_turned_object_have_what_was_asked_for():
    trailer = set_down(TRAILER, axles=2.0)
    wheels = [v.corners().mean(axis=0) for v in trailer.volumes if "heel" in v.name]
    assert sorted(np.round(np.ptp(wheels, axis=0) / 560.0, 9)[:2]) == [1.15, 2.75]
    seat = set_down(SEAT, slats=4.0, posts=1.0, arms=0.0)
    assert not any("Arm" in v.name for v in seat.volumes)
    slats = [v for v in seat.volumes if v.name.startswith("Slat")]
    tops = [v.corners()[:, 2].max() for v in slats]
    assert len(slats) == 4 and tops[-1] == pytest.approx(440.0 + 430.0)
    assert np.diff(tops) == pytest.approx([430.0 / 4] * 3)
    jar = set_down(TURNED, joints=2.0, **{"lid height": 30.0})
    body, lid = jar.volumes
    assert lid.corners()[:, 2].min() == pytest.approx(180.0) and lid.width_mm == 70.0
    assert [height for height, _radius in body.shape.rings] == pytest.approx([1 / 3, 2 / 3])


@pytest.mark.parametrize("pitch", [5.0, 14.0, 35.0])
def test_the_roof_of_a_shed_lies_on_its_sloping_walls(pitch):
    document = set_down(SHED, **{"roof pitch": pitch})
    walls, roof = document.volumes
    back = 2700.0 - 2600.0 * math.tan(math.radians(pitch))
    assert walls.corners()[:, 2].max() == pytest.approx(2700.0)
    assert walls.contents_mm3 == pytest.approx(4200.0 * 2600.0 * (2700.0 + back) / 2)
    slope = 3040.0 / math.cos(math.radians(pitch))
    assert roof.contents_mm3 == pytest.approx(4640.0 * slope * 90.0)
    with pytest.raises(VolumeError, match="too low behind"):
        set_down(SHED, **{"roof pitch": 45.0})
    found = contact(figure_of(roof), figure_of(walls))
    assert found.how in (How.ON, How.AGAINST) and found.gap_mm == 0.0


def test_boxes_stand_between_the_boards_of_a_shelf():
    document = set_down(SHELF)
    boards = [v for v in document.volumes if v.name.startswith("Board")]
    boxes = [v for v in document.volumes if v.name.startswith("Box")]
    assert len(boards) == 4 and len(boxes) == 9
    feet = sorted({round(v.corners()[:, 2].min(), 6) for v in boards})
    assert np.diff(feet) == pytest.approx([(1500.0 - 25.0) / 3] * 3)
    for box in boxes:
        low, high = box.corners()[:, 2].min(), box.corners()[:, 2].max()
        under = max(foot for foot in feet if foot < low)
        assert low == pytest.approx(under + 25.0) and high < under + (1500.0 - 25.0) / 3
    with pytest.raises(VolumeError, match="warehouse"):
        set_down(SHELF, **{"boxes on each": 40.0})


@pytest.mark.parametrize(("count", "rise"), [(4, 250.0), (7, 0.0), (12, 590.0)])
def test_a_ring_closes_with_piers_evenly_round_and_beams_from_one_to_the_next(count, rise):
    document = set_down(RING_OF_PIERS, piers=float(count), rise=rise)
    piers = [v.corners().mean(axis=0) for v in document.volumes if v.name.startswith("Pier")]
    beams = [v for v in document.volumes if v.name.startswith("Beam")]
    assert len(piers) == len(beams) == count
    assert np.linalg.norm(np.array(piers)[:, :2], axis=1) == pytest.approx([3600.0] * count)
    wide = 7200.0 * math.sin(math.pi / count)
    apart = np.linalg.norm(np.diff([*piers, piers[0]], axis=0), axis=1)
    assert apart == pytest.approx([wide] * count)
    clear, under = wide - 480.0, 0.0
    if rise:
        radius = (clear**2 / 4 + rise**2) / (2 * rise)
        half = math.asin(clear / 2 / radius)
        under = radius**2 * half - clear / 2 * (radius - rise)
    for n, beam in enumerate(beams):
        middle = beam.corners().mean(axis=0)
        between = (piers[n] + piers[(n + 1) % count]) / 2
        assert middle[:2] == pytest.approx(between[:2], abs=1e-6)
        assert beam.corners()[:, 2].max() == pytest.approx(2700.0)
        assert beam.contents_mm3 == pytest.approx((wide * 600.0 - under) * 0.6 * 400.0, rel=1e-9)
    with pytest.raises(VolumeError, match="no room"):
        set_down(RING_OF_PIERS, diameter=3600.0, piers=30.0)


def test_a_second_starter_of_another_size_leaves_the_first_as_it_is():
    first = set_down(TWO_WHEELS)
    both = with_starter(first, VEHICLE, VEHICLE.proposal)
    count = len(first.volumes)
    assert [v.sides for v in both.volumes[:count]] == [v.sides for v in first.volumes]
    assert {module.name: module.mm for module in both.modules} == {"w": 400.0, "w 2": 620.0}
    assert named(both, "Body").counts[0].of == "w 2"
    again = with_starter(both, VEHICLE, VEHICLE.proposal)
    assert again.modules == both.modules, "of the same size it is the same module"


def test_a_cycle_has_its_wheels_in_line_and_its_post_on_the_centre_plane():
    document = set_down(TWO_WHEELS)
    scene = scene_of(document)
    axles = measure(scene, CirclePick(0), CirclePick(1))
    front, rear = document.volumes[:2]
    along = front.pose[1][0]
    apart = (rear.corners().mean(axis=0) - front.corners().mean(axis=0)) @ along
    assert apart == pytest.approx(2.6 * 400.0) and axles.mm > apart
    post = named(document, "Steering post")
    plane = front.corners().mean(axis=0) @ front.pose[1][1]
    assert post.corners().mean(axis=0) @ front.pose[1][1] == pytest.approx(plane)
    assert post.pose[1][2][2] == pytest.approx(math.cos(math.radians(20.0)))
    assert post.pose[1][2] @ along == pytest.approx(math.sin(math.radians(20.0)))
    top = post.corners()[4:].mean(axis=0)
    assert top[2] == pytest.approx(named(document, "Handle").corners()[:, 2].min())
    for name, high in (("Handle", 2.1), ("Saddle", 1.6)):  # heights are those of their tops
        assert named(document, name).corners()[:, 2].max() == pytest.approx(high * 400.0)
    beam = named(document, "Beam")
    for wheel in (front, rear):
        assert contact(figure_of(beam), figure_of(wheel)).how is How.APART


@pytest.mark.parametrize("starter", STARTERS, ids=lambda s: s.name)
def test_any_answer_is_taken_or_refused_with_a_sentence(starter):
    rng = np.random.default_rng(5)
    for _ in range(8):
        scale = np.exp(rng.normal(0.0, 0.7, len(starter.questions)))
        values = {q.name: q.proposed * s for q, s in zip(starter.questions, scale, strict=True)}
        try:
            document = with_starter(Document(), starter, values)
        except VolumeError as error:
            assert str(error).endswith(".")
            continue
        assert min(v.corners()[:, 2].min() for v in document.volumes) >= -1e-6
