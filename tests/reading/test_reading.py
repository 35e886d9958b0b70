"""Readings of made-up pictures: exact without noise, honest with it, refused where none tells."""

import math
from dataclasses import replace

import numpy as np
import pytest

from isometron.document.marks import Edge, Known, Lens, Marks, MarksError, Picture, Round, Row
from isometron.reading.beginning import begin
from isometron.reading.fit import fit, refined
from isometron.reading.model import observed, residuals
from isometron.reading.reading import read_marks
from tests.reading.made_up import CENTRE, SIZE, box, eye_frame, marks, rim, shown

TINY = 1e-7


@pytest.mark.parametrize("heading", [-35.0, -20.0, 15.0, 50.0])
@pytest.mark.parametrize(
    ("tilt", "roll", "known"),
    [
        (0.0, 0.0, True),
        (-20.0, 3.0, True),
        (25.0, -8.0, True),
        (-20.0, 3.0, False),
        (25.0, -8.0, False),
    ],
)
def test_marks_without_noise_are_read_exactly(heading, tilt, roll, known):
    places, depths = box(heading, tilt, roll)
    told = read_marks(marks(places, shown(depths), np.random.default_rng(0), TINY, known=known))
    view = told.view
    assert view.station_distance.value == pytest.approx(450, rel=1e-4)
    assert view.heading_deg.value == pytest.approx(heading, abs=1e-3)
    assert view.tilt_deg.value == pytest.approx(tilt, abs=1e-3)
    assert view.roll_deg.value == pytest.approx(roll, abs=1e-3)
    assert [q.value for q in view.centre_of_vision] == pytest.approx(CENTRE, abs=1e-2)
    assert (told.sides.depth.value, told.sides.height.value) == pytest.approx((0.4, 0.3), rel=1e-4)
    assert not told.refused and not told.set_aside
    frame = eye_frame(heading, tilt, roll)
    # the eye level: where level directions vanish, found from two of them
    ends = [np.array(CENTRE) + 450 * (frame @ way)[:2] / (frame @ way)[2] for way in LEVEL]
    (x1, y1), (x2, y2) = ends
    for at, level in zip((0.0, SIZE[0]), told.eye_level, strict=True):
        expected = y1 + (at - x1) * (y2 - y1) / (x2 - x1)
        assert level.value == pytest.approx(expected, abs=1e-2)
    for one in told.vanishing:
        way = frame[:, ("width", "depth", "height").index(one.family)]
        assert one.direction == pytest.approx(way, abs=1e-5)


LEVEL = np.array([[0.8, 0.6, 0.0], [-0.3, 0.95, 0.0]])


@pytest.mark.sample(1)
@pytest.mark.parametrize(
    ("heading", "tilt", "known"), [(-35, 0, True), (-35, -20, True), (-35, -20, False)]
)
def test_stated_errors_are_what_happens(heading, tilt, known, many):
    places, depths = box(heading, tilt)
    rng, count = np.random.default_rng(8), many(60, 1000)
    pulls = []
    for _ in range(count):
        told = read_marks(marks(places, shown(depths), rng, known=known))
        view, sides = told.view, told.sides
        pairs = [
            (view.station_distance, 450),
            (view.heading_deg, heading),
            (view.tilt_deg, tilt),
            (view.roll_deg, 0),
            (sides.depth, 0.4),
            (sides.height, 0.3),
        ]
        pulls.append([(q.value - true) / q.standard_error for q, true in pairs])
        assert not told.set_aside
    spare = 3 / np.sqrt(2 * count)
    assert np.abs(np.std(pulls, axis=0) - 1).max() < 0.1 + spare
    assert np.abs(np.mean(pulls, axis=0)).max() < 0.1 + 3 / np.sqrt(count)


def test_slopes_of_the_model_are_what_small_steps_give():
    places, depths = box(-35, -20, 4)
    rng = np.random.default_rng(4)
    some = marks(places, shown(depths), rng, 2.0)
    edges = [
        replace(e, open_ends=i % 3 == 0, weight=0.5 if i % 4 == 1 else 1.0)
        for i, e in enumerate(some.edges)
    ]
    edges += [Edge((10, 20), (90, 44), "depth"), Edge((20, 90), (80, 33), "bonnet")]
    some = replace(some, edges=tuple(edges))
    points = np.array(rim((20, 10, 400), 2, 30, -35, -20).points)
    best = fit(some, ((points, 2, 1.0),))
    seen = observed(some, np.ones(len(edges), dtype=bool), ((points, 2, 0.3),))
    state = best.state.moved(0.01 * rng.standard_normal(best.state.count))
    _misses, slopes = residuals(seen, state)
    for place in range(state.count):
        step = np.zeros(state.count)
        step[place] = 1e-6 * (state.distance if 4 <= place < 8 else 1)
        ahead, behind = (residuals(seen, state.moved(s))[0] for s in (step, -step))
        assert np.allclose(
            (ahead - behind) / (2 * step[place]), slopes[:, place], atol=2e-3, rtol=2e-3
        )


@pytest.mark.parametrize("given", [True, False])
def test_wrong_lines_are_set_aside_and_said(given):
    places, depths = box(-35, -20)
    rng = np.random.default_rng(6)
    some = marks(places, shown(depths), rng, given=given)
    frame = eye_frame(-35, -20)
    loose = []
    for i in range(9):
        way = frame[:, i % 3]
        start = rng.uniform((30, 30), (220, 150))
        run = np.array(CENTRE) + 450 * way[:2] / way[2] - start
        run *= 60 / np.hypot(*run)
        ends = start + 0.3 * rng.standard_normal(2), start + run + 0.3 * rng.standard_normal(2)
        loose.append(Edge(tuple(ends[0]), tuple(ends[1]), ("width", "depth", "height")[i % 3]))
    wrong = [2, 7, 13]
    edges = [*some.edges, *loose]
    for number in wrong:
        one = edges[number]
        across = np.array([one.start[1] - one.end[1], one.end[0] - one.start[0]])
        across *= 9 / np.hypot(*across)
        edges[number] = replace(one, end=tuple(np.array(one.end) + across))
    told = read_marks(replace(some, edges=tuple(edges)))
    assert [one.edge for one in told.set_aside] == wrong
    assert all("times the noise" in one.why for one in told.set_aside)
    near = told.view.station_distance
    assert abs(near.value - 450) < 4 * near.standard_error
    if not given:
        assert 0.2 < told.noise.value < 0.42 and told.noise.standard_error > 0


def test_one_point_pictures_need_a_square_or_a_ratio():
    places, depths = box(0, 0)
    plain = marks(places, shown(depths), np.random.default_rng(2))
    told = read_marks(plain)
    assert told.view.station_distance is None and told.sides.depth is None
    assert told.sides.height.value == pytest.approx(0.3, abs=0.01)
    helps = {one.what: one.would_help for one in told.refused}
    assert "square" in helps["station_distance"] and "ratio" in helps["station_distance"]
    numbers = {e.family: i for i, e in enumerate(plain.edges)}
    ratio = Known("ratio", (numbers["depth"], numbers["width"]), 0.4)
    told = read_marks(replace(plain, known=(ratio,)))
    distance = told.view.station_distance
    assert abs(distance.value - 450) < 4 * distance.standard_error < 200
    assert told.sides.depth.value == pytest.approx(0.4)
    lens = replace(plain, lens=Lens(450.0, 5.0))
    assert read_marks(lens).view.station_distance.standard_error <= 5.0


def test_a_level_picture_that_may_be_cropped_leaves_a_family_of_eyes():
    places, depths = box(-35, 0)
    told = read_marks(marks(places, shown(depths), np.random.default_rng(2), known=False))
    assert told.view.station_distance is None and told.view.centre_of_vision is None
    assert told.sides.depth is None and told.eye_level is not None
    assert any("uncropped" in one.would_help for one in told.refused)


def test_rims_sharpen_what_edges_tell_and_alone_are_no_view():
    places, depths = box(-35, -20)
    rng = np.random.default_rng(5)
    some = marks(places, shown(depths), rng)
    frame = eye_frame(-35, -20)
    round_ = rim(frame @ (1.0, 0.5, -0.8) + (0, 0, 20), 2, 2.0, -35, -20)
    noisy = np.array(round_.points) + 0.3 * rng.standard_normal((40, 2))
    round_ = replace(round_, points=tuple(map(tuple, noisy)))
    without, with_it = read_marks(some), read_marks(replace(some, rounds=(round_,)))
    near, nearer = (told.view.tilt_deg for told in (without, with_it))
    assert nearer.standard_error < near.standard_error
    assert abs(nearer.value + 20) < 4 * nearer.standard_error
    alone = read_marks(Marks(Picture(*SIZE, CENTRE), rounds=(round_,), noise=0.3))
    assert alone.view is None and alone.rims[0].name == "rim"
    assert any(one.what == "view" and "edges" in one.would_help for one in alone.refused)


def test_marks_that_fit_no_eye_are_said_to():
    rng = np.random.default_rng(3)
    edges = []
    for i in range(12):
        start, run = rng.uniform(20, 160, 2), rng.uniform(-60, 60, 2)
        family = ("width", "depth", "height")[i % 3]
        edges.append(Edge(tuple(start), tuple(start + run), family))
    told = read_marks(Marks(Picture(*SIZE, CENTRE), tuple(edges), noise=0.05))
    assert told.view is None and any("fit no eye" in one.why for one in told.refused)


def test_a_known_length_gives_true_sides():
    places, depths = box(-35, -20)
    some = marks(places, shown(depths), np.random.default_rng(0), TINY)
    number = next(i for i, e in enumerate(some.edges) if e.family == "depth")
    told = read_marks(replace(some, known=(Known("length", (number,), 620.0),)))
    assert told.sides.true["width"].value == pytest.approx(1550, rel=1e-4)
    useless = Known("ratio", (number, number), 2.0)
    assert any(one.what == "known.0" for one in read_marks(replace(some, known=(useless,))).refused)


@pytest.mark.parametrize(
    "wrong",
    [
        {},
        {"edges": (Edge((0, 0), (0, 0), "width"),)},
        {"edges": (Edge((0, float("nan")), (0, 1), "width"),)},
        {"edges": (Edge((0, 1e300), (0, 1), "width"),)},
        {"edges": (Edge((0, 0), (1, 1), "width", (0, 3)),)},
        {"edges": (Edge((0, 0), (1, 1), "roof", (0, 1)),)},
        {"edges": (Edge((0, 0), (1, 1), "width"),), "known": (Known("ratio", (0, 9), 1.0),)},
        {"edges": (Edge((0, 0), (1, 1), "width"),), "noise": 0.0},
        {"edges": (Edge((0, 0), (1, 1), "width"),), "lens": Lens(-1.0, 1.0)},
    ],
)
def test_marks_that_make_no_sense_are_refused(wrong):
    with pytest.raises(MarksError, match=r"[a-z].*[:,.]"):
        read_marks(Marks(Picture(100.0, 80.0), **wrong))


AWKWARD = [
    (Edge((0, 0), (1, 1), "width"),),
    (Edge((0, 0), (50, 0), "width"), Edge((0, 10), (50, 10), "width")),
    (Edge((0, 0), (50, 0), "width"), Edge((0, 0), (50, 0), "depth")),
    tuple(Edge((0, 10 * i), (50, 10 * i), f) for i, f in enumerate(("width", "depth", "height"))),
    tuple(Edge((3, 3), (3 + i, 3 - i), "width", (0, 1)) for i in (1, 2)),
    tuple(Edge((i, 0), (i, 50), "mast") for i in range(4)),
    tuple(Edge((1e6, 1e6), (1e6 + i, 0), "height") for i in (1, 2, 3)),
]


@pytest.mark.parametrize("edges", AWKWARD)
@pytest.mark.parametrize("known", [CENTRE, None])
def test_degenerate_marks_give_a_reading_with_refusals_and_no_nonsense(edges, known):
    told = read_marks(Marks(Picture(100.0, 80.0, known), edges))
    assert told.refused
    numbers = [q for one in told.vanishing for q in one.direction]
    assert np.isfinite(numbers).all()
    flat = Round(tuple((i, i) for i in range(9)), "height", "flat")
    assert any(
        "flat" in one.what
        for one in read_marks(Marks(Picture(100.0, 80.0, known), edges, (flat,))).refused
    )


def test_places_along_one_line_are_measured_by_its_vanishing_point():
    """Wheels at 1, 4 and 8.5 diameters along the width, without any box."""
    places, depths = box(-35, -20)
    rng = np.random.default_rng(9)
    some = marks(places, shown(depths), rng)
    edges = tuple(replace(e, corners=None) for e in some.edges)
    at = np.array([0.0, 1.0, 4.0, 8.5])
    frame = eye_frame(-35, -20)
    seen = np.array([-4.0, -1.0, 14.0]) + at[:, None] * frame[:, 0]
    row = np.array(CENTRE) + 450 * seen[:, :2] / seen[:, 2:]
    pulls = []
    for _ in range(40):
        noisy = tuple(map(tuple, row + 0.3 * rng.standard_normal(row.shape)))
        again = marks(places, shown(depths), rng)
        edges = tuple(replace(e, corners=None) for e in again.edges)
        told = read_marks(replace(again, edges=edges, rows=(Row(noisy, "width", "wheels"),)))
        lengths = told.rows[0].lengths
        assert told.sides is None and lengths[0].value == 1
        pulls.append(
            [(q.value - t) / q.standard_error for q, t in zip(lengths[1:], (3, 4.5), strict=True)]
        )
    assert np.abs(np.std(pulls, axis=0) - 1).max() < 0.4 and np.abs(np.mean(pulls)) < 0.4
    lost = Row(((0, 0), (1, 1), (2, 2)), "nowhere", "lost")
    refused = read_marks(replace(some, rows=(lost,))).refused
    assert [one.what for one in refused] == ["rows.lost"]
    point = next(v.at for v in read_marks(some).vanishing if v.family == "width")
    past = Row(((0, 0), (point[0] + 1e-9, point[1]), (point[0] * 2, point[1] * 2)), "width", "past")
    told = read_marks(replace(some, rows=(past,)))
    assert not told.rows and [one.what for one in told.refused] == ["rows.past"]
    with pytest.raises(MarksError, match="three places"):
        replace(some, rows=(Row(((0, 0), (0, 0), (1, 1)), "width"),))


def test_no_fit_stays_in_a_wrong_valley(many):
    """Cropped pictures have more than one valley: none of the others may lie lower than the fit."""
    places, depths = box(-35, -20)
    rng = np.random.default_rng(11)
    for _trial in range(many(60, 2000)):
        some = marks(places, shown(depths), rng, known=False)
        best = fit(some)
        assert not best.wrong
        seen = observed(some, np.ones(len(some.edges), dtype=bool))
        others = [refined(some, seen, begin(seen, some, 0.3, far)) for far in (1.0, 2.0, 4.0)]
        assert best.cost <= min(one.cost for one in others) + 0.3**2


def test_too_many_marks_are_refused_by_their_name_before_anything_is_worked_out(monkeypatch):
    def never(*_given):
        raise AssertionError("worked out")

    for name in ("fit", "fit_rim", "read_rims"):
        monkeypatch.setattr(f"isometron.reading.reading.{name}", never)
    picture, ends = Picture(1000.0, 1000.0), ((1.0, 2.0), (300.0, 40.0))
    rim = tuple((500 + math.cos(t), 500 + math.sin(t)) for t in np.linspace(0, 6, 150))
    edges = [Edge(*ends, "width", open_ends=True)] * 1501
    several = [Edge(*ends, f"family {n}", open_ends=True) for n in range(13)]
    for given, words in (
        (Marks(picture, tuple(edges)), "1501 edges"),
        (Marks(picture, tuple(several)), "13 families"),
        (Marks(picture, (), (Round(rim[:5]),) * 41), "41 rims"),
        (Marks(picture, (), (Round(rim),) * 30), "4500 places"),
    ):
        with pytest.raises(MarksError, match=f"These marks .*{words}"):
            read_marks(given)
