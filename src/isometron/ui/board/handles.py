"""Handles on the board: where each is, what a drag to here means, and what stays meanwhile."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

import numpy as np

from isometron.document.document import Document
from isometron.document.edits import eye_edits, profiles, sliding, volume_edits
from isometron.document.edits.proportioning import bounds_of_chosen, stretch_bounds
from isometron.document.edits.sliding import Slid
from isometron.document.near_edge import drawn_place, far_edge, near_edge, near_edge_world
from isometron.drawing.measures import directions_of, near_edge_number
from isometron.drawing.readings import Pick
from isometron.drawing.scene import Scene, VolumePicture
from isometron.framework.volume import Volume
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array, eye_level
from isometron.perspective.hand_setup import NearEdge
from isometron.perspective.lengths import write_length
from isometron.perspective.projection import project
from isometron.perspective.sheet import Sheet

Point = tuple[float, float]
Drag = Callable[[Document, Point], Document]
Slide = Callable[[Document, Point, bool], Slid]


@dataclass(frozen=True)
class Handle:
    """Something on the board that can be taken hold of.

    shape: level, point, cross, ring, bar or far. place: sheet mm. drag: the edit for a document
    before the drag and the sheet place dragged to; shifted: the same with Shift held, if it means
    something else. stays and shift_stays say it in words.
    """

    key: str
    title: str
    shape: str
    place: Point
    drag: Drag
    stays: str
    family: str = ""
    pick: Pick | None = None
    shifted: Drag | None = None
    shift_stays: str = ""
    line: tuple[Point, Point] | None = None
    slides: Slide | None = None
    shift_slides: Slide | None = None
    mm: Callable[[Document], float] | None = None


def handles_of(document: Document, scene: Scene) -> list[Handle]:
    """All handles of a document, the most particular first."""
    return [
        *_near_edge_handles(document, scene),
        *_point_handles(document, scene),
        *_bounds_handles(document),
        *_knot_handles(document),
        *_far_edge_handles(document, scene),
        *_eye_handles(document),
    ]


def _near_edge_handles(document: Document, scene: Scene) -> list[Handle]:
    edge, lead = near_edge(document), document.volume
    if edge is None or lead is None:
        return []
    try:
        top = drawn_place(document.eye, near_edge_world(document.eye, lead)[1])
    except IsometronError:
        return []
    index = document.selected or 0
    number = near_edge_number(document.eye, scene.pictures[index])
    pick = None if number is None else Pick("edge", index, number)
    return [
        Handle(
            "near top",
            "Near edge, top end",
            "bar",
            top,
            eye_edits.pull_near_edge_top,
            "foot, vanishing points and true measures stay; Shift changes the true height",
            pick=pick,
            shifted=lambda document, to: volume_edits.slide_far_edge(document, 2, 0.0, to),
            shift_stays="the eye stays; the true height changes",
            line=(edge.corner_mm, top),
        ),
        Handle(
            "near foot",
            "Near edge, lower end",
            "bar",
            edge.corner_mm,
            eye_edits.pull_near_edge_foot,
            "top end, vanishing points and true measures stay",
            pick=pick,
            line=(top, edge.corner_mm),
        ),
        Handle(
            "near corner",
            "Near corner",
            "ring",
            edge.corner_mm,
            eye_edits.place_near_corner,
            "vanishing points and the drawn near edge stay; the eye moves",
            pick=pick,
        ),
    ]


def _point_handles(document: Document, scene: Scene) -> list[Handle]:
    level = eye_level(document.eye)
    found: list[Handle] = []
    index = document.selected or 0
    for family, place in vanishing_places(document, scene).items():
        pick = Pick("point", index, family=family) if document.volumes else None
        drag, stays = POINT_DRAGS[family]
        if family == "centre" and level is None:
            continue
        found.append(
            Handle(
                f"vp {family}",
                POINT_NAMES[family],
                "point",
                place,
                drag,
                stays,
                family=family,
                pick=pick,
            )
        )
    return found


POINT_DRAGS: dict[str, tuple[Drag, str]] = {
    "left": (
        lambda document, to: eye_edits.move_left_point(document, to[0]),
        "near edge, VP right and centre of vision stay",
    ),
    "right": (
        lambda document, to: eye_edits.move_right_point(document, to[0]),
        "near edge, VP left and centre of vision stay",
    ),
    "third": (
        lambda document, to: eye_edits.move_third_point(document, to[1]),
        "near edge and the points on the eye level stay; the eye tilts",
    ),
    "centre": (
        eye_edits.move_centre_of_vision,
        "near edge and station distance stay; the eye moves sideways",
    ),
}
POINT_NAMES = {"left": "VP left", "right": "VP right", "centre": "VP", "third": "Third point"}


def vanishing_places(document: Document, scene: Scene) -> dict[str, Point]:
    """Place of each vanishing point that is not at infinity, by family, for the volume in work
    or, on an empty sheet, for the lie of the set-up."""
    if scene.pictures and not scene.pictures[document.selected or 0].volume.tipped:
        directions = directions_of(document.eye, scene.pictures[document.selected or 0])
        places = {d.family: d.vanishing.sheet_mm for d in directions if d.family}
        return {family: place for family, place in places.items() if place is not None}
    return eye_edits.points_of_setup(document)


def _far_edge_handles(document: Document, scene: Scene) -> list[Handle]:
    if document.selected is None:
        return []
    picture = scene.pictures[document.selected]
    found = []
    for axis, side in ((0, "width"), (1, "depth")):
        far = far_edge(document.eye, picture.volume, axis)
        ends = project(document.eye, np.array([*far, (far[0] + far[1]) / 2]))
        if not ends.seen.all():
            continue
        (ax, ay), (bx, by), (x, y) = ends.sheet.tolist()

        def slide(document: Document, to: Point, axis: int = axis) -> Document:
            return volume_edits.slide_far_edge(document, axis, 0.5, to)

        found.append(
            Handle(
                f"far {side}",
                f"Far edge, {side}",
                "far",
                (x, y),
                slide,
                f"near edge and vanishing points stay; the true {side} changes",
                pick=_edge_between(picture, document.selected, far),
                line=((ax, ay), (bx, by)) if (ax, ay) != (bx, by) else None,
            )
        )
    return found


def _edge_between(picture: VolumePicture, index: int, ends: tuple[Array, Array]) -> Pick | None:
    """The edge of a volume between two of its corners (world mm); None when there is none."""
    there = [np.flatnonzero((picture.world == end).all(axis=1)) for end in ends]
    if not all(len(some) for some in there):
        return None
    pair = sorted(int(some[0]) for some in there)
    found = np.flatnonzero((np.sort(picture.edges, axis=1) == pair).all(axis=1))
    return Pick("edge", index, int(found[0])) if len(found) else None


def _bounds_handles(document: Document) -> list[Handle]:
    """The three far ends of the bounding volume of several chosen volumes."""
    if len(document.chosen) < 2:
        return []
    bounds = bounds_of_chosen(document)
    corners = bounds.corners()
    start = corners[0]
    found = []
    for axis, side in enumerate(("length", "width", "height")):
        along = bounds.pose[1][axis]
        try:
            place = drawn_place(document.eye, corners[1 << axis])
        except IsometronError:
            continue

        def stretch(
            document: Document,
            to: Point,
            axis: int = axis,
            along: Array = along,
            keep: bool = False,
        ) -> Document:
            mm = volume_edits.true_length_to(document.eye, start, along, to)
            return stretch_bounds(document, axis, mm, keep_ratio=keep)

        found.append(
            Handle(
                f"bounds {side}",
                f"Bounding volume, {side}",
                "far",
                place,
                stretch,
                "everything inside is scaled along it; Shift keeps the ratio",
                shifted=partial(stretch, keep=True),
                shift_stays="the ratio stays; everything inside is scaled",
                mm=lambda document, axis=axis: bounds_of_chosen(document).sides[axis],  # type: ignore[misc]
            )
        )
    return found


def _knot_handles(document: Document) -> list[Handle]:
    """The points of the profile in work, on its own plane in the framework."""
    volume, shape = document.volume, profiles.profile_of(document.volume)
    if volume is None or shape is None:
        return []
    found = []
    for ring, knots in enumerate(shape.rings):
        for knot in range(len(knots)):
            try:
                place = drawn_place(document.eye, profiles.knot_world(volume, ring, knot))
            except IsometronError:
                continue
            found.append(
                Handle(
                    f"knot {ring} {knot}",
                    "Point of the profile",
                    "knot",
                    place,
                    partial(_move_knot, ring=ring, knot=knot),
                    "it moves on the plane of the profile; the side view follows",
                )
            )
    return found


def _move_knot(document: Document, to: Point, ring: int, knot: int) -> Document:
    return profiles.move_knot_on_sheet(document, ring, knot, to)


def volume_handle(document: Document, held_mm: Point | None = None) -> Handle | None:
    """The chosen volumes taken by the body of the one in work: they slide over their own level,
    with Shift straight up and down; the eye stays."""
    edge, box = near_edge(document), document.volume
    if edge is None or box is None:
        return None
    foot = near_edge_world(document.eye, box)[0]
    return Handle(
        "volume",
        box.name,
        "body",
        edge.corner_mm,
        lambda document, to: sliding.slide_over_ground(document, foot, to, snap=False).document,
        "the eye stays; with Shift it goes up and down; Alt holds off snaps",
        slides=lambda document, to, snap: sliding.slide_over_ground(document, foot, to, snap=snap),
        shift_slides=lambda document, to, snap: sliding.lift(document, foot, to, snap=snap),
    )


def face_handle(document: Document, pick: Pick, at_mm: Point) -> Handle | None:
    """A picked face taken hold of: it slides along its own direction, the opposite side stays."""
    try:
        grip = sliding.grip_face(document, pick.volume, pick.index, at_mm)
    except IsometronError:
        return None
    return Handle(
        "face",
        f"Face of {document.volumes[pick.volume].name}",
        "face",
        at_mm,
        lambda document, to: sliding.slide_face(document, grip, to, snap=False).document,
        "the opposite side stays; Alt holds off snaps",
        pick=pick,
        slides=lambda document, to, snap: sliding.slide_face(document, grip, to, snap=snap),
        mm=lambda document: document.volumes[pick.volume].sides[grip.axis],
    )


def _eye_handles(document: Document) -> list[Handle]:
    level = eye_level(document.eye)
    centre = document.eye.centre_of_vision_mm
    found = []
    if level is not None:
        found = [
            Handle(
                "centre of vision",
                "Centre of vision",
                "cross",
                centre,
                eye_edits.move_centre_of_vision,
                "near edge and the points on the eye level stay",
            ),
            Handle(
                "eye level",
                "Eye level",
                "level",
                (centre[0], level),
                lambda document, to: eye_edits.move_eye_level(document, to[1]),
                "near edge stays as drawn; vanishing points ride along, the eye goes up or down",
            ),
        ]
    return found


def number_of(handle: Handle, document: Document, scene: Scene) -> str:
    """The number that a drag of this handle is about, in words, for the document as it is now."""
    unit = document.choices.unit
    if handle.mm is not None:
        return write_length(handle.mm(document), unit)
    if handle.shape == "point" and handle.family != "centre":
        return off_paper(document.sheet, vanishing_places(document, scene)[handle.family], unit)
    if handle.shape == "level":
        return f"{write_length(eye_level(document.eye) or 0.0, unit)} up"
    if handle.shape in ("cross", "point"):
        return _right_and_up(document.eye.centre_of_vision_mm, unit)
    edge, box = near_edge(document), document.volume
    if box is None or edge is None:
        return ""
    return _number_of_volume(handle, edge, box, unit)


def _knot_number(handle: Handle, volume: Volume, unit: str) -> str:
    """Where a point of a profile lies in its side view."""
    shape = profiles.profile_of(volume)
    assert shape is not None
    _, ring, knot = handle.key.split()
    one = shape.rings[int(ring)][int(knot)]
    first, second = shape.cross
    across, up = one.x * volume.sides[first], one.y * volume.sides[second]
    return f"{write_length(across, unit)} along, {write_length(up, unit)} up"


def _number_of_volume(handle: Handle, edge: NearEdge, box: Volume, unit: str) -> str:
    if handle.shape == "knot":
        return _knot_number(handle, box, unit)
    if handle.shape == "bar":
        drawn, true = write_length(edge.drawn_mm, unit), write_length(box.height_mm, unit)
        return f"drawn {drawn}, true {true}"
    if handle.shape == "far":
        side = box.width_mm if handle.key == "far width" else box.depth_mm
        return f"{write_length(side, unit)}, {side / box.height_mm:.2f} × the height"
    return _right_and_up(edge.corner_mm, unit)


def _right_and_up(place: Point, unit: str) -> str:
    return f"{write_length(place[0], unit)} right, {write_length(place[1], unit)} up"


def off_paper(sheet: Sheet, place: Point, unit: str) -> str:
    """Where a point lies from the paper's edge, in words."""
    x, y = place
    across = max(-x, x - sheet.width_mm)
    along = max(-y, y - sheet.height_mm)
    if across <= 0 and along <= 0:
        return _right_and_up(place, unit)
    parts = []
    if across > 0:
        parts.append(f"{write_length(across, unit)} {'left' if x < 0 else 'right'}")
    if along > 0:
        parts.append(f"{write_length(along, unit)} {'below' if y < 0 else 'above'}")
    return " of ".join((", ".join(parts), "paper")) if along <= 0 else f"{', '.join(parts)} paper"
