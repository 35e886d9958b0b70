"""Pictures in: lines to a part of a pixel, families, and what is no picture."""

import io
import math
import struct
import zlib
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFile, features

from isometron.files.sheet_file import sample_sheet
from isometron.reading.finding import lines_in, marks_in_picture
from isometron.reading.of_picture import picture_in, reading_of
from isometron.reading.pictures import PictureError, is_picture, read_picture
from isometron.reading.reading import read_marks
from isometron.stand_ins.camera import Camera, photograph, truth
from tests.scenes import some


def picture(size=(120, 80), kind="PNG", mode="L", colour=128, **more):
    content = io.BytesIO()
    Image.new(mode, size, colour).save(content, kind, **more)
    return content.getvalue()


@pytest.mark.parametrize("angle", [3.0, 40.0, 88.0, 131.0])
def test_a_line_is_found_to_a_part_of_a_pixel(angle):
    """A straight boundary whose grey values are the exact share of each pixel it covers."""
    fine, size = 8, 240
    along = np.array([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
    across, middle = np.array([-along[1], along[0]]), np.array([size / 2 + 0.37, size / 2 - 0.21])
    at = (np.arange(size * fine) + 0.5) / fine
    x, y = np.meshgrid(at, size - at)
    side = (x - middle[0]) * across[0] + (y - middle[1]) * across[1] > 0
    shares = side.reshape(size, fine, size, fine).mean(axis=(1, 3))
    rng = np.random.default_rng(1)
    grey = np.clip(60 + 120 * shares + rng.normal(0, 2, shares.shape), 0, 255).astype(np.uint8)
    line = lines_in(grey)[0][0]
    off = (line - middle) @ across
    assert np.hypot(*(line[1] - line[0])) > 0.6 * size
    assert np.abs(off).max() < 0.1


@pytest.mark.sample(1)
@pytest.mark.parametrize(
    "name", some(["turned eyepiece cases", "supply crawler", "eyepiece case"], 2)
)
@pytest.mark.parametrize("roll", some([3.0, 0.0], 1))
def test_a_photograph_is_read_by_itself(name, roll):
    document, camera = sample_sheet(name), Camera(roll_deg=roll, grain=4.0, seed=3)
    told = truth(document, camera)
    read = read_marks(marks_in_picture(read_picture(photograph(document, camera), "a.jpg"))[0])
    view = read.view
    assert view.station_distance.value == pytest.approx(told["view"]["station_distance"], rel=0.01)
    assert view.tilt_deg.value == pytest.approx(told["view"]["tilt_deg"], abs=0.15)
    assert view.roll_deg.value == pytest.approx(roll, abs=0.15)
    true = told["volumes"][0]["heading_deg"]
    turned = (view.heading_deg.value - true + 45) % 90 - 45  # which side is the width is a choice
    assert abs(turned) < 0.3


def test_clutter_does_not_turn_a_reading():
    document, camera = sample_sheet("eyepiece case"), Camera(exif=False)
    told = truth(document, camera)
    image = Image.open(io.BytesIO(photograph(document, camera, "PNG")))
    pen, rng = ImageDraw.Draw(image), np.random.default_rng(4)
    for _ in range(14):
        start, turn = rng.uniform((50, 50), (1500, 1000)), rng.uniform(0, 2 * math.pi)
        end = start + rng.uniform(90, 220) * np.array([math.cos(turn), math.sin(turn)])
        pen.line([tuple(start), tuple(end)], fill=(60, 50, 50), width=3)
    content = io.BytesIO()
    image.save(content, "PNG")
    view = read_marks(marks_in_picture(read_picture(content.getvalue(), "a.png"))[0]).view
    assert view.station_distance.value == pytest.approx(told["view"]["station_distance"], rel=0.03)
    assert view.tilt_deg.value == pytest.approx(told["view"]["tilt_deg"], abs=0.5)


def test_exif_turns_the_picture_and_tells_the_lens():
    exif = Image.Exif()
    exif[0x0112] = 6
    exif.get_ifd(0x8769)[0xA405] = 50
    found = read_picture(picture((120, 80), "JPEG", exif=exif), "a.jpg")
    assert found.size == (80.0, 120.0)
    assert found.station_distance == pytest.approx(50 / 43.27 * math.hypot(120, 80), rel=1e-3)
    assert read_picture(picture(), "a.png").station_distance is None


def test_a_large_picture_is_made_smaller_while_it_is_read():
    found = read_picture(picture((8000, 6000), "JPEG"), "big.jpeg")
    assert found.smaller > 1.05 and found.grey.size <= 41_000_000
    assert found.size[0] * found.smaller == pytest.approx(8000, rel=1e-3)


def bomb(width, height):
    """A PNG whose header promises more than it holds."""
    head = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)

    def chunk(kind, data):
        return (
            struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))
        )

    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", b"") + chunk(b"IEND", b"")


CUT_OFF = photograph(sample_sheet("red lamp"), Camera(width_px=300))[:3000]


@pytest.mark.parametrize(
    ("content", "called", "words"),
    [
        (picture((8, 8)), "a.png", "too small"),
        (b"", "a.jpg", "is empty: copy it again"),
        (b"<svg></svg>", "a.jpg", "no picture"),
        (b"\x00\x00\x00\x18ftypheic" + bytes(40), "a.heic", "is a HEIC picture"),
        (bomb(9_500, 9_500), "a.png", "more than 80 in a PNG: save it as JPEG"),
        (picture(kind="JPEG"), "a.png", "is a JPEG by its content"),
        (CUT_OFF, "a.jpg", "damaged or cut"),
        (bomb(60_000, 60_000), "a.png", "3600 megapixels"),
        (bomb(300, 300), "a.png", "damaged or cut"),
        (b"\xff\xd8\xff" + bytes(50), "a.jpg", "no picture|damaged"),
        (b"RIFF\x00\x00\x00\x00WEBPVP8 " + bytes(9), "a.webp", "no picture|damaged"),
    ],
)
def test_what_is_no_sound_picture_is_refused_with_a_sentence(content, called, words):
    with pytest.raises(PictureError, match=words):
        read_picture(content, called)
    assert is_picture(content) == (content not in (b"", b"<svg></svg>"))


@pytest.mark.parametrize("kind", ["BMP", "GIF", "AVIF"])
def test_what_the_imaging_library_reads_is_read(kind):
    if not features.check("avif") and kind == "AVIF":
        pytest.skip("this build of the library has none")
    content = picture((90, 60), kind, "RGB", (40, 90, 200))
    assert is_picture(content) and read_picture(content, f"a.{kind.lower()}").size == (90.0, 60.0)


def test_a_large_jpeg_is_unpacked_smaller_than_it_is(monkeypatch):
    unpacked, load = [], ImageFile.ImageFile.load

    def counted(image):
        unpacked.append(image.size[0] * image.size[1])
        return load(image)

    monkeypatch.setattr(ImageFile.ImageFile, "load", counted)
    monkeypatch.setattr("isometron.reading.pictures.PLENTY", 40_000)
    for width, height in ((300, 150), (520, 300), (700, 560)):
        unpacked.clear()
        read = read_picture(picture((width, height), "JPEG"), "a.jpg")
        assert max(unpacked) <= 41_000 and width / read.size[0] == pytest.approx(read.smaller)


@pytest.mark.parametrize("distortion", some([0.25, -0.15], 1))
@pytest.mark.full
def test_the_bend_of_a_lens_is_found_and_taken_out(distortion, many):
    document = sample_sheet("eyepiece case")
    camera = Camera(distortion=distortion, exif=False)
    told = truth(document, camera)
    found = read_picture(photograph(document, camera), "a.jpg")
    marks, bend = marks_in_picture(found)
    # the camera counts r in station distances, the bend in longer sides of the picture
    true = distortion * (max(found.size) / told["view"]["station_distance"]) ** 2
    assert bend.told and abs(bend.k - true) < 4 * bend.standard_error < 0.2 * abs(true)
    view = read_marks(marks).view
    assert view.station_distance.value == pytest.approx(told["view"]["station_distance"], rel=0.005)
    assert view.tilt_deg.value == pytest.approx(told["view"]["tilt_deg"], abs=0.1)
    for straight in many([], [Camera(exif=False)]):
        plain = marks_in_picture(read_picture(photograph(document, straight), "a.jpg"))[1]
        assert abs(plain.k) < 5 * plain.standard_error < 0.1 * abs(true)


def taken(seed):
    """A thing seen from a random height by a camera with its faults, and the truth."""
    rng = np.random.default_rng(seed)
    name = ("supply crawler", "turned eyepiece cases", "eyepiece case")[seed % 3]
    document = sample_sheet(name)
    eye = document.eye
    document = document.with_eye(replace(eye, height_mm=eye.height_mm * rng.uniform(0.9, 1.4)))
    camera = Camera(
        width_px=1200,
        roll_deg=rng.uniform(-4, 4),
        blur_px=rng.uniform(0.4, 1.2),
        grain=rng.uniform(1, 6),
        exposure=rng.uniform(-0.5, 0.5),
        exif=bool(seed % 2),
        seed=seed,
    )
    return photograph(document, camera), truth(document, camera)


@pytest.mark.full
def test_photographs_read_by_themselves_err_as_much_as_they_say(many):
    count, pulls = many(2, 200), []
    for seed in range(count):
        content, told = taken(seed)
        reading = reading_of(picture_in(content, "thing.jpg")).reading
        view, level = reading.view, told["eye_level"]
        (x0, y0), (x1, y1) = level
        at_left = y0 - (y1 - y0) / (x1 - x0) * x0
        pairs = [
            (view.tilt_deg, told["view"]["tilt_deg"]),
            (view.roll_deg, told["view"]["roll_deg"]),
            (view.station_distance, told["view"]["station_distance"]),
            (reading.eye_level[0], at_left),
        ]
        pulls.append([(one.value - true) / one.standard_error for one, true in pairs])
    spare = 2.5 / np.sqrt(count)
    spread = 1.4826 * np.median(np.abs(pulls), axis=0)
    assert (spread < 1.2 + spare).all() and (spread > 0.6 - spare).all()
    assert np.abs(np.median(pulls, axis=0)).max() < 0.3 + spare
    assert np.mean(np.abs(pulls) > 4) <= 0.02
