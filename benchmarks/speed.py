"""Speed as ratios, each against a baseline timed in the same run. Prints JSON.

    .venv/bin/python benchmarks/speed.py [--quick]

Wall-clock figures of one machine say little; a ratio to a bare baseline on the same machine at the
same moment says whether the program wastes time. `aim` is the most each ratio should be. What a
person waits for at the bench stands in felt.py.
"""

import argparse
import json
import os
import statistics
import time
from collections.abc import Callable
from dataclasses import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PyQt6.QtCore import QSettings
from PyQt6.QtGui import QPainter, QPixmap

from isometron.document.document import Document
from isometron.perspective.eye import Eye
from isometron.perspective.projection import project
from isometron.ui.bench.app import application
from isometron.ui.bench.window import Bench
from isometron.ui.board.standing_layer import StandingLayer


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

    def paint(self) -> None:
        painter = QPainter(self.target)
        session = self.bench.session
        self.board.paint(painter, session.document, session.scene)
        painter.end()

    def repaint_all(self) -> None:
        """The bare painting of every stroke of the ready scene."""
        self.board._standing = StandingLayer()
        self.paint()


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
    print(json.dumps(projecting(rounds), indent=1))


if __name__ == "__main__":
    main()
