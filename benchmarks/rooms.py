"""What the benchmarks use of the interface, and how a start is watched."""

from pathlib import Path

from isometron.ui.bench.app import application
from isometron.ui.bench.window import Bench


def paint_tools():
    from isometron.render.painter import path_of, pen_of

    return pen_of, path_of


def first_frame(sheet: str) -> None:
    """Start with a sheet until a first frame of the window is painted."""
    from isometron.files.sheet_file import read_sheet

    app = application()
    window = Bench(read_sheet(Path(sheet)), Path(sheet))
    window.show()
    app.processEvents()


def usable(sheet: str) -> None:
    """Start with a sheet until its strokes stand and the cards are up to date."""
    from isometron.files.sheet_file import read_sheet

    app = application()
    window = Bench(read_sheet(Path(sheet)), Path(sheet))
    window.show()
    app.processEvents()
    window.settle()
    app.processEvents()


__all__ = ["Bench", "application", "first_frame", "paint_tools", "usable"]
