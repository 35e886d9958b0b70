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
from isometron.drawing.rounds import DrawnCircle, all_circles
from isometron.drawing.scene import Scene, VolumePicture, scene_of
from isometron.files.volume_form import AID, MODULE, VOLUME, carried_fields
from isometron.framework.bodies.body import SECTION
from isometron.framework.volume import Volume
from isometron.perspective.cone import cone_radius, off_axis
from isometron.perspective.eye import Eye, eye_level
from isometron.remarks.second_look import second_look

VERSION = 2


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
        "modules": [MODULE.write(module) for module in document.modules],
        "aids": [AID.write(aid) for aid in document.aids],
        "joins": [
            {
                "volumes": [first, second],
                "lines_mm": [
                    [start, end]
                    for start, end in zip(
                        meeting.starts.tolist(), meeting.ends.tolist(), strict=True
                    )
                ],
                "arcs_mm": meeting.arcs.tolist(),
            }
            for (first, second), meeting in scene.meetings.items()
            if meeting.there
        ],
        "rounds": [_round(document, circle) for circle in all_circles(scene)],
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
        "kind": _kind(picture.volume),
        "called": picture.volume.called,
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
        "curves": _curves(picture),
        "lines": _mark_lines(picture),
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


def _kind(volume: Volume) -> str:
    """The kind as a file has it, with "cut" before it when something is cut away."""
    cut = volume.cuts and volume.shape.faceted(volume.sides) is not None
    return f"cut {volume.shape.word}" if cut else volume.shape.word


def _curves(picture: VolumePicture) -> list[dict[str, Any]]:
    """The arcs of a volume: homogeneous control points in world mm, and the parts seen."""
    return [
        {"control_mm": arc, "visible": [list(span) for span in parts]}
        for arc, parts in zip(picture.figure.arcs.tolist(), picture.visible_arcs, strict=False)
    ]


def _mark_lines(picture: VolumePicture) -> list[dict[str, Any]]:
    """The division marks and straight section lines of a volume, and the parts seen."""
    figure, first = picture.figure, len(picture.edges)
    rows = zip(
        figure.kinds[first:].tolist(),
        figure.starts[first:].tolist(),
        figure.ends[first:].tolist(),
        picture.visible_marks,
        strict=True,
    )
    return (
        [
            {
                "kind": "section" if kind == SECTION else "division",
                "world_mm": [start, end],
                "visible": [list(span) for span in parts],
            }
            for kind, start, end, parts in rows
        ]
        if picture.volume.shown
        else []
    )


def _round(document: Document, circle: DrawnCircle) -> dict[str, Any]:
    """One circle: its true size and place, its ellipse, and what rules and guides would cost."""
    picture, ellipse = circle.picture, circle.ellipse
    guide = circle.guide(document.kit)
    square = circle.square(document.eye)
    told: dict[str, Any] = {
        "name": f"{document.volumes[circle.volume].name}: {circle.name}",
        "kind": circle.role,
        "volume": circle.volume,
        "centre_mm": circle.centre.tolist(),
        "normal": circle.normal.tolist(),
        "radius_mm": circle.radius_mm,
        "circle_centre_on_sheet_mm": _place(picture.centre_mm),
        "axle_vanishing_point_mm": _place(picture.axle.sheet_mm),
        "axle_deg": picture.axle_deg,
        "minor_axis_miss_deg": picture.miss_deg,
        "rule_gap_mm": circle.rule_gap_mm(),
        "guide": None
        if guide is None
        else {
            "degree_deg": guide.degree_deg,
            "long_axis_mm": guide.long_axis_mm,
            "error_mm": guide.error_mm,
        },
        "square_mm": [_place(place) for place in square[:4]],
        "touching_mm": [_place(place) for place in square[4:8]],
        "on_diagonals_mm": [_place(place) for place in square[9:]],
        "ellipse": None,
        "state": picture.conic,
        "segment_mm": None if picture.segment_mm is None else [*map(_place, picture.segment_mm)],
    }
    if ellipse is None:
        passes = picture.conic in ("parabola", "hyperbola")
        return told | ({"conic": picture.conic} if passes else {})
    return told | {
        "ellipse": {
            "centre_mm": list(ellipse.centre_mm),
            "semi_major_mm": ellipse.semi_major_mm,
            "semi_minor_mm": ellipse.semi_minor_mm,
            "major_axis_deg": ellipse.major_axis_deg,
            "degree_deg": ellipse.degree_deg,
        }
    }


def _hanging(eye: Eye, picture: VolumePicture) -> dict[str, Any]:
    """True dimensions of a volume, and what they and its place hang on."""
    volume = picture.volume
    fields = VOLUME.write(volume)
    return {
        "sides_mm": list(volume.sides),
        "place_mm": list(volume.place),
        "turns_deg": [volume.yaw_deg, volume.pitch_deg, volume.roll_deg],
        "contents_mm3": volume.contents_mm3,
        "shown": volume.shown,
        "ghost": volume.ghost,
        **{name: fields[name] for name in carried_fields() if name in fields},
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
