"""What a person waits for, against baselines that do not change when the program does.

    .venv/bin/python benchmarks/felt.py [--quick] [--table] [--only WORDS]

*Visible* is the time from an event of the mouse to the repainted board, *whole* to everything
settled: cards, second look, lists and plans, the event loop turned as it is at work. Both are
shown as ratios, as CPU and as wall-clock time, to plain Qt painting the same strokes, dashes
included, from ready lines and paths into a picture of the board's size; starts to a bare process
that imports NumPy and shows an empty window. Growth is the exponent between 10 and 2 000 boxes.
`--table` prints the table of docs/numbers.md.
"""

import argparse
import itertools
import json
import math
import os
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QEvent, QEventLoop, QLineF, QPointF, QSettings, Qt
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPixmap
from PyQt6.QtWidgets import QApplication, QWidget

from crowds import crowd, stations
from isometron.deeds.deed import Matter
from isometron.document.document import Document
from isometron.drawing.scene import scene_of
from isometron.drawing.strokes import sheet_strokes
from isometron.files.sheet_file import sample_sheet, write_sheet
from isometron.perspective.conics import chords
from isometron.ui.bench.window import Bench
from rooms import application, paint_tools

EMPTY_WINDOW = """
import numpy
from PyQt6.QtWidgets import QApplication, QWidget
app = QApplication([]); window = QWidget(); window.resize(1280, 800); window.show()
app.processEvents()
import os; os._exit(0)
"""
NUMPY_ONLY = "import numpy; import os; os._exit(0)"
FIRST = """
import sys; sys.path.insert(0, {here!r})
from rooms import first_frame
first_frame({sheet!r})
import os; os._exit(0)
"""
USABLE = """
import sys; sys.path.insert(0, {here!r})
from rooms import usable
usable({sheet!r})
import os; os._exit(0)
"""
MEASURE = """
import sys; sys.argv = ["isometron", "measure", {sheet!r}]
from isometron.cli import main
main(); sys.stdout.flush()
import os; os._exit(0)
"""
HERE = str(Path(__file__).parent)

Figures = dict[str, float]


def both(work: Callable[[], object]) -> tuple[float, float]:
    """CPU and wall-clock seconds of some work."""
    cpu, wall = time.process_time(), time.perf_counter()
    work()
    return time.process_time() - cpu, time.perf_counter() - wall


class Felt:
    """A bench at work, its event loop turned by hand."""

    def __init__(self, document: Document) -> None:
        settings = QSettings(f"{tempfile.mkdtemp()}/s.ini", QSettings.Format.IniFormat)
        self.bench = Bench(document, settings=settings)
        self.bench.resize(1280, 800)
        self.bench.show()
        QApplication.processEvents()
        self.board = self.bench.board
        self.settle()
        self.plain = Plain(self)

    def repaint(self) -> None:
        """Paint what is to be painted again."""
        QApplication.sendEvent(self.bench, QEvent(QEvent.Type.UpdateRequest))

    def settle(self) -> None:
        """Turn the event loop until nothing is left to bring up to date."""
        while not self.bench.settled:
            QApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
        self.repaint()

    def mouse(self, widget: QWidget, kind: QEvent.Type, at: QPointF) -> None:
        button = Qt.MouseButton.LeftButton
        held = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseButtonRelease else button
        own = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else button
        there = QPointF(widget.mapToGlobal(at))
        event = QMouseEvent(kind, at, there, own, held, Qt.KeyboardModifier.NoModifier)
        QApplication.sendEvent(widget, event)

    def drag(self, widget: QWidget, at: QPointF, run: QPointF, rounds: int) -> Figures:
        """Ratios of the steps of a drag that goes to and fro."""
        self.mouse(widget, QEvent.Type.MouseButtonPress, at)
        self.mouse(widget, QEvent.Type.MouseMove, at + run * 2)
        assert self.bench.session.dragging, "nothing was taken hold of"
        self.settle()
        seen, whole, bare = [], [], []
        step = itertools.cycle((1.0, 2.0))
        for _ in range(rounds + 2):
            to = at + run * next(step)

            def show(to: QPointF = to) -> None:
                self.mouse(widget, QEvent.Type.MouseMove, to)
                self.repaint()

            first = both(show)
            rest = both(self.settle)
            seen.append(first)
            whole.append((first[0] + rest[0], first[1] + rest[1]))
            bare.append(both(self.plain.paint))
        self.mouse(widget, QEvent.Type.MouseButtonRelease, at + run)
        self.settle()
        return {
            **ratios("visible", seen[2:], bare[2:]),
            **ratios("whole", whole[2:], bare[2:]),
        }


def ratios(name: str, work: list[tuple[float, float]], bare: list[tuple[float, float]]) -> Figures:
    """CPU and wall-clock ratio of medians."""
    return {
        f"{name} {clock}": round(
            statistics.median(one[i] for one in work) / statistics.median(one[i] for one in bare), 2
        )
        for i, clock in enumerate(("CPU", "wall"))
    }


class Plain:
    """The same strokes as ready Qt lines and paths: what painting them must cost at the least."""

    def __init__(self, felt: Felt) -> None:
        session, board = felt.bench.session, felt.board
        pen_of, path_of = paint_tools()
        self.target = QPixmap(board.size())
        self.layers = []
        for strokes in sheet_strokes(session.document, session.scene):
            pen = pen_of(strokes.layer.pencil, 3.6)
            lines = [QLineF(*ends) for ends in board.view.to_device(strokes.lines).tolist()]
            self.layers.append((pen, lines, path_of(board.view, strokes.arcs)))
        sheet = session.document.sheet
        self.paper = board.view.rectangle((0.0, 0.0, sheet.width_mm, sheet.height_mm))

    def paint(self) -> None:
        painter = QPainter(self.target)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.target.rect(), QColor("#26302e"))
        painter.fillRect(self.paper, QColor("#fbf7ec"))
        for pen, lines, path in self.layers:
            painter.setPen(pen)
            painter.drawLines(lines)
            painter.drawPath(path)
        painter.end()


def in_the_middle(felt: Felt) -> QPointF:
    """A place of the board where some box in the middle of a crowd can be taken by an edge."""
    count = len(felt.bench.session.document.volumes)
    for index in sorted(range(count), key=lambda i: abs(i - count // 2)):
        at = on_an_edge(felt, index)
        if at is not None:
            return at
    raise AssertionError("no volume can be taken hold of")


def on_an_edge(felt: Felt, index: int) -> QPointF | None:
    """A place of the board where a volume can be taken by an edge or a curve."""
    board, picture = felt.board, felt.bench.session.scene.pictures[index]
    places = []
    for edge, spans in enumerate(picture.visible):
        (ax, ay), (bx, by) = picture.sheet[picture.edges[edge]].tolist()
        for low, high in spans:
            for share in (0.3, 0.5, 0.7):
                t = low + share * (high - low)
                places.append((ax + t * (bx - ax), ay + t * (by - ay)))
    for run in chords(picture.arcs[picture.arc_seen & picture.arc_drawn], 0.1):
        places += run.tolist()
    for place in places:
        at = board.view.point(place)
        touch = board._touch()
        pick = touch.pick_at(at)
        if touch.handle_at(at) is None and pick is not None and pick.volume == index:
            return at
    return None


def handle_place(felt: Felt, key: str) -> QPointF:
    handle = next(h for h in felt.board.handles if h.key == key)
    return felt.board.view.point(handle.place)


def box_among(count: int, rounds: int) -> Figures:
    felt = Felt(crowd(count))
    return felt.drag(felt.board, in_the_middle(felt), QPointF(4, 3), rounds)


def eye_of(count: int, rounds: int) -> Figures:
    felt = Felt(crowd(count))
    level = handle_place(felt, "eye level")
    touch = felt.board._touch()
    xs = range(30, felt.board.width() - 30, 7)
    at = next(
        QPointF(x, level.y())
        for x in xs
        if touch.handle_at(QPointF(x, level.y())) is None
        and touch.pick_at(QPointF(x, level.y())) is None
    )
    return felt.drag(felt.board, at, QPointF(0, 3), rounds)


def side_of_the_crawler(rounds: int) -> Figures:
    felt = Felt(sample_sheet("supply crawler"))
    return felt.drag(felt.board, handle_place(felt, "far width"), QPointF(3, 1), rounds)


def wheel_of_the_crawler(rounds: int) -> Figures:
    felt = Felt(sample_sheet("supply crawler"))
    volumes = felt.bench.session.document.volumes
    wheel = next(i for i, v in enumerate(volumes) if v.name == "Front wheel")
    felt.bench.session.edit("choose", lambda d: d.__class__(**{**vars_of(d), "selected": wheel}))
    felt.settle()
    return felt.drag(felt.board, on_an_edge(felt, wheel), QPointF(3, 1), rounds)


def vars_of(document: Document) -> dict[str, object]:
    from dataclasses import fields

    found = {f.name: getattr(document, f.name) for f in fields(document) if f.init}
    return {**found, "also": ()} if "also" in found else found


def radius_of_sixty(rounds: int) -> Figures:
    felt = Felt(stations(60))
    felt.bench.open_place("build")
    felt.bench.settle()
    group = felt.bench.slip.groups[Matter.ROUNDS]
    group.unfold()
    felt.settle()
    assert group.page is not None
    pad = group.page["pad"]
    felt.bench.column.slips.currentWidget().ensureWidgetVisible(pad)
    QApplication.processEvents()
    felt.settle()
    return felt.drag(pad, pad.at(pad.points()[20]), QPointF(2, 0), rounds)


def opening(rounds: int) -> Figures:
    """The crawler opened from its file until its strokes stand on the board."""
    felt = Felt(Document())
    path = Path(tempfile.mkdtemp()) / "crawler.isometron"
    write_sheet(sample_sheet("supply crawler"), path)
    ready = Felt(sample_sheet("supply crawler")).plain
    opened, settled, bare = [], [], []
    for _ in range(rounds):

        def show() -> None:
            felt.bench.keeping.open_path(path)
            felt.repaint()

        first = both(show)
        rest = both(felt.settle)
        opened.append(first)
        settled.append((first[0] + rest[0], first[1] + rest[1]))
        bare.append(both(ready.paint))
        felt.bench.session.open(Document(), None)
        felt.settle()
    return {**ratios("visible", opened, bare), **ratios("whole", settled, bare)}


def process(program: str) -> Callable[[], object]:
    kept = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    command = [sys.executable, "-c", program]
    return lambda: subprocess.run(command, check=True, env=kept, stdout=subprocess.DEVNULL)


def starts(rounds: int) -> dict[str, Figures]:
    """Starts of the program with the sample sheet, and `measure` of the crawler, medians of some,
    against a bare process."""
    folder = Path(tempfile.mkdtemp())
    sheet, crawler = str(folder / "case.isometron"), str(folder / "crawler.isometron")
    write_sheet(sample_sheet(), Path(sheet))
    write_sheet(sample_sheet("supply crawler"), Path(crawler))
    programs = {
        "empty": EMPTY_WINDOW,
        "numpy": NUMPY_ONLY,
        "start to first frame": FIRST.format(here=HERE, sheet=sheet),
        "start to usable": USABLE.format(here=HERE, sheet=sheet),
        "measure the crawler": MEASURE.format(sheet=crawler),
    }
    times: dict[str, list[tuple[float, float]]] = {name: [] for name in programs}
    for _ in range(rounds + 1):
        for name, program in programs.items():
            times[name].append(spent(process(program)))
    found = {}
    for name, base in (
        ("start to first frame", "empty"),
        ("start to usable", "empty"),
        ("measure the crawler", "numpy"),
    ):
        told = ratios("", times[name][1:], times[base][1:])
        found[name] = {clock.strip(): value for clock, value in told.items()}
    return found


def spent(run: Callable[[], object]) -> tuple[float, float]:
    """CPU and wall-clock seconds of a process of its own."""
    before, begun = resource.getrusage(resource.RUSAGE_CHILDREN), time.perf_counter()
    run()
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    cpu = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
    return cpu, time.perf_counter() - begun


def growth(rounds: int) -> dict[str, Figures]:
    """Exponents of the time of a scene made anew and of a whole step, 10 to 2 000 boxes."""
    few, many = crowd(10), crowd(2000)

    def least(work: Callable[[], object]) -> float:
        work()
        return min(both(work)[0] for _ in range(rounds))

    scene = [least(lambda d=d: scene_of(d)) for d in (few, many)]
    steps = []
    for document in (few, many):
        felt = Felt(document)
        at = in_the_middle(felt)
        felt.mouse(felt.board, QEvent.Type.MouseButtonPress, at)
        step = itertools.cycle((2.0, 3.0))

        def move(felt: Felt = felt, at: QPointF = at, step: itertools.cycle = step) -> None:
            felt.mouse(felt.board, QEvent.Type.MouseMove, at + QPointF(4, 3) * next(step))
            felt.repaint()
            felt.settle()

        steps.append(least(move))
        felt.mouse(felt.board, QEvent.Type.MouseButtonRelease, at)
        felt.settle()
    span = math.log(200.0)
    return {
        "growth of a scene": {"exponent": round(math.log(scene[1] / scene[0]) / span, 2)},
        "growth of a whole step": {"exponent": round(math.log(steps[1] / steps[0]) / span, 2)},
    }


def table(figures: dict[str, Figures]) -> str:
    rows = ["| what | figures |", "|---|---|"]
    for name, found in figures.items():
        told = ", ".join(f"{what} {value:g}" for what, value in found.items())
        rows.append(f"| {name} | {told} |")
    return "\n".join(rows)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--quick", action="store_true", help="fewer rounds")
    parser.add_argument("--table", action="store_true", help="print a table instead of JSON")
    parser.add_argument("--only", default="", help="only figures whose name has these words")
    given = parser.parse_args()
    rounds = 8 if given.quick else 30
    app = application()
    assert app is not None
    parts: dict[str, Callable[[], Figures | dict[str, Figures]]] = {
        **{
            f"one box among {n}": (lambda n=n: box_among(n, rounds if n < 1000 else 5))
            for n in (10, 100, 200, 1000)
        },
        "the eye among 100": lambda: eye_of(100, rounds // 2),
        "a side of the crawler": lambda: side_of_the_crawler(rounds),
        "a wheel of the crawler": lambda: wheel_of_the_crawler(rounds),
        "one radius of 60 stations": lambda: radius_of_sixty(rounds),
        "opening the crawler": lambda: opening(max(rounds // 4, 3)),
        "starts": lambda: starts(max(rounds // 3, 4)),
        "growth": lambda: growth(3),
    }
    found: dict[str, Figures] = {}
    for name, part in parts.items():
        if given.only in name:
            told = part()
            nested = any(isinstance(value, dict) for value in told.values())
            found.update(told if nested else {name: told})  # type: ignore[arg-type]
    print(table(found) if given.table else json.dumps(found, indent=1))


if __name__ == "__main__":
    main()
