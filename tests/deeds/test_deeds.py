"""Every deed of the table, on its example, with proposed values and with any others."""

import json
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from isometron.deeds.deed import ActsOn, Given, Measured
from isometron.deeds.drawing import FILE, ONE_OF, as_data, choice_key, drawing_of, keys, plain_keys
from isometron.deeds.drawing import drawn as drawn_anew
from isometron.deeds.example import blank, box, upper_edge
from isometron.deeds.proportion import ROLE
from isometron.deeds.table import deeds
from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.judging.bands import ROLES
from isometron.document.edits.places import standing
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.twin import on_source
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.modules import NewModule
from isometron.framework.volume import Volume
from isometron.perspective.errors import IsometronError, VolumeError
from isometron.perspective.lengths import TypedAngle
from tests import kinds

EVERY = sorted(deeds())
UNSEEN = {
    *("choose all", "choose group", "group it is in", "let go", "let tie go", "stand free"),
    *("name", "set module", "drop module", "set origin", "guide degrees", "guide sizes"),
    *("plane of the profile", "begin profile", "ghost", "ellipse aids"),
    *("steps of grey", "strength of the picture", "under the sheet", "with the sheet"),
    *("say what it is", "set band", "judge kind", "usual bands"),
    *("new variant", "name variant", "lay variants beneath", "take picture off"),
}
"""Deeds of which nothing can be seen."""
CHOSEN_ALREADY = {"choose all", "choose group"}


@pytest.mark.sample(16)
@pytest.mark.parametrize("key", EVERY)
def test_a_deed_does_what_its_drawing_shows(key):
    deed, example = deeds()[key], deeds()[key].shows()
    assert deed.ready(example.document, example.pick)
    done = deed.with_given(Given(example.values, example.pick))(example.document)
    assert (
        sheet_from_text(sheet_as_text(done).encode(), "it")
        == done
        != (None if key in CHOSEN_ALREADY else example.document)
    )
    drawn = drawn_anew(key)
    assert as_data(drawn) == as_data(drawing_of(key)), "tools/drawings.py writes the file anew"
    assert len(drawn.stays[0]) + len(drawn.stays[1]) + len(drawn.new[0]) + len(drawn.new[1])
    assert drawn.says_something != (key in UNSEEN)


@pytest.mark.sample(8)
@pytest.mark.parametrize("key", EVERY)
def test_any_values_give_a_sheet_that_can_be_kept_or_one_sentence(key, many):
    deed, example = deeds()[key], deeds()[key].shows()
    number = st.floats(-2e6, 2e6) | st.floats(-1.0, 40.0) | st.just(0.0)
    text = st.text(max_size=12) | st.sampled_from(
        ["3", "1/2", "0 0, 50 0, 20 40", "all", "w = 2 cm"]
    )
    value = {
        Measured.WORDS: text,
        Measured.LISTED: st.none() | st.integers(0, 3),
        Measured.SIDE: number | st.builds(NewModule, text),
        Measured.LEAN: number | st.builds(TypedAngle, number),
    }

    @settings(max_examples=many(4, 60))
    @given(st.fixed_dictionaries({p.key: value.get(p.measured, number) for p in deed.parameters}))
    def tried(values):
        within = {
            one.key: float(round(values[one.key]) % len(one.choices))
            if one.choices
            else float(round(values[one.key]))
            if one.measured is Measured.COUNT
            else values[one.key]
            for one in deed.parameters
        }
        try:
            edit = deed.with_given(Given(within, example.pick))
        except VolumeError as error:
            out = [
                one
                for one in deed.parameters
                if one.range and not one.range[0] <= within[one.key] <= one.range[1]
            ]
            assert out and out[0].key in str(error)
            return
        try:
            done = edit(example.document)
        except IsometronError as error:
            assert str(error).endswith((".", "!")) and "\n" not in str(error)
            return
        assert sheet_from_text(sheet_as_text(done).encode(), "it") == done

    tried()


@pytest.mark.parametrize(
    "key", ["cut U", "cut step", "make bays", "round edge", "lay skin", "lean sides"]
)
def test_a_deed_on_a_copy_is_done_to_what_it_follows(key):
    alone, example = box().document, deeds()[key].shows()
    row = choosing.select(standing.repeat(alone, 2, (160.0, 0.0, 0.0)), 1)
    pick = example.pick and replace(example.pick, volume=1)
    done = deeds()[key].with_given(Given(example.values, pick))(row)
    once = deeds()[key].with_given(Given(example.values, example.pick))(alone)
    assert done.selected == 1 and done != row
    for one in done.volumes:
        assert replace(one, **KEPT) == replace(once.volumes[0], **KEPT)


@pytest.mark.sample(5)
@pytest.mark.parametrize("kind,sides", kinds.SOLID, ids=kinds.name)
def test_a_part_picked_on_a_mirrored_twin_is_the_one_across_the_mirror(kind, sides):
    """Places in the world; the mirror stands upright through the middle of the other volume."""
    turned = Volume("One", *sides, 300, 40, 0, yaw_deg=20.0, shape=kind)
    pair = choosing.with_new(Document(), [Volume("Mirror", 50, 50, 50), turned])
    _mirror, source, twin = standing.mirror(choosing.select(pair, 1), 0).volumes
    for pick, places in (
        (FacePick, lambda v: [v.bare.middle_of(n) for n in range(v.bare.faces)]),
        (EdgePick, lambda v: v.bare.vertices[v.bare.edges].mean(axis=1)),
        (CornerPick, lambda v: v.bare.vertices),
    ):
        own, other = (
            np.array(places(v)).reshape(-1, 3) @ v.pose[1] + v.pose[0] for v in (twin, source)
        )
        for number, place in enumerate(own):
            found = on_source(pick(2, number), twin, source, 1)
            assert found.volume == 1
            assert other[found.index] == pytest.approx(place * [-1, 1, 1] + [50, 0, 0])


def test_a_deed_with_a_face_of_a_twin_is_done_to_the_face_it_is_the_picture_of():
    pair = choosing.with_new(Document(), [box().document.volume, Volume("Mirror", 50, 50, 50)])
    twins = standing.mirror(choosing.select(pair, 0), 1)
    left = int(twins.volumes[2].bare.normals[:, 0].argmin())
    done = deeds()["draw circle"].with_given(Given({}, FacePick(2, left)))(twins)
    one, twin = (v.circles[0] for v in (done.volumes[0], done.volumes[2]))
    assert done.volumes[0].bare.normals[one.face][0] == 1.0
    assert done.volumes[2].bare.normals[twin.face][0] == -1.0


KEPT = {"name": "One", "key": 0, "like": None, "x_mm": 0.0, "y_mm": 0.0, "z_mm": 0.0}


def test_every_deed_starter_and_stance_has_a_drawing_in_the_file():
    there = list(json.loads(FILE.read_text()))
    plain = [key for key in there if len(key.split(ONE_OF)) == 1]
    assert plain == plain_keys() and len(there) > len(plain)


@pytest.mark.full
def test_every_choice_that_changes_its_drawing_has_one_in_the_file():
    assert list(json.loads(FILE.read_text())) == keys()


def test_what_a_deed_acts_on_must_be_there():
    nothing, cube, edge = blank(), box(), upper_edge()
    for deed in deeds().values():
        assert deed.ready(nothing.document, None) == (ActsOn.SHEET in deed.acts_on)
        asks_more = not {ActsOn.SHEET, ActsOn.VOLUME} & set(deed.acts_on)
        assert deed.ready(cube.document, None) != asks_more
    assert deeds()["round edge"].ready(edge.document, edge.pick)


def test_a_deed_is_told_whole():
    keys = [key for deed in deeds().values() for key in deed.keys]
    assert len(keys) == len(set(keys))
    for deed in deeds().values():
        assert deed.tip.endswith(".") and deed.text and deed.name, deed.key
        for one in deed.parameters:
            least, most = one.range or (0, 0)
            assert one.tip.endswith(".") and (not one.range or least <= one.default <= most)
            assert (one.measured is Measured.CHOICE) == bool(one.choices)
            assert (one.measured is Measured.LISTED) == (one.offers is not None)


def test_a_value_out_of_its_range_is_refused_by_name():
    deed = deeds()["cut step"]
    with pytest.raises(VolumeError, match=r"step inward.* from 0 to 1"):
        deed.with_given(Given({"step inward": 1.5}))
    assert isinstance(deed.with_given(Given())(box().document), Document)


def test_all_a_volume_may_be_said_to_be_is_shown_by_a_part_of_its_own():
    every = [drawn_anew(choice_key("say what it is", ROLE.key, n)) for n in range(len(ROLES) + 1)]
    assert not every[0].says_something and all(one.says_something for one in every[1:])
    parts = {json.dumps([array.round(1).tolist() for array in one.new]) for one in every}
    assert len(parts) == len(every)
