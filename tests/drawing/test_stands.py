"""How a volume stands is said as it is."""

import pytest

from isometron.document.edits import choosing
from isometron.document.edits.places import standing
from isometron.drawing.scene import scene_of
from isometron.drawing.stands import stands
from isometron.framework.kinds import turned as lathe
from isometron.framework.volume import Volume
from tests.scenes import sheet

CRATE = Volume("Crate", 300.0, 300.0, 200.0, 0.0, 2000.0, 0.0, key=1)


def part(name, wide, deep, high, *place, **more):
    return Volume(name, wide, deep, high, *place, key=7, **more)


BALL = {"shape": lathe.SPHERE}
CASES = {
    "stands on Crate": part("Lid", 300.0, 300.0, 20.0, 0.0, 2000.0, 200.0),
    "hangs 10 cm above Crate": part("Lid", 300.0, 300.0, 20.0, 0.0, 2000.0, 300.0),
    "stands on the ground, lies against Crate": part("Tin", 50.0, 50.0, 50.0, 300.0, 2100.0, 0.0),
    "runs through Crate": part("Ball", 80.0, 80.0, 80.0, 90.0, 2090.0, 160.0, **BALL),
    "is inside Crate": part("Tin", 50.0, 50.0, 50.0, 90.0, 2100.0, 50.0),
    "hangs 40 cm above the ground": part("Tin", 50.0, 50.0, 50.0, 900.0, 2100.0, 400.0),
    "reaches 3 cm below the ground": part("Tin", 50.0, 50.0, 50.0, 900.0, 2100.0, -30.0),
}


@pytest.mark.parametrize("told", CASES)
def test_standing_leaning_hanging_and_piercing_are_told_apart(told):
    document = sheet(CRATE, CASES[told])
    words = stands(document, scene_of(document), 1)
    assert told in words and words.count("Crate") == told.count("Crate")


def test_a_lid_anchored_in_the_air_hangs_and_one_set_on_top_stands():
    lid = part("Lid", 100.0, 100.0, 20.0, 900.0, 2600.0, 0.0)
    document = choosing.select(sheet(CRATE, lid), 1)
    put = standing.stand_on(document, 0)
    assert "stands on Crate" in stands(put, scene_of(put), 1)
    lid = put.volumes[1]
    low, high = lid.enclosing().min(axis=0), lid.enclosing().max(axis=0)
    assert (low[:2] >= (0.0, 2000.0)).all() and (high[:2] <= (300.0, 2300.0)).all()
    lifted = put.with_volume(1, lid.posed((lid.pose[0] + (0.0, 0.0, 100.0), lid.pose[1])))
    assert lifted.volumes[1].on is not None
    assert "hangs 10 cm above Crate" in stands(lifted, scene_of(lifted), 1)
