"""Turned forms, extrusions and circles as the fields of a sheet file (docs/file-format.md)."""

from typing import Any

from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.loop import Loop
from isometron.framework.kinds.turned import Turned
from isometron.framework.outlines import Knot, Ring

Fields = dict[str, Any]


def round_fields(shape: Kind) -> Fields:
    """The fields of a round shape."""
    if isinstance(shape, Turned):
        fields: Fields = {
            "stations": [list(station) for station in shape.stations],
            "join": shape.join,
            "axis": shape.axis,
            "name": shape.name,
        }
        fields |= {"wheel": True} if shape.wheel else {}
        fields |= {"bore": shape.bore} if shape.bore else {}
        fields |= {"rings": [list(ring) for ring in shape.rings]} if shape.rings else {}
        return {"turned": fields}
    if isinstance(shape, Loop):
        return {
            "loop": {
                "axis": shape.axis,
                "start_deg": shape.start_deg,
                "sweep_deg": shape.sweep_deg,
                "shares": list(shape.shares),
            }
        }
    if not isinstance(shape, Extruded):
        return {}
    fields = {
        "rings": [[_knot_fields(knot) for knot in ring] for ring in shape.rings],
        "axis": shape.axis,
        "name": shape.name,
    }
    fields |= {"slant": list(shape.slant)} if any(shape.slant) else {}
    fields |= {"widths": [list(width) for width in shape.widths]} if shape.widths else {}
    fields |= {"at": shape.at} if shape.at else {}
    return {"extruded": fields}


def round_from(fields: Fields) -> Kind | None:
    """The round shape of checked fields; None when they tell of none."""
    if "turned" in fields:
        turned = fields["turned"]
        return Turned(
            _pairs(turned["stations"]),
            turned["join"],
            turned["axis"],
            float(turned.get("bore", 0.0)),
            _pairs(turned.get("rings", [])),
            turned["name"],
            turned.get("wheel", turned["name"] == "wheel"),
        )
    if "loop" in fields:
        loop = fields["loop"]
        shares = tuple(float(share) for share in loop["shares"])
        return Loop(loop["axis"], float(loop["start_deg"]), float(loop["sweep_deg"]), shares)
    if "extruded" not in fields:
        return None
    extruded = fields["extruded"]
    first, second = (float(v) for v in extruded.get("slant", [0.0, 0.0]))
    return Extruded(
        tuple(_ring_from(ring) for ring in extruded["rings"]),
        extruded["axis"],
        (first, second),
        _pairs(extruded.get("widths", [])),
        extruded["name"],
        float(extruded.get("at", 0.0)),
    )


def _knot_fields(knot: Knot) -> Fields:
    fields: Fields = {"at": [knot.x, knot.y]}
    fields |= {"bulge": knot.bulge} if knot.bulge else {}
    return fields | ({"smooth": True} if knot.smooth else {})


def _ring_from(ring: list[Fields]) -> Ring:
    return tuple(
        Knot(
            float(knot["at"][0]),
            float(knot["at"][1]),
            float(knot.get("bulge", 0.0)),
            knot.get("smooth", False),
        )
        for knot in ring
    )


def _pairs(values: list[list[float]]) -> tuple[tuple[float, float], ...]:
    return tuple((float(a), float(b)) for a, b in values)


def circle_fields(circle: FaceCircle) -> Fields:
    """The fields of circles on a face."""
    fields: Fields = {"face": circle.face, "middle": list(circle.middle)}
    fields |= {} if circle.radius_mm is None else {"radius_mm": circle.radius_mm}
    fields |= {} if circle.shares == (1.0,) else {"shares": list(circle.shares)}
    if abs(circle.sweep_deg) != 360:
        fields |= {"start_deg": circle.start_deg, "sweep_deg": circle.sweep_deg}
    return fields | ({"through": True} if circle.through else {})


def circle_from(fields: Fields) -> FaceCircle:
    """The circles of checked fields."""
    radius = fields.get("radius_mm")
    return FaceCircle(
        fields["face"],
        (float(fields["middle"][0]), float(fields["middle"][1])),
        None if radius is None else float(radius),
        tuple(float(share) for share in fields.get("shares", [1.0])),
        float(fields.get("start_deg", 0.0)),
        float(fields.get("sweep_deg", 360.0)),
        fields.get("through", False),
    )
