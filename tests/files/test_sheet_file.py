import json
import math
import os
import runpy
import stat
from dataclasses import replace
from importlib import resources
from pathlib import Path

import fastjsonschema
import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.document.document import Choices, Document
from isometron.document.kit import Hand, Kit
from isometron.document.view import Frame, View
from isometron.files.disk import write_whole
from isometron.files.sheet_file import (
    LARGEST_PLAIN,
    MOST_VOLUMES,
    read_sheet,
    sample_sheet,
    sheet_as_text,
    sheet_from_text,
    write_sheet,
)
from isometron.framework.bodies.edging import Edging
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.bar import Bar
from isometron.framework.skins import Skin
from isometron.framework.volume import Volume
from isometron.perspective.errors import FileError, VolumeError
from isometron.perspective.sheet import Sheet
from tests.published import checker, schema
from tests.scenes import boxes, eyes, floats, sheet


@st.composite
def documents(draw):
    volumes = tuple(draw(st.lists(boxes(), max_size=3)))
    chosen = st.none() if not volumes else st.none() | st.integers(0, len(volumes) - 1)
    frames = st.none() | st.builds(Frame, *[floats(-5000, 5000)] * 2, *[floats(1, 5000)] * 2)
    every = st.builds(View, st.sampled_from(["", "left"]), eyes(), frames)
    views = tuple(draw(st.lists(every, min_size=1, max_size=3)))
    return Document(
        Sheet(draw(floats(20, 5000)), draw(floats(20, 5000))),
        views,
        draw(st.integers(0, len(views) - 1)),
        volumes,
        draw(chosen),
        draw(floats(-180, 180)),
        Choices(
            draw(st.sampled_from(["mm", "cm", "in"])),
            draw(floats(10, 120)),
            draw(st.booleans()),
            draw(st.booleans()),
        ),
        origin_mm=draw(st.tuples(*[floats(-1e6, 1e6)] * 3)),
        kit=Kit(draw(floats(50, 5000)), hand=Hand(draw(floats(0, 10)))),
    )


@given(documents())
def test_a_sheet_reads_back_to_the_very_same_numbers_and_keeps_to_the_schema(document):
    text = sheet_as_text(document)
    assert sheet_from_text(text.encode(), "it") == document
    checker("sheet")(json.loads(text))


def test_the_published_schemas_are_schemas():
    for name in ("sheet", "report", "marks", "reading", "order"):
        jsonschema.Draft7Validator.check_schema(schema(name))


def test_schemas_and_checker_are_those_that_the_table_makes():
    made = runpy.run_path(str(Path(__file__).parents[2] / "tools" / "schema.py"))["files"]()
    for name, content in made.items():
        shipped = resources.files("isometron.files").joinpath(name).read_text()
        assert shipped == content, f"run tools/schema.py: {name}"


def test_whole_numbers_and_halves_of_letters_are_settled_by_the_reader():
    whole = sheet_from_text(changed("volumes", 0, "key", 3.0), "it")
    assert type(whole.volumes[0].key) is int and sheet_as_text(whole) == sheet_as_text(
        sheet_from_text(changed("volumes", 0, "key", 3), "it")
    )
    for group in ("\ud800", "a\udfff"):
        with pytest.raises(FileError, match="half a letter"):
            sheet_from_text(changed("volumes", 0, "group", group), "it")


def changed(*path_and_value):
    """The sheet file of a plain document with one value replaced (or taken out by ...)."""
    *path, key, value = path_and_value
    content = json.loads(sheet_as_text(sheet()))
    at = content
    for step in path:
        at = at[step]
    if value is ...:
        del at[key]
    else:
        at[key] = value
    return json.dumps(content).encode()


def with_eye(key, value):
    return changed("views", 0, "eye", key, value)


BAD = {
    "empty": (b"", "empty"),
    "blank": (b" \n ", "empty"),
    "cut off": (sheet_as_text(sheet()).encode()[:-300], "damaged or cut off"),
    "no text": (b"\x89PNG\r\n\x1a\n\xff\xfe", "not an Isometron sheet"),
    "other JSON": (b"[1, 2]", "not an Isometron sheet"),
    "somebody else's": (b'{"shapes": []}', "not an Isometron sheet"),
    "deeply nested": (b"[" * 200_000, "not an Isometron sheet"),
    "newer": (changed("isometron", 5), "newer Isometron"),
    "version as text": (changed("isometron", "1"), "isometron"),
    "missing part": (changed("views", ...), "lacks views"),
    "wrong type": (
        with_eye("tilt_deg", "steep"),
        r"eye.tilt_deg must be a number",
    ),
    "truth for a number": (
        with_eye("tilt_deg", True),
        "eye.tilt_deg must be a number",
    ),
    "NaN": (with_eye("x_mm", float("nan")), "NaN"),
    "infinite": (
        with_eye("x_mm", 1).replace(b'"x_mm": 1,', b'"x_mm": 1e999,', 1),
        "1e999",
    ),
    "huge whole": (with_eye("x_mm", 10**400), "endless"),
    "absurd sheet": (changed("sheet", "width_mm", 1e9), "sheet.width_mm must be at most 5000"),
    "absurd side": (changed("volumes", 0, "width_mm", 0), r"volumes\[0\].width_mm"),
    "short place": (changed("volumes", 0, "place_mm", [1]), "must have 3 parts"),
    "other kind": (changed("volumes", 0, "kind", "blob"), 'kind must be "box"'),
    "unknown field": (changed("volumes", 0, "colour", "red"), "field that no sheet has"),
    "nameless": (changed("volumes", 0, "name", "\x07"), "plain letters"),
    "lone surrogate": (changed("volumes", 0, "name", "\ud800"), "half a letter"),
    "selected nobody": (changed("selected", 7), "not on this sheet"),
    "other unit": (changed("choices", "unit", "ell"), "unit"),
}


@pytest.mark.parametrize("name", BAD)
def test_a_bad_file_gets_one_clear_sentence(name):
    content, words = BAD[name]
    with pytest.raises(FileError, match=words) as caught:
        sheet_from_text(content, "“it.isometron”")
    sentence = str(caught.value)
    assert sentence.startswith("“it.isometron”") and sentence.endswith(".")
    assert "\n" not in sentence and len(sentence) < 260


def test_reader_and_schema_refuse_the_same_things():
    for name in ("missing part", "wrong type", "absurd sheet", "unknown field", "other unit"):
        with pytest.raises(fastjsonschema.JsonSchemaValueException):
            checker("sheet")(json.loads(BAD[name][0]))


@pytest.mark.parametrize(
    ("name", "words"),
    [("no such", "no file"), ("", "folder"), ("a\0b", "not a file name"), ("x" * 300, "too long")],
)
def test_a_file_that_cannot_be_read_says_why(tmp_path, name, words):
    with pytest.raises(FileError, match=words):
        read_sheet(f"{tmp_path}/{name}")


def test_saving_is_whole_or_not_at_all(tmp_path, monkeypatch):
    path = tmp_path / "case.isometron"
    write_sheet(sheet(), path)
    path.chmod(0o640)
    link = tmp_path / "link.isometron"
    link.symlink_to(path)
    wider = sheet(replace(sheet().volumes[0], width_mm=500.0))
    write_sheet(wider, link)
    assert link.is_symlink() and read_sheet(path) == wider
    assert stat.S_IMODE(path.stat().st_mode) == 0o640

    def fails(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", fails)
    with pytest.raises(FileError, match="disk is full"):
        write_sheet(sheet(), path)
    assert read_sheet(path) == wider
    assert sorted(p.name for p in tmp_path.iterdir()) == ["case.isometron", "link.isometron"]


def test_an_unwritable_place_says_why(tmp_path):
    for target, words in (
        (tmp_path, "is a folder"),
        (tmp_path / "no" / "case.isometron", "folder does not exist"),
        (Path("/dev/null/case.isometron"), "not a folder"),
    ):
        with pytest.raises(FileError, match=words):
            write_whole(target, b"x")


def test_the_sample_sheet_is_a_case_on_a_bench_in_two_point():
    document = sample_sheet()
    assert document.volume.name == "Eyepiece case" and document.eye.tilt_deg == 0
    assert any(box.name == "Bench" for box in document.volumes)


def test_what_no_sheet_holds_is_refused_before_it_is_taken_apart(monkeypatch):
    whole = sheet_as_text(sample_sheet())
    padded = whole.replace("{", "{" + " " * (LARGEST_PLAIN + 1), 1).encode()
    crowd = whole.replace('"volumes": [', '"volumes": [' + "{}," * MOST_VOLUMES, 1).encode()
    picture = b'"base64": "' + b"QUJD" * (LARGEST_PLAIN // 3) + b'"'

    def never(*_given, **_more):
        raise AssertionError("taken apart")

    monkeypatch.setattr("isometron.files.sheet_file._check", never)
    with pytest.raises(FileError, match="10003 volumes"):
        sheet_from_text(crowd, "“crowd”")
    monkeypatch.setattr("isometron.files.sheet_file.json.loads", never)
    with pytest.raises(FileError, match="MB besides its pictures"):
        sheet_from_text(padded, "“padded”")
    with pytest.raises(AssertionError, match="taken apart"):  # pictures do not count
        sheet_from_text(b"{" + picture + b"}", "“pictured”")
    with pytest.raises(FileError, match="endless number"):
        monkeypatch.undo()
        sheet_from_text(whole.replace("420.0", "1" * 400, 1).encode(), "“long”")


PLAIN = Volume("Box", 100.0, 100.0, 100.0)
BENT = Bar(((0.0, 0.0, 0.0), (1.0, 0.0, 0.0)), 5.0, 5.0, 0.0)


@pytest.mark.parametrize("mm", [0.0, 0.0078125, math.nextafter(0.01, 0.0), 2e6, math.nan, math.inf])
def test_no_length_can_be_given_that_a_sheet_file_would_refuse(mm):
    """What is too small or large to be read again is refused where it is made, not when it is
    opened."""
    for made in (
        lambda: replace(PLAIN, width_mm=mm),
        lambda: Edging(0, mm, 5.0),
        lambda: Edging(0, 5.0, mm),
        lambda: FaceCircle(0, radius_mm=mm),
        lambda: Skin(0, "courses", mm, 5.0),
        lambda: Skin(0, "courses", 5.0, mm),
        lambda: replace(BENT, thick_mm=mm),
        lambda: replace(BENT, wide_mm=mm),
    ):
        with pytest.raises(VolumeError, match=r"\.$"):
            made()
