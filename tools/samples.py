"""Make the sample sheets anew from the starters. Run from anywhere: writes into src/.

.venv/bin/python tools/samples.py
"""

from dataclasses import replace
from pathlib import Path

from isometron.document.document import Choices, Document
from isometron.document.edits import choosing, eye_edits, lighting, viewing
from isometron.document.edits.places import aiding
from isometron.document.edits.projecting import Projecting
from isometron.document.edits.shapes import shaping
from isometron.document.edits.stances import EDGE_NEAREST, LOOKING_DOWN, take_stance
from isometron.document.edits.starters import CRATES, SEAT, VEHICLE, with_starter
from isometron.document.light import HATCH
from isometron.document.lights.lamp import Lamp
from isometron.document.lights.sun import Sun
from isometron.files.sheet_file import sample_sheet, write_sheet
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import Knot
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume

FOLDER = Path(__file__).parents[1] / "src" / "isometron" / "samples"


def crawler() -> Document:
    """The supply crawler of the summit track: low body, high cabin, a step cut into the nose."""
    numbers = {
        **VEHICLE.proposal,
        "wheelbase": 3.1,
        "rear overhang": 1.0,
        "height": 2.6,
        "rake front": 26.0,
        "track": 1.86,
    }
    sheet = with_starter(Document(choices=Choices(see_through=False)), VEHICLE, numbers)
    names = {"Body": "Crawler body", "Cabin": "Crawler cabin"}
    for index, volume in enumerate(sheet.volumes):
        if volume.name in names:
            sheet = choosing.rename_volume(choosing.select(sheet, index), names[volume.name])
    body = next(i for i, v in enumerate(sheet.volumes) if v.name == "Crawler body")
    sheet = choosing.select(sheet, body)
    ring = sheet.volumes[body].shape.rings[0]
    nose = (Knot(0.16, 1.0), Knot(0.16, 0.68), Knot(0.0, 0.68))
    shape = replace(sheet.volumes[body].shape, rings=((*ring[:-1], *nose),))
    sheet = sheet.with_volume(body, replace(sheet.volumes[body], shape=shape))
    sheet = aiding.add_aid(sheet, "floor line", 1500.0)
    return choosing.select(sheet, body)


def chair() -> Document:
    """The height-adjustable observing chair, seen by a standing person."""
    sheet = with_starter(Document(choices=Choices(see_through=False)), SEAT, SEAT.proposal)
    seat = next(i for i, v in enumerate(sheet.volumes) if v.name == "Seat")
    sheet = choosing.select(sheet, seat)
    sheet = shaping.section(sheet, 0)
    sheet = eye_edits.set_eye_height(sheet, 1450.0)
    sheet = eye_edits.step_back(sheet, 1.9 * sheet.eye.station_distance_mm)
    return eye_edits.fit_on_page(sheet)


def cases() -> Document:
    """Stacks of turned eyepiece cases on the floor of the store."""
    sheet = with_starter(Document(choices=Choices(see_through=False)), CRATES, CRATES.proposal)
    sheet = replace(sheet, selected=0, also=frozenset())
    sheet = shaping.divide_face(sheet, 2, 0, (1 / 3, 2 / 3))
    return aiding.add_aid(sheet, "floor line", 900.0)


def lamp() -> Document:
    """The red lamp of the reading desk, turned on a lathe: foot, stem, shade, and a knob."""
    foot = Turned(
        ((0.0, 1.0), (0.12, 1.0), (0.3, 0.62), (0.55, 0.2), (1.0, 0.16)), join="smooth", name="foot"
    )
    stem = Turned(
        ((0.0, 0.6), (0.1, 1.0), (0.22, 0.62), (0.85, 0.5), (0.92, 0.9), (1.0, 0.7)),
        join="smooth",
        name="stem",
    )
    shade = Turned(((0.0, 1.0), (0.72, 0.62), (1.0, 0.4)), bore=0.3, name="shade")
    parts = [
        Volume("Lamp foot", 150, 150, 70, shape=foot, key=0, group="Lamp"),
        Volume(
            "Lamp stem",
            44,
            44,
            190,
            shape=stem,
            key=1,
            group="Lamp",
            on=Anchor(0, (0.5, 0.5, 1.0), (-22.0, -22.0, 0.0)),
        ),
        Volume(
            "Lamp shade",
            210,
            210,
            120,
            shape=shade,
            key=2,
            group="Lamp",
            on=Anchor(1, (0.5, 0.5, 1.0), (-105.0, -105.0, -26.0)),
        ),
    ]
    sheet = choosing.with_new(Document(choices=Choices(see_through=False)), parts)
    sheet = take_stance(choosing.select(sheet, 0), EDGE_NEAREST)
    sheet = eye_edits.set_eye_height(sheet, 430.0)
    sheet = eye_edits.fit_on_page(sheet)
    return choosing.select(sheet, 1)


def telescope() -> Document:
    """The telescope tube on its mount, seen from the gallery above: three-point."""
    tube = Turned(
        (
            *((0.0, 1.0), (0.06, 1.0), (0.06, 0.86), (0.4, 0.86), (0.4, 0.96)),
            *((0.47, 0.96), (0.47, 0.86), (0.92, 0.86), (0.92, 1.0), (1.0, 1.0)),
        ),
        axis=1,
        bore=0.74,
        name="tube",
    )
    pier = Volume("Pier", 420, 420, 900, key=0, group="Mount")
    fork = Volume(
        "Fork",
        560,
        300,
        120,
        key=1,
        group="Mount",
        on=Anchor(0, (0.5, 0.5, 1.0), (-280.0, -150.0, 0.0)),
    )
    arm = Volume("Fork arm", 70, 300, 420, key=2, group="Mount", on=Anchor(1, (0, 0, 1), (0, 0, 0)))
    other = replace(arm, name="Fork arm 2", key=3, on=Anchor(1, (1, 0, 1), (-70.0, 0.0, 0.0)))
    barrel = Volume(
        "Telescope tube",
        400,
        1700,
        400,
        key=4,
        group="Mount",
        shape=tube,
        on=Anchor(1, (0.5, 0.5, 1.0), (-200.0, -640.0, -270.0), (0.0, 32.0, 0.0)),
    )
    sheet = choosing.with_new(
        Document(choices=Choices(see_through=False)), [pier, fork, arm, other, barrel]
    )
    sheet = take_stance(choosing.select(sheet, 0), LOOKING_DOWN)
    sheet = eye_edits.step_back(sheet, 1.5 * sheet.eye.station_distance_mm)
    sheet = eye_edits.fit_on_page(sheet)
    return choosing.select(sheet, 4)


def crawler_in_the_sun() -> Document:
    """The supply crawler under a sun behind our left shoulder, in six steps of grey."""
    sheet = lighting.set_light(sample_sheet("supply crawler"), Sun(255.0, 40.0))
    return lighting.set_shading(sheet, steps=6)


def case_by_lamplight() -> Document:
    """The eyepiece case beside a lamp, hatched."""
    sheet = lighting.set_light(sample_sheet("eyepiece case"), Lamp((-1200.0, 0.0, 1500.0)))
    return lighting.set_shading(sheet, steps=5, way=HATCH)


def crawler_page() -> Document:
    """Four views of the supply crawler on one page: two three-quarter views, side and front."""
    page = viewing.add_from_behind(sample_sheet("supply crawler"))
    page = viewing.add_side(viewing.add_side(page, "side"), "front")
    return viewing.name_view(page, 0, "Three-quarter")


def curved_crawler() -> Document:
    """The supply crawler from near by on a curved sheet, cropped to the right of the sight line."""
    sheet = sample_sheet("supply crawler")
    eye = replace(sheet.eye, station_distance_mm=0.8 * sheet.eye.station_distance_mm)
    x, y = eye.centre_of_vision_mm
    eye = replace(
        eye, heading_deg=eye.heading_deg - 26.0, centre_of_vision_mm=(x - 190.0, y - 40.0)
    )
    return Projecting(curved=True)(sheet.with_eye(eye))


def main() -> None:
    made = {
        "supply crawler": crawler,
        "observing chair": chair,
        "turned eyepiece cases": cases,
        "red lamp": lamp,
        "telescope tube": telescope,
        "crawler in the sun": crawler_in_the_sun,
        "case by lamplight": case_by_lamplight,
        "crawler page": crawler_page,
        "curved crawler": curved_crawler,
    }
    for name, make in made.items():
        write_sheet(make(), FOLDER / f"{name}.isometron")


if __name__ == "__main__":
    main()
