"""Tables, outlines, copied volumes and journals changed at random, by their own parts: what is
taken makes a sheet that can be drawn and comes back the same; the rest is refused in one sentence.
"""

import random
import re

import pytest

from isometron.document.edits import choosing
from isometron.document.edits.shapes import profiles
from isometron.drawing.scene import scene_of
from isometron.files.journal import Journal, read_head
from isometron.files.outline import read_outline_file
from isometron.files.sheet_file import (
    sample_sheet,
    sheet_as_text,
    sheet_from_text,
    volumes_as_text,
    volumes_from_text,
)
from isometron.files.sheet_page import svg_of
from isometron.files.table import table_of, take_table
from isometron.perspective.errors import IsometronError
from tests.scenes import seeds

SVG = """<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="90mm" viewBox="0 0 120 90">
 <rect x="2" y="2" width="110" height="80" rx="6"/><g transform="translate(8 6) rotate(5)
 scale(1.2)"><use href="#p" x="2"/><circle cx="60" cy="15" r="8"/></g><defs><path id="p"
 d="M 0 0 h 30 v 9 a 4 4 0 0 1 -4 4 C 20 20 10 20 4 13 q -3 -3 -4 -4 z"/></defs>
 <ellipse cx="25" cy="60" rx="12" ry="6"/><polygon points="60,50 90,50 75,70"/></svg>"""

PARTS = re.compile(r"[-+]?\d+\.?\d*(?:e[-+]?\d+)?|[A-Za-z_][\w-]*|\s+|[^\sA-Za-z0-9]")
NUMBERS = ["0", "-1", "1e9", "-1e-12", "5e-324", "nan", "1e400", "2.0", "999999999999", "½"]
WORDS = ["", "width_mm", "key", "path", "use", "null", "true", "transform", "é", "\x00", "\ud800"]


def changed(seeded, text):
    """A text with some of its own parts taken away, doubled, swapped or made into others."""
    parts = PARTS.findall(text)
    for _time in range(seeded.randint(1, 3)):
        at, deed = seeded.randrange(len(parts)), seeded.random()
        if deed < 0.2:
            del parts[at : at + seeded.randint(1, 4)]
        elif deed < 0.35:
            parts.insert(at, parts[at] * seeded.choice([1, 2, 300]))
        elif deed < 0.5:
            other = seeded.randrange(len(parts))
            parts[at], parts[other] = parts[other], parts[at]
        elif parts[at][-1].isdigit():
            parts[at] = seeded.choice(NUMBERS)
        else:
            parts[at] = seeded.choice([*WORDS, seeded.choice(parts)])
        if not parts:
            break
    whole = "".join(parts)
    return whole[: seeded.randrange(len(whole) + 1)] if seeded.random() < 0.1 else whole


def as_bytes(text):
    return text.encode("utf-8", "surrogatepass")


def outline(folder, text):
    file = folder / "outline.svg"
    file.write_bytes(as_bytes(text))
    return profiles.bring_outline(sample_sheet(), read_outline_file(file), 1)


def journal(folder, text):
    file = folder / "one.journal"
    file.write_bytes(as_bytes(text))
    return read_head(file).document


def table(_folder, text):
    return take_table(sample_sheet("observing chair"), as_bytes(text), "it")


def copied(_folder, text):
    return choosing.paste(sample_sheet(), *volumes_from_text(text))


def journal_text(folder):
    kept = Journal(folder)
    kept.write(sample_sheet("red lamp"), "Lamp", folder / "lamp.isometron")
    kept.let_go()
    return kept.path.read_text()


READERS = {
    "table": (table, lambda _folder: table_of(sample_sheet("observing chair")).decode()),
    "outline": (outline, lambda _folder: SVG),
    "copied volumes": (copied, lambda _folder: volumes_as_text(sample_sheet().volumes)),
    "journal": (journal, journal_text),
}


@pytest.mark.sample(2)
@pytest.mark.parametrize("seed", seeds(1, 12))
@pytest.mark.parametrize("name", READERS)
def test_what_is_taken_can_be_drawn_and_kept_and_the_rest_is_refused(name, seed, tmp_path):
    read, start = READERS[name]
    text, seeded, taken = start(tmp_path), random.Random(f"{name} {seed}"), 0
    assert read(tmp_path, text).volumes
    for _time in range(60):
        try:
            document = read(tmp_path, changed(seeded, text))
        except IsometronError as told:
            assert "\n" not in str(told) and len(str(told)) < 500
            continue
        taken += 1
        assert svg_of(document, scene_of(document))
        assert sheet_from_text(sheet_as_text(document).encode(), "it") == document
    assert taken or seed
