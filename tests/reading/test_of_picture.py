"""Pictures of a sheet: what a hand marks lays itself to what shows, and a sheet laid over a picture
sees what the camera saw."""

import io
import math
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image, ImageDraw

from isometron.document.document import Document
from isometron.document.edits import volume_edits
from isometron.document.edits.pictures import bringing, marking
from isometron.document.marks import FAMILIES, Edge, Lens, MarksError
from isometron.document.picture import (
    EDGE,
    ROUND,
    SPOT,
    Mark,
    PictureFile,
    SheetPicture,
)
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sample_picture, sample_sheet
from isometron.perspective.errors import StoppedError
from isometron.perspective.watching import Wanted, watched
from isometron.reading import pictures
from isometron.reading.comparing import compare
from isometron.reading.in_words import slip_of, spoken
from isometron.reading.laying import lay_sheet
from isometron.reading.of_picture import (
    bent,
    corner_at,
    find_lines,
    likely_axle,
    likely_corner,
    likely_family,
    picture_in,
    reading_of,
    rim_in,
    snapped,
    straight,
)
from isometron.reading.pictures import take_in
from isometron.stand_ins.camera import Camera, photograph, truth

CRAWLER = sample_sheet("supply crawler")


def drawn(paint, size=(400, 300), finer=4):
    """A PNG painted with y upward, finer than its pixels."""
    large = Image.new("L", (size[0] * finer, size[1] * finer), 230)
    paint(ImageDraw.Draw(large), finer, size[1])
    kept = io.BytesIO()
    large.resize(size, Image.Resampling.BOX).save(kept, "PNG")
    return kept.getvalue()


def ring(pen, finer, high, cx, cy, a, b, tilt, tone):
    turn = np.linspace(0, 2 * np.pi, 721)
    c, s = math.cos(tilt), math.sin(tilt)
    x = cx + a * np.cos(turn) * c - b * np.sin(turn) * s
    y = cy + a * np.cos(turn) * s + b * np.sin(turn) * c
    pen.polygon([(u * finer, (high - v) * finer) for u, v in zip(x, y, strict=True)], fill=tone)


def test_a_line_and_a_corner_drawn_by_hand_lay_themselves_to_the_edges():
    corner, ends = (200.0, 120.0), [(330.0, 170.0), (80.0, 190.0), (203.0, 40.0)]

    def paint(pen, finer, high):
        for one, two, tone in ((0, 1, 40), (1, 2, 120), (2, 0, 180)):
            places = (corner, ends[one], ends[two])
            pen.polygon([(x * finer, (high - y) * finer) for x, y in places], fill=tone)

    content = drawn(paint)
    start, end = snapped(content, (203.0, 125.0), (327.0, 165.0), 7.0)
    run = np.subtract(ends[0], corner) / math.dist(ends[0], corner)
    for place in (start, end):
        off = np.subtract(place, corner)
        assert abs(run[0] * off[1] - run[1] * off[0]) < 0.15
    at, laid = corner_at(content, (203.0, 117.0), [(x + 2, y - 2) for x, y in ends], 7.0)
    assert at == pytest.approx(corner, abs=0.25)
    for place, end in zip(laid, ends, strict=True):
        assert math.dist(place, end) < 4.0
    away = snapped(content, (20.0, 20.0), (60.0, 22.0), 5.0)
    assert away == ((20.0, 20.0), (60.0, 22.0)), "where nothing shows, a line stays as drawn"


def test_a_rim_in_a_box_is_found_among_others():
    def paint(pen, finer, high):
        pen.rectangle([0, 0, 400 * finer, 120 * finer], fill=150)
        ring(pen, finer, high, 212, 158, 96, 70, 0.5, 90)
        ring(pen, finer, high, 204, 150, 82, 60, 0.5, 40)
        ring(pen, finer, high, 200, 146, 30, 22, 0.5, 200)

    points = np.array(rim_in(drawn(paint), ((122.0, 82.0), (290.0, 216.0))))
    off = points - (204, 150)
    c, s = math.cos(0.5), math.sin(0.5)
    own = np.hypot((off @ (c, s)) / 82, (off @ (-s, c)) / 60)
    assert len(points) > 60 and abs(own - 1).max() < 0.02
    with pytest.raises(MarksError, match="No rim"):
        rim_in(drawn(lambda *given: None), ((122.0, 82.0), (290.0, 216.0)))


def test_a_lens_is_taken_out_and_put_in_again():
    picture = replace(pictured(CRAWLER, Camera(width_px=400)), bend=-0.17)
    for place in ((0.0, 0.0), (390.0, 20.0), picture.middle):
        assert straight(picture, bent(picture, place)) == pytest.approx(place, abs=1e-5)


def pictured(document, camera, *, lines=False):
    """A photograph of a sheet as a picture without marks, or with the lines found on it."""
    picture = picture_in(photograph(document, camera), "thing.jpg")
    return picture if lines else replace(picture, edges=(), long_lines=-1, lens=None)


def true_edges(told, volume=0):
    corners = told["volumes"][volume]["corners"]
    pairs = [(a, a | 1 << bit) for a in range(8) for bit in range(3) if not a >> bit & 1]
    return tuple(
        Edge(tuple(corners[a]), tuple(corners[b]), FAMILIES[(a ^ b).bit_length() - 1], (a, b))
        for a, b in pairs
    )


@pytest.mark.sample(2)
@pytest.mark.parametrize("roll", [0.0, 6.0, -11.0])
def test_a_sheet_laid_over_a_picture_sees_what_the_camera_saw(roll):
    camera = Camera(width_px=900, roll_deg=roll)
    told = truth(CRAWLER, camera)
    picture = replace(pictured(CRAWLER, camera), edges=true_edges(told), noise=0.01)
    sides = told["volumes"][0]["sides_mm"]
    document = bringing.bring_picture(Document(), picture)
    document = marking.say_known(document, "length", [0], sides[0])
    document = lay_sheet(document)
    (box,), laid = document.volumes, document.pictures[0].laid
    assert box.sides == pytest.approx(sides, rel=2e-4)
    drawn_at = scene_of(document).pictures[0].sheet
    for corner, place in zip(drawn_at, told["volumes"][0]["corners"], strict=True):
        assert corner == pytest.approx(laid.on_sheet(tuple(place)), abs=0.05)
        assert laid.on_picture(laid.on_sheet(tuple(place))) == pytest.approx(place, abs=1e-6)
    assert laid.turn_deg == pytest.approx(-roll, abs=0.02)
    assert bringing.underlay_of(document) == laid
    larger = replace(document.eye, station_distance_mm=2 * laid.eye.station_distance_mm)
    seen = laid.seen_from(larger)
    again = scene_of(document.with_eye(larger)).pictures[0].sheet
    place = seen.on_sheet(tuple(told["volumes"][0]["corners"][3]))
    assert again[3] == pytest.approx(place, abs=0.1), "size on the page takes the picture along"
    moved = document.with_eye(replace(document.eye, height_mm=document.eye.height_mm - 50))
    assert bringing.underlay_of(moved) is None
    assert bringing.take_picture_eye(moved).eye == document.eye
    twice = lay_sheet(document)
    assert [v.name for v in twice.volumes] == [box.name], "laid again, nothing is doubled"


@pytest.mark.full
def test_a_marked_corner_and_rim_find_their_place_in_the_box():
    camera = Camera(width_px=1600)
    told = truth(CRAWLER, camera)
    picture = pictured(CRAWLER, camera, lines=True)
    corners = [tuple(place) for place in told["volumes"][0]["corners"]]
    names = {edge.family for edge in picture.edges if not edge.left}
    assert names == set(FAMILIES)
    read = reading_of(picture)
    level = told["eye_level"]
    assert read.reading.eye_level[0].value == pytest.approx(level[0][1], abs=1.0)
    # where the found families call the long side depth, the near corner has the width bit
    long = likely_family(picture, corners[0], corners[1], read.reading)
    short = likely_family(picture, corners[0], corners[2], read.reading)
    bit = int(long == "depth")
    assert {long, short} == {"width", "depth"}
    ends = [(long, corners[1]), (short, corners[2]), ("height", corners[4])]
    assert likely_corner(picture, corners[0], ends, 1.0) == bit
    over = [(long, corners[5]), (short, corners[6]), ("height", corners[0])]
    assert likely_corner(picture, corners[4], over, 1.0) == 4 | bit
    points = rim_in(picture.file.content, ((480.0, 140.0), (712.0, 390.0)))
    assert likely_axle(picture, points, read) == short
    document = bringing.bring_picture(Document(), picture)
    document = marking.add_corner(document, bit, corners[0], ends)
    document = marking.add_round(document, points, "height", "wheel")
    what = [one.what for one in reading_of(document.photograph).reading.refused]
    assert "rounds.wheel" in what, "a rim about the wrong axle is left out, and said"
    document = marking.set_family(document, [Mark(ROUND, 0)], short)
    laid = lay_sheet(document)
    box, wheel = laid.volumes
    assert wheel.name == "wheel" and wheel.shape.axis == FAMILIES.index(short)
    both = box.depth_mm, box.width_mm
    ratio = max(both) / min(both)
    sides = told["volumes"][0]["sides_mm"]
    assert ratio == pytest.approx(sides[0] / sides[1], rel=0.01)
    diameter = wheel.height_mm / box.height_mm
    true = told["volumes"][2]["sides_mm"]
    assert 0.85 < diameter / (max(true) / sides[2]) < 1.03, "the rim within the tyre"


def test_a_framework_that_differs_is_told_by_how_much():
    camera = Camera(width_px=900)
    told = truth(CRAWLER, camera)
    picture = replace(pictured(CRAWLER, camera), edges=true_edges(told), noise=0.01)
    document = lay_sheet(bringing.bring_picture(Document(), picture))
    read = reading_of(picture)
    assert max(one.mm for one in compare(document, scene_of(document), read)) < 0.05
    wider = volume_edits.set_side(document, 0, document.volume.width_mm * 1.05)
    found = compare(wider, scene_of(wider), read)
    laid, sheet = wider.pictures[0].laid, scene_of(wider).pictures[0].sheet
    edge = picture.edges[found[0].mark.number]
    miss = max(
        _from_line(np.array(laid.on_sheet(place)), *(sheet[list(edge.corners)]))
        for place in (edge.start, edge.end)
    )
    assert found[0].mm == pytest.approx(miss, abs=1e-6) and found[0].mm > 2
    with pytest.raises(MarksError, match="take its eye again"):
        compare(wider.with_eye(replace(wider.eye, x_mm=0.0)), scene_of(wider), read)


def _from_line(place, one, two):
    run, off = two - one, place - one
    return abs(run[0] * off[1] - run[1] * off[0]) / np.hypot(*run)


def test_marks_that_do_not_tell_the_eye_lay_no_sheet():
    picture = pictured(CRAWLER, Camera(width_px=400))
    document = bringing.bring_picture(Document(), picture)
    with pytest.raises(MarksError, match="Nothing is marked"):
        lay_sheet(document)
    one_family = marking.add_edge(document, (20, 20), (200, 40), "width")
    with pytest.raises(MarksError, match="second family"):
        lay_sheet(one_family)


def test_the_slip_tells_numbers_with_their_errors_and_names():
    picture = pictured(CRAWLER, Camera(width_px=1200, roll_deg=3.0), lines=True)
    document = bringing.bring_picture(Document(), picture)
    read = reading_of(picture)
    left, right = read.reading.eye_level
    spot = marking.add_spot(document, (600.0, (left.value + right.value) / 2 + 2.0))
    named = marking.name_mark(spot, Mark(SPOT, 0), "the belt line")
    lines = {line.title: line.words for line in slip_of(named.photograph, read)}
    assert lines["eye level"].endswith("about the height of the belt line")
    assert "right end lies higher" in lines["roll"]
    assert float(lines["roll"].partition("°")[0]) == pytest.approx(3.0, abs=0.2)
    assert all("±" in lines[name] for name in ("eye level", "distance", "width runs to"))
    assert "the belt line" in spoken(named.photograph, read) and str(picture.width) in spoken(
        picture, read
    )


def test_a_file_keeps_its_secrets_out_of_the_sheet():
    exif = Image.Exif()
    exif[0x010F], exif[0x0112] = "Brackenmoor camera 7", 6
    exif.get_ifd(0x8825)[2] = (54.0, 12.0, 3.0)
    exif.get_ifd(0x8769)[0xA431], exif.get_ifd(0x8769)[0xA405] = "serial 4711", 35
    kept = io.BytesIO()
    Image.new("RGB", (90, 60), (200, 100, 50)).save(kept, "JPEG", exif=exif)
    taken = take_in(kept.getvalue(), "secret.jpg")
    assert (taken.width, taken.height) == (60, 90), "it stands upright"
    assert taken.station_distance == pytest.approx(35 / 43.27 * math.hypot(60, 90))
    assert b"4711" in kept.getvalue() and b"Brackenmoor" in kept.getvalue()
    assert b"4711" not in taken.content and b"Brackenmoor" not in taken.content
    assert not Image.open(io.BytesIO(taken.content)).getexif()


@pytest.mark.parametrize("mode", ["RGBA", "P", "I;16", "LA", "CMYK", "1"])
def test_every_kind_of_pixel_comes_in_as_it_looks(mode):
    image = Image.new("RGBA", (40, 30), (0, 0, 0, 0)) if "A" in mode else Image.new("L", (40, 30))
    values = {"RGBA": 255, "LA": 255}
    if mode == "I;16":
        image = Image.fromarray(np.full((30, 40), 40_000, dtype=np.uint16))
    elif "A" not in mode:
        image = image.convert(mode)
    kept = io.BytesIO()
    image.convert("LA").save(kept, "PNG") if mode == "LA" else image.save(
        kept, "TIFF" if mode == "CMYK" else "PNG"
    )
    taken = take_in(kept.getvalue(), "thing")
    grey = np.asarray(Image.open(io.BytesIO(taken.content)).convert("L"))
    assert abs(int(grey.mean()) - values.get(mode, 156 if mode == "I;16" else 0)) <= 2


def test_finding_can_be_stopped_and_weighs_what_the_file_says_of_its_lens():
    content = photograph(CRAWLER, Camera(width_px=500))

    with watched(Wanted()) as by, pytest.raises(StoppedError):
        by.wanted = False
        find_lines(content, None)
    picture = picture_in(content, "thing.jpg")
    assert picture.lens is not None
    hinted = replace(picture, lens=Lens(9999.0, 0.001))
    assert reading_of(hinted).marks.lens is not None
    assert reading_of(replace(hinted, lens_used=False)).marks.lens is None


def test_no_picture_is_larger_than_a_sheet_carries(monkeypatch):
    monkeypatch.setattr(pictures, "MOST_BYTES_IN", 1_000_000)
    rng = np.random.default_rng(3)
    noise = Image.fromarray(rng.integers(0, 255, (800, 800, 3), dtype=np.uint8))
    kept = io.BytesIO()
    noise.save(kept, "PNG", compress_level=1)
    taken = take_in(kept.getvalue(), "noise.png")
    assert len(kept.getvalue()) > 1_000_000 >= len(taken.content)
    picture = SheetPicture("noise", PictureFile(taken.content), taken.width, taken.height)
    assert picture.middle == (taken.width / 2, taken.height / 2)


def test_heights_are_carried_along_the_eye_level_to_common_ground():
    case = sample_sheet("eyepiece case")
    camera = Camera(width_px=1000, roll_deg=2.0)
    told = truth(case, camera)
    picture = replace(pictured(case, camera), edges=true_edges(told), noise=0.2)
    document = bringing.bring_picture(Document(), picture)
    uprights = [i for i, e in enumerate(picture.edges) if e.family == "height"]
    for number in uprights:
        document = marking.name_mark(document, Mark(EDGE, number), f"edge {number}")
    heights = reading_of(document.photograph).reading.heights
    true = case.volumes[0].height_mm / (case.eye.height_mm - case.volumes[0].z_mm)
    assert len(heights) == 4 == len(uprights)
    for one in heights:
        assert one.eye_heights.value == pytest.approx(true, rel=1e-3)
        assert 0 < one.eye_heights.standard_error < 0.01


def test_a_lamp_is_laid_from_two_rims_and_its_lens_alone():
    told = truth(sample_sheet("red lamp"), Camera())
    picture = replace(picture_in(sample_picture("red lamp"), "lamp.jpg"), edges=())
    document = bringing.bring_picture(Document(), picture)
    for box in (((639.0, 152.0), (960.0, 284.0)), ((565.0, 640.0), (1035.0, 740.0))):
        document = marking.add_round(document, rim_in(picture.file.content, box), "height")
    left, _right = reading_of(document.photograph).reading.eye_level
    assert abs(left.value - told["eye_level"][0][1]) < 3 * left.standard_error < 20
    foot, shade = lay_sheet(document).volumes
    assert shade.width_mm / foot.width_mm == pytest.approx(210 / 150, rel=0.02)
    middles = [np.array([v.x_mm, v.y_mm]) + v.width_mm / 2 for v in (foot, shade)]
    assert np.hypot(*(middles[0] - middles[1])) < 0.02 * foot.width_mm, "on one axle"
    assert foot.z_mm == pytest.approx(0.0, abs=1.0) and shade.z_mm > foot.width_mm
