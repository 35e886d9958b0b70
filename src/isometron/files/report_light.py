"""What a report says of the light: its points, shadows, and the values of faces."""

from collections import defaultdict
from collections.abc import Sequence
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.drawing.measures import face_middle
from isometron.drawing.scene import Scene
from isometron.drawing.shading.areas import (
    GROUND,
    Area,
    areas_of,
    eye_chart,
    rings_of,
)
from isometron.drawing.shading.light_points import (
    VanishingPoint,
    ground_shadows,
    ray_point,
    shadow_point,
)
from isometron.drawing.shading.outlines import outlines_of, shadow_in_plane
from isometron.drawing.shading.receivers import on_sheet, receivers_of, shadow_on
from isometron.drawing.shading.values import lightness, value_of
from isometron.drawing.volume_picture import VolumePicture
from isometron.files.report_volumes import place_or_none
from isometron.files.sheet_form import LIGHT
from isometron.framework.bodies.body import is_straight
from isometron.hiding.areas import skin_of
from isometron.perspective.eye import Array
from isometron.perspective.projection import project

Fields = dict[str, Any]


def told_of_light(document: Document) -> Fields | None:
    """The light as in the sheet file, with the two points that shadows are built with."""
    light = document.light
    if light is None:
        return None
    told: Fields = LIGHT.write(light)
    told["shadow_vanishing_point"] = _point(shadow_point(document.eye, light))
    told["ray_vanishing_point"] = _point(ray_point(document.eye, light))
    return told


def _point(point: VanishingPoint | None) -> Fields | None:
    if point is None:
        return None
    at = None if point.sheet_mm is None else list(point.sheet_mm)
    return {"sheet_mm": at, "direction": list(point.direction)}


def with_light(volumes: list[Fields], document: Document, scene: Scene) -> list[Fields]:
    """Volumes as reported, with the shadows of their corners and the values of their faces."""
    light = document.light
    if light is None:
        return volumes
    by_face: dict[tuple[int, int], list[Area]] = defaultdict(list)
    for area in areas_of(document, scene):
        by_face[area.volume, area.face].append(area)
    for number, (volume, picture) in enumerate(zip(volumes, scene.pictures, strict=True)):
        shadows = ground_shadows(light, np.asarray(picture.world, dtype=float))
        drawn = project(document.eye, np.nan_to_num(shadows)).sheet
        for corner, place, at in zip(volume["corners"], shadows, drawn, strict=True):
            there = bool(np.isfinite(place).all())
            corner["shadow_mm"] = place.tolist() if there else None
            corner["shadow_sheet_mm"] = place_or_none(at) if there else None
        for face, told in enumerate(volume["faces"]):
            told.update(_value(document, scene, picture, face, by_face[number, face]))
    return volumes


def _value(
    document: Document, scene: Scene, picture: VolumePicture, face: int, areas: list[Area]
) -> Fields:
    """Lightness, step, area and outline of what is seen of a face."""
    light = document.light
    assert light is not None
    normal = picture.figure.normals[face][None]
    cosine = float(lightness(light, normal, face_middle(picture, face)[None])[0])
    steps = document.shading.steps
    step = next((area.step for area in areas if area.kind == "face"), None)
    return {
        "lightness": max(cosine, 0.0),
        "value": None if step is None else value_of(step, steps),
        "step": step,
        "drawn_area_mm2": float(sum(area.mm2 for area in areas)),
        "visible_outline_mm": [
            [ring.tolist() for ring in polygon] for area in areas for polygon in area.rings()
        ],
        "visible_outline": [
            polygon for area in areas for polygon in _outline(outlines_of(scene, light, area))
        ],
    }


def _pieces(arcs: Array) -> list[Fields]:
    """A ring of arcs (n, 3, k) in words: where each begins and ends, and of a conic the control
    point, homogeneous with end weights of 1."""
    weight = arcs[..., -1]
    ends = arcs[:, [0, 2], :-1] / weight[:, [0, 2], None]
    middle = arcs[:, 1] / np.sqrt(weight[:, 0] * weight[:, 2])[:, None]
    told = []
    for (start, end), control, level in zip(ends, middle, is_straight(arcs), strict=True):
        piece: Fields = {"from": start.tolist(), "to": end.tolist()}
        told.append(piece if level else piece | {"control": control.tolist()})
    return told


def shadows_of(document: Document, scene: Scene, ids: Sequence[str]) -> list[Fields]:
    """Every cast shadow: what casts it (null where several do), what receives it, and its outlines
    on the sheet and in the world."""
    light = document.light
    if light is None or not document.shading.shadows:
        return []
    found: list[Fields] = []
    chart = eye_chart(scene.eye)
    figures = [picture.figure for picture in scene.pictures]
    for place, receiver in enumerate(receivers_of(scene.aids, chart.origin)):
        for number, picture in enumerate(scene.pictures):
            if not picture.volume.shown or picture.volume.ghost:
                continue
            shape = shadow_on(receiver, skin_of(figures, [number]), light)
            if shape is None or shape.is_empty:
                continue
            drawn = Area("cast", GROUND, place, 0, on_sheet(chart, receiver, shape), 0.0)
            found.append(
                {
                    "casts": ids[number],
                    "receives": receiver.name,
                    "face": None,
                    "outline_mm": _rings(drawn),
                    "outline": _outline(outlines_of(scene, light, drawn)),
                    "world_mm": [
                        [receiver.world(ring).tolist() for ring in polygon]
                        for polygon in rings_of(shape)
                    ],
                    "world_outline": _outline(shadow_in_plane(scene, light, receiver, shape)),
                }
            )
    found += [
        {
            "casts": None,
            "receives": ids[area.volume],
            "face": area.face,
            "outline_mm": _rings(area),
            "outline": _outline(outlines_of(scene, light, area)),
            "world_mm": None,
            "world_outline": None,
        }
        for area in areas_of(document, scene)
        if area.kind == "shadow"
    ]
    return found


def _outline(polygons: list[list[Array]]) -> list[list[list[Fields]]]:
    return [[_pieces(ring) for ring in polygon] for polygon in polygons]


def _rings(area: Area) -> list[list[list[list[float]]]]:
    return [[ring.tolist() for ring in polygon] for polygon in area.rings()]
