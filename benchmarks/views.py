"""What a curved sheet and a page of four views cost.

.venv/bin/python benchmarks/views.py

In one run, with nothing remembered: the numbers of a curved sheet against the flat one with the
same eye (aim 1.5; with strokes told besides), and the step after a drag on a page of four views
against the sum of the steps of the four alone (aim 1.3). The least of several runs each."""

import time
from collections.abc import Callable
from dataclasses import replace

from isometron.document.document import Document
from isometron.document.edits import viewing
from isometron.document.edits.projecting import Projecting
from isometron.drawing.page import page_strokes, seen_in
from isometron.drawing.scene import scene_of
from isometron.drawing.strokes import sheet_strokes
from isometron.files.sheet_file import sample_sheet

RUNS = 12


def least(work: Callable[[int], object]) -> float:
    """The least time of some runs, s."""
    times = []
    for run in range(RUNS):
        begun = time.perf_counter()
        work(run)
        times.append(time.perf_counter() - begun)
    return min(times)


def moved(document: Document, run: int) -> Document:
    """The eye a little aside."""
    eye = document.eye
    return document.with_eye(replace(eye, x_mm=eye.x_mm + 1.0 + run))


def longer(document: Document, run: int) -> Document:
    """The first volume a little longer."""
    volume = document.volumes[0]
    return document.with_each({0: replace(volume, depth_mm=volume.depth_mm + 1.0 + run)})


def numbers(document: Document) -> float:
    """What is seen and where it is drawn, after the eye has moved."""
    return least(lambda run: scene_of(moved(document, run)))


def drawn(document: Document) -> float:
    """The same with every stroke of the sheet cut to the paper."""

    def work(run: int) -> object:
        seen = moved(document, run)
        return sheet_strokes(seen, scene_of(seen))

    return least(work)


def steps(page: Document) -> tuple[float, float]:
    """A drag's step on the page, and the sum of those of its views alone."""
    known = scene_of(page)

    def whole(run: int) -> object:
        nonlocal known
        changed = longer(page, run)
        known = scene_of(changed, known)
        return page_strokes(changed, known)

    together, alone = least(whole), 0.0
    for number, view in enumerate(page.views):
        if view.eye.parallel is not None:
            continue
        single = seen_in(page, number)
        before = scene_of(single)

        def step(run: int, single: Document = single) -> object:
            nonlocal before
            changed = longer(single, run)
            before = scene_of(changed, before)
            return sheet_strokes(changed, before)

        alone += least(step)
    return together, alone


def main() -> None:
    """Print one line each."""
    for name in ("eyepiece case", "supply crawler", "observing chair"):
        flat = sample_sheet(name)
        curved = Projecting(curved=True)(flat)
        told, strokes = (work(curved) / work(flat) for work in (numbers, drawn))
        print(f"{name:16} curved : flat  {told:5.2f} (aim 1.5), with strokes {strokes:5.2f}")
    page = sample_sheet("supply crawler")
    for _n in range(3):
        page = viewing.add_from_behind(page)
    together, alone = steps(page)
    print(f"page of four : its views alone  {together / alone:5.2f}   (aim 1.3)")


if __name__ == "__main__":
    main()
