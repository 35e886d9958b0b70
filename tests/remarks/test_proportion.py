"""Bands of proportion: silent inside, one remark outside, and a remedy that enters by the least."""

import random

import pytest

from isometron.document.document import Document
from isometron.document.edits import choosing, volume_edits
from isometron.document.edits.judging.bands import BANDS, ROLES
from isometron.document.edits.judging.judging import (
    bands_of,
    brought_in,
    judge,
    judged,
    say_what_it_is,
    set_band,
)
from isometron.document.edits.starters import STARTERS, VEHICLE, with_starter
from isometron.document.edits.starters.again import begin_again, open_again
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import SAMPLES, sample_sheet, sheet_as_text, sheet_from_text
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.remarks.second_look import second_look

KINDS = {starter.name: starter for starter in STARTERS}
OF_STARTERS = [band for band in BANDS if band.of in KINDS]
OF_ROLES = [band for band in BANDS if band.of in ROLES]


def begun(starter):
    return with_starter(Document(), starter, starter.proposal)


def said(document):
    return [
        one.rule.removeprefix("proportion: ")
        for one in second_look(document, scene_of(document))
        if one.rule.startswith("proportion")
    ]


def with_answer(document, starter, what, value):
    opened = open_again(document, document.begun[0], starter)
    return begin_again(document, opened.begun, starter, {**opened.answers, what: value})


def test_every_band_is_of_something_and_says_why():
    for band in BANDS:
        assert band.of in KINDS or band.of in ROLES
        assert band.why and band.why[-1] != "."
        if band.of in KINDS:
            question = next(q for q in KINDS[band.of].questions if q.name == band.what)
            assert question.measure is not None


@pytest.mark.sample(7)
@pytest.mark.parametrize("starter", STARTERS, ids=lambda one: one.name)
def test_what_a_starter_proposes_is_not_remarked_on(starter):
    assert not said(begun(starter))


@pytest.mark.full
@pytest.mark.parametrize("name", SAMPLES)
def test_no_sample_is_remarked_on(name):
    assert not said(sample_sheet(name))


@pytest.mark.sample(18)
@pytest.mark.parametrize("band", OF_STARTERS, ids=lambda one: f"{one.of} {one.what}")
def test_five_per_cent_beyond_a_band_is_told_once_and_the_remedy_enters_at_its_end(band):
    """Whatever end can be reached: inside it silence, outside it this and nothing else new."""
    starter, reached = KINDS[band.of], 0
    document = begun(starter)
    now = next(one for one in judged(document) if one.band.key == band.key)
    for end, way in ((now.low, -1), (now.high, 1)):
        if end == 0 and band.low.plus == 0:
            continue
        try:
            inside = with_answer(document, starter, band.what, end - way * 0.05 * abs(end))
            outside = with_answer(document, starter, band.what, end + way * 0.05 * abs(end))
        except VolumeError:
            continue
        reached += 1
        assert band.what not in [one.band.what for one in judged(inside) if one.beyond]
        found = [one for one in judged(outside) if one.beyond and one.band.what == band.what]
        assert len(found) == 1 and found[0].beyond * way > 0
        mended = brought_in(outside, found[0])
        mine = next(one for one in judged(mended) if one.band.key == band.key)
        assert not mine.beyond
        moved = abs(mine.value - found[0].value)
        assert moved == pytest.approx(abs(found[0].beyond), rel=1e-6, abs=1e-9)
    assert reached or band.key in {("Vehicle", "bonnet")}, "an end of it can be reached"


@pytest.mark.parametrize("band", OF_ROLES, ids=lambda one: f"{one.of} {one.what}")
def test_a_volume_is_judged_by_what_it_is_said_to_be_and_by_nothing_else(band):
    one = Volume("One", 300.0, 300.0, 300.0, 0.0, 0.0, 100.0)
    document = choosing.select(choosing.with_new(Document(), [one]), 0)
    document = say_what_it_is(document, 1 + ROLES.index(band.of))
    low, high = band.low.plus, band.high.plus
    for value, beyond in ((low * 1.05, 0), (high * 0.95, 0), (low * 0.95, -1), (high * 1.05, 1)):
        if band.what == "top":
            made = volume_edits.move_volume(document, (0.0, 0.0, value - 300.0))
        elif band.what == "slenderness":
            made = volume_edits.set_side(document, 2, 300.0 * value)
        else:
            axis = ("width", "depth", "height").index(band.what)
            made = volume_edits.set_side(document, axis, value)
        mine = next(two for two in judged(made) if two.band.key == band.key)
        if low == 0 and beyond < 0:
            continue
        assert (mine.beyond > 0) - (mine.beyond < 0) == beyond
        if beyond:
            mended = brought_in(made, mine)
            after = next(two for two in judged(mended) if two.band.key == band.key)
            assert not after.beyond
            assert abs(after.value - mine.value) == pytest.approx(abs(mine.beyond))
    assert sheet_from_text(sheet_as_text(document).encode(), "it") == document


def test_of_frameworks_with_one_planted_proportion_that_one_is_named_and_nothing_else(many):
    chance = random.Random(37)
    for _round in range(many(6, 50)):
        band = chance.choice(OF_STARTERS)
        starter = KINDS[band.of]
        document = begun(starter)
        now = next(one for one in judged(document) if one.band.key == band.key)
        value = chance.choice([now.low * 0.8, now.high * 1.25])
        try:
            planted = with_answer(document, starter, band.what, value)
        except VolumeError:
            continue
        measure = next(one for one in judged(planted) if one.band.key == band.key)
        if not measure.beyond:
            continue
        told = said(planted)
        linked = {
            two.what
            for two in BANDS
            if two.of == band.of and band.what in (two.low.of, two.high.of)
        }
        assert told[0] == band.what or told[0] in linked
        assert set(told) <= {band.what, *linked}


def test_bands_are_a_persons_own_and_a_kind_is_left_alone_with_one_deed():
    document = with_answer(begun(VEHICLE), VEHICLE, "wheelbase", 5.2)
    assert said(document) == ["wheelbase"]
    own = set_band(document, ("Vehicle", "wheelbase"), 2.0, 6.0)
    assert not said(own) and bands_of(own)["Vehicle", "wheelbase"].high.plus == 6.0
    assert sheet_from_text(sheet_as_text(own).encode(), "it") == own
    alone = judge(document, "Vehicle", on=False)
    assert not said(alone) and said(judge(alone, "Vehicle", on=True)) == ["wheelbase"]
    with pytest.raises(VolumeError, match="from less to more"):
        set_band(document, ("Vehicle", "wheelbase"), 6.0, 2.0)
    with pytest.raises(VolumeError, match="no such measure"):
        set_band(document, ("Vehicle", "colour"), 1.0, 2.0)
    remark = next(
        one
        for one in second_look(document, scene_of(document))
        if one.rule.startswith("proportion")
    )
    assert "no engineering" in remark.text and "4.6 w" in remark.text
    mended = remark.remedy().edit(document)
    assert not said(mended) and mended.eye == document.eye
