"""A step says what it did besides: nothing, nothing seen, gone, hanging, running through."""

from dataclasses import replace

import pytest

from isometron.document.document import Document
from isometron.document.edits.places.laying import first_edge, lay_near_edge
from isometron.drawing.consequences import consequences
from isometron.drawing.scene import Scene, scene_of
from tests.scenes import case, eye, sheet

ONE = case(name="Case", x_mm=-500.0, z_mm=0.0)
TWO = case(name="Box", key=7, x_mm=300.0, z_mm=0.0)
WALL = case(name="Wall", key=9, width_mm=3000.0, depth_mm=100.0, height_mm=2500.0,
            x_mm=-400.0, y_mm=6000.0, z_mm=0.0, yaw_deg=0.0)  # fmt: skip
BEFORE = sheet(ONE, TWO, WALL, by=eye(height_mm=450.0))


@pytest.fixture(scope="module")
def scene() -> Scene:
    return scene_of(BEFORE)


def after(**changed: float) -> Document:
    return replace(BEFORE, volumes=(ONE, replace(TWO, **changed), WALL))


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"x_mm": 320.0}, []),
        ({"height_mm": 400.0}, []),
        ({"name": "Chest"}, []),
        ({"z_mm": 300.0}, ["“Box” touches nothing now: it hangs in the air."]),
        ({"x_mm": -480.0}, ["“Box” runs through “Case” now."]),
        ({"y_mm": -4000.0}, ["“Box” is seen no more: it lies behind the eye."]),
        ({"x_mm": 9000.0}, ["“Box” is seen no more: it lies off the sheet."]),
        ({"x_mm": 0.0, "y_mm": 7000.0}, ["“Box” is seen no more: other volumes hide it."]),
        ({"shown": False}, []),
        ({"z_mm": -50.0}, []),
    ],
)
def test_a_step_says_what_nobody_may_have_meant(scene, changed, said):
    assert consequences(BEFORE, scene, after(**changed), scene_of(after(**changed))) == said


def test_the_first_edge_says_that_the_eye_moves_for_round_numbers():
    blank = Document()
    laid = lay_near_edge(blank, *first_edge(blank))
    assert laid.eye.height_mm == pytest.approx(375.0) != blank.eye.height_mm
    told = consequences(blank, scene_of(blank), laid, scene_of(laid))
    assert told == ["The eye now stands 37.5 cm high, so that first numbers are round."]
    own = blank.with_eye(replace(blank.eye, height_mm=1234.0))
    kept = lay_near_edge(own, *first_edge(own))
    assert kept.eye.height_mm == 1234.0
    assert consequences(own, scene_of(own), kept, scene_of(kept)) == []


def test_what_is_done_behind_something_is_done_and_not_seen(scene):
    solid = replace(BEFORE.choices, see_through=False)
    behind = replace(after(x_mm=0.0, y_mm=7000.0), choices=solid)
    further = replace(after(x_mm=0.0, y_mm=7300.0), choices=solid)
    told = consequences(behind, scene_of(behind), further, scene_of(further))
    assert told == ["It is done, and nothing of it is seen from here."]
    gone = replace(BEFORE, volumes=(ONE, WALL))
    assert consequences(BEFORE, scene, gone, scene_of(gone)) == []
    assert consequences(gone, scene_of(gone), BEFORE, scene) == []
