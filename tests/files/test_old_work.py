"""Old work: sheets written by every earlier version of the file open to the same documents.

`tests/corpus` holds sheets as the program of their day saved them, each with the report of that
day. Nothing in it is ever written anew; sheets of later versions are added.
"""

import functools
import gzip
import json
import math
import re
from pathlib import Path

import numpy as np
import pytest

from isometron.files.report import report_of
from isometron.files.sheet_file import read_sheet, sheet_as_text, sheet_from_text

CORPUS = sorted((Path(__file__).parents[1] / "corpus").glob("*.isometron"))

BENT = (
    "Rounded table|Rounded tray|Ball|Ball 1|Ball 2|Dome|Flask|Ring|Tipped tube|Telescope tube|"
    "Wheel|Wheel twin 1|(Front|Rear) wheel( twin)?|Lamp (foot|shade|stem)|Yard lamp"
)
CARRIED = "Crawler body|Ring wall|Survey saloon|Skewed duct|Wedge|Drilled case|Rounded tray"
ANNOUNCED = {
    r"v1-store.*: remarks": "version 2 brought rules for what stands, hides and touches",
    r"v2-summit.*: volumes\[Rounded table\]\.(edges|contents_mm3)": "round corners are arcs",
    r"v2-summit.*: volumes\[.*\]\.edges\[\]\.visible": "hidden behind arcs instead of chords",
    rf"v[23].*: volumes\[({BENT})\]\.corners$": "corners are ends of straight edges",
    rf"v3.*: volumes\[({CARRIED})\]\.corners": "corners of the body, not of the box it fills",
    rf"v3.*: volumes\[({CARRIED})\]\.(edges|curves)$": "what is straight is an edge",
    r"v3.*: volumes\[(Tipped tube|Telescope tube|Wedge)\]\.sloping_points": "of real edges",
    r"v2-summit.*: remarks\[\]\.sheet_mm": "told at the near corner the volume really has",
    r".*: rounds\[.*\]\.guide\.degree_deg": "of guides that err alike the other axis decides",
    r".*: report$": "version 2: states of circles",
    r"(v2-summit-store.*|v3-telescope-tube): remarks$": "what touches is judged by the skins",
    r"v3-red-lamp: remarks\[\]\.(text|value)": "a ruler is laid at the near place of a lamp",
    r"v3-(ring-wall|round-store).*: (joins|remarks)$": "bodies that bend meet others too",
    r"v4-supply-crawler-two-views: remarks$": "framed views are drawn, and overlap",
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


@functools.cache
def report_today(sheet):
    return report_of(read_sheet(sheet))


@functools.cache
def frozen_report(sheet):
    told = json.loads(gzip.decompress(sheet.with_suffix(".report.json.gz").read_bytes()))
    # What is out of the ruler's reach is read off the point now, and no remark any more.
    told["remarks"] = [r for r in told["remarks"] if r["rule"] != "beyond_the_ruler"]
    return told


@pytest.mark.parametrize("sheet", CORPUS, ids=lambda path: path.stem)
def test_an_old_sheet_opens_to_the_same_document(sheet):
    old = json.loads(sheet.read_text())
    document = read_sheet(sheet)
    written = sheet_as_text(document)
    assert sheet_from_text(written.encode(), "it") == document
    new = json.loads(written)
    if old["isometron"] > 3:
        assert not differences(old, new)
        return
    assert new["view"] == 0 and len(new["views"]) == 1
    told = {k: v for k, v in old.items() if k not in ("isometron", "eye", "choices")}
    now = new["choices"] | new["kit"]
    found = differences(told | {"eye": old["eye"]}, new | new["views"][0])
    assert not found + differences(old["choices"], now)


@pytest.mark.sample(8)
@pytest.mark.parametrize("sheet", CORPUS, ids=lambda path: path.stem)
def test_a_report_differs_from_the_frozen_one_in_announced_fields_only(sheet):
    found = differences(frozen_report(sheet), report_today(sheet))
    told = {f"{sheet.stem}: {path.lstrip('.')}" for path in found}
    assert not {line for line in told if not any(re.match(one, line) for one in ANNOUNCED)}


def ends(line):
    return np.array([np.array(p[:3]) / (p[3] if len(p) > 3 else 1.0) for p in (line[0], line[-1])])


@pytest.mark.sample(5)
@pytest.mark.parametrize("sheet", CORPUS, ids=lambda path: path.stem)
def test_every_curve_of_an_old_report_is_drawn_still_and_seen_as_far(sheet):
    report = report_today(sheet)
    for old, new in zip(frozen_report(sheet)["volumes"], report["volumes"], strict=True):
        world = [corner["world_mm"] for corner in new["corners"]]
        edges = [([world[e["from"]], world[e["to"]]], e["visible"]) for e in new["edges"]]
        lines = [(line["world_mm"], line["visible"]) for line in new["lines"]]
        curves = [(curve["control_mm"], curve["visible"]) for curve in new["curves"]]
        every = [(ends(line), seen) for line, seen in (*edges, *lines, *curves)]
        for curve in old.get("curves", []):
            a = ends(curve["control_mm"])
            seen = sum(high - low for low, high in curve["visible"])
            found = [
                sum(high - low for low, high in spans)
                for b, spans in every
                if min(np.abs(a - b).max(), np.abs(a - b[::-1]).max()) < 1e-6
            ]
            if not found and old["name"] == "Survey saloon":  # cut in two where it is thickest
                knots = np.concatenate([b for b, _ in every])
                gaps = np.linalg.norm(a[:, None] - knots, axis=2).min(axis=1)
                assert gaps.max() < 1e-6
                continue
            assert found and min(abs(one - seen) for one in found) < 1e-6


def test_every_version_is_in_the_corpus():
    versions = {json.loads(sheet.read_text())["isometron"] for sheet in CORPUS}
    assert versions >= {1, 2, 3, 4}
