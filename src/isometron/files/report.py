"""The report: everything the bench knows about a sheet, as plain floats (docs/report.md)."""

import json
import math
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.drawing.measures import (
    directions_of,
    edge_measures,
    kind_of_view,
    measuring_point_of,
    sloping_points,
)
from isometron.drawing.scene import Scene, VolumePicture, scene_of
from isometron.files.volume_fields import aid_fields, fields_of, module_fields
from isometron.perspective.cone import cone_radius, off_axis
from isometron.perspective.eye import Eye, eye_level
from isometron.remarks.second_look import second_look

VERSION = 1


def report_of(document: Document, scene: Scene | None = None) -> dict[str, Any]:
    """The report of a document; lengths in mm, angles in degrees, frames as in GEOMETRY."""
    scene = scene or scene_of(document)
    eye = document.eye
    cone = document.choices.cone_deg
    return {
        "report": VERSION,
        "sheet": {
            "width_mm": document.sheet.width_mm,
            "height_mm": document.sheet.height_mm,
        },
        "eye": {
            "x_mm": eye.x_mm,
            "y_mm": eye.y_mm,
            "height_mm": eye.height_mm,
            "heading_deg": eye.heading_deg,
            "tilt_deg": eye.tilt_deg,
            "station_distance_mm": eye.station_distance_mm,
            "centre_of_vision_mm": list(eye.centre_of_vision_mm),
        },
        "eye_level_mm": eye_level(eye),
        "cone": {
            "angle_deg": cone,
            "radius_mm": cone_radius(eye.station_distance_mm, cone),
        },
        "volumes": [_volume(eye, picture) for picture in scene.pictures],
        "modules": [module_fields(module) for module in document.modules],
        "aids": [aid_fields(aid) for aid in document.aids],
        "joins": [
            {
                "volumes": [first, second],
                "lines_mm": [
                    [start, end]
                    for start, end in zip(join.starts.tolist(), join.ends.tolist(), strict=True)
                ],
            }
            for (first, second), join in scene.joins.items()
            if len(join.starts)
        ],
        "rounds": [],
        "remarks": [
            {
                "rule": remark.rule,
                "severity": remark.severity.word,
                "text": f"{remark.title}. {remark.text}".strip(),
                "value": remark.value,
                "unit": remark.unit,
                "sheet_mm": list(remark.sheet_mm),
            }
            for remark in second_look(document, scene)
        ],
    }


def report_text(document: Document) -> str:
    """The report as JSON text."""
    return json.dumps(report_of(document), indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def _volume(eye: Eye, picture: VolumePicture) -> dict[str, Any]:
    measures = edge_measures(eye, picture)
    angles = off_axis(eye, picture.sheet)
    directions = directions_of(eye, picture)
    return {
        "name": picture.volume.name,
        "kind": picture.volume.kind,
        "view": kind_of_view(directions),
        **_hanging(eye, picture),
        "corners": [
            {
                "world_mm": picture.world[i].tolist(),
                "sheet_mm": _place(picture.sheet[i]),
                "depth_mm": float(picture.depth[i]),
                "off_axis_deg": _number(angles[i]),
            }
            for i in range(len(picture.world))
        ],
        "edges": [
            {
                "from": int(picture.edges[i, 0]),
                "to": int(picture.edges[i, 1]),
                "true_mm": float(measures.true_mm[i]),
                "drawn_mm": _number(measures.drawn_mm[i]),
                "foreshortening": _number(measures.foreshortening[i]),
                "paper_angle_deg": _number(measures.paper_angle_deg[i]),
                "visible": [list(span) for span in picture.visible[i]],
            }
            for i in range(len(picture.edges))
        ],
        "vanishing_points": [
            {
                "direction": list(direction.world),
                "sheet_mm": _place(direction.vanishing.sheet_mm),
                "measuring_point_mm": _place(measuring_point_of(eye, picture, direction.axis)),
                "names": [direction.family] if direction.family else [],
            }
            for direction in directions
        ],
    }


def _hanging(eye: Eye, picture: VolumePicture) -> dict[str, Any]:
    """True dimensions of a volume, and what they and its place hang on."""
    volume = picture.volume
    fields = fields_of(volume)
    names = ("key", "group", "counts", "on", "like", "lean_mm", "plan", "cuts", "marks")
    return {
        "sides_mm": list(volume.sides),
        "place_mm": list(volume.place),
        "turns_deg": [volume.yaw_deg, volume.pitch_deg, volume.roll_deg],
        "contents_mm3": volume.solid.volume_mm3,
        "shown": volume.shown,
        "ghost": volume.ghost,
        **{name: fields[name] for name in names if name in fields},
        "sloping_points": [
            {"direction": list(point.world), "sheet_mm": list(point.sheet_mm), "above": point.above}
            for point in sloping_points(eye, picture)
        ],
    }


def _number(value: float) -> float | None:
    return float(value) if math.isfinite(value) else None


def _place(place: Any) -> list[float] | None:
    if place is None or not np.isfinite(place).all():
        return None
    return [float(v) for v in place]
