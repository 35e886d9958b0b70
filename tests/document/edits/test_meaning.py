"""What parts were meant to be: kept under any edit, by the least change, or refused by name."""

import random
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.document import Document
from isometron.document.edits import choosing, meaning, proportioning, volume_edits
from isometron.document.edits.starters import SEAT, STARTERS, VEHICLE, with_starter
from isometron.document.edits.starters.again import begin_again, open_again
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.intentions.intention import TRUE_MM
from isometron.framework.intentions.registry import INTENTIONS
from isometron.perspective.errors import IntentionError, IsometronError

W = VEHICLE.proposal["wheel diameter"]


def begun(starter=VEHICLE, **answers):
    return with_starter(Document(), starter, {**starter.proposal, **answers})


def picked(document, name):
    names = [one.name for one in document.volumes]
    return choosing.select(document, names.index(name))


def volume(document, name):
    return next(one for one in document.volumes if one.name == name)


def arch_ends(document):
    """Where the arcs of the body's near side begin and end along it, by its own edges."""
    body = volume(document, "Body").bare
    ends = (body.arcs[:, [0, 2], :3] / body.arcs[:, [0, 2], 3:]).reshape(-1, 3)
    on_base = ends[(np.abs(ends[:, 2]) < 1e-9) & (np.abs(ends[:, 1]) < 1e-9)]
    return np.unique(np.round(on_base[:, 0], 6))


def test_an_arch_goes_where_its_wheel_goes_and_a_wheel_where_its_arch_is_dragged():
    document = picked(begun(), "Rear wheel")
    x, y, z = document.volume.place
    moved = volume_edits.move_volume(document, (x - 100.0, y, z))
    assert arch_ends(document)[2:] - arch_ends(moved)[2:] == pytest.approx([100.0, 100.0])
    body = picked(document, "Body")
    shape = body.volume.shape
    ring = tuple(
        replace(k, x=k.x - 0.03) if 0.6 < k.x < 0.97 and k.y < 1e-9 else k for k in shape.rings[0]
    )
    dragged = body.with_volume(
        body.selected, replace(body.volume, shape=replace(shape, rings=(ring,)))
    )
    off = volume(document, "Rear wheel").x_mm - volume(dragged, "Rear wheel").x_mm
    assert off == pytest.approx(0.03 * body.volume.width_mm)


@pytest.mark.parametrize("share", [0.98, 0.95, 0.9, 0.8, 0.75])
def test_the_least_that_a_shorter_body_asks_of_its_wheel_is_taken(share):
    """Against a brute search over where the rear wheel may stand, an arch of its radius and a lip
    (a tenth of its diameter) in the body."""
    document = picked(begun(), "Body")
    long = share * document.volume.width_mm
    near = volume_edits.set_side(document, 0, long)
    wheel, body = volume(near, "Rear wheel"), volume(near, "Body")
    rise, radius = 0.5 * W - 0.4 * W, 0.57 * W
    half = np.sqrt(radius**2 - rise**2)
    axle = volume(document, "Rear wheel").x_mm + W / 2 - body.x_mm
    tries = np.linspace(-2 * W, 2 * W, 200_001)
    fits = axle + tries + half <= long - 0.1 * W
    least = tries[fits][np.abs(tries[fits]).argmin()]
    moved = wheel.x_mm - volume(document, "Rear wheel").x_mm
    assert moved == pytest.approx(least, abs=0.01 * W)
    assert volume(near, "Cabin").corners()[:, 0].max() <= body.x_mm + long + 1e-6


@pytest.mark.parametrize("front", [True, False])
def test_a_body_is_refused_only_where_its_arches_find_no_room_whatever_moves(front):
    """Two arches and two lips are as long as the shortest body there is."""
    document = picked(begun(), "Body")
    body, half = document.volume, np.sqrt((0.57 * W) ** 2 - (0.1 * W) ** 2)
    document = replace(document, intentions=document.intentions[2:])  # the cabin is let go
    for long in np.linspace(0.45, 0.7, 26) * body.width_mm:
        shift = 0.0 if front else body.width_mm - long
        short = replace(body, width_mm=long, x_mm=body.x_mm + shift)
        try:
            done = document.with_volume(document.selected, short)
        except IntentionError:
            assert long < 2 * 0.1 * W + 4 * half
            continue
        assert long >= 2 * 0.1 * W + 4 * half - 1e-6
        ends = arch_ends(done)
        axles = [volume(done, name).x_mm + W / 2 for name in ("Front wheel", "Rear wheel")]
        middles = (ends[::2] + ends[1::2]) / 2 + volume(done, "Body").x_mm
        assert middles == pytest.approx(axles) and (np.diff(ends) > -1e-6).all()


def test_what_a_table_sets_is_as_it_says_though_it_names_every_part():
    document = begun()
    every = {i: replace(one) for i, one in enumerate(document.volumes) if one.like is None}
    body = next(i for i, one in every.items() if one.name == "Body")
    every[body] = replace(every[body], width_mm=2700.0)
    done = document.with_each(every)
    assert volume(done, "Body").width_mm == 2700.0
    assert volume(done, "Rear wheel").x_mm < volume(document, "Rear wheel").x_mm


def test_what_cannot_hold_is_refused_by_name_and_let_go_it_can_be_done():
    document = picked(begun(), "Body")
    with pytest.raises(IntentionError, match=r"(?i)wheel turns in its arch in Body.*let it go"):
        volume_edits.set_side(document, 0, 0.4 * document.volume.width_mm)
    bare = document
    while bare.intentions:
        bare = meaning.let_go(bare, 0)
    assert bare.volumes == document.volumes
    short = volume_edits.set_side(bare, 0, 0.4 * document.volume.width_mm)
    assert short.volume.width_mm == pytest.approx(0.4 * document.volume.width_mm)


def test_a_drag_moves_nothing_by_more_than_the_hand_while_the_answer_holds():
    document = picked(begun(), "Rear wheel")
    x, y, z = document.volume.place
    steps = [volume_edits.move_volume(document, (x + by, y, z)) for by in range(-300, 301, 10)]
    for name in ("Body", "Cabin", "Rear wheel", "Front wheel twin"):
        corners = np.array([volume(one, name).corners() for one in steps])
        assert np.abs(np.diff(corners, axis=0)).max() <= 10.0 + 1e-6, name


def test_ties_are_made_by_hand_told_kept_in_the_file_and_followed():
    document = begun(SEAT)
    wheel = meaning.keep_centred(picked(document, "Front leg"), 0, 0)
    told = [words for words, _tie in meaning.ties_of(wheel)]
    assert told == [
        "stands on Seat",
        "Front leg stands on the ground",
        "Front leg stays in the middle of the width of Seat",
    ]
    assert sheet_from_text(sheet_as_text(wheel).encode(), "it") == wheel
    ties = meaning.ties_of(picked(begun(), "Cabin"))
    assert [words for words, _tie in ties][:3] == [
        "stands on Body",
        "width = 3.6 w",
        "depth = 2.3 w",
    ]
    free = picked(begun(), "Cabin")
    for _words, tie in reversed(ties):
        free = meaning.let_go(free, tie)
    assert meaning.ties_of(free) == [] and free.volume.corners() == pytest.approx(
        volume(begun(), "Cabin").corners()
    )
    every = meaning.keep_flush(wheel, 0, 1, far=True).intentions
    every += tuple(one for starter in STARTERS for one in begun(starter).intentions)
    assert {type(one) for one in every} == set(INTENTIONS.values())


def test_legs_stay_on_the_ground_whichever_way_the_seat_goes():
    seat = picked(begun(SEAT), "Seat")
    x, y, z = seat.volume.place
    for by in (-40.0, 60.0):
        done = volume_edits.move_volume(seat, (x, y, z + by))
        for name in ("Front leg", "Back leg", "Front leg twin"):
            corners = volume(done, name).corners()
            assert corners[:, 2].min() == pytest.approx(0.0, abs=1e-9)
            assert corners[:, 2].max() == pytest.approx(z + by)
    cube = volume_edits.set_side(meaning.keep_cube(seat), 0, 300.0)
    assert cube.volume.sides == pytest.approx((300.0, 300.0, 300.0))


def any_edit(document, chance):
    """One edit such as a person does, with numbers nobody would choose."""
    free = [i for i, one in enumerate(document.volumes) if one.like is None]
    there = choosing.select(document, chance.choice(free))
    one, what = there.volume, chance.randrange(6)
    if what == 0:
        axis, times = chance.randrange(3), chance.choice([0.1, 0.5, 0.9, 0.98, 1.1, 1.3, 2])
        return volume_edits.set_side(there, axis, one.sides[axis] * times)
    if what == 1:
        far = max(one.sides)
        x, y, z = (at + chance.choice([0.0, 0.5]) * far * chance.uniform(-1, 1) for at in one.place)
        return volume_edits.move_volume(there, (x, y, z))
    if what == 2 and document.modules:
        module = chance.choice(document.modules)
        return proportioning.set_module(there, module.name, module.mm * chance.uniform(0.7, 1.4))
    if what == 3:
        return volume_edits.turn_volume(there, one.yaw_deg + chance.choice([5.0, 90.0, 180.0]))
    if what == 4 or not document.begun:
        return choosing.remove_chosen(there)
    starter = next(one for one in STARTERS if one.name == document.begun[0].starter)
    opened = open_again(document, document.begun[0], starter)
    question = chance.choice(starter.questions)
    value = opened.answers[question.name] * chance.uniform(0.85, 1.15)
    if question.kind == "yes":
        value = 1.0 - opened.answers[question.name]
    elif question.kind in ("choice", "count"):
        value = float(chance.randint(1, 3))
    return begin_again(document, opened.begun, starter, {**opened.answers, question.name: value})


def test_after_any_edits_every_intention_is_true_or_the_edit_was_refused(many):
    chance = random.Random(2077)
    for number in range(many(20, 2000)):
        document = begun(STARTERS[number % len(STARTERS)])
        for _step in range(5):
            try:
                done = any_edit(document, chance)
            except IsometronError as error:
                assert str(error)[-1] in ".!" and "\n" not in str(error)
                continue
            keys = {one.key for one in done.volumes}
            for one in done.intentions:
                assert keys.issuperset(one.keys) and one.miss_mm(done.parts) <= TRUE_MM, one
            document = done
            if not document.volumes:
                break
