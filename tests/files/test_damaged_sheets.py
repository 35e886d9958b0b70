"""Damaged sheets: every leaf of a sheet replaced by nonsense is refused with a sentence, or opens
as a sheet that can be drawn, measured and saved again; nothing in between."""

import json
import random

import fastjsonschema
import pytest

from isometron.construction.order import order_of
from isometron.document.document import Document
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import (
    SAMPLES,
    complaints,
    sample_sheet,
    sheet_as_text,
    sheet_from_text,
)
from isometron.perspective.errors import FileError, IsometronError
from tests.published import checker

NONSENSE = [
    *(None, True, "", "box", -1, 0, 1, 7, 0.5, -0.25, 1e-9, 1e300, -1e300),
    *([], [0, 0], [1, 2, 3], {}, {"key": 1}, "1 cm", "é" * 200, 2**70),
]


def leaves(content, path=()):
    """Paths to everything in a JSON content that is not a list or an object."""
    if isinstance(content, dict):
        for name, inner in content.items():
            yield from leaves(inner, (*path, name))
    elif isinstance(content, list):
        for number, inner in enumerate(content):
            yield from leaves(inner, (*path, number))
    else:
        yield path


def put(content, path, value):
    for step in path[:-1]:
        content = content[step]
    content[path[-1]] = value


@pytest.mark.sample(4)
@pytest.mark.parametrize("name", SAMPLES)
def test_nonsense_anywhere_in_a_sheet_is_refused_or_does_no_harm(name, many):
    text = sheet_as_text(sample_sheet(name))
    every = list(leaves(json.loads(text)))
    rng = random.Random(name)
    refused = 0
    for _ in range(many(15, 200)):
        content = json.loads(text)
        path, value = rng.choice(every), rng.choice(NONSENSE)
        put(content, path, value)
        try:
            document = sheet_from_text(json.dumps(content).encode(), "it")
        except IsometronError as error:
            refused += 1
            sentence = str(error)
            assert sentence.endswith(".") and len(sentence) < 400, (path, value, sentence)
            assert "Traceback" not in sentence and "Error" not in sentence
            continue
        scene = scene_of(document)
        try:
            assert order_of(document, scene).worst_mm >= 0
        except IsometronError as error:
            assert str(error).endswith("."), (path, value, str(error))
        assert sheet_from_text(sheet_as_text(document).encode(), "it") == document
    assert refused > 3


@pytest.mark.parametrize("name", SAMPLES)
def test_a_sheet_with_a_part_missing_is_refused_or_opens_with_the_usual_value(name):
    text = sheet_as_text(sample_sheet(name))
    every = [path for path in leaves(json.loads(text)) if isinstance(path[-1], str)]
    for path in random.Random(name).sample(every, min(len(every), 40)):
        content = json.loads(text)
        inner = content
        for step in path[:-1]:
            inner = inner[step]
        del inner[path[-1]]
        try:
            document = sheet_from_text(json.dumps(content).encode(), "it")
        except IsometronError as error:
            assert str(error).endswith("."), (path, str(error))
            continue
        assert isinstance(document, Document)
        assert sheet_from_text(sheet_as_text(document).encode(), "it") == document


@pytest.mark.parametrize("cut", [1, 2, 9, 200, -2, -30])
def test_half_a_sheet_is_no_sheet(cut):
    whole = sheet_as_text(sample_sheet("red lamp")).encode()
    with pytest.raises(IsometronError, match=r"\.$"):
        sheet_from_text(whole[:cut].rstrip(), "it")
    with pytest.raises(IsometronError):
        sheet_from_text(whole[:40] + b"\xff\x00" + whole[40:], "it")


def everything(content, path=()):
    """Paths to all that a JSON content holds."""
    inner = content.items() if isinstance(content, dict) else enumerate(content)
    for name, one in inner:
        yield (*path, name)
        if isinstance(one, dict | list):
            yield from everything(one, (*path, name))


def damage(content, path, rng):
    """Put nonsense at a place, take it away, or lay nonsense beside it."""
    how, holder = rng.random(), content
    for step in path[:-1]:
        holder = holder[step]
    if how < 0.7:
        holder[path[-1]] = rng.choice(NONSENSE)
    elif how < 0.85:
        holder.pop(path[-1])
    elif isinstance(holder, dict):
        holder["nonsense"] = 1
    else:
        holder.append(rng.choice(NONSENSE))


@pytest.fixture(scope="module")
def published():
    return checker("sheet")


@pytest.mark.sample(4)
@pytest.mark.parametrize("name", SAMPLES)
def test_what_the_published_schema_refuses_is_complained_of_and_nothing_else(name, many, published):
    text, rng = sheet_as_text(sample_sheet(name)), random.Random(name)
    every = list(everything(json.loads(text)))
    assert not list(complaints(json.loads(text)))
    for _ in range(many(20, 1500)):
        content, path = json.loads(text), rng.choice(every)
        damage(content, path, rng)
        told = list(complaints(content))
        try:
            published(content)
        except fastjsonschema.JsonSchemaValueException:
            assert told, path
        else:
            assert not told, (path, told)
        assert all(str(path[0]) in one.where or not one.where for one in told), (path, told)


def test_several_things_that_are_wrong_are_told_at_once():
    content = json.loads(sheet_as_text(sample_sheet()))
    content["views"][0]["eye"]["tilt_deg"] = "level"
    content["volumes"][0]["width_mm"] = -4
    content["volumes"][1].pop("name")
    content["sheet"]["paper"] = "wall"
    with pytest.raises(FileError) as told:
        sheet_from_text(json.dumps(content).encode(), "it")
    assert str(told.value) == (
        "it cannot be opened: sheet has a field that no sheet has; take it out; "
        "views[0].eye.tilt_deg must be a number; volumes[0].width_mm must be at least 0.01, "
        "and more."
    )
