"""Speed as ratios, each against a baseline timed in the same run. Prints JSON.

    .venv/bin/python benchmarks/speed.py [--quick]

Wall-clock figures of one machine say little; a ratio to a bare baseline on the same machine at the
same moment says whether the program wastes time. `aim` is the most each ratio should be.
"""

import argparse
import itertools
import json
import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PyQt6.QtCore import QSettings
from PyQt6.QtGui import QPainter, QPixmap

from isometron.document.document import Document
from isometron.document.edits import eye_edits, volume_edits
from isometron.document.edits.stances import EDGE_NEAREST, take_stance
from isometron.files.sheet_file import sample_sheet
from isometron.framework.volume import Volume
from isometron.perspective.eye import Eye
from isometron.perspective.projection import project
from isometron.ui.bench.app import application
from isometron.ui.bench.window import Bench
from isometron.ui.board.standing_layer import StandingLayer

EMPTY_WINDOW = """
import numpy
from PyQt6.QtWidgets import QApplication, QWidget
app = QApplication([]); window = QWidget(); window.resize(1280, 800); window.show()
app.processEvents()
import os; os._exit(0)
"""
BENCH = """
import sys
from isometron.files.sheet_file import SAMPLE_NAME, sample_sheet
from isometron.ui.bench.app import application
from isometron.ui.bench.window import Bench
document = sample_sheet()
app = application(); window = Bench(document, called=SAMPLE_NAME); window.show()
app.processEvents()
import os; os._exit(0)
"""


def timed(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def ratio(work: Callable[[], object], baseline: Callable[[], object], rounds: int) -> float:
    """Median of work over baseline, the two taking turns so that both meet the same weather."""
    for _ in range(2):
        work(), baseline()
    pairs = [(timed(work), timed(baseline)) for _ in range(rounds)]
    return statistics.median(a for a, _ in pairs) / statistics.median(b for _, b in pairs)


def hundred_boxes() -> Document:
    rng = np.random.default_rng(7)
    boxes = tuple(
        Volume(
            f"Case {i}",
            *rng.uniform(60, 160, 3).tolist(),
            x_mm=float(300 * (i % 10) + rng.uniform(0, 80)),
            y_mm=float(300 * (i // 10) + rng.uniform(0, 80)),
            yaw_deg=float(rng.uniform(-40, 40)),
        )
        for i in range(100)
    )
    document = Document(volumes=boxes, selected=45)
    document = take_stance(document, EDGE_NEAREST)
    return eye_edits.set_eye_height(document, 1600.0)


class Painted:
    """A bench painted into a pixmap of the board's size, without waiting for a screen."""

    def __init__(self, document: Document) -> None:
        settings = QSettings("/dev/null", QSettings.Format.IniFormat)
        self.bench = Bench(document, settings=settings)
        self.bench.resize(1280, 800)
        self.bench.show()
        application().processEvents()
        self.board = self.bench.board
        self.target = QPixmap(self.board.size())
        self.turns = itertools.cycle((0.0, 1.0))

    def paint(self) -> None:
        painter = QPainter(self.target)
        session = self.bench.session
        self.board.paint(painter, session.document, session.scene)
        painter.end()

    def repaint_all(self) -> None:
        """The bare painting of every stroke of the ready scene."""
        self.board._standing = StandingLayer()
        self.paint()

    def edit_side(self) -> None:
        mm = 100.0 + 40.0 * next(self.turns)
        self.bench.session.edit("side", lambda d: volume_edits.set_side(d, 0, mm))
        self.paint()

    def edit_eye(self) -> None:
        height = self.bench.session.document.eye.height_mm
        step = 2.0 * next(self.turns) - 1.0
        self.bench.session.edit("eye", lambda d: eye_edits.set_eye_height(d, height + step))
        self.paint()

    def drag_box(self) -> None:
        x, y, z = self.bench.session.kept.volume.place
        step = 25.0 * next(self.turns)
        self.bench.session.drag(lambda d: volume_edits.move_volume(d, (x + step, y, z)))
        self.paint()


def painting(rounds: int) -> dict[str, dict[str, float]]:
    app = application()
    sample, crowd = Painted(sample_sheet()), Painted(hundred_boxes())
    figures = {
        "edit one side, sample sheet": (sample.edit_side, sample.repaint_all, 1.3),
        "move the eye, sample sheet": (sample.edit_eye, sample.repaint_all, 1.3),
        "edit one side, 100 boxes": (crowd.edit_side, crowd.repaint_all, 1.3),
        "move the eye, 100 boxes": (crowd.edit_eye, crowd.repaint_all, 1.3),
        "drag one box among 100": (crowd.drag_box, crowd.repaint_all, 0.2),
    }
    found = {
        name: {"ratio": round(ratio(work, base, rounds), 3), "aim": aim}
        for name, (work, base, aim) in figures.items()
    }
    app.processEvents()
    return found


def starting(rounds: int) -> dict[str, dict[str, float]]:
    def run(program: str) -> Callable[[], object]:
        kept = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
        return lambda: subprocess.run([sys.executable, "-c", program], check=True, env=kept)

    found = ratio(run(BENCH), run(EMPTY_WINDOW), rounds)
    return {"start to first painted window": {"ratio": round(found, 3), "aim": 1.3}}


def projecting(rounds: int) -> dict[str, dict[str, float]]:
    figures = {}
    eye = replace(
        Eye(0.0, 0.0, 1500.0, 20.0, -10.0, 600.0, (210.0, 150.0)), x_mm=10.0, y_mm=-3000.0
    )
    rng = np.random.default_rng(3)
    matrix = rng.normal(size=(3, 3))
    for n in (1_000, 100_000, 1_000_000):
        points = rng.uniform((-800, 0, 0), (800, 2000, 1000), (n, 3))
        found = ratio(lambda p=points: project(eye, p), lambda p=points: p @ matrix, rounds)
        figures[f"project {n} points"] = {"ratio": round(found, 3), "aim": 1.5}
    return figures


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--quick", action="store_true", help="fewer rounds")
    rounds = 15 if parser.parse_args().quick else 60
    report = {**projecting(rounds), **painting(rounds), **starting(max(rounds // 4, 5))}
    print(json.dumps(report, indent=1))


if __name__ == "__main__":
    main()
