"""What the benchmarks use of the interface, and how a start is watched."""

import os

from isometron.ui.bench.app import application


def paint_tools():
    from isometron.render.painter import path_of, pen_of

    return pen_of, path_of


def first_frame(sheet: str) -> None:
    """Start with a sheet, as from the command line, until a first frame is painted."""
    import isometron.ui.bench.app as start
    from isometron.cli import main

    def leave(*_given: object) -> None:
        os._exit(0)

    start.fill = leave
    main([sheet])


def usable(sheet: str) -> None:
    """Start with a sheet, as from the command line, until its strokes stand and the cards are up to
    date."""
    import isometron.ui.bench.app as start
    from isometron.cli import main

    filled = start.fill

    def fill_and_settle(*given: object) -> None:
        bench = filled(*given)
        application().processEvents()
        bench.settle()
        application().processEvents()
        os._exit(0)

    start.fill = fill_and_settle
    main([sheet])


__all__ = ["application", "first_frame", "paint_tools", "usable"]
