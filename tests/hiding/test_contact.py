"""How figures stand to each other, against distances of points strewn over both skins."""

import numpy as np
import pytest

from isometron.framework.figures import figure_of
from isometron.framework.kinds import turned as lathe
from isometron.framework.volume import Volume
from isometron.hiding.contact import How, contact
from tests import kinds

BOX = Volume("Crate", 300.0, 300.0, 200.0, 0.0, 2000.0, 0.0)


def block(wide, deep, high, *place, **turns):
    return Volume("Tin", wide, deep, high, *place, **turns)


def ball(size, *place):
    return Volume("Ball", size, size, size, *place, shape=lathe.SPHERE)


GLOBE = ball(300.0, 0.0, 2000.0, 0.0)
CASES = {
    "a lid on its crate": (block(300.0, 300.0, 20.0, 0.0, 2000.0, 200.0), BOX, How.ON),
    "a roof on a wall": (block(300.0, 300.0, 20.0, -50.0, 1900.0, 200.0), BOX, How.ON),
    "a crate under a roof": (BOX, block(300.0, 300.0, 20.0, -50.0, 1900.0, 200.0), How.UNDER),
    "a lid in the air": (block(300.0, 300.0, 20.0, 0.0, 2000.0, 300.0), BOX, How.APART),
    "leaning against a side": (block(50.0, 50.0, 50.0, 300.0, 2100.0, 90.0), BOX, How.AGAINST),
    "on an edge of its own": (
        block(50.0, 50.0, 50.0, 90.0, 2100.0, 200.0, pitch_deg=45.0),
        BOX,
        How.ON,
    ),
    "a ball on top": (ball(80.0, 90.0, 2090.0, 200.0), BOX, How.ON),
    "a ball beside": (ball(80.0, 300.0, 2090.0, 60.0), BOX, How.AGAINST),
    "a ball half inside": (ball(80.0, 90.0, 2090.0, 160.0), BOX, How.THROUGH),
    "all inside": (block(50.0, 50.0, 50.0, 90.0, 2100.0, 50.0), BOX, How.INSIDE),
    "all around": (BOX, ball(80.0, 90.0, 2090.0, 60.0), How.AROUND),
    "inside a round": (block(9.0, 9.0, 9.0, 140.0, 2150.0, 90.0), GLOBE, How.INSIDE),
    "in the corner of the box round a ball": (
        block(20.0, 20.0, 20.0, 2.0, 2002.0, 2.0),
        GLOBE,
        How.APART,
    ),
    "bars across each other": (
        block(300.0, 20.0, 20.0, 0.0, 2000.0, 20.0),
        block(20.0, 300.0, 20.0, 100.0, 1900.0, 0.0),
        How.ON,
    ),
}  # fmt: skip
OPPOSITE = {How.ON: How.UNDER, How.UNDER: How.ON, How.INSIDE: How.AROUND, How.AROUND: How.INSIDE}


@pytest.mark.sample(3)
@pytest.mark.parametrize("case", CASES)
@pytest.mark.parametrize("yaw", [0.0, 33.0])
def test_volumes_stand_lean_hang_pierce_and_hold_as_they_do(case, yaw):
    one, other, how = CASES[case]
    turn, middle = np.radians(yaw), np.array([150.0, 2150.0])

    def turned(volume):
        c, s = np.cos(turn), np.sin(turn)
        x, y = np.array([[c, -s], [s, c]]) @ (np.array(volume.place[:2]) - middle) + middle
        return volume.posed((np.array([x, y, volume.z_mm]), volume.pose[1] @ np.array(
            [[c, s, 0], [-s, c, 0], [0, 0, 1]]
        )))  # fmt: skip

    a, b = (figure_of(turned(volume)) for volume in (one, other))
    assert contact(a, b).how is how
    assert contact(a, b, 1000.0).how is how, "however far is looked"
    assert contact(b, a).how is OPPOSITE.get(how, how)


def strewn(volume, rng, count=4000):
    """Places on the skin of a volume, by rejection-free sampling of its exported triangles."""
    from isometron.framework.triangles import (
        triangles_of,  # another triangulation than that of contacts
    )

    places, numbers = triangles_of(volume)
    corners = np.asarray(places)[np.asarray(numbers)]
    sizes = np.linalg.norm(
        np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1
    )
    some = rng.choice(len(corners), count, p=sizes / sizes.sum())
    u, v = rng.random((2, count))
    u, v = np.where(u + v > 1, 1 - u, u), np.where(u + v > 1, 1 - v, v)
    a, b, c = corners[some].transpose(1, 0, 2)
    return a + u[:, None] * (b - a) + v[:, None] * (c - a)


@pytest.mark.sample(5)
@pytest.mark.parametrize("kind,sides", kinds.SOLID, ids=kinds.name)
def test_gaps_are_those_of_places_strewn_over_both_skins(kind, sides):
    from scipy.spatial import cKDTree

    rng = np.random.default_rng(7)
    one = kinds.volume(kind, sides)
    for place in ((300.0, 2040.0, 1480.0), (-60.0, 2060.0, 1700.0)):
        other = kinds.volume(*kinds.EXAMPLES["tapered box"][0], yaw_deg=70.0)
        other = other.posed((np.array(place), other.pose[1]))
        a, b = figure_of(one), figure_of(other)
        gap = contact(a, b, 1000.0).gap_mm
        least = cKDTree(strewn(one, rng)).query(strewn(other, rng))[0].min()
        assert gap <= least + 1e-6 and gap > least - 8.0
