"""Forms between dataclasses and JSON: written, read back, and described."""

import json
from dataclasses import dataclass

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.files.codec import (
    Entry,
    Flag,
    Many,
    Maybe,
    Number,
    PerName,
    Record,
    Spread,
    Text,
    Told,
    Whole,
    record_of,
    row,
)
from isometron.perspective.errors import FileError
from tests.scenes import floats


@dataclass(frozen=True)
class Ball:
    radius_mm: float
    holes: int = 0


@dataclass(frozen=True)
class Rod:
    ends: tuple[tuple[float, float], ...]
    hollow: bool = False
    name: str = "rod"


@dataclass(frozen=True)
class Thing:
    x: float
    y: float
    shape: Ball | Rod | None
    counts: tuple[int | None, int | None] = (None, None)
    tags: frozenset[str] = frozenset()
    light: None = None
    mates: tuple[Ball | Rod, ...] = ()


FORMS = {Ball: ("ball", record_of(Ball)), Rod: ("rod", record_of(Rod))}
THING = Record(
    Thing,
    (
        Entry("at", row(Number(-10, 10, "place"), 2), ("x", "y")),
        Entry("shape", Spread(lambda: FORMS, None)),
        Entry("counts", PerName(("a", "b"), Whole(0, 9)), default=(None, None)),
        Entry("tags", Many(Text(5), 4, make=frozenset), default=frozenset()),
        Entry("light", Maybe(Flag()), default=None, when=lambda thing: True),
        Entry(
            "mates",
            Many(Told("how", {"round": (Ball, FORMS[Ball][1]), "long": (Rod, FORMS[Rod][1])}), 3),
            default=(),
        ),
    ),
)


def schema():
    known = {}
    return {**THING.schema(known), "definitions": known}


balls = st.builds(Ball, floats(-1e6, 1e6), st.integers(0, 9))
rods = st.builds(
    Rod, st.lists(st.tuples(floats(0, 9), floats(0, 9)), max_size=3).map(tuple), st.booleans()
)
things = st.builds(
    Thing,
    floats(-10, 10),
    floats(-10, 10),
    st.none() | balls | rods,
    st.tuples(*[st.none() | st.integers(0, 9)] * 2),
    st.frozensets(st.text("abc", min_size=1, max_size=5), max_size=4),
    st.none(),
    st.lists(balls | rods, max_size=3).map(tuple),
)


@given(things)
def test_what_is_written_reads_back_the_same_and_keeps_to_its_schema(thing):
    text = json.dumps(THING.write(thing), allow_nan=False)
    assert THING.read(json.loads(text)) == thing
    jsonschema.validate(json.loads(text), schema(), cls=jsonschema.Draft7Validator)


def test_what_says_nothing_is_left_out_and_comes_back():
    bare = THING.write(Thing(1, 2, None))
    assert bare == {"at": [1.0, 2.0], "light": None}
    assert THING.read({"at": [1, 2]}) == Thing(1.0, 2.0, None)
    assert type(THING.read({"at": [1, 2]}).x) is float
    assert THING.write(Thing(0, 0, Ball(3.0)))["ball"] == {"radius_mm": 3.0}
    assert THING.write(Thing(0, 0, None, tags=frozenset("cab")))["tags"] == ["a", "b", "c"]


@pytest.mark.parametrize(
    "data",
    [
        {},
        {"at": [1]},
        {"at": [1, 2, 3]},
        {"at": [1, 11]},
        {"at": [1, "2"]},
        {"at": [0, 0], "light": 1},
        {"at": [0, 0], "colour": "red"},
        {"at": [0, 0], "counts": {"a": 0.5}},
        {"at": [0, 0], "counts": {"c": 1}},
        {"at": [0, 0], "tags": ["abcdef"]},
        {"at": [0, 0], "ball": {}},
        {"at": [0, 0], "mates": [{"how": "flat"}]},
        {"at": [0, 0], "rod": {"ends": [[1, 2, 3]]}},
    ],
)
def test_the_schema_refuses_what_no_form_writes(data):
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(data, schema(), cls=jsonschema.Draft7Validator)


def test_a_default_may_hang_on_its_neighbours_and_a_kind_without_a_form_is_told():
    form = Record(
        Rod,
        (
            Entry("ends", Many(row(Number(0, 9), 2), 3)),
            Entry("name", Text()),
            Entry("hollow", Flag(), default=lambda fields: fields["name"] == "tube"),
        ),
    )
    tube = Rod((), True, "tube")
    assert form.write(tube) == {"ends": [], "name": "tube"} and form.read(form.write(tube)) == tube
    solid = Rod((), False, "tube")
    assert form.write(solid)["hollow"] is False and form.read(form.write(solid)) == solid
    assert Maybe(Whole(0, 3)).schema({}) == {
        "type": ["integer", "null"],
        "minimum": 0,
        "maximum": 3,
    }
    with pytest.raises(FileError, match="half a letter"):
        Text().read("a\ud800")

    @dataclass(frozen=True)
    class Odd:
        where: dict[str, int]

    with pytest.raises(TypeError, match="sheet_form"):
        record_of(Odd)
