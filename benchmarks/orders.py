"""Build orders and booklets of 10 to 200 turned boxes: how the time grows, in one run.

.venv/bin/python benchmarks/orders.py

Each row: how many boxes, seconds for the scene alone (what the order starts from), for the order,
for the booklet; last the exponents between the ends. Aim: at most 1.1.
"""

import math
import sys
import time
from collections.abc import Callable

from isometron.construction.order import order_of
from isometron.drawing.scene import scene_of
from isometron.files.building.booklet import booklet_of

sys.path.insert(0, str(__import__("pathlib").Path(__file__).parent))
from crowds import crowd

COUNTS = (10, 50, 200)


def seconds(act: Callable[[], object]) -> float:
    """How long it takes."""
    begin = time.perf_counter()
    act()
    return time.perf_counter() - begin


def main() -> None:
    """Print the table."""
    rows = []
    booklet = "--booklet" in sys.argv[1:]
    for count in COUNTS:
        document = crowd(count)
        scene = scene_of(document)
        drawn = seconds(lambda d=document: scene_of(d))
        order = seconds(lambda d=document, s=scene: order_of(d, s))
        pages = seconds(lambda d=document: booklet_of(d)) if booklet else math.nan
        rows.append((count, drawn, order, pages))
        sys.stdout.write(
            f"{count:4d}  scene {drawn:7.3f}  order {order:7.3f}  booklet {pages:7.3f}\n"
        )
    (few, *first), (many, *last) = rows[0], rows[-1]
    grown = [math.log(b / a) / math.log(many / few) for a, b in zip(first, last, strict=True)]
    sys.stdout.write("exponents  " + "  ".join(f"{value:5.2f}" for value in grown) + "\n")


if __name__ == "__main__":
    main()
