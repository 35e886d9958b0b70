"""Marks and readings as JSON: one object each, by the published schemas."""

import json
from collections.abc import Callable, Iterator, Sequence
from dataclasses import asdict
from functools import cache
from importlib import resources
from typing import Any

from isometron.document.marks import Edge, Known, Lens, Marks, Picture, Round, Row
from isometron.perspective.errors import FileError
from isometron.reading.finding import Bend
from isometron.reading.results import Quantity, Reading, Rim, Sides, View
from isometron.reading.sketch.faults import Fault
from isometron.words import _, quoted

LONGEST = 400_000_000
"""Bytes of marks, or of a picture, that are read."""


@cache
def _checker() -> Callable[[Any], Any]:
    import fastjsonschema

    schema = json.loads(
        resources.files("isometron.files").joinpath("marks.schema.json").read_text()
    )
    made: Callable[[Any], Any] = fastjsonschema.compile(schema)
    return made


def marks_in(content: bytes, called: str) -> Iterator[Marks]:
    """The marks in a file: one JSON object, or one on each line. Raises FileError, MarksError."""
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise _no_marks(called) from error
    whole = _json(text)
    if whole is not None:
        yield marks_of(whole, called)
        return
    lines = [(i, line) for i, line in enumerate(text.splitlines(), 1) if line.strip()]
    if len(lines) < 2:
        raise _no_marks(called)
    for number, line in lines:
        one = _json(line)
        where = _("line {number} of {name}").format(number=number, name=called)
        if one is None:
            raise _no_marks(where)
        yield marks_of(one, where)


def _json(text: str) -> Any | None:
    """JSON, or None; NaN and the like are no JSON."""
    try:
        return json.loads(text, parse_constant=_no_number, parse_int=_whole)
    except (ValueError, RecursionError):
        return None


def _whole(text: str) -> int | float:
    """A whole number; one of very many digits is as large as numbers are, and refused for that."""
    return int(text) if len(text) < 16 else float(text)


def _no_number(word: str) -> float:
    raise ValueError(word)


def _no_marks(called: str) -> FileError:
    return FileError(
        _("“{name}” holds no marks: give a JSON object as docs/picture.md says.").format(
            name=quoted(called)
        )
    )


def marks_of(content: Any, called: str) -> Marks:
    """Marks from an object of JSON. Raises FileError for another shape, MarksError for marks that
    make no sense."""
    from fastjsonschema import JsonSchemaValueException

    try:
        _checker()(content)
    except JsonSchemaValueException as error:
        told = str(error.message).removeprefix("data.").removeprefix("data ")
        raise FileError(
            _("The marks of “{name}” are not as they should be: {told}.").format(
                name=quoted(called), told=quoted(told)
            )
        ) from error
    picture, lens = content["picture"], content.get("lens")
    centre = picture.get("centre_of_vision")
    return Marks(
        Picture(
            float(picture["width"]),
            float(picture["height"]),
            None if centre is None else (float(centre[0]), float(centre[1])),
        ),
        tuple(_edge(one) for one in content.get("edges", ())),
        tuple(
            Round(
                tuple((float(x), float(y)) for x, y in one["points"]),
                one.get("axle") or "",
                one.get("name") or "",
                float(one.get("weight", 1.0)),
            )
            for one in content.get("rounds", ())
        ),
        tuple(
            Known(one["kind"], tuple(int(i) for i in one["edges"]), one.get("value"))
            for one in content.get("known", ())
        ),
        None if content.get("noise") is None else float(content["noise"]),
        None
        if lens is None
        else Lens(float(lens["station_distance"]), float(lens["standard_error"])),
        tuple(
            Row(
                tuple((float(x), float(y)) for x, y in one["points"]),
                one["family"],
                one.get("name") or "",
            )
            for one in content.get("rows", ())
        ),
        float(content.get("least_noise", 0.0)),
    )


def _edge(one: dict[str, Any]) -> Edge:
    (x, y), (to_x, to_y) = one["from"], one["to"]
    corners = one.get("corners")
    return Edge(
        (float(x), float(y)),
        (float(to_x), float(to_y)),
        one["family"],
        None if corners is None else (int(corners[0]), int(corners[1])),
        bool(one.get("open_ends", False)),
        float(one.get("weight", 1.0)),
        name=one.get("name") or "",
    )


def marks_as_content(marks: Marks) -> dict[str, Any]:
    """Marks as an object of JSON, as they are read."""
    picture, lens = marks.picture, marks.lens
    return {
        "marks": 1,
        "picture": {
            "width": picture.width,
            "height": picture.height,
            "centre_of_vision": picture.centre_of_vision,
        },
        "noise": marks.noise,
        "least_noise": marks.least_noise,
        "edges": [
            {
                "from": edge.start,
                "to": edge.end,
                "family": edge.family,
                "corners": edge.corners,
                "open_ends": edge.open_ends,
                "weight": edge.weight,
                "name": edge.name,
            }
            for edge in marks.edges
        ],
        "rounds": [
            {"points": one.points, "axle": one.axle, "name": one.name, "weight": one.weight}
            for one in marks.rounds
        ],
        "known": [asdict(one) for one in marks.known],
        "lens": None if lens is None else asdict(lens),
        "rows": [asdict(one) for one in marks.rows],
    }


def reading_as_text(
    reading: Reading,
    marks: Marks | None = None,
    bend: Bend | None = None,
    name: str = "",
    faults: Sequence[Fault] = (),
) -> str:
    """A reading as one line of JSON, with the marks it was made from when they were found, how the
    lens bends straight lines, the name of the picture of a sheet, and what is off in a sketch."""
    content = _content(reading)
    content["remarks"] = [_fault(one) for one in faults]
    if name:
        content["picture"] = name
    if marks is not None:
        content["marks"] = marks_as_content(marks)
    if bend is not None:
        told = {"value": bend.k, "standard_error": bend.standard_error} if bend.told else None
        content["lens"] = {"bend": told, "long_lines": bend.lines}
        if told is None:
            words = _("A lens may bend the result: fewer than five long lines would show it.")
            content["remarks"].append({"rule": "lens", "text": words})
    return json.dumps(content, ensure_ascii=False, allow_nan=False)


def _content(reading: Reading) -> dict[str, Any]:
    """The fields every reading has."""
    level = reading.eye_level
    return {
        "reading": 1,
        "view": _view(reading.view),
        "eye_level": None
        if level is None
        else {"at_left": _quantity(level[0]), "at_right": _quantity(level[1])},
        "vanishing_points": [
            {
                "family": one.family,
                "at": None if one.at is None else list(one.at),
                "direction": list(one.direction),
                "standard_error_deg": one.standard_error_deg,
            }
            for one in reading.vanishing
        ],
        "sides": _sides(reading.sides),
        "noise": _quantity(reading.noise),
        "residuals": list(reading.residuals),
        "set_aside": [asdict(one) for one in reading.set_aside],
        "rounds": [_rim(one) for one in reading.rims],
        "rows": [
            {
                "name": one.name,
                "family": one.family,
                "lengths": [_quantity(part) for part in one.lengths],
            }
            for one in reading.rows
        ],
        "heights": [
            {"edge": one.edge, "name": one.name, "eye_heights": _quantity(one.eye_heights)}
            for one in reading.heights
        ],
        "refused": [asdict(one) for one in reading.refused],
        "remarks": [],
    }


def _rim(one: Rim) -> dict[str, Any]:
    return {
        "name": one.name,
        "centre": [_quantity(part) for part in one.centre],
        "semi_major": _quantity(one.semi_major),
        "semi_minor": _quantity(one.semi_minor),
        "major_axis_deg": _quantity(one.major_axis_deg),
        "degree_deg": _quantity(one.degree_deg),
    }


def _fault(one: Fault) -> dict[str, Any]:
    return {
        "rule": one.rule,
        "text": f"{one.title}. {one.text}",
        "value": one.by_mm,
        "unit": "mm",
        one.mark.kind if one.mark.kind != "edge" else "stroke": one.mark.number,
        "by_mm": one.by_mm,
        "by_deg": one.by_deg,
        "by_percent": one.by_percent,
        "at": list(one.at),
        "mended": one.mended,
        "redraw": None if one.redraw is None else [list(place) for place in one.redraw],
    }


def _view(view: View | None) -> dict[str, Any] | None:
    if view is None:
        return None
    centre = view.centre_of_vision
    return {
        "station_distance": _quantity(view.station_distance),
        "heading_deg": _quantity(view.heading_deg),
        "tilt_deg": _quantity(view.tilt_deg),
        "roll_deg": _quantity(view.roll_deg),
        "centre_of_vision": None if centre is None else [_quantity(one) for one in centre],
    }


def _sides(sides: Sides | None) -> dict[str, Any] | None:
    if sides is None:
        return None
    both = sides.covariance
    return {
        "width": 1,
        "depth": _quantity(sides.depth),
        "height": _quantity(sides.height),
        "covariance": None if both is None else [list(row) for row in both],
        "true": {name: _quantity(one) for name, one in sides.true.items()},
    }


def _quantity(one: Quantity | None) -> dict[str, float] | None:
    return None if one is None else {"value": one.value, "standard_error": one.standard_error}
