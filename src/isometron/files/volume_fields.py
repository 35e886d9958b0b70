"""Volumes, modules and drawing aids as the fields of a sheet file (docs/file-format.md)."""

from typing import Any

from isometron.files.round_fields import (
    circle_fields,
    circle_from,
    round_fields,
    round_from,
)
from isometron.framework.aids import Aid
from isometron.framework.box import AXES
from isometron.framework.cuts import Cut
from isometron.framework.kinds.block import BLOCK, Block
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.marks import Mark
from isometron.framework.modules import Count, Module
from isometron.framework.placing import Anchor, Follow, Mirrored, Stepped, Swung
from isometron.framework.volume import UNCOUNTED, Counts, Volume

Fields = dict[str, Any]
LEANS = ("front", "back", "left", "right")
TURNS = ("yaw_deg", "pitch_deg", "roll_deg")


def fields_of(volume: Volume) -> Fields:
    """The fields of a volume; those that say nothing are left out."""
    fields: Fields = {
        "kind": volume.shape.word,
        "name": volume.name,
        "width_mm": volume.width_mm,
        "depth_mm": volume.depth_mm,
        "height_mm": volume.height_mm,
        "place_mm": list(volume.place),
        "yaw_deg": volume.yaw_deg,
    }
    if volume.tipped:
        fields |= {"pitch_deg": volume.pitch_deg, "roll_deg": volume.roll_deg}
    fields |= _shape_fields(volume.shape)
    if volume.cuts:
        fields["cuts"] = [_cut_fields(cut) for cut in volume.cuts]
    if volume.marks:
        fields["marks"] = [
            {"kind": m.kind, "index": m.index, "axis": m.axis, "shares": list(m.shares)}
            for m in volume.marks
        ]
    if volume.circles:
        fields["circles"] = [circle_fields(circle) for circle in volume.circles]
    if volume.counts != UNCOUNTED:
        fields["counts"] = {
            axis: _count_fields(count)
            for axis, count in zip(AXES, volume.counts, strict=True)
            if count is not None
        }
    if volume.on is not None:
        fields["on"] = {
            "parent": volume.on.parent,
            "shares": list(volume.on.shares),
            "offsets_mm": list(volume.on.offsets_mm),
            "turns_deg": list(volume.on.turns_deg),
        }
    if volume.like is not None:
        fields["like"] = _like_fields(volume.like)
    fields["key"] = volume.key
    fields |= {"group": volume.group} if volume.group else {}
    fields |= {} if volume.shown else {"shown": False}
    fields |= {"ghost": True} if volume.ghost else {}
    fields |= {"locked": True} if volume.locked else {}
    fields |= {} if volume.see_through is None else {"see_through": volume.see_through}
    return fields


def volume_from(fields: Fields, number: int) -> Volume:
    """The volume of checked fields; `number` is its key when the file gives none."""
    x, y, z = (float(v) for v in fields["place_mm"])
    yaw, pitch, roll = (float(fields.get(turn, 0.0)) for turn in TURNS)
    return Volume(
        fields["name"],
        float(fields["width_mm"]),
        float(fields["depth_mm"]),
        float(fields["height_mm"]),
        x,
        y,
        z,
        yaw,
        pitch,
        roll,
        shape=_shape_from(fields),
        cuts=tuple(_cut_from(cut) for cut in fields.get("cuts", [])),
        marks=tuple(
            Mark(m["kind"], m["index"], m["axis"], tuple(float(s) for s in m["shares"]))
            for m in fields.get("marks", [])
        ),
        circles=tuple(circle_from(circle) for circle in fields.get("circles", [])),
        counts=_counts_from(fields.get("counts", {})),
        on=_anchor_from(fields["on"]) if "on" in fields else None,
        like=_like_from(fields["like"]) if "like" in fields else None,
        group=fields.get("group", ""),
        key=fields.get("key", number),
        shown=fields.get("shown", True),
        ghost=fields.get("ghost", False),
        locked=fields.get("locked", False),
        see_through=fields.get("see_through"),
    )


def _shape_fields(shape: Kind) -> Fields:
    if isinstance(shape, Taper):
        return {"lean_mm": dict(zip(LEANS, shape.insets, strict=True))}
    if isinstance(shape, Plan):
        outline = [list(point) for point in shape.corners]
        return {
            "plan": {"outline": outline, "corner_mm": shape.corner_mm, "rounded": shape.rounded}
        }
    return round_fields(shape)


def _shape_from(fields: Fields) -> Kind:
    if "lean_mm" in fields:
        return Taper(*(float(fields["lean_mm"][side]) for side in LEANS))
    if "plan" in fields:
        plan = fields["plan"]
        outline = tuple((float(x), float(y)) for x, y in plan["outline"])
        return Plan(outline, float(plan["corner_mm"]), plan["rounded"])
    return round_from(fields) or Block()


def _cut_fields(cut: Cut) -> Fields:
    fields: Fields = {"low": list(cut.low), "high": list(cut.high)}
    fields |= {turn: getattr(cut, turn) for turn in TURNS if getattr(cut, turn)}
    return fields | (_shape_fields(cut.shape) if cut.shape != BLOCK else {})


def _cut_from(fields: Fields) -> Cut:
    yaw, pitch, roll = (float(fields.get(turn, 0.0)) for turn in TURNS)
    return Cut(
        _three(fields["low"]),
        _three(fields["high"]),
        yaw,
        pitch,
        roll,
        shape=_shape_from(fields),
    )


def _count_fields(count: Count) -> Fields:
    return {"number": count.number, "of": count.of}


def _counts_from(fields: Fields) -> Counts:
    width, depth, height = (
        Count(float(fields[axis]["number"]), fields[axis]["of"]) if axis in fields else None
        for axis in AXES
    )
    return width, depth, height


def _anchor_from(fields: Fields) -> Anchor:
    return Anchor(
        fields["parent"],
        _three(fields["shares"]),
        _three(fields["offsets_mm"]),
        _three(fields["turns_deg"]),
    )


def _like_fields(like: Follow) -> Fields:
    if isinstance(like, Mirrored):
        return {"how": "mirrored", "source": like.source, "about": like.about, "axis": like.axis}
    fields: Fields = {"source": like.source, "count": like.count}
    if isinstance(like, Stepped):
        return {"how": "stepped", **fields, "step_mm": list(like.step_mm)}
    return {
        "how": "swung",
        **fields,
        "about_mm": list(like.about_mm),
        "axis": like.axis,
        "angle_deg": like.angle_deg,
    }


def _like_from(fields: Fields) -> Follow:
    source = fields["source"]
    if fields["how"] == "mirrored":
        return Mirrored(source, fields["about"], fields["axis"])
    if fields["how"] == "stepped":
        return Stepped(source, fields["count"], _three(fields["step_mm"]))
    about = _three(fields["about_mm"])
    return Swung(source, fields["count"], about, fields["axis"], float(fields["angle_deg"]))


def module_fields(module: Module) -> Fields:
    """The fields of a module."""
    fields: Fields = {"name": module.name, "mm": module.mm}
    return fields if module.count is None else fields | {"count": _count_fields(module.count)}


def module_from(fields: Fields) -> Module:
    """The module of checked fields."""
    count = fields.get("count")
    counted = None if count is None else Count(float(count["number"]), count["of"])
    return Module(fields["name"], float(fields["mm"]), counted)


def aid_fields(aid: Aid) -> Fields:
    """The fields of a drawing aid."""
    return {
        "kind": aid.kind,
        "place_mm": list(aid.place_mm),
        "yaw_deg": aid.yaw_deg,
        "height_mm": aid.height_mm,
        "wide_mm": aid.wide_mm,
    }


def aid_from(fields: Fields) -> Aid:
    """The drawing aid of checked fields."""
    x, y = (float(v) for v in fields["place_mm"])
    yaw, height, wide = (float(fields[key]) for key in ("yaw_deg", "height_mm", "wide_mm"))
    return Aid(fields["kind"], (x, y), yaw, height, wide)


def _three(values: list[float]) -> tuple[float, float, float]:
    x, y, z = (float(v) for v in values)
    return x, y, z
