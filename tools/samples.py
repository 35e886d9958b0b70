"""Make the sample sheets anew from the starters. Run from anywhere: writes into src/.

.venv/bin/python tools/samples.py
"""

from dataclasses import replace
from pathlib import Path

from isometron.document import choosing, eye_edits, shaping, volume_edits
from isometron.document.document import Choices, Document
from isometron.document.starters import CRATES, SEAT, VEHICLE, with_starter
from isometron.files.sheet_file import write_sheet
from isometron.framework.shapes import Cut

FOLDER = Path(__file__).parents[1] / "src" / "isometron" / "samples"


def crawler() -> Document:
    """The supply crawler of the summit track: low body, high cabin, a step cut into the nose."""
    numbers = {
        **VEHICLE.proposal,
        "wheelbase": 3.1,
        "rear overhang": 1.0,
        "height": 2.6,
        "rake front": 26.0,
    }
    sheet = with_starter(Document(choices=Choices(see_through=False)), VEHICLE, numbers)
    names = {"Body": "Crawler body", "Cabin": "Crawler cabin"}
    for index, volume in enumerate(sheet.volumes):
        if volume.name in names:
            sheet = choosing.rename_volume(choosing.select(sheet, index), names[volume.name])
    body = next(i for i, v in enumerate(sheet.volumes) if v.name == "Crawler body")
    sheet = choosing.select(sheet, body)
    sheet = shaping.cut_by_fractions(sheet, (Cut((0.0, 0.0, 0.55), (0.16, 1.0, 1.0)),))
    sheet = volume_edits.add_aid(sheet, "floor line", 1500.0)
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
    return volume_edits.add_aid(sheet, "floor line", 900.0)


def main() -> None:
    made = {"supply crawler": crawler, "observing chair": chair, "turned eyepiece cases": cases}
    for name, make in made.items():
        write_sheet(make(), FOLDER / f"{name}.isometron")


if __name__ == "__main__":
    main()
