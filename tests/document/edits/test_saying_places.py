"""Places said in words put a volume where the words say, and it follows as it was said."""

from dataclasses import replace

import numpy as np
import pytest

from isometron.document.edits import choosing, proportioning, volume_edits
from isometron.document.edits.places.saying_places import (
    CENTRES,
    centre_on,
    centre_on_sheet,
    said_place,
    say_place,
)
from isometron.document.near_edge import drawn_place
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.kinds import turned as lathe
from isometron.framework.volume import Volume
from isometron.perspective.errors import IsometronError, VolumeError
from tests.scenes import sheet

BENCH = Volume("Bench", 600.0, 400.0, 100.0, 50.0, 2000.0, 700.0, 20.0, key=1)
CASE = Volume("Case", 200.0, 100.0, 60.0, -900.0, 1500.0, 0.0, 20.0, key=2)
AXLE = replace(lathe.CYLINDER, axis=1)
WHEEL = Volume("Front axle", 620.0, 200.0, 620.0, 0.0, 4000.0, 0.0, shape=AXLE, key=3)


def start(yaw_deg=20.0):
    document = sheet(BENCH, replace(CASE, yaw_deg=yaw_deg), WHEEL)
    document = proportioning.set_module(document, "w", 620.0)
    return choosing.select(document, 1)


def by(document, other, index=1):
    """Least and greatest place of a volume along the three directions of another, from its corner
    0, mm; and the sides of the other."""
    mine, base = document.volumes[index], document.volumes[other]
    along = (mine.corners() - base.pose[0]) @ base.pose[1].T
    return along.min(axis=0), along.max(axis=0), np.array(base.sides)


SAID = {
    "10 cm behind Bench": lambda low, high, s: (1, low[1] - s[1], 100.0),
    "10 cm in front of the Bench": lambda low, high, s: (1, -high[1], 100.0),
    "1/2 w right of Bench": lambda low, high, s: (0, low[0] - s[0], 310.0),
    "3 cm 5 mm above bench": lambda low, high, s: (2, low[2] - s[2], 35.0),
    "2 in below Bench": lambda low, high, s: (2, -high[2], 50.8),
    "4 cm left of the middle of Bench": lambda low, high, s: (0, (s - low - high)[0] / 2, 40.0),
    "5 cm behind the front of Bench": lambda low, high, s: (1, low[1], 50.0),
    "flush with the right of Bench": lambda low, high, s: (0, high[0] - s[0], 0.0),
    "against the left of Bench": lambda low, high, s: (0, high[0], 0.0),
    "on top of Bench": lambda low, high, s: (2, low[2] - s[2], 0.0),
    "on the centre plane of Bench": lambda low, high, s: (0, (low + high)[0] - s[0], 0.0),
    "centred on Bench": lambda low, high, s: (1, (low + high)[1] - s[1], 0.0),
}  # fmt: skip


@pytest.mark.parametrize("yaw", [20.0, 65.0, 200.0], ids=lambda yaw: f"turned to {yaw:g}°")
@pytest.mark.parametrize("text", SAID)
def test_a_place_is_where_the_words_say_and_is_kept_as_it_was_said(text, yaw):
    before = start(yaw)
    document = say_place(before, text)
    axis, got, want = SAID[text](*by(document, 0))
    assert got == pytest.approx(want, abs=1e-9)
    was, now = by(before, 0)[0], by(document, 0)[0]
    still = [i for i in range(3) if i != axis] if text != "centred on Bench" else [2]
    assert now[still] == pytest.approx(was[still], abs=1e-9), "the rest stays"
    moved = document.with_volume(0, replace(BENCH, x_mm=300.0, yaw_deg=55.0, width_mm=800.0))
    document = choosing.select(moved, 1)
    axis, got, want = SAID[text](*by(document, 0))
    assert got == pytest.approx(want, abs=1e-9), "it follows"
    grown = volume_edits.set_side(document, axis, 333.0)
    axis, got, want = SAID[text](*by(grown, 0))
    if "centre" not in text and "middle" not in text:
        assert sheet_from_text(sheet_as_text(grown).encode(), "it") == grown
    again = say_place(before, said_place(say_place(before, text), 1))
    assert again.volumes[1].place == pytest.approx(say_place(before, text).volumes[1].place)


def test_a_rear_axle_stands_by_the_front_one_in_wheel_diameters():
    document = choosing.select(start(), 2)
    rear = replace(WHEEL, name="Rear axle", key=4, x_mm=500.0, y_mm=4700.0)
    document = choosing.with_new(document, [rear])
    document = choosing.select(document, 3)
    document = say_place(document, "2.4 w right of Front axle, 0 above ground")
    apart = document.volumes[3].corners().mean(axis=0) - document.volumes[2].corners().mean(axis=0)
    assert apart[0] == pytest.approx(2.4 * 620.0)
    wider = proportioning.set_module(document, "w", 700.0)
    apart = wider.volumes[3].corners().mean(axis=0) - wider.volumes[2].corners().mean(axis=0)
    assert apart[0] == pytest.approx(2.4 * 700.0), "it follows the module"
    assert "2.4 w right of the middle of Front axle" in said_place(wider, 3)
    document = choosing.select(wider, 3)
    by_hand = document.with_volume(3, replace(document.volume, x_mm=document.volume.x_mm + 10.0))
    assert "2.4 w" not in said_place(by_hand, 3), "moved by hand it is no longer as it was said"
    kept = proportioning.remove_module(wider, "w")
    assert kept.volumes[3].place == pytest.approx(wider.volumes[3].place)


@pytest.mark.parametrize(
    "text",
    ["", "behind", "10 cm", "10 cm behind Nobody", "10 cm beside Bench", "w w behind Bench",
     "10 cm behind Bench, 3 cm left of Front axle", "flush with Bench", "against the moon of Bench",
     "on top of", "10 x behind Bench", "behind Bench 10 cm", "10 cm behind Case"],
)  # fmt: skip
def test_what_is_no_place_is_refused_with_what_would_be_one(text):
    before = start()
    with pytest.raises(IsometronError) as told:
        say_place(before, text)
    assert str(told.value).endswith(".")


def test_on_the_ground_alone_sets_down_and_stands_free():
    document = say_place(start(), "5 cm above ground")
    assert document.volumes[1].z_mm == pytest.approx(50.0) and document.volumes[1].on is None


@pytest.mark.parametrize("yaw", [20.0, 65.0])
@pytest.mark.parametrize("what", CENTRES)
def test_centred_on_anything_middles_meet_and_stay_together(what, yaw):
    other = 2 if what == "axle" else 0
    axes = {"middle": (0, 1), "width": (0,), "depth": (1,), "axle": (0, 2)}
    axes |= {"side": (1, 2), "near edge": (1,)}
    document = centre_on(start(yaw), other, what, face=1)
    key = {0: "width_mm", 2: "height_mm"}[other]
    for now in (document, document.with_volume(other, replace(document.volumes[other], yaw_deg=5.0,
                                                              **{key: 700.0}))):  # fmt: skip
        low, high, sides = by(now, other)
        for axis in axes[what]:
            assert (low + high)[axis] == pytest.approx(sides[axis], abs=1e-6)


def test_a_volume_is_centred_on_the_sheet_and_what_has_no_axle_is_refused():
    document = centre_on_sheet(start())
    middle = document.volumes[1].corners().mean(axis=0)
    assert drawn_place(document.eye, middle)[0] == pytest.approx(210.0)
    assert document.volumes[1].z_mm == 0.0
    with pytest.raises(VolumeError, match="no axle"):
        centre_on(start(), 0, "axle")
    with pytest.raises(VolumeError, match="another"):
        centre_on(start(), 1, "middle")
