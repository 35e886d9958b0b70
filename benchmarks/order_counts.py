"""How many lines and steps build orders take: the table of docs/build-order.md.

.venv/bin/python benchmarks/order_counts.py
"""

import sys
from dataclasses import replace

from isometron.construction.order import order_of
from isometron.document.building import EVERYTHING, FRAMEWORK, METHODS
from isometron.files.sheet_file import SAMPLE_NAME, sample_sheet

SHEETS = {
    SAMPLE_NAME: "an eyepiece case",
    "turned eyepiece cases": "two turned cases",
    "supply crawler": "supply crawler",
    "observing chair": "observing chair",
    "red lamp": "red lamp",
    "telescope tube": "telescope tube, three-point",
}


def main() -> None:
    """Print a row for each sheet: every method, then everything and the framework alone."""
    for name, words in SHEETS.items():
        document = sample_sheet(name)
        ways = [{"method": method} for method in METHODS]
        ways += [{"reach": EVERYTHING}, {"reach": FRAMEWORK}]
        cells = []
        for way in ways:
            order = order_of(replace(document, building=replace(document.building, **way)))
            cells.append(f"{order.lines_drawn} ({len(order.steps)})")
        sys.stdout.write(f"| {words} | {' | '.join(cells)} |\n")


if __name__ == "__main__":
    main()
