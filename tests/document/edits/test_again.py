"""Starters opened again: answers read back, changed, and merged with what a hand has done."""

import random
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.document import Document
from isometron.document.edits import choosing, volume_edits
from isometron.document.edits.sheet_edits import turn_sheet
from isometron.document.edits.stances import LOOKING_DOWN, STANCES, take_stance
from isometron.document.edits.starters import (
    CRATES,
    SEAT,
    STARTERS,
    TURNED,
    TWO_WHEELS,
    VEHICLE,
    with_starter,
)
from isometron.document.edits.starters.again import begin_again, open_again
from isometron.document.edits.starters.answering import answers_from
from isometron.drawing.scene import scene_of
from isometron.perspective.errors import IsometronError, VolumeError

MEASURED = ("length", "ratio", "angle")


def seeded(starter, chance):
    """Answers nobody proposed, that give a framework."""
    while True:
        values = dict(starter.proposal)
        for one in starter.questions:
            if one.kind in MEASURED:
                values[one.name] *= chance.uniform(0.9, 1.12)
            elif one.kind == "yes":
                values[one.name] = float(chance.random() < 0.5)
            elif one.choices:
                values[one.name] = float(chance.randint(1, len(one.choices)))
        try:
            return values, with_starter(Document(), starter, values)
        except VolumeError:
            continue


def bearings(document):
    """Name, sides and place beside the first volume, of every volume."""
    first = np.array(document.volumes[0].place)
    return {
        one.name: (*one.sides, *(np.array(one.place) - first), *np.ptp(one.corners(), axis=0))
        for one in document.volumes
    }


@pytest.mark.sample(6)
@pytest.mark.parametrize("starter", STARTERS, ids=lambda one: one.name)
def test_answers_are_read_back_and_any_one_changed_gives_what_it_would_have_given(starter, many):
    chance = random.Random(starter.name)
    for _round in range(many(1, 20)):
        values, document = seeded(starter, chance)
        opened = open_again(document, document.begun[0], starter)
        assert opened.answers == pytest.approx(values) and opened.own == ()
        for one in starter.questions:
            if one.kind not in MEASURED or not values[one.name]:
                continue
            other = {**values, one.name: 1.06 * values[one.name]}
            try:
                fresh = bearings(with_starter(Document(), starter, other))
            except VolumeError:
                continue
            changed = bearings(begin_again(document, opened.begun, starter, other))
            assert changed.keys() == fresh.keys()
            for name, numbers in changed.items():
                assert numbers == pytest.approx(fresh[name], abs=1e-6), (one.name, name)


def test_what_a_hand_has_done_stays_and_what_it_dragged_is_read_back():
    document = with_starter(Document(), VEHICLE, VEHICLE.proposal)
    numbers = {one.name: i for i, one in enumerate(document.volumes)}
    wheel = choosing.select(document, numbers["Rear wheel"])
    x, y, z = wheel.volume.place
    by_hand = volume_edits.move_volume(wheel, (x - 62.0, y, z))
    by_hand = volume_edits.set_side(choosing.select(by_hand, numbers["Rear wheel"]), 1, 240.0)
    by_hand = choosing.rename_volume(choosing.select(by_hand, numbers["Cabin"]), "House")
    by_hand = choosing.remove_chosen(choosing.select(by_hand, numbers["Front wheel twin"]))
    opened = open_again(by_hand, by_hand.begun[0], VEHICLE)
    assert opened.answers["wheelbase"] == pytest.approx(2.9)
    assert opened.answers["rear overhang"] == pytest.approx(0.9)
    assert [one.partition(":")[0] for one in opened.own] == ["Rear wheel"]
    other = {**opened.answers, "wheelbase": 3.3, "height": 2.6}
    done = begin_again(by_hand, opened.begun, VEHICLE, other)
    there = {one.name: one for one in done.volumes}
    assert there["Rear wheel"].x_mm - there["Front wheel"].x_mm == pytest.approx(3.3 * 620.0)
    assert there["Rear wheel"].depth_mm == 240.0
    assert "Front wheel twin" not in there and "Rear wheel twin" in there
    assert there["House"].corners()[:, 2].max() == pytest.approx(2.6 * 620.0)
    assert done.eye == by_hand.eye


def test_an_eye_that_was_set_stays_and_the_framework_stands_where_it_sees_all_of_it():
    for height in (600.0, 1100.0, 2400.0):
        blank = Document().with_eye(replace(Document().eye, height_mm=height))
        for starter in (VEHICLE, SEAT):
            done = with_starter(blank, starter, starter.proposal)
            assert done.eye == blank.eye
            left, bottom, right, top = done.sheet.paper
            for picture in scene_of(done).pictures:
                low, high = picture.extent[:2], picture.extent[2:]
                assert left <= low[0] and bottom <= low[1] and high[0] <= right and high[1] <= top


def test_an_eye_that_was_set_is_never_moved_though_it_looks_past_the_ground():
    chance = random.Random(9)
    for starter in STARTERS:
        tilt, high = chance.uniform(-85, 85), chance.uniform(10, 8e3)
        eye = replace(Document().eye, tilt_deg=tilt, height_mm=high)
        assert with_starter(Document().with_eye(eye), starter, starter.proposal).eye == eye


def test_a_turned_sheet_or_a_stance_is_no_eye_that_somebody_has_set():
    for blank in (turn_sheet(Document(), lying=False), take_stance(Document(), LOOKING_DOWN)):
        assert with_starter(blank, SEAT, SEAT.proposal).eye.place != blank.eye.place


@pytest.mark.parametrize(
    "stance", [one for one in STANCES if not one.tilt_deg], ids=lambda one: one.name
)
def test_the_eye_level_of_a_level_stance_lies_on_the_paper_with_all_that_is_drawn(stance):
    for starter in (TWO_WHEELS, SEAT, CRATES, TURNED):
        done = with_starter(take_stance(Document(), stance), starter, starter.proposal)
        assert 0.0 < done.eye.centre_of_vision_mm[1] < done.sheet.height_mm
        extents = np.array([one.extent for one in scene_of(done).pictures])
        assert (extents[:, :2].min(axis=0) > 0.0).all()
        assert (extents[:, 2:].max(axis=0) < done.sheet.paper[2:]).all()


@pytest.mark.sample(16)
@pytest.mark.parametrize("starter", STARTERS, ids=lambda one: one.name)
@pytest.mark.parametrize("value", [0.0, -1.0, 1e9, 1e-9])
def test_answers_no_starter_gave_open_again_or_are_refused_in_a_sentence(starter, value):
    document = with_starter(Document(), starter, starter.proposal)
    for one in starter.questions:
        told = tuple(a._replace(value=value) if a.question == one.name else a
                     for a in document.begun[0].answers)  # fmt: skip
        begun = replace(document.begun[0], answers=told)
        spoilt = replace(document, begun=(begun,))
        try:
            opened = open_again(spoilt, begun, starter)
            begin_again(spoilt, begun, starter, opened.answers)
        except IsometronError as error:
            assert str(error)[-1] in ".!" and "\n" not in str(error)


def test_answers_are_said_as_in_the_form():
    told = {"wheel-diameter": "60 cm", "wheelbase": "2 m", "boxes": "a bonnet", "height": "2.2"}
    values = answers_from(VEHICLE, told, "cm")
    assert values["wheelbase"] == pytest.approx(10 / 3) and values["boxes"] == 2.0
    assert values["height"] == 2.2 and values["wheel diameter"] == 600.0
    for wrong in ({"wheel": "1"}, {"boxes": "nine"}, {"wheelbase": "long"}):
        with pytest.raises(IsometronError):
            answers_from(VEHICLE, wrong, "cm")


def first_free(document):
    return next(i for i, one in reversed(list(enumerate(document.volumes))) if one.like is None)


OWN_CHANGES = {
    "renamed": lambda d: choosing.rename_volume(d, "Mine"),
    "hidden": lambda d: choosing.show(d, d.selected, shown=False),
    "taken away": choosing.remove_chosen,
    "moved": lambda d: volume_edits.move_volume(d, np.array(d.volume.place) + [7.0, 0.0, 0.0]),
    "wider": lambda d: volume_edits.set_side(d, 0, 0.9 * d.volume.width_mm),
    "turned": lambda d: volume_edits.turn_volume(d, d.volume.yaw_deg + 10.0),
    "let go": lambda d: replace(d, intentions=()),
}


@pytest.mark.sample(14)
@pytest.mark.parametrize("own", OWN_CHANGES)
@pytest.mark.parametrize(
    ("starter", "question"), [(s, q) for s in STARTERS for q in s.questions], ids=lambda o: o.name
)
def test_every_answer_is_changed_after_every_own_change_and_both_stay(starter, question, own):
    """Refused in a sentence, or the answer is as said and the own change still there."""
    begun = with_starter(Document(), starter, starter.proposal)
    there = choosing.select(begun, first_free(begun))
    key, before = there.volume.key, there.volume
    try:
        mine = OWN_CHANGES[own](there)
    except IsometronError:  # a tie holds it: let go first
        mine = OWN_CHANGES[own](replace(there, intentions=()))
    if not mine.begun:
        assert own == "taken away" and not mine.volumes
        return
    opened = open_again(mine, mine.begun[0], starter)
    told = opened.answers[question.name]
    value = told * 1.07
    if question.kind == "yes":
        value = 1.0 - told
    elif question.choices or question.kind == "count":
        value = told + 1.0 if told < 2.0 else told - 1.0
    try:
        done = begin_again(mine, opened.begun, starter, {**opened.answers, question.name: value})
    except IsometronError as error:
        assert str(error)[-1] in ".!" and "\n" not in str(error)
        return
    assert dict(done.begun[0].answers)[question.name] == value
    now = done.by_key(key)
    if own == "taken away":
        assert now is None
    elif own == "let go":
        assert not done.intentions or set(done.intentions).isdisjoint(begun.intentions)
    elif now is not None:
        assert own != "renamed" or now.name == "Mine"
        assert own != "hidden" or not now.shown
        if own == "turned" and question.kind != "angle":  # of crates the turn is an answer
            assert now.yaw_deg == pytest.approx(before.yaw_deg + 10.0)
    assert len({one.key for one in done.volumes}) == len(done.volumes)
    for one in done.intentions:
        assert one.miss_mm(done.parts) <= 1e-6
