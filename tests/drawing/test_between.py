"""What lies between two chosen volumes, against sums by hand."""

from dataclasses import replace

import pytest

from isometron.document.edits import choosing, proportioning
from isometron.drawing.readings import reading_of
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sample_sheet
from isometron.framework.kinds import turned as lathe
from isometron.framework.volume import Volume
from tests.scenes import case, sheet


def told(document):
    reading = reading_of(document, scene_of(document), None)
    return reading.title, {row.label: row.value for row in reading.rows}


def test_gap_and_distances_along_the_directions_of_the_first():
    one = Volume("Bench", 600.0, 400.0, 100.0, 0.0, 2000.0, 0.0, key=1)
    two = Volume("Tin", 50.0, 40.0, 60.0, 700.0, 2100.0, 300.0, key=2)
    document = choosing.choose_also(choosing.select(sheet(one, two), 0), 1)
    document = replace(document, selected=0, also=frozenset({1}))
    title, rows = told(document)
    assert title == "Between Bench and Tin"
    assert rows["gap"] == pytest.approx((100.0**2 + 200.0**2) ** 0.5)
    assert rows["in width"] == pytest.approx(725.0 - 300.0)
    assert rows["in depth"] == pytest.approx(2200.0 - 2120.0)
    assert rows["in height"] == pytest.approx(330.0 - 50.0)
    middle = (425.0**2 + 80.0**2 + 280.0**2) ** 0.5
    assert rows["middle to middle"] == pytest.approx(middle)
    near = document.with_volume(1, replace(two, x_mm=600.0, z_mm=0.0))
    near = replace(near, selected=0, also=frozenset({1}))
    assert "touch" in told(near)[1]["gap"]
    assert told(choosing.select(document, 0))[0].startswith("Near edge")


def test_wheelbase_and_track_are_told_in_modules_by_themselves():
    wheel = replace(lathe.CYLINDER, axis=1)
    front = Volume("Front", 620.0, 200.0, 620.0, 0.0, 2000.0, 0.0, 20.0, shape=wheel, key=1)
    rear = front.posed((front.pose[0] + 1488.0 * front.pose[1][0], front.pose[1]))
    rear = replace(rear, name="Rear", key=2)
    twin = front.posed((rear.pose[0] + 1300.0 * front.pose[1][1], front.pose[1]))
    twin = replace(twin, name="Twin", key=3)
    document = proportioning.set_module(sheet(front, rear, twin, case(key=9)), "w", 620.0)
    for other, track in ((1, 0.0), (2, 1300.0)):
        _title, rows = told(replace(document, selected=0, also=frozenset({other})))
        assert rows["wheelbase"] == "148.8 cm = 2.4 w"
        assert rows["track"].startswith(f"{track / 10:g} cm")
    assert "wheelbase" not in told(replace(document, selected=0, also=frozenset({3})))[1]


def test_a_chosen_vehicle_tells_wheelbase_track_and_overhangs_by_itself():
    document = choosing.choose_all(sample_sheet("supply crawler"))
    title, rows = told(document)
    assert title == "Vehicle" and rows["wheelbase"] == "192.2 cm = 3.1 w"
    body, wheel = document.volumes[0], document.volumes[2]
    mm = {label: 10 * float(value.split(" cm")[0]) for label, value in rows.items()}
    over = [value for label, value in mm.items() if label.startswith("overhang")]
    assert sum(over) + mm["wheelbase"] == pytest.approx(mm["whole length"], abs=0.1)
    assert mm["whole length"] == pytest.approx(body.width_mm) and min(over) > 0
    assert mm["track at Front wheel"] == mm["track at Rear wheel"] < body.depth_mm
    assert wheel.height_mm == pytest.approx(620.0)
    boxes = choosing.choose_all(sheet(case(), case(key=1), case(key=2)))
    assert told(boxes)[0] != "Vehicle"
