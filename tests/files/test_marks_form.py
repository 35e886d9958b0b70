"""Marks in, readings out: by the published schemas, whatever is given."""

import json

import numpy as np
import pytest
from PIL import Image

from isometron.cli import main
from tests.published import checker
from tests.reading.made_up import box, marks, rim, shown


def as_json(some):
    centre = some.picture.centre_of_vision
    return {
        "marks": 1,
        "picture": {
            "width": some.picture.width,
            "height": some.picture.height,
            "centre_of_vision": centre and list(centre),
        },
        "noise": some.noise,
        "edges": [
            {
                "from": list(e.start),
                "to": list(e.end),
                "family": e.family,
                "corners": list(e.corners),
            }
            for e in some.edges
        ],
        "rounds": [
            {"points": [list(p) for p in r.points], "axle": r.axle, "name": r.name}
            for r in some.rounds
        ],
        "known": [{"kind": "length", "edges": [0], "value": 62.0}],
        "lens": None,
    }


def some_marks(heading=-35.0):
    places, depths = box(heading, -20.0)
    rounds = (rim((20, 10, 400), 2, 30, heading, -20.0),)
    return as_json(marks(places, shown(depths), np.random.default_rng(1), rounds=rounds))


def test_the_command_reads_one_object_or_many_lines(tmp_path, capsys):
    one, many = tmp_path / "one.json", tmp_path / "many.jsonl"
    one.write_text(json.dumps(some_marks(), indent=1))
    many.write_text("\n".join(json.dumps(some_marks(h)) for h in (-20.0, 10.0)) + "\n\n")
    checker("marks")(json.loads(one.read_text()))
    assert main(["read", str(one), str(many)]) == 0
    told = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    for reading, heading in zip(told, (-35.0, -20.0, 10.0), strict=True):
        checker("reading")(reading)
        found = reading["view"]["heading_deg"]
        assert abs(found["value"] - heading) < 4 * found["standard_error"]
        assert len(reading["residuals"]) == 9 and reading["rounds"][0]["name"] == "rim"
        assert reading["sides"]["true"]["width"]["standard_error"] >= 0


def test_what_is_not_told_is_null_and_stands_in_refused(tmp_path, capsys):
    content = {**some_marks(), "known": [], "rounds": []}
    content["edges"] = [e for e in content["edges"] if e["family"] == "height"]
    file = tmp_path / "few.json"
    file.write_text(json.dumps(content))
    assert main(["read", str(file)]) == 0
    told = json.loads(capsys.readouterr().out)
    checker("reading")(told)
    assert told["view"] is None and told["refused"][0]["what"] == "view"


HOSTILE = [
    b"",
    b"\x00\xff\xfe",
    b"[]",
    b"null",
    b'{"marks": 2}',
    b"[" * 100_000,
    b'{"marks": 1, "picture": {"width": NaN, "height": 1}}',
    b'{"marks": 1, "picture": {"width": 1e999, "height": 1}}',
    b'{"marks": 1, "picture": {"width": 10, "height": 10}}',
    b'{"marks": 1, "picture": {"width": 10, "height": 10}, "edges": [{"from": [0, 0]}]}',
    b'{"marks": 1, "picture": {"width": 10, "height": 10}, "edges": "many"}',
    b'{"marks": 1, "picture": {"width": 10, "height": 10}}\n{"marks": 1',
]


@pytest.mark.parametrize("content", HOSTILE)
def test_other_input_gives_one_sentence_and_exit_code_2(content, tmp_path, capsys):
    file = tmp_path / "marks.json"
    file.write_bytes(content)
    assert main(["read", str(file)]) == 2
    told = capsys.readouterr()
    assert told.out == "" and told.err.startswith("isometron: ") and told.err.count("\n") == 1


def test_the_command_reads_a_picture_and_gives_its_marks(tmp_path, capsys):
    photo, again = tmp_path / "case.jpg", tmp_path / "marks.json"
    sheet = "src/isometron/samples/eyepiece case.isometron"
    assert main(["sample-camera", sheet, "-o", str(photo), "--width", "900"]) == 0
    assert main(["read", str(photo)]) == 0
    told = json.loads(capsys.readouterr().out)
    checker("reading")(told)
    checker("marks")(told["marks"])
    assert len(told["residuals"]) == len(told["marks"]["edges"]) > 12
    again.write_text(json.dumps(told["marks"]))
    assert main(["read", str(again)]) == 0
    assert json.loads(capsys.readouterr().out)["view"] == told["view"]
    blank = tmp_path / "blank.png"
    Image.new("L", (400, 300), 200).save(blank)
    assert main(["read", str(blank)]) == 2
    assert "no lines" in capsys.readouterr().err
