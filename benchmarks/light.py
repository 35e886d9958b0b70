"""What values and shadows cost beside the hidden lines of the same scene.

.venv/bin/python benchmarks/light.py

Crowds of 10, 50 and 200 boxes, and the crawler. Each time is the least of some
runs with nothing remembered; each number is a ratio to hiding the lines of that scene anew. Aims:
regions and values at most 2, 4 and 6 times, shadows at most 3, 4 and 6 times."""

import time
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from crowds import crowd
from isometron.document.document import Document
from isometron.document.edits import lighting
from isometron.document.lights.sun import Sun
from isometron.drawing.scene import scene_of
from isometron.drawing.shading import areas
from isometron.files.sheet_file import sample_sheet

SUN = Sun(230.0, 38.0)


def least(work: Callable[[], object], runs: int = 5) -> float:
    """The least time of some runs, s."""
    times = []
    for _run in range(runs):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return min(times)


def ratios(document: Document) -> tuple[float, float, float]:
    """The time of hiding, s, and values without and with shadows in it."""

    def hide() -> object:
        moved = replace(document.eye, x_mm=document.eye.x_mm + float(np.random.random()))
        return scene_of(document.with_eye(moved))

    lit = lighting.set_light(document, SUN)
    scene = scene_of(document)
    told = []
    for shadows in (False, True):
        asked = lighting.set_shading(lit, shadows=shadows, steps=5)

        def value(asked: Document = asked) -> object:
            areas._areas.cache_clear()
            return areas.areas_of(asked, scene)

        told.append(least(value))
    hidden = least(hide)
    return hidden, told[0] / hidden, told[1] / hidden


def main() -> None:
    """Print one line for each scene."""
    print("scene           hiding      values   with shadows")
    sheets = {f"{count} boxes": crowd(count) for count in (10, 50, 200)}
    for name, document in {**sheets, "crawler": sample_sheet("supply crawler")}.items():
        hidden, values, shadows = ratios(document)
        print(f"{name:12} {1000 * hidden:7.1f} ms   {values:7.2f} ×   {shadows:7.2f} ×")


if __name__ == "__main__":
    main()
