"""What parts were meant to be: kept under any edit, by the least change, or refused by name."""

import itertools
import math
import random
from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import linprog

from isometron.document.document import Document
from isometron.document.edits import choosing, meaning, proportioning, volume_edits
from isometron.document.edits.offering import newly_true, offered
from isometron.document.edits.starters import SEAT, STARTERS, VEHICLE, with_starter
from isometron.document.edits.starters.again import begin_again, open_again
from isometron.drawing.meant import meant_marks
from isometron.files.report import report_of
from isometron.files.sheet_file import (
    sheet_as_text,
    sheet_from_text,
    volumes_as_text,
    volumes_from_text,
)
from isometron.framework.intentions.apart import Apart
from isometron.framework.intentions.between import Between
from isometron.framework.intentions.centred import Centred
from isometron.framework.intentions.flush import Flush
from isometron.framework.intentions.intention import TRUE_MM
from isometron.framework.intentions.registry import INTENTIONS
from isometron.framework.volume import Volume
from isometron.perspective.errors import IntentionError, IsometronError, VolumeError
from isometron.perspective.projection import project

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
    every += three_apart().intentions + meaning.keep_square_to(three_apart(), 0).intentions
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


def tied(document, chance):
    """One more tie between parts that nobody would think of."""
    others = [i for i in range(len(document.volumes)) if i != document.selected]
    one, other, axis = chance.choice(others), chance.choice(others), chance.randrange(3)
    return chance.choice(
        [
            lambda: meaning.keep_within(document, one, axis),
            lambda: meaning.keep_centred(document, one, axis),
            lambda: meaning.keep_flush(document, one, axis, far=chance.random() < 0.5),
            lambda: meaning.keep_between(document, one, other, axis),
            lambda: meaning.keep_spread(choosing.choose_all(document), axis),
            lambda: meaning.keep_apart(document, one, axis, (chance.randrange(3), 1)),
            lambda: meaning.keep_as_long(document, chance.randrange(3), one, axis),
            lambda: meaning.keep_square(document, axis, (axis + 1) % 3),
            lambda: meaning.keep_on_ground(document),
        ]
    )()


def any_edit(document, chance):
    """One edit such as a person does, with numbers nobody would choose."""
    free = [i for i, one in enumerate(document.volumes) if one.like is None]
    there = choosing.select(document, chance.choice(free))
    one, what = there.volume, chance.randrange(7)
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
    if what == 6 and len(document.volumes) > 1:
        return tied(there, chance)
    return (
        begun_anew(document, chance)
        if document.begun and what == 5
        else choosing.remove_chosen(there)
    )


def begun_anew(document, chance):
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


def box(name, x, y, z, wide=100.0):
    return Volume(name, wide, 80.0, 60.0, x, y, z)


def together(*boxes):
    return choosing.with_new(Document(), boxes)


def three_apart():
    """Two posts, a board half-way between them, and a shelf that ends two boards beyond a post."""
    row = [
        box("A", 0, 0, 0),
        box("B", 700, 30, 0),
        box("Board", 250, 9, 0),
        box("Shelf", 500, 0, 90),
    ]
    board = choosing.select(choosing.with_new(Document(), row), 2)
    kept = meaning.keep_between(board, 0, 1, 0)
    shelf = choosing.select(kept, 3)
    return meaning.keep_apart(shelf, 0, 0, (2, 1), "2 Board.width")


@pytest.mark.parametrize("moved", ["A", "B", "Board", "Shelf"])
@pytest.mark.parametrize("by", [-90.0, 35.0])
def test_half_way_and_at_a_distance_hold_from_every_side_by_the_least_move(moved, by):
    """Middles worked out from corners; the brute search moves one other part at a time."""
    document = three_apart()

    def true(parts):
        mid = {k: v.corners()[:, 0].mean() for k, v in parts.items()}
        far = parts["Shelf"].corners()[:, 0].max() - mid["A"]
        off = mid["Board"] - (mid["A"] + mid["B"]) / 2
        return abs(off) < 1e-6 and abs(far - 2 * parts["Board"].width_mm) < 1e-6

    def shifted(volume, x):
        return replace(volume, x_mm=volume.x_mm + x)

    there = picked(document, moved)
    x, y, z = there.volume.place
    done = {v.name: v for v in volume_edits.move_volume(there, (x + by, y, z)).volumes}
    before = {v.name: v for v in document.volumes}
    assert true(before) and true(done)
    assert done[moved].x_mm == pytest.approx(x + by)
    cost = sum(abs(done[name].x_mm - before[name].x_mm) for name in before if name != moved)
    held = {**before, moved: shifted(before[moved], by)}
    others = [name for name in before if name != moved]
    steps = np.array([-2, -1, -0.5, 0, 0.5, 1, 2]) * by
    least = min(
        np.abs(one).sum()
        for one in itertools.product(steps, repeat=3)
        if true(held | {n: shifted(before[n], s) for n, s in zip(others, one, strict=True)})
    )
    assert cost <= least * 1.01
    assert sum(a.sides != b.sides for a, b in zip(before.values(), done.values(), strict=True)) == 0


def test_those_spread_stay_even_and_a_distance_in_a_module_grows_with_what_carries_it():
    row = together(*(box(f"P{n}", x, 0, 0) for n, x in enumerate((0.0, 130.0, 444.0, 900.0))))
    spread = meaning.keep_spread(choosing.choose_all(row), 0)
    far = picked(spread, "P3")
    wide = volume_edits.move_volume(far, (1200.0, 0.0, 0.0))
    assert [v.x_mm for v in wide.volumes] == pytest.approx([0.0, 400.0, 800.0, 1200.0])
    cabin = picked(begun(), "Cabin")
    names = [v.name for v in cabin.volumes]
    kept = meaning.keep_apart(cabin, names.index("Front wheel"), 0, (0, 1), "0.3 w")

    def gap(document):
        wheel = volume(document, "Front wheel")
        middle = wheel.corners()[:, 0].mean()
        return (volume(document, "Cabin").corners()[:, 0].min() - middle) / wheel.width_mm

    larger = proportioning.set_module(kept, "w", 700.0)
    assert gap(kept) == pytest.approx(0.3) and gap(larger) == pytest.approx(0.3)
    before = meaning.keep_apart(cabin, names.index("Front wheel"), 0, (0, 1), "-10cm")
    assert "10 cm before the middle of Front wheel" in meaning.ties_of(before)[-1][0]
    with pytest.raises(IntentionError, match=r"Cabin stays within.*; the middle of Cabin"):
        meaning.keep_apart(cabin, 0, 0, (1, 0), "-30cm")
    with pytest.raises(VolumeError, match="type a length"):
        meaning.keep_apart(cabin, 0, 0, (1, 0), "2 w + 1 Body.width")


def test_a_side_as_long_as_another_and_a_square_face_follow():
    two = choosing.select(
        choosing.with_new(Document(), [box("A", 0, 0, 0), box("B", 300, 0, 0)]), 1
    )
    tall = meaning.keep_as_long(two, 2, 0, 0)
    wider = volume_edits.set_side(picked(tall, "A"), 0, 333.0)
    assert volume(wider, "B").height_mm == 333.0 and volume(wider, "B").width_mm == 100.0
    square = meaning.keep_square(two, 0, 2)
    assert volume_edits.set_side(square, 0, 77.0).volume.sides == (77.0, 80.0, 77.0)


@pytest.mark.parametrize("starter", [VEHICLE, SEAT], ids=["vehicle", "seat"])
def test_copies_keep_among_themselves_what_their_sources_keep(starter):
    document = choosing.choose_all(begun(starter))
    count, ties = len(document.volumes), document.intentions
    text = volumes_as_text(document.volumes, ties)
    for done in (
        volume_edits.duplicate_volume(document),
        choosing.paste(document, *volumes_from_text(text)),
        choosing.paste(Document(), *volumes_from_text(text)),
    ):
        new = done.volumes[-count:]
        keys = [v.key for v in new]
        own = [one for one in done.intentions if set(one.keys) <= set(keys)]
        assert [type(one) for one in own] == [type(one) for one in ties]
        old = [v.key for v in document.volumes]
        for one, other in zip(ties, own, strict=True):
            assert [old.index(k) for k in one.keys] == [keys.index(k) for k in other.keys]
        for one in done.intentions:
            assert one.miss_mm(done.parts) <= TRUE_MM
    alone = [document.volumes[0]]
    assert not volumes_from_text(volumes_as_text(alone, ties))[1] or starter is SEAT


def test_marks_of_ties_lie_where_their_places_are_seen_and_the_report_tells_them():
    document = picked(begun(), "Cabin")
    lines, words = meant_marks(document)
    assert sorted(one.word for one in words) == ["middle", "within"]
    body, cabin = volume(document, "Body"), volume(document, "Cabin")
    middle = cabin.corners().mean(axis=0)
    ends = np.array([[x, *middle[1:]] for x in (body.x_mm, body.x_mm + body.width_mm)])
    seen = project(document.eye, ends).sheet.ravel()
    assert np.abs(lines - seen).max(axis=1).min() < 1e-9
    assert not len(meant_marks(choosing.select(document, None))[0])
    told = report_of(document)["intentions"]
    assert [one["volumes"] for one in told][:2] == [["Cabin", "Body"]] * 2
    assert max(one["off_mm"] for one in told) <= TRUE_MM


def test_what_a_move_makes_true_is_offered_and_nothing_else():
    two = choosing.select(together(box("A", 0, 0, 0, 300.0), box("B", 513, 217, 60)), 1)
    x, y, z = two.volume.place
    moved = volume_edits.move_volume(two, (x, 0.0, z))
    offered = newly_true(two, moved)
    assert offered.told(moved.parts) == "B stays in the middle of the depth of A"
    assert newly_true(two, volume_edits.move_volume(two, (x + 1.0, y, z))) is None
    kept = moved.with_intention(offered)
    assert newly_true(kept, volume_edits.move_volume(kept, (x + 1.0, 0.0, z))) is None
    ended = volume_edits.move_volume(two, (x, y, z - 60.0))
    assert newly_true(two, ended).told(ended.parts) == "B stays in the middle of the height of A"


def equation(tie, keys, wide):
    """A tie along the width of boxes as a·x = b in where they begin, by hand."""
    a, b = np.zeros(len(keys)), 0.0
    if isinstance(tie, Between):
        terms = (tie.part, 1.0, 0.5), (tie.on, -0.5, 0.5), (tie.other, -0.5, 0.5)
    elif isinstance(tie, Centred):
        terms = (tie.part, 1.0, 0.5), (tie.on, -1.0, 0.5)
    elif isinstance(tie, Flush):
        terms = (tie.part, 1.0, float(tie.far)), (tie.on, -1.0, float(tie.far))
    else:
        terms = (tie.part, 1.0, tie.at / 2), (tie.on, -1.0, tie.start / 2)
        b = tie.times * wide[keys.index(tie.of)]
    for key, times, at in terms:
        a[keys.index(key)] += times
        b -= times * at * wide[keys.index(key)]
    return a, b


def test_what_can_be_true_at_once_is_made_so_by_the_least_moves_and_nothing_else_is_refused(many):
    """Boxes with random ties, one moved by hand: against least squares (can it be?) and a linear
    programme of the equations above (what is the least?)."""
    chance, ties_refused = random.Random(4), 0
    for _round in range(many(40, 3000)):
        count = chance.randint(3, 5)
        wide = [chance.uniform(50, 300) for _box in range(count)]
        row = [box(f"B{n}", chance.uniform(0, 1500), 0, 0, w) for n, w in enumerate(wide)]
        document = together(*row)
        keys = [v.key for v in document.volumes]
        for _tie in range(chance.randint(1, count - 1)):
            i, j, k = chance.sample(keys, 3)
            at, start = chance.randrange(3), chance.randrange(3)
            tie = chance.choice(
                [
                    Centred(i, j, 0),
                    Flush(i, j, 0, chance.random() < 0.5),
                    Between(i, j, k, 0),
                    Apart(i, j, k, 0, 0, chance.uniform(-2, 2), 0.0, at, start),
                ]
            )
            try:
                document = document.with_intention(tie)
            except IntentionError:
                rows = [equation(one, keys, wide) for one in (*document.intentions, tie)]
                a, b = np.array([r[0] for r in rows]), np.array([r[1] for r in rows])
                assert np.abs(a @ np.linalg.lstsq(a, b, rcond=None)[0] - b).max() > 1e-3
                ties_refused += 1
        hand, by = chance.randrange(count), chance.uniform(-200, 200)
        x = np.array([v.x_mm for v in document.volumes])
        there = choosing.select(document, hand)
        done = volume_edits.move_volume(there, (x[hand] + by, 0.0, 0.0))
        moved = np.array([v.x_mm for v in done.volumes])
        rows = [equation(one, keys, wide) for one in document.intentions]
        rows.append((np.eye(count)[hand], x[hand] + by))
        a, b = np.array([r[0] for r in rows]), np.array([r[1] for r in rows])
        assert np.abs(a @ moved - b).max() < 1e-5
        eye = np.eye(count)
        least = linprog(
            np.repeat([0.0, 1.0], count),
            A_ub=np.block([[eye, -eye], [-eye, -eye]]),
            b_ub=np.concatenate([x, -x]),
            A_eq=np.hstack([a, np.zeros_like(a)]),
            b_eq=b,
            bounds=[(None, None)] * (2 * count),
        )
        assert np.abs(moved - x).sum() <= 1.01 * least.fun + 1e-6
    assert ties_refused


def test_a_box_all_but_a_cube_or_with_a_face_all_but_square_is_offered_to_be_one():
    one = choosing.select(together(box("A", 0, 0, 0, 80.0)), 0)
    assert one.volume.sides == (80.0, 80.0, 60.0)
    near = volume_edits.set_side(one, 2, 74.0)
    offer = offered(one, near)
    assert offer.words == "A as a cube? Its height is 7.5 % off"
    assert offer.edit(near).volume.sides == (80.0, 80.0, 80.0)
    square = volume_edits.set_side(one, 0, 63.0)
    assert "square? Its height is 4.8 % off" in offered(one, square).words
    assert offered(one, square).edit(square).volume.sides == (63.0, 80.0, 63.0)
    for exact in (volume_edits.set_side(one, 2, 80.0), volume_edits.set_side(one, 2, 20.0)):
        assert offered(one, exact) is None


def test_what_is_all_but_as_long_or_all_but_square_to_another_is_offered_to_be_so():
    two = together(Volume("A", 40, 40, 300), Volume("B", 40, 40, 300, 500.0))
    near = volume_edits.set_side(choosing.select(two, 1), 2, 312.0)
    offer = offered(two, near)
    assert offer.words == "B as long as A? Its height is 4 % off"
    kept = offer.edit(near)
    assert kept.volumes[1].height_mm == 300.0
    kept = volume_edits.set_side(choosing.select(kept, 0), 2, 350.0)
    assert kept.volumes[1].height_mm == 350.0
    assert offered(two, volume_edits.set_side(choosing.select(two, 1), 2, 400.0)) is None
    other = volume_edits.set_side(choosing.select(two, 1), 1, 55.0)
    assert offered(other, volume_edits.set_side(other, 2, 312.0)) is None  # no likeness of A

    for turned, off in ((88.5, "1.5"), (-2.0, "2"), (181.0, "1")):
        askew = volume_edits.turn_volume(choosing.select(two, 1), turned)
        assert offered(two, askew).words == f"B square to A? It is turned {off}° off"
        square = offered(two, askew).edit(askew)
        assert abs(math.remainder(square.volumes[1].yaw_deg, 90.0)) < 1e-9
        middle = [np.mean(d.volumes[1].corners(), axis=0) for d in (askew, square)]
        assert middle[0] == pytest.approx(middle[1])
    assert offered(two, volume_edits.turn_volume(choosing.select(two, 1), 20.0)) is None


def test_what_is_kept_square_turns_with_the_other_whichever_is_turned():
    chance = random.Random(11)
    for _round in range(60):
        boxes = [box(name, chance.uniform(0, 900), chance.uniform(0, 900), 0) for name in "AB"]
        two = together(*(replace(one, yaw_deg=chance.uniform(-400, 400)) for one in boxes))
        kept = meaning.keep_square_to(choosing.select(two, 1), 0)
        part, on = chance.sample((0, 1), 2)
        turned = volume_edits.turn_volume(choosing.select(kept, part), chance.uniform(-180, 180))
        a, b = (v.axes()[0][:2] for v in turned.volumes)
        assert abs(float(a @ b) * float(a[0] * b[1] - a[1] * b[0])) < 1e-9
        assert turned.volumes[part].yaw_deg != kept.volumes[part].yaw_deg
        went = turned.volumes[on].yaw_deg - kept.volumes[on].yaw_deg
        assert abs(math.remainder(went, 360.0)) <= 45.0 + 1e-9
