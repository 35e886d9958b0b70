"""Crowds of made-up volumes, the same in every run."""

import numpy as np

from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.document.edits.shapes import rounding
from isometron.document.edits.stances import EDGE_NEAREST, take_stance
from isometron.framework.volume import Volume


def crowd(count: int) -> Document:
    """Boxes standing apart on a grid, each turned, seen from above a corner."""
    rng = np.random.default_rng(count)
    across = int(np.ceil(np.sqrt(count)))
    volumes = []
    for i in range(count):
        sides = rng.uniform(80, 200, 3).tolist()
        place = (300.0 * (i % across), 300.0 * (i // across), 0.0)
        volumes.append(Volume(f"Case {i}", *sides, *place, float(rng.uniform(-40, 40))))
    document = Document(volumes=tuple(volumes), selected=count // 2)
    return eye_edits.set_eye_height(take_stance(document, EDGE_NEAREST), 1600.0)


def stations(count: int) -> Document:
    """One turned form of many radii."""
    document = rounding.add_round(Document(), "cylinder")
    heights = np.linspace(0.0, 600.0, count)
    radii = 60.0 + 25.0 * np.sin(heights / 55.0)
    document = rounding.set_stations(document, list(zip(heights, radii, strict=True)))
    return take_stance(document, EDGE_NEAREST)
