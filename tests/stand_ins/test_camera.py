"""The sample camera: what it shows lies where its truth says, by marks read off the picture."""

import io
import json
import math

import numpy as np
import pytest
from PIL import Image

from isometron.cli import main
from isometron.document.marks import FAMILIES, Edge, Marks, Picture
from isometron.files.sheet_file import sample_sheet
from isometron.reading.reading import read_marks
from isometron.stand_ins.camera import Camera, CameraError, Sight, aimed, photograph, truth

CRAWLER = sample_sheet("supply crawler")
PLAIN = Camera(width_px=500, blur_px=0.0, grain=0.0, aim=False)
AIMED = aimed(CRAWLER)


def pixels_of(document, camera, kind="PNG"):
    return np.asarray(Image.open(io.BytesIO(photograph(document, camera, kind))).convert("RGB"))


@pytest.mark.parametrize("distortion", [-0.2, 0.0, 0.3])
def test_sheet_places_and_pixels_are_two_ways_of_one_map(distortion):
    camera = Camera(roll_deg=-7.0, crop=(0.1, 0.2, 0.9, 0.8), distortion=distortion)
    sight, rng = Sight(CRAWLER, camera), np.random.default_rng(1)
    places = rng.uniform((20, 20), (400, 270), (50, 2))
    assert sight.ideal(sight.pixels(places)) == pytest.approx(places, abs=1e-6)


@pytest.mark.parametrize("aim", [True, False])
def test_truth_is_what_a_reading_of_it_finds(aim):
    camera = Camera(width_px=2400, roll_deg=4.0, aim=aim)
    told = truth(CRAWLER, camera)
    one = told["volumes"][0]
    pairs = [(a, a | 1 << bit) for a in range(8) for bit in range(3) if not a >> bit & 1]
    edges = tuple(
        Edge(
            tuple(one["corners"][a]),
            tuple(one["corners"][b]),
            FAMILIES[(a ^ b).bit_length() - 1],
            (a, b),
        )
        for a, b in pairs
    )
    size, centre = told["picture"], told["view"]["centre_of_vision"]
    picture = Picture(size["width"], size["height"], tuple(centre))
    view = (found := read_marks(Marks(picture, edges, noise=1e-4))).view
    assert view.station_distance.value == pytest.approx(told["view"]["station_distance"], rel=1e-5)
    if aim:
        assert centre == pytest.approx([size["width"] / 2, size["height"] / 2], abs=1.0)
    assert view.roll_deg.value == pytest.approx(4.0, abs=1e-4)
    assert view.tilt_deg.value == pytest.approx(told["view"]["tilt_deg"], abs=1e-4)
    assert view.heading_deg.value == pytest.approx(one["heading_deg"], abs=1e-4)
    width, depth, height = one["sides_mm"]
    assert found.sides.depth.value == pytest.approx(depth / width, rel=1e-4)
    assert found.sides.height.value == pytest.approx(height / width, rel=1e-4)
    (_x0, y0), (_x1, y1) = told["eye_level"]
    assert y1 > y0, "roll is positive when the right end lies higher"


def test_things_are_painted_where_they_are():
    """Along a line across an upright edge of the body the colour changes at the edge."""
    shown = pixels_of(CRAWLER, PLAIN).astype(float)
    rows = shown.shape[0]
    corners = truth(CRAWLER, PLAIN)["volumes"][0]["corners"]
    near = min(range(4), key=lambda i: corners[i][1])
    (x, low), (_x, high) = corners[near], corners[near | 4]
    y = rows - 1 - int(0.6 * low + 0.4 * high)
    line = shown[y, int(x) - 12 : int(x) + 13].sum(axis=1)
    change = np.abs(np.diff(line))
    assert change.max() > 15
    assert int(x) - 12 + int(change.argmax()) + 1 == pytest.approx(x, abs=1.2)


def test_grain_is_the_same_for_a_seed_and_exif_tells_the_focal_length():
    camera = Camera(width_px=200, seed=5)
    assert photograph(CRAWLER, camera) == photograph(CRAWLER, camera)
    assert photograph(CRAWLER, camera) != photograph(CRAWLER, Camera(width_px=200, seed=6))
    exif = Image.open(io.BytesIO(photograph(CRAWLER, camera))).getexif()
    focal = AIMED.eye.station_distance_mm / math.hypot(420, 297) * 43.27
    assert float(exif.get_ifd(0x8769)[0x920A]) == pytest.approx(focal, abs=0.01)
    bright, dark = (
        pixels_of(CRAWLER, Camera(width_px=200, exposure=stops)).mean() for stops in (0.0, -1.0)
    )
    assert dark == pytest.approx(bright / 2, rel=0.05)


@pytest.mark.parametrize(
    "wrong",
    [{"width_px": 3}, {"crop": (0.5, 0, 0.4, 1)}, {"roll_deg": 90.0}, {"grain": float("nan")}],
)
def test_a_camera_that_cannot_be_is_refused(wrong):
    with pytest.raises(CameraError, match="cannot do that"):
        Camera(**wrong)


def test_the_command_takes_every_kind_of_picture_and_its_truth(tmp_path, capsys):
    sheet = "src/isometron/samples/eyepiece case.isometron"
    for name, kind in (("a.jpg", "JPEG"), ("a.png", "PNG"), ("a.tif", "TIFF"), ("a.webp", "WEBP")):
        out, told = tmp_path / name, tmp_path / "truth.json"
        given = ["sample-camera", sheet, "-o", str(out), "--width", "120", "--truth", str(told)]
        assert main([*given, "--crop", "0.2", "0", "0.9", "1"]) == 0
        with Image.open(out) as picture:
            assert picture.format == kind and picture.size == (84, 85)
        assert json.loads(told.read_text())["picture"] == {"width": 84, "height": 85}
    assert main(["sample-camera", sheet, "-o", str(tmp_path / "a.bmp")]) == 2
    assert "does not say what picture" in capsys.readouterr().err
