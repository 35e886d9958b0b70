"""Rounds: an edit up to its repaint, as a ratio to the bare paint of the ready scene. Prints JSON.

    .venv/bin/python benchmarks/rounds.py [--quick]

One round is changed among 50 wheels, among 500 circles, and one radius of a turned form of 60
stations; then the picture is painted. `aim` is the most each ratio should be.
"""

import argparse
import itertools
import json
import os
import statistics
from dataclasses import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np

from isometron.document.document import Choices, Document
from isometron.document.edits.eye_edits import fit_on_page, set_eye_height
from isometron.document.edits.shapes import rounding
from isometron.document.edits.stances import EDGE_NEAREST, take_stance
from isometron.drawing.rounds import all_circles
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds import turned as lathe
from isometron.framework.kinds.turned import Turned
from isometron.framework.volume import Volume
from isometron.ui.bench.app import application
from speed import Painted, timed

AIM = 1.5


def _grid(volumes: list[Volume], step: float) -> Document:
    across = int(np.ceil(np.sqrt(len(volumes))))
    placed = [
        replace(volume, x_mm=step * (i % across), y_mm=step * (i // across))
        for i, volume in enumerate(volumes)
    ]
    document = Document(
        volumes=tuple(placed), selected=len(placed) // 2, choices=Choices(ellipse_aids=False)
    )
    return fit_on_page(set_eye_height(take_stance(document, EDGE_NEAREST), 2.5 * step))


def wheels() -> Document:
    """50 wheels standing about."""
    return _grid(
        [
            Volume(f"Wheel {i}", 620, 200, 620, yaw_deg=float(7 * i % 50), shape=lathe.wheel())
            for i in range(50)
        ],
        900.0,
    )


def circles() -> Document:
    """500 circles: five concentric ones on one face of each of 100 boxes."""
    shares = (1.0, 0.8, 0.6, 0.4, 0.2)
    return _grid(
        [
            Volume(f"Case {i}", 200, 160, 120, circles=(FaceCircle(5, shares=shares),))
            for i in range(100)
        ],
        320.0,
    )


def turned() -> Document:
    """A turned form of 60 stations."""
    heights = np.linspace(0, 1, 60)
    stations = tuple((float(h), float(0.6 + 0.35 * np.sin(9 * h))) for h in heights)
    form = Turned(stations, join="smooth")
    return _grid([Volume("Red lamp", 200, 200, 400, shape=form)], 400.0)


def slide_wheel(board: Painted, steps: itertools.cycle) -> None:
    x = board.bench.session.kept.volume.x_mm
    step = next(steps)
    board.bench.session.drag(lambda d: d.with_volume(d.selected, replace(d.volume, x_mm=x + step)))
    board.paint()


def change_radius(board: Painted, steps: itertools.cycle) -> None:
    table = list(rounding.stations_mm(board.bench.session.kept.volume))
    table[30] = (table[30][0], table[30][1] - 1 - next(steps) / 10)
    board.bench.session.drag(lambda d: rounding.set_stations(d, table))
    board.paint()


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--quick", action="store_true", help="fewer rounds")
    rounds = 9 if parser.parse_args().quick else 30
    app = application()
    figures = {}
    for name, document, edit in (
        ("one of 50 wheels slid", wheels(), slide_wheel),
        ("one of 100 boxes with 500 circles slid", circles(), slide_wheel),
        ("one radius of 60 changed", turned(), change_radius),
    ):
        board = Painted(document)
        steps = itertools.cycle((0.0, 25.0))
        for _ in range(3):
            edit(board, steps)
        pairs = [
            (timed(lambda b=board, e=edit, s=steps: e(b, s)), timed(board.repaint_all))
            for _ in range(rounds)
        ]
        edited, bare = (statistics.median(times) for times in zip(*pairs, strict=True))
        figures[name] = {
            "ratio to the bare paint": round(edited / bare, 3),
            "aim": AIM,
            "milliseconds": round(1000 * edited, 1),
            "circles": len(all_circles(board.bench.session.scene)),
        }
    print(json.dumps(figures, indent=1))
    app.processEvents()


if __name__ == "__main__":
    main()
