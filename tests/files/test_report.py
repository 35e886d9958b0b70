"""The report against numbers got another way: for a program that has nothing but the report."""

import json
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from mpmath import mpf, sqrt

from isometron.document.edits.projecting import Projecting
from isometron.files.report import report_of, report_text
from isometron.files.sheet_file import SAMPLES, sample_sheet
from isometron.framework.aids import Aid
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.taper import Taper
from isometron.framework.marks import Mark
from isometron.perspective.cone import off_axis
from isometron.perspective.curved import place_directions
from isometron.perspective.eye import sight_axes
from isometron.perspective.projection import project
from tests import exact
from tests.kinds import volume
from tests.published import checker
from tests.scenes import case, eye, eyes, sheet


def report(document):
    found = json.loads(report_text(document))
    checker("report")(found)
    return found


def unit(along):
    size = sqrt(exact.dot(along, along))
    return [v / size for v in along]


@given(eyes(reach=1e4))
@settings(max_examples=40, deadline=None)
def test_planes_vanish_where_fifty_digits_put_them(by):
    by = replace(by, x_mm=0.0, y_mm=-4000.0, height_mm=900.0)
    (told,) = report(sheet(case(), by=by))["volumes"]
    own = [exact.level_direction(30), exact.level_direction(120), (mpf(0), mpf(0), mpf(1))]
    for plane, (i, j) in zip(told["planes"], ((0, 1), (0, 2), (1, 2)), strict=True):
        one, other = own[i], own[j]
        sums = [unit([a + s * b for a, b in zip(one, other, strict=True)]) for s in (1, -1)]
        points = [told["vanishing_points"][i], told["vanishing_points"][j], *plane["diagonals"]]
        for point, along in zip(points, (one, other, *sums), strict=True):
            place = exact.vanishing(by, along)
            if place is None or point["sheet_mm"] is None:
                assert point["sense"] == 0 or abs(place[0]) > 1e9 or abs(place[1]) > 1e9
                continue
            size = 1 + float(max(abs(v) for v in place))
            assert point["sheet_mm"] == pytest.approx([float(v) for v in place], abs=1e-9 * size)
            assert point["sense"] == (1 if exact.dot(along, exact.sight_axes(by)[2]) > 0 else -1)
            if plane["vanishing_line"] is not None:
                a, b, c = plane["vanishing_line"]
                assert abs(a * place[0] + b * place[1] + c) < 1e-8 * size
        for point, place in zip(points[:2], plane["measuring_points_mm"], strict=True):
            if place is None or point["sheet_mm"] is None:
                continue
            away = np.hypot(*(np.array(point["sheet_mm"]) - by.centre_of_vision_mm))
            reach = np.hypot(away, by.station_distance_mm)
            assert np.hypot(*np.subtract(place, point["sheet_mm"])) == pytest.approx(reach)


def test_a_family_that_stays_parallel_tells_which_way_it_runs():
    for yaw, across in ((0.0, [1.0, 0.0]), (180.0, [-1.0, 0.0])):
        told = report(sheet(case(yaw_deg=yaw)))["volumes"][0]["vanishing_points"]
        assert [one["sense"] for one in told] == [0, 1 if yaw == 0 else -1, 0]
        assert told[0]["paper_direction"] == pytest.approx(across, abs=1e-15)
        assert told[2]["paper_direction"] == pytest.approx([0, 1])


def test_volumes_and_rounds_called_alike_are_told_apart(many):
    leg = case(name="Leg")
    found = report(sheet(leg, replace(leg, key=7), volume(lathe.TUBE, (60.0, 60.0, 90.0), key=9)))
    ids = [one["id"] for one in found["volumes"]] + [one["id"] for one in found["rounds"]]
    assert len(set(ids)) == len(ids) and ids[:2] == ["Leg #0", "Leg #7"]
    for name in many(SAMPLES[1:2], SAMPLES):
        found = report(sample_sheet(name))
        for what in ("volumes", "rounds"):
            ids = [one["id"] for one in found[what]]
            assert len(set(ids)) == len(ids)
        for one in found["volumes"]:
            faces = [face["name"] for face in one["faces"]]
            assert len(set(faces)) == len(faces)


def test_faces_look_outward_and_cover_the_body():
    """Areas times outward normals of a closed body add up to nothing, and the flux of the place
    through them to three times its contents."""
    for made in (case(), volume(Taper(20, 10, 30, -15), (90.0, 60.0, 40.0), pitch_deg=20.0)):
        told = report(sheet(made))["volumes"][0]
        areas = np.array([face["true_mm2"] for face in told["faces"]])
        normals = np.array([face["outward"] for face in told["faces"]])
        middles = np.array([face["middle_mm"] for face in told["faces"]])
        assert np.abs(areas @ normals).max() < 1e-9 * areas.sum()
        flux = float((areas * (normals * middles).sum(axis=1)).sum())
        assert flux == pytest.approx(3 * told["contents_mm3"])


def test_the_outline_of_every_round_touches_it_where_we_look_along_it():
    document = sheet(
        volume(lathe.CYLINDER, (80.0, 80.0, 120.0), yaw_deg=0.0),
        volume(lathe.SPHERE, (60.0, 60.0, 60.0), x_mm=200.0, yaw_deg=0.0),
    )
    by = np.array(document.eye.place)
    for told in report(document)["volumes"]:
        arcs = np.array([one["control_mm"] for one in told["outlines"]])
        assert len(arcs)
        for t in (0.1, 0.5, 0.8):
            weights = np.array([(1 - t) ** 2, 2 * t * (1 - t), t * t])
            places = np.einsum("i,kij->kj", weights, arcs)
            places = places[:, :3] / places[:, 3:]
            middle = np.array(told["place_mm"]) + np.array(told["sides_mm"]) / 2
            out = places - middle
            if told["sides_mm"][2] > 100:  # a tube: square to its axle
                out[:, 2] = 0
            assert np.linalg.norm(out, axis=1) == pytest.approx(told["sides_mm"][0] / 2)
            sight = (places - by) / np.linalg.norm(places - by, axis=1)[:, None]
            assert np.abs((sight * out).sum(axis=1)).max() < 1e-6


def test_seen_parts_lie_on_the_sheet_where_their_true_parts_are_drawn():
    front = case(x_mm=20.0, y_mm=1800.0, width_mm=60.0)
    marked = case(marks=(Mark("edge", 0, 0, (0.25, 0.5)), Mark("face", 5, 0, (0.5,))))
    document = replace(sheet(marked, front), aids=(Aid("floor line", (0.0, 9000.0)),))
    found = report(document)
    left, bottom, right, top = document.sheet.paper
    for told in found["volumes"]:
        world = np.array([corner["world_mm"] for corner in told["corners"]])
        rows = [(world[e["from"]], world[e["to"]], e) for e in told["edges"]]
        rows += [(*np.array(line["world_mm"]), line) for line in told["lines"]]
        for start, end, row in rows:
            for (a, b), drawn in zip(row["visible"], row["visible_mm"], strict=True):
                ends = np.array([start + a * (end - start), start + b * (end - start)])
                assert project(document.eye, ends).sheet.ravel() == pytest.approx(drawn)
            for x0, y0, x1, y1 in row["on_paper_mm"]:
                assert left <= min(x0, x1) and max(x0, x1) <= right
                assert bottom <= min(y0, y1) and max(y0, y1) <= top
    ticks = [line for line in found["volumes"][0]["lines"] if line.get("edge") == 0]
    first, second = found["volumes"][0]["edges"][0]["from"], found["volumes"][0]["edges"][0]["to"]
    corners = found["volumes"][0]["corners"]
    start, end = (np.array(corners[i]["world_mm"]) for i in (first, second))
    assert {line["share"] for line in ticks} == {0.25, 0.5}
    for line in ticks:
        assert line["division_mm"] == pytest.approx(start + line["share"] * (end - start))
    (aid,) = found["aids"]
    assert aid["on_paper_mm"] and len(aid["visible_mm"]) >= len(aid["on_paper_mm"])


def test_corners_are_told_off_the_axis_before_and_behind_us():
    by = eye(tilt_deg=-12.0)
    told = report(sheet(case(), case(y_mm=-9000.0), by=by))["volumes"]
    forward = [float(v) for v in exact.sight_axes(by)[2]]
    for one, behind in zip(told, (False, True), strict=True):
        for corner in one["corners"]:
            run = np.array(corner["world_mm"]) - by.place
            angle = np.degrees(np.arccos(run @ forward / np.linalg.norm(run)))
            assert corner["off_axis_deg"] == pytest.approx(angle, abs=1e-6)
            assert (corner["off_axis_deg"] > 90) == behind
            if not behind:
                drawn = off_axis(by, np.array(corner["sheet_mm"]))
                assert corner["off_axis_deg"] == pytest.approx(float(drawn))


def test_a_curved_sheet_reports_no_straight_line_and_no_ruler_where_there_is_none():
    """What vanishing lines are on a curved sheet is told by where directions of the plane land."""
    for name in ("curved crawler", "telescope tube"):
        document = Projecting(curved=True)(sample_sheet(name))
        report = report_of(document)
        for told in report["volumes"]:
            for point in told["vanishing_points"]:
                assert point["measuring_point_mm"] is None
                ahead = float(sight_axes(document.eye)[2] @ np.array(point["direction"]))
                assert point["sense"] == (0 if abs(ahead) < 1e-9 else np.sign(ahead))
            for plane in told["planes"]:
                assert plane["measuring_points_mm"] == [None, None]
                across = np.linalg.svd(np.array(plane["normal"])[None])[2][1:]
                turns = np.linspace(0, 2 * np.pi, 60)
                ways = np.cos(turns)[:, None] * across[0] + np.sin(turns)[:, None] * across[1]
                landed = place_directions(document.eye, ways).sheet
                landed = landed[np.isfinite(landed).all(axis=1)]
                off = np.linalg.svd(landed - landed.mean(axis=0))[1][1]
                line = plane["vanishing_line"]
                assert (line is None) == (off > 1e-3), name
                if line is not None:
                    assert np.abs(landed @ np.array(line[:2]) + line[2]).max() < 1e-6
