"""The report: everything the bench knows about a sheet, as plain floats (docs/report.md)."""

import json
from collections.abc import Sequence
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.judging.judging import judged
from isometron.document.edits.varying import differences, take_variant
from isometron.drawing.dimension_marks import ends_of
from isometron.drawing.page import seen_in
from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import clipped
from isometron.files.report_volumes import ids_of, number_or_none, told_of_round, told_of_volume
from isometron.files.sheet_form import FRAME
from isometron.files.volume_form import AID, MODULE
from isometron.perspective.cone import cone_radius
from isometron.perspective.eye import Eye, eye_level
from isometron.reading.sketch.noticed import sketch_read
from isometron.remarks.second_look import second_look

VERSION = 2


def report_of(document: Document, scene: Scene | None = None) -> dict[str, Any]:
    """The report of a document; lengths in mm, angles in degrees, frames as in GEOMETRY."""
    scene = scene or scene_of(document)
    ids = ids_of(document.volumes)
    seen = _of_view(document, scene, ids)
    return {
        "report": VERSION,
        "sheet": {
            "width_mm": document.sheet.width_mm,
            "height_mm": document.sheet.height_mm,
        },
        **seen,
        "views": [
            _view(document, number, seen if number == document.view else None, ids)
            for number in range(len(document.views))
        ],
        "modules": [MODULE.write(module) for module in document.modules],
        "aids": _aids(document, scene),
        "dimensions": _dimensions(document, ids),
        "intentions": _intentions(document, ids),
        "variants": _variants(document),
        "proportions": _proportions(document, ids),
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
        "remarks": [
            {
                "rule": remark.rule,
                "severity": remark.severity.word,
                "text": f"{remark.title}. {remark.text}".strip(),
                "value": remark.value,
                "unit": remark.unit,
                "sheet_mm": list(remark.sheet_mm),
            }
            for remark in second_look(sketch_read(document), scene)
        ],
    }


def _of_view(document: Document, scene: Scene, ids: Sequence[str]) -> dict[str, Any]:
    """What depends on the eye."""
    eye, cone = document.eye, document.choices.cone_deg
    return {
        "eye": told_of_eye(eye),
        "eye_level_mm": eye_level(eye),
        "cone": {
            "angle_deg": cone,
            "radius_mm": cone_radius(eye, cone),
        },
        **_lit(document, scene, ids),
        "rounds": [
            told_of_round(document, circle, ids[circle.volume]) for circle in all_circles(scene)
        ],
    }


def told_of_eye(eye: Eye) -> dict[str, Any]:
    """An eye, with the scale of a plan or elevation."""
    told: dict[str, Any] = {
        "x_mm": eye.x_mm,
        "y_mm": eye.y_mm,
        "height_mm": eye.height_mm,
        "heading_deg": eye.heading_deg,
        "tilt_deg": eye.tilt_deg,
        "station_distance_mm": eye.station_distance_mm,
        "centre_of_vision_mm": list(eye.centre_of_vision_mm),
    }
    told["projection"] = "curved" if eye.curved else "flat"
    return told if eye.parallel is None else told | {"parallel": eye.parallel}


def _view(
    document: Document, number: int, seen: dict[str, Any] | None, ids: Sequence[str]
) -> dict[str, Any]:
    """One view of the page: its name and frame, and what depends on its eye; of a plan or elevation
    where its corners are drawn."""
    view = document.views[number]
    told: dict[str, Any] = {
        "name": view.name,
        "frame": None if view.frame is None else FRAME.write(view.frame),
    }
    if seen is not None:
        return told | seen
    scene = scene_of(seen_in(document, number))
    if view.eye.parallel is None:
        return told | _of_view(seen_in(document, number), scene, ids)
    volumes = [
        {
            "id": known_as,
            "name": picture.volume.name,
            "corners": [
                {"world_mm": world, "sheet_mm": drawn}
                for world, drawn in zip(picture.world.tolist(), picture.sheet.tolist(), strict=True)
            ],
        }
        for picture, known_as in zip(scene.pictures, ids, strict=True)
    ]
    return told | {"eye": told_of_eye(view.eye), "volumes": volumes}


def _lit(document: Document, scene: Scene, ids: Sequence[str]) -> dict[str, Any]:
    """The volumes, and what the light makes of them."""
    volumes = [
        told_of_volume(document.eye, document.sheet.paper, picture, known_as)
        for picture, known_as in zip(scene.pictures, ids, strict=True)
    ]
    if document.light is None:
        return {"volumes": volumes, "light": None, "shadows": []}
    from isometron.files.report_light import shadows_of, told_of_light, with_light

    return {
        "volumes": with_light(volumes, document, scene),
        "light": told_of_light(document),
        "shadows": shadows_of(document, scene, ids),
    }


def report_text(document: Document) -> str:
    """The report as JSON text."""
    return json.dumps(report_of(document), indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def _dimensions(document: Document, ids: Sequence[str]) -> list[dict[str, Any]]:
    """The measures pinned to the sheet, each with its true length and where its ends are drawn;
    null where they are not."""
    known = {volume.key: name for volume, name in zip(document.volumes, ids, strict=True)}
    told = []
    for one in document.dimensions:
        ends = ends_of(document, one)
        if not known.keys() >= set(one.keys):
            continue
        told.append(
            {
                "volumes": [known[key] for key in one.keys],
                "true_mm": None if ends is None else ends[1],
                "ends_mm": None if ends is None else ends[0].tolist(),
                "off_mm": one.off_mm,
            }
        )
    return told


def _intentions(document: Document, ids: Sequence[str]) -> list[dict[str, Any]]:
    """What volumes are meant to be to each other, each in a sentence."""
    known = {volume.key: name for volume, name in zip(document.volumes, ids, strict=True)}
    parts = document.parts
    return [
        {
            "kind": one.word,
            "volumes": [known[key] for key in one.keys],
            "text": one.told(parts),
            "off_mm": number_or_none(one.miss_mm(parts)),
        }
        for one in document.intentions
        if parts.keys() >= set(one.keys)
    ]


def _variants(document: Document) -> list[dict[str, Any]]:
    """The versions of the framework, each with what differs in it from the one in hand."""
    return [
        {
            "name": one.name,
            "in_hand": number == document.variant,
            "differences": differences(document, take_variant(document, number)),
        }
        for number, one in enumerate(document.variants)
    ]


def _proportions(document: Document, ids: Sequence[str]) -> list[dict[str, Any]]:
    """Every measure that has a band, in its own unit, and how far it lies outside."""
    known = {volume.key: name for volume, name in zip(document.volumes, ids, strict=True)}
    return [
        {
            "of": one.band.of,
            "measure": one.band.what,
            "volume": known[one.key],
            "value": one.value,
            "unit": one.unit,
            "band": [one.low, one.high],
            "beyond": one.beyond,
        }
        for one in judged(document)
    ]


def _aids(document: Document, scene: Scene) -> list[dict[str, Any]]:
    """The drawing aids as a file has them, their lines in the world, and the parts seen."""
    told = []
    first, pieces = 0, scene.sight.pieces[-1]
    last = sum(len(aid.lines()[0]) for aid in document.aids)
    seen = np.flatnonzero(pieces.seen & (pieces.item < last))
    for aid in document.aids:
        starts, ends = aid.lines()
        mine = (pieces.item[seen] >= first) & (pieces.item[seen] < first + len(starts))
        told.append(
            AID.write(aid)
            | {
                "lines_mm": np.stack([starts, ends], axis=1).tolist(),
                "visible_mm": scene.aid_lines[mine].tolist(),
                "on_paper_mm": clipped(scene.aid_lines[mine], document.sheet.paper).tolist(),
            }
        )
        first += len(starts)
    return told
