"""Sheets with fields changed at random: what opens can be measured, looked at, drawn, ordered and
saved, and comes back the same; everything else is refused in one sentence."""

import json
import random
from pathlib import Path

import numpy as np
import pytest

from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import scene_of
from isometron.files.building.orders import text_of
from isometron.files.report import report_of
from isometron.files.sheet_file import SAMPLES_FOLDER, sheet_as_text, sheet_from_text
from isometron.files.sheet_page import svg_of
from isometron.framework.bodies.plan_outlines import with_cut_corners
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import Flat, refuse_crossings
from isometron.framework.volume import Volume
from isometron.perspective.errors import FileError, IsometronError, VolumeError
from isometron.remarks.second_look import second_look
from tests.scenes import sheet, some

SHEETS = sorted(
    [
        *SAMPLES_FOLDER.glob("*.isometron"),
        *(Path(__file__).parents[1] / "corpus").glob("*.isometron"),
    ]
)
NUMBERS = (
    0, 1, -1, 1.0, 2.0, -0.0, 1e-9, 1e6, -1e6, 90, -90, 180, 360, 1e-300, 5e-324, 100, 3,
    2, 0.5, 0.001,
)  # fmt: skip
OTHERS = (True, None, "", "\ud800", "a" * 61, "\x00<img src=x>", "=1+1", [], {}, [0])


def places(value, at=()):
    """The way to every part of a sheet."""
    if not isinstance(value, dict | list):
        return
    for key, part in value.items() if isinstance(value, dict) else enumerate(value):
        yield (*at, key)
        yield from places(part, (*at, key))


def changed(seeded, data):
    data = json.loads(json.dumps(data))
    for _time in range(seeded.randint(1, 2)):
        way = seeded.choice(list(places(data)))
        node = data
        for key in way[:-1]:
            node = node[key]
        old, deed = node[way[-1]], seeded.random()
        number = isinstance(old, int | float) and not isinstance(old, bool)
        if deed < 0.08:
            del node[way[-1]]
        elif deed < 0.16 and isinstance(node, list):
            node.insert(way[-1], json.loads(json.dumps(old)))
        elif number and deed < 0.5:
            node[way[-1]] = seeded.choice(
                [-old, old * 1e-6, old * 1e3, old + 1, old / 2, round(old)]
            )
        else:
            node[way[-1]] = seeded.choice(NUMBERS if number and deed < 0.95 else OTHERS)
    return data


@pytest.mark.sample(4)
@pytest.mark.parametrize("path", some(SHEETS[::3] + SHEETS[1::3] + SHEETS[2::3], 9))
def test_what_opens_can_be_measured_drawn_and_saved_and_comes_back_the_same(path, many):
    seeded, data = random.Random(path.stem), json.loads(path.read_text())
    opened, wanted = 0, many(1, 30)
    for _time in range(60 * wanted):
        text = json.dumps(changed(seeded, data)).encode()
        try:
            document = sheet_from_text(text, "it")
        except FileError as told:
            assert "\n" not in str(told) and len(str(told)) < 400
            continue
        opened += 1
        if opened > wanted:
            break
        use(document)
    assert opened > wanted


def use(document, *, drawn=True, ordered=True):
    if drawn:
        scene = scene_of(document)
        report_of(document, scene)
        second_look(document, scene)
        assert svg_of(document)
    try:
        assert not ordered or text_of(document)
    except IsometronError as told:
        assert str(told).endswith(".")
    assert sheet_from_text(sheet_as_text(document).encode(), "it") == document


FOUND = {
    "crawler page": [("volumes", 3, "on", "shares", 0, 0.5), ("volumes", 4, "place_mm", 0, -90)],
    "crawler in the sun": [("volumes", 0, "extruded", "rings", 0, 1, "at", 0, 1)],
    "supply crawler": [("volumes", 0, "extruded", "rings", 0, 3, "bulge", 1e-9)],
}
"""An upright in the order that runs through no known point; an outline that touches itself, lit; an
arch that is all but straight, in the order."""


@pytest.mark.parametrize("name", FOUND)
def test_what_was_found_so_once_is_not_found_so_again(name):
    data = json.loads((SAMPLES_FOLDER / f"{name}.isometron").read_text())
    for *way, last, value in FOUND[name]:
        node = data
        for key in way:
            node = node[key]
        node[last] = value
    lit = name == "crawler in the sun"
    use(sheet_from_text(json.dumps(data).encode(), "it"), drawn=lit, ordered=not lit)


@pytest.mark.parametrize("far", [1e13, 1e160, -1e300])
def test_an_outline_beyond_all_measure_is_refused_in_a_sentence(far):
    corners = np.array([[0.0, 0.0], [far, 0.0], [0.0, 1.0]])
    with pytest.raises(VolumeError, match="farther than can be drawn"):
        refuse_crossings([Flat(corners, np.zeros(3))])
    near = np.array([[0.0, 0.0], [50.0, 0.0], [50.0, 50.0]])
    with pytest.raises(VolumeError, match="farther than can be drawn"):
        refuse_crossings([Flat(near, np.array([0.0, far, 0.0]))])


@pytest.mark.parametrize("least", [0.0, 6.67e-321, 1e-30])
def test_corners_that_lie_on_each_other_are_not_cut(least):
    corners = np.array([[0.0, 0.0], [least, 0.0], [90.0, 60.0], [0.0, 60.0]])
    with pytest.raises(VolumeError, match="no area"):
        with_cut_corners(corners, 5.0, rounded=False)


@pytest.mark.parametrize(
    "radii", [(1, 1, 0, 0.5), (1, 0.5, 0, 1), (0, 0, 1, 1), (0, 1, 0, 1), (1, 0, 0, 1)]
)
def test_a_turned_form_may_step_to_nothing_and_has_no_circle_there(radii):
    stations = tuple(zip((0.0, 0.5, 0.5, 1.0), radii, strict=True))
    document = sheet(Volume("Turned", 150, 150, 300, 0, 1500, 0, shape=Turned(stations)))
    use(document)
    circles = all_circles(scene_of(document))
    assert sorted(c.radius_mm for c in circles) == pytest.approx(
        sorted(75.0 * one for one in radii if one)
    )
