"""Take the sample photographs and draw the sample sketch that ship with the program.

.venv/bin/python tools/sample_pictures.py
"""

from isometron.files.sheet_file import SAMPLES_FOLDER, SKETCH_SAMPLE, SKETCH_SHEET, sample_sheet
from isometron.stand_ins.camera import Camera, photograph
from isometron.stand_ins.hand import Hand, Mistake, sketch

SKETCHED = Hand(
    seed=11,
    px_per_mm=4.0,
    mistakes=(
        Mistake("miss", 0, 3, 2.5),
        Mistake("miss", 1, 0, 1.4),
        Mistake("miss", 0, 8, -3.2),
        Mistake("long", 0, 0, 12.0),
    ),
)
"""How the sample sketch is drawn: an upper edge of the case and one of the bench that miss their
points, its near upright that leans, and the case drawn too long."""


def main() -> None:
    """Write them all."""
    for name in ("supply crawler", "red lamp"):
        content = photograph(sample_sheet(name), Camera())
        (SAMPLES_FOLDER / f"{name}.jpg").write_bytes(content)
    content = sketch(sample_sheet(SKETCH_SHEET), SKETCHED)
    (SAMPLES_FOLDER / f"{SKETCH_SAMPLE}.jpg").write_bytes(content)


if __name__ == "__main__":
    main()
