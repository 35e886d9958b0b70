"""What the report tells of volumes, their planes and their rounds (docs/report.md)."""

import math
from collections import Counter
from collections.abc import Sequence
from functools import partial
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.drawing.curves import clipped_arcs
from isometron.drawing.measures import (
    angle_of_sight,
    directions_of,
    edge_measures,
    face_foreshortening,
    face_middle,
    kind_of_view,
    measuring_point_of,
    sloping_points,
    true_area,
)
from isometron.drawing.rounds import DrawnCircle
from isometron.drawing.strokes import clipped
from isometron.drawing.volume_picture import SeenParts, VolumePicture
from isometron.files.volume_form import VOLUME, carried_fields
from isometron.framework.bodies.body import SECTION, Body
from isometron.framework.volume import Volume
from isometron.perspective.cone import off_sight_line
from isometron.perspective.curved import place_points
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.places import Rectangle
from isometron.perspective.projection import project
from isometron.perspective.vanishing import (
    diagonal_point,
    measuring_point,
    vanishing_line,
    vanishing_point,
)

PLANES = {"width, depth": (0, 1), "width, height": (0, 2), "depth, height": (1, 2)}
"""The planes of a volume, by the two own directions each is spanned by."""

ONE_WAY = 1e-9
"""A face whose normal is this near an own axis is called after that side."""

SIDES = ("left", "right", "front", "back", "base", "top")

Fields = dict[str, Any]


def ids_of(volumes: Sequence[Volume]) -> list[str]:
    """A name for every volume that no other has: its own, with its key where it is shared (or
    looks as if it had one)."""
    counts = Counter(volume.name for volume in volumes)
    return [
        f"{volume.name} #{volume.key}"
        if counts[volume.name] > 1 or "#" in volume.name
        else volume.name
        for volume in volumes
    ]


def told_of_volume(eye: Eye, paper: Rectangle, picture: VolumePicture, known_as: str) -> Fields:
    """One volume: what it is, and its corners, edges, faces, curves, planes and points."""
    directions = directions_of(eye, picture)
    extent = picture.extent
    return {
        "name": picture.volume.name,
        "id": known_as,
        "kind": _kind(picture.volume),
        "called": picture.volume.called,
        "view": kind_of_view(directions),
        **_hanging(eye, picture),
        "bounds_mm": extent.tolist() if extent[0] <= extent[2] else None,
        "corners": _corners(eye, picture),
        "edges": _edges(eye, paper, picture),
        "faces": _faces(eye, picture),
        "curves": [
            {"control_mm": arc, **_seen_arc(paper, parts)}
            for arc, parts in zip(picture.figure.arcs.tolist(), picture.seen_arcs, strict=False)
        ],
        "outlines": [
            {"control_mm": arc, **_seen_arc(paper, parts)}
            for arc, parts in zip(picture.outlines.tolist(), picture.seen_outlines, strict=True)
        ],
        "lines": _mark_lines(eye, paper, picture),
        "vanishing_points": [
            {
                "direction": list(direction.world),
                "sheet_mm": place_or_none(direction.vanishing.sheet_mm),
                "measuring_point_mm": None
                if eye.curved
                else place_or_none(measuring_point_of(eye, picture, direction.axis)),
                "names": [direction.family] if direction.family else [],
                **_sense(eye, direction.world),
            }
            for direction in directions
        ],
        "planes": [_plane(eye, picture, name) for name in PLANES],
    }


def told_of_round(document: Document, circle: DrawnCircle, known_as: str) -> Fields:
    """One circle: its true size and place, its ellipse, and what rules and guides would cost."""
    picture, ellipse = circle.picture, circle.ellipse
    guide = circle.guide(document.kit)
    square = circle.square(document.eye)
    face, outward = _face_under(document.volumes[circle.volume], circle.number)
    told: Fields = {
        "name": f"{document.volumes[circle.volume].name}: {circle.name}",
        "id": f"{known_as}: {circle.number}",
        "kind": circle.role,
        "volume": circle.volume,
        "number": circle.number,
        "face": face,
        "centre_mm": circle.centre.tolist(),
        "normal": circle.normal.tolist(),
        "outward": outward,
        "radius_mm": circle.radius_mm,
        "circle_centre_on_sheet_mm": place_or_none(picture.centre_mm),
        "axle_vanishing_point_mm": place_or_none(picture.axle.sheet_mm),
        "axle_deg": picture.axle_deg,
        "minor_axis_miss_deg": picture.miss_deg,
        "rule_gap_mm": circle.rule_gap_mm(),
        "curve_gap_mm": picture.gap_mm,
        "guide": None
        if guide is None
        else {
            "degree_deg": guide.degree_deg,
            "long_axis_mm": guide.long_axis_mm,
            "error_mm": guide.error_mm,
            "larger_than_all": guide.larger,
        },
        "square_mm": [place_or_none(place) for place in square[:4]],
        "touching_mm": [place_or_none(place) for place in square[4:8]],
        "on_diagonals_mm": [place_or_none(place) for place in square[9:]],
        "ellipse": None,
        "state": picture.conic,
        "segment_mm": None
        if picture.segment_mm is None
        else [*map(place_or_none, picture.segment_mm)],
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


def number_or_none(value: float) -> float | None:
    """A plain number; None for one that is none."""
    return float(value) if math.isfinite(value) else None


def place_or_none(place: Any) -> list[float] | None:
    """A place as a list; None when there is none."""
    if place is None or not np.isfinite(place).all():
        return None
    return [float(v) for v in place]


def ends_on_sheet(eye: Eye, start: Array, end: Array) -> list[list[float] | None]:
    """The two ends of a line on the sheet, each None behind the eye."""
    return [place_or_none(place) for place in project(eye, np.stack([start, end])).sheet]


def _kind(volume: Volume) -> str:
    """The kind as a file has it, with "cut" before it when something is cut away."""
    cut = (volume.cuts or volume.edgings) and volume.shape.faceted(volume.sides) is not None
    return f"cut {volume.shape.word}" if cut else volume.shape.word


def _corners(eye: Eye, picture: VolumePicture) -> list[Fields]:
    angles = off_sight_line(eye, picture.world)
    curved = place_points(eye, picture.world).sheet
    seen = set(picture.seen_corners.tolist())
    return [
        {
            "world_mm": picture.world[i].tolist(),
            "sheet_mm": place_or_none(picture.sheet[i]),
            "depth_mm": float(picture.depth[i]),
            "off_axis_deg": number_or_none(angles[i]),
            "curved_mm": place_or_none(curved[i]),
            "visible": i in seen,
        }
        for i in range(len(picture.world))
    ]


def _edges(eye: Eye, paper: Rectangle, picture: VolumePicture) -> list[Fields]:
    measures = edge_measures(eye, picture)
    return [
        {
            "from": int(picture.edges[i, 0]),
            "to": int(picture.edges[i, 1]),
            "faces": _surfaces(picture.body, picture.body.edge_faces[i].tolist()),
            "true_mm": float(measures.true_mm[i]),
            "drawn_mm": number_or_none(measures.drawn_mm[i]),
            "foreshortening": number_or_none(measures.foreshortening[i]),
            "paper_angle_deg": number_or_none(measures.paper_angle_deg[i]),
            **_seen_line(paper, picture.seen_edges[i]),
        }
        for i in range(len(picture.edges))
    ]


def _surfaces(body: Body, numbers: Sequence[int]) -> list[int | None]:
    """Numbers of faces; None for a surface that bends, or none."""
    return [number if 0 <= number < body.faces else None for number in numbers]


def _seen_line(paper: Rectangle, parts: SeenParts) -> Fields:
    return {
        "visible": [list(span) for span in parts.spans],
        "visible_mm": parts.drawn.tolist(),
        "on_paper_mm": clipped(parts.drawn, paper).tolist(),
    }


def _seen_arc(paper: Rectangle, parts: SeenParts) -> Fields:
    return {
        "visible": [list(span) for span in parts.spans],
        "visible_mm": parts.drawn.tolist(),
        "on_paper_mm": clipped_arcs(parts.drawn, paper).tolist(),
    }


def _faces(eye: Eye, picture: VolumePicture) -> list[Fields]:
    names = face_names(picture.body)
    turned = picture.shown
    return [
        {
            "name": names[face],
            "outward": picture.figure.normals[face].tolist(),
            "middle_mm": face_middle(picture, face).tolist(),
            "true_mm2": true_area(picture, face),
            "turned_to_us": bool(turned[face]),
            "angle_of_sight_deg": angle_of_sight(eye, picture, face),
            "foreshortening": face_foreshortening(eye, picture, face),
        }
        for face in range(picture.body.faces)
    ]


def face_names(body: Body) -> list[str]:
    """A name for every face that no other face of the body has: the side it is turned to where it
    lies square to an own axis ("left", "right", "front", "back", "base", "top"), else "sloping";
    where several are turned alike, numbered from the outermost in."""
    names = ["sloping"] * body.faces
    for side, name in enumerate(SIDES):
        axis, sign = divmod(side, 2)
        along = np.abs(body.normals[:, axis] - (2 * sign - 1)) <= ONE_WAY
        for face in np.flatnonzero(along).tolist():
            names[face] = name
    order = sorted(range(body.faces), key=lambda face: (-float(body.offsets[face]), face))
    found: list[str] = [""] * body.faces
    counts: dict[str, int] = {}
    for face in order:
        name = names[face]
        counts[name] = counts.get(name, 0) + 1
        found[face] = name if counts[name] == 1 else f"{name} {counts[name]}"
    return found


def _mark_lines(eye: Eye, paper: Rectangle, picture: VolumePicture) -> list[Fields]:
    """The division marks and straight section lines of a volume, and the parts seen."""
    if not picture.volume.shown:
        return []
    figure, first = picture.figure, len(picture.edges)
    marks = picture.volume.drawn_marks
    place = partial(_division_place, picture)
    rows = zip(
        figure.kinds[first : first + len(marks.mark)].tolist(),
        figure.starts[first : first + len(marks.mark)],
        figure.ends[first : first + len(marks.mark)],
        picture.seen_marks[: len(marks.mark)],
        marks.mark.tolist(),
        marks.share.tolist(),
        strict=True,
    )
    return [
        {
            "kind": "section" if kind == SECTION else "division",
            "mark": mark,
            "share": share,
            "world_mm": [start.tolist(), end.tolist()],
            "sheet_mm": ends_on_sheet(eye, start, end),
            **place(mark, start),
            **_seen_line(paper, parts),
        }
        for kind, start, end, parts, mark, share in rows
    ]


def _division_place(picture: VolumePicture, number: int, start: Array) -> Fields:
    """Where the division of an edge lies: the end of its tick that is on the edge."""
    if picture.volume.marks[number].kind != "edge":
        return {}
    place = start[None]
    return {
        "edge": picture.volume.marks[number].index,
        "division_mm": start.tolist(),
        "division_on_sheet_mm": place_or_none(project(picture.eye, place).sheet[0]),
    }


def _sense(eye: Eye, direction: Sequence[float]) -> Fields:
    """Which way a direction runs on the paper, and whether away from us (1), towards us (−1) or
    neither (0: its point lies at infinity)."""
    point = vanishing_point(eye, np.array(direction))
    right, up, ahead = (float(v) for v in sight_axes(eye) @ np.array(direction))
    size = math.hypot(right, up)
    across = point.at_infinity or abs(ahead) < ONE_WAY
    sense = 0 if across else (1 if ahead > 0 else -1)
    return {
        "paper_direction": [right / size, up / size] if size > 0 else None,
        "sense": sense,
    }


def _plane(eye: Eye, picture: VolumePicture, name: str) -> Fields:
    """One of the three planes of a volume: its vanishing line, the vanishing points of the two
    diagonals of its squares, and the measuring points of its two directions in it."""
    axes = picture.volume.axes()
    one, other = (axes[axis] for axis in PLANES[name])
    normal = np.cross(one, other)
    line = vanishing_line(eye, normal)
    if eye.curved and abs(float(normal @ sight_axes(eye)[2])) > ONE_WAY:
        line = None  # a curve: only one through the centre of vision stays straight
    return {
        "plane": name,
        "normal": normal.astype(float).tolist(),
        "vanishing_line": None if line is None else list(line),
        "diagonals": [_diagonal(eye, one, other), _diagonal(eye, one, -other)],
        "measuring_points_mm": [
            _measured_at(eye, one, other),
            _measured_at(eye, other, one),
        ],
    }


def _measured_at(eye: Eye, one: Array, other: Array) -> list[float] | None:
    """The measuring point of a direction in the plane of both; None on a curved sheet, where no
    ruler measures."""
    return None if eye.curved else place_or_none(measuring_point(eye, one, other))


def _diagonal(eye: Eye, one: Array, other: Array) -> Fields:
    along = ((one + other) / math.sqrt(2.0)).astype(float).tolist()
    return {
        "direction": along,
        "sheet_mm": place_or_none(diagonal_point(eye, one, other).sheet_mm),
        **_sense(eye, along),
    }


def _face_under(volume: Volume, number: int) -> tuple[int | None, list[float] | None]:
    """The plane face a circle lies on, and its outward normal in the world; None for a circle in
    space, or round a surface that bends."""
    body = volume.body
    circle = body.circles[number]
    on = body.arc_faces[circle.first : circle.last]
    for face in on[(on >= 0) & (on < body.faces)].tolist():
        normal = body.normals[face]
        away = abs(float(normal @ circle.centre - body.offsets[face]))
        if away <= ONE_WAY * max(circle.radius_mm, 1.0) and (
            abs(abs(float(normal @ circle.normal)) - 1) <= ONE_WAY
        ):
            return int(face), (normal @ volume.pose[1]).tolist()
    return None, None


def _hanging(eye: Eye, picture: VolumePicture) -> Fields:
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
