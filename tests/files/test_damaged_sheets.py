"""Damaged sheets: every leaf of a sheet replaced by nonsense is refused with a sentence, or opens
as a sheet that can be drawn, measured and saved again; nothing in between."""

import json
import random

import pytest

from isometron.construction.order import order_of
from isometron.document.document import Document
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import SAMPLES, sample_sheet, sheet_as_text, sheet_from_text
from isometron.perspective.errors import IsometronError

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
