"""How surely a second look over a sketch finds what a hand made wrong, and what it costs.

Every kind of mistake is made at about three times what can be detected, one to a sketch, on seeded
sketches of the eyepiece case, photographed at a slant or scanned. Run: python benchmarks/sketch.py
[--count N]. Times are shares of the line segment detector alone, in one run."""

import argparse
import math
import time
from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

import cv2
import numpy as np

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import bring_picture
from isometron.document.picture import SheetPicture
from isometron.files.sheet_file import sample_sheet
from isometron.framework.circles import FaceCircle
from isometron.reading.of_picture import reading_of
from isometron.reading.pictures import read_picture
from isometron.reading.sketch.faults import Fault
from isometron.reading.sketch.judging import faults_in, judge
from isometron.reading.sketch.own_sheet import as_framework, corners_of, own_sheet
from isometron.reading.sketch.sizes import size_of
from isometron.stand_ins.hand import Hand, Mistake, sketch, truth_of_sketch

CASE = sample_sheet("eyepiece case")
Rng = np.random.Generator
ALONE = {"misses its point", "upright leans", "drawn level"}


def with_circles(*places: tuple[float, float]) -> Document:
    """The case with circles of 90 mm on its front."""
    box = replace(CASE.volumes[0], circles=tuple(FaceCircle(2, at, 90.0) for at in places))
    return replace(CASE, volumes=(box, *CASE.volumes[1:]))


ONE, TWO = with_circles((0.5, 0.5)), with_circles((0.22, 0.5), (0.78, 0.5))


def sign(rng: Rng) -> float:
    """One way or the other."""
    return float(rng.choice([-1, 1]))


def missing(rng: Rng) -> tuple[Mistake, ...]:
    """An edge that ends 4.5 mm aside."""
    told = truth_of_sketch(CASE, Hand())["strokes"]
    long = [s for s in told if s["kind"] == "edge" and math.dist(s["from_mm"], s["to_mm"]) > 50]
    one = long[rng.integers(len(long))]
    by = math.degrees(math.atan(4.5 / math.dist(one["from_mm"], one["to_mm"])))
    return (Mistake("miss", one["volume"], one["part"], sign(rng) * by),)


class Kind(NamedTuple):
    """A kind of mistake: on which sheet, how it is made, which rules tell it, whether the framework
    is what was meant, and how a told size compares with the true one."""

    document: Document
    made: Callable[[Rng], tuple[Mistake, ...]]
    rules: set[str]
    meant: bool = False
    size: Callable[[Fault, Mistake], float] | None = None


def by_deg(fault: Fault, mistake: Mistake) -> float:
    """How much more degrees are told than were made."""
    return (fault.by_deg or 0.0) - abs(mistake.by)


def by_percent(fault: Fault, mistake: Mistake) -> float:
    """How much more per cent are told than were made."""
    return (fault.by_percent or 0.0) - abs(mistake.by)


KINDS = {
    "none": Kind(TWO, lambda rng: (), set()),
    "none, framework meant": Kind(TWO, lambda rng: (), set(), meant=True),
    "miss": Kind(CASE, missing, ALONE, size=by_deg),
    "miss, framework meant": Kind(
        CASE, missing, {*ALONE, "beside the framework"}, meant=True, size=by_deg
    ),
    "corner": Kind(
        CASE, lambda rng: (Mistake("corner", 0, 7, 8.0 * sign(rng)),), {"far corner", *ALONE}
    ),
    "long, framework meant": Kind(
        CASE,
        lambda rng: (Mistake("long", 0, 0, sign(rng) * rng.uniform(10, 14)),),
        {"beside the framework"},
        meant=True,
    ),
    "lean": Kind(
        CASE,
        lambda rng: tuple(Mistake("lean", v, 0, 3.0) for v in range(len(CASE.volumes))),
        {"uprights lean"},
        size=by_deg,
    ),
    "inside its ellipse": Kind(
        ONE,
        lambda rng: (Mistake("swell", 0, 0, -rng.uniform(5, 6)),),
        {"off its ellipse"},
        size=by_percent,
    ),
    "outside its ellipse": Kind(
        ONE,
        lambda rng: (Mistake("swell", 0, 0, rng.uniform(5, 6)),),
        {"off its ellipse"},
        size=by_percent,
    ),
    "axis, framework meant": Kind(
        ONE,
        lambda rng: (Mistake("axis", 0, 0, 9.0 * sign(rng)),),
        {"rim off its axle"},
        meant=True,
        size=by_deg,
    ),
    "size of a wheel": Kind(
        TWO,
        lambda rng: (Mistake("size", 0, 1, sign(rng) * rng.uniform(9, 12)),),
        {"wheels disagree"},
        size=by_percent,
    ),
}


def sheet_of(document: Document, hand: Hand) -> SheetPicture:
    """A sketch of a document, straightened."""
    content = sketch(document, hand)
    corners = corners_of(content)
    return own_sheet(content, "sketch", corners, size_of("A3", corners))


def told_of(kind: Kind, picture: SheetPicture) -> list[Fault]:
    """What is off in a sketch."""
    if kind.meant:
        return faults_in(as_framework(bring_picture(kind.document, picture)))
    return judge(picture, reading_of(picture))


def main() -> None:
    """Print a line for each kind of mistake, then what it costs."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=12)
    count = parser.parse_args().count
    print(f"{'mistake':26} found   other remarks / strokes   told more than true")
    for name, kind in KINDS.items():
        found = other = strokes = 0
        more = []
        for seed in range(count):
            rng = np.random.default_rng(seed)
            made = kind.made(rng)
            hand = Hand(seed=seed + 100, mistakes=made, slant=(0.1, -0.2) if seed % 3 else None)
            picture = sheet_of(kind.document, hand)
            faults = told_of(kind, picture)
            right = [one for one in faults if one.rule in kind.rules]
            found += bool(right)
            other += len(faults) - len(right)
            strokes += sum(not edge.left for edge in picture.edges)
            if right and kind.size is not None:
                more.append(kind.size(right[0], made[0]))
        size = f"{np.mean(more):+.2f} ± {np.std(more):.2f}" if more else ""
        print(f"{name:26} {found:2}/{count}   {other:3} / {strokes:4}   {size}", flush=True)
    costs()


def costs() -> None:
    """Straightened, strokes, rims and families found and judged, against the detector alone."""
    content = sketch(TWO, Hand(seed=1))
    corners = corners_of(content)
    begun = time.perf_counter()
    picture = own_sheet(content, "sketch", corners, size_of("A3", corners))
    judge(picture, reading_of(picture))
    whole = time.perf_counter() - begun
    grey = read_picture(picture.file.content, "sketch.jpg").grey
    begun = time.perf_counter()
    cv2.createLineSegmentDetector().detect(grey)
    alone = time.perf_counter() - begun
    print(f"from photograph to remarks: {whole / alone:.1f} × the detector alone")


if __name__ == "__main__":
    main()
