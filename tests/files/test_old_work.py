"""Old work: sheets written by every earlier version of the file open to the same documents.

`tests/corpus` holds sheets as the program of their day saved them, each with the report of that
day. Nothing in it is ever written anew; sheets of later versions are added.
"""

import gzip
import json
import math
import re
from pathlib import Path

import pytest

from isometron.files.report import report_of
from isometron.files.sheet_file import read_sheet, sheet_as_text, sheet_from_text

CORPUS = sorted((Path(__file__).parents[1] / "corpus").glob("*.isometron"))

ANNOUNCED = {
    r"v1-store.*: remarks": "version 2 brought rules for what stands, hides and touches",
    r"v2-summit.*: volumes\[Rounded table\]\.(edges|contents_mm3)": "round corners are arcs",
    r"v2-summit.*: volumes\[.*\]\.edges\[\]\.visible": "hidden behind arcs instead of chords",
}
"""Fields of a report that today say something else than on the day they were frozen: a pattern for
“sheet: path”, lists numbered by the names in them, and the reason."""


def differences(old, new, path=""):
    """Paths at which something of the old is missing or different in the new."""
    if isinstance(old, dict):
        if not isinstance(new, dict):
            return [path]
        return [p for key in old for p in differences(old[key], new.get(key), f"{path}.{key}")]
    if isinstance(old, list):
        if not isinstance(new, list) or len(old) != len(new):
            return [path]
        names = [one.get("name", "") if isinstance(one, dict) else "" for one in old]
        rows = zip(names, old, new, strict=True)
        return [p for name, a, b in rows for p in differences(a, b, f"{path}[{name}]")]
    if isinstance(old, float) or isinstance(new, float):
        same = isinstance(new, int | float) and isinstance(old, int | float)
        return [] if same and math.isclose(old, new, rel_tol=1e-9, abs_tol=1e-9) else [path]
    return [] if old == new else [path]


def frozen_report(sheet):
    return json.loads(gzip.decompress(sheet.with_suffix(".report.json.gz").read_bytes()))


@pytest.mark.parametrize("sheet", CORPUS, ids=lambda path: path.stem)
def test_an_old_sheet_opens_to_the_same_document(sheet):
    old = json.loads(sheet.read_text())
    document = read_sheet(sheet)
    written = sheet_as_text(document)
    assert sheet_from_text(written.encode(), "it") == document
    new = json.loads(written)
    found = differences({k: v for k, v in old.items() if k != "isometron"}, new)
    assert not found


@pytest.mark.parametrize("sheet", CORPUS, ids=lambda path: path.stem)
def test_a_report_differs_from_the_frozen_one_in_announced_fields_only(sheet):
    found = differences(frozen_report(sheet), report_of(read_sheet(sheet)))
    told = {f"{sheet.stem}: {path.lstrip('.')}" for path in found}
    assert not {line for line in told if not any(re.match(one, line) for one in ANNOUNCED)}


def test_every_version_is_in_the_corpus():
    versions = {json.loads(sheet.read_text())["isometron"] for sheet in CORPUS}
    assert versions >= {1, 2, 3}
