"""What a long log costs: opening 100 000 entries beside 1 000.

.venv/bin/python benchmarks/log.py

The Log tab reads its entries, makes rows and curves; the ratio of both times (aim 3)."""

import json
import sqlite3
import tempfile
import time
from pathlib import Path

from isometron.practice.log import Log
from isometron.practice.pages import curves_of, lines_of
from isometron.practice.series import person_of

SHOWN, REMEMBERED = 1000, 4000


def filled(place: Path, count: int) -> Log:
    """A log of so many answers."""
    log = Log(place)
    log.allow(True)
    miss = {
        "measure": "eye level",
        "error": 1.0,
        "unit": "mm",
        "hand": 1.5,
        "words": "1 mm too high",
    }
    kept = json.dumps({"seed": 1, "difficulty": 0.3, "next": 0.3, "misses": [miss], "seconds": 9.0})
    with sqlite3.connect(place) as base:
        base.executemany(
            "INSERT INTO entries (at, kind, about, kept, tag) VALUES (?, 'drill', 'level', ?, '')",
            ((f"2026-01-01T{n // 3600 % 24:02d}:{n // 60 % 60:02d}", kept) for n in range(count)),
        )
    return log


def opened(log: Log) -> float:
    """The least time of some openings, s."""
    times = []
    for _run in range(5):
        begun = time.perf_counter()
        entries = log.latest(SHOWN)
        lines_of(entries), curves_of(entries), log.count
        times.append(time.perf_counter() - begun)
    return min(times)


def main() -> None:
    """Print one line."""
    with tempfile.TemporaryDirectory() as folder:
        short, long = (filled(Path(folder) / f"{n}.sqlite", n) for n in (1000, 100_000))
        begun = time.perf_counter()
        person_of(long.latest(REMEMBERED, kind="drill"))
        person = time.perf_counter() - begun
        one, other = opened(short), opened(long)
        print(f"1 000: {1000 * one:.0f} ms, 100 000: {1000 * other:.0f} ms")
        print(f"{other / one:.2f} × (aim 3)")
        print(f"a person known again from 4 000 answers: {1000 * person:.0f} ms")


if __name__ == "__main__":
    main()
