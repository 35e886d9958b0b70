"""The rules of the second look. To add one, write a function here and mark it @rule."""

import math
from collections.abc import Callable
from functools import partial

import numpy as np

from isometron.document.document import Edit
from isometron.document.edits.choosing import select
from isometron.document.edits.eye_edits import move_eye_level, place_near_corner
from isometron.document.edits.volume_edits import turn_volume
from isometron.document.near_edge import near_edge, near_place
from isometron.drawing.measures import (
    angle_of_sight,
    directions_of,
    face_middle,
    near_corner_angle,
)
from isometron.drawing.volume_picture import VolumePicture
from isometron.nearness import NEAR, SAME
from isometron.perspective.angles import from_quarter
from isometron.perspective.cone import stretch
from isometron.perspective.eye import Array, Eye, eye_level, sight_axes
from isometron.perspective.hand_setup import right_going_yaw
from isometron.perspective.lengths import write_number
from isometron.perspective.projection import project
from isometron.remarks.limits import (
    ANGLE_NOISE_DEG,
    CLEAR_STEP_MM,
    CORNER_MARGIN_DEG,
    EDGE_ON_DEG,
    FORCED_SPACING,
    HAND_MM,
    LIVELY_TURN_DEG,
    RIGHT_ANGLE_DEG,
    STATIC_WITHIN_DEG,
)
from isometron.remarks.remark import Look, Remark, Remedy, Severity, rule_of_one
from isometron.remarks.stepping_back import step_back_until
from isometron.words import _


@rule_of_one
def outside_the_cone(look: Look) -> list[Remark]:
    """A volume reaches out of the cone of vision and is drawn stretched."""
    half = look.document.choices.cone_deg / 2
    found = []
    for index, picture in look.volumes():
        if not len(picture.world):
            continue  # its circles are looked at
        angles = corners_off_axis(look.eye, picture)
        worst = int(angles.argmax())
        angle = float(angles[worst])
        if angle <= half + NEAR:
            continue
        if angle < 89.0:
            percent = 100 * float(stretch(angles[worst], curved=look.eye.curved)) - 100
            stretched = _("its worst corner is drawn {percent} % too long").format(
                percent=write_number(percent, 0)
            )
        else:
            stretched = _("part of it is beside or behind the eye")
        found.append(
            Remark(
                Severity.SERIOUS,
                _("{name} leaves the cone").format(name=picture.volume.name),
                _(
                    "It reaches {angle}° off the centre of vision, the cone {half}°: {stretched}."
                ).format(
                    angle=write_number(angle, 1), half=write_number(half), stretched=stretched
                ),
                angle,
                "deg",
                _place(look, picture, worst),
                index,
                angle / half,
                _stepping_back(
                    look, index, lambda eye, p: float(corners_off_axis(eye, p).max()) - half
                ),
            )
        )
    return found


@rule_of_one
def near_corner_too_sharp(look: Look) -> list[Remark]:
    """The near ground corner is drawn sharper than a right angle: no box corner looks like that."""

    def sharpness(eye: Eye, picture: VolumePicture) -> float:
        angle = near_corner_angle(eye, picture)
        return RIGHT_ANGLE_DEG if angle is None else RIGHT_ANGLE_DEG - angle

    found = []
    for index, picture in look.cornered():
        angle = None if picture.volume.tipped else near_corner_angle(look.eye, picture)
        if angle is None or RIGHT_ANGLE_DEG - angle <= ANGLE_NOISE_DEG:
            continue
        if not np.isfinite(picture.sheet).all():
            continue  # part of it lies behind us: what is drawn there is no corner to be read
        if points_apart(look.eye, picture) is None:
            continue  # with a face square to us one front corner is sharp by right
        found.append(
            Remark(
                Severity.SERIOUS,
                _("Near corner of {name} is too sharp").format(name=picture.volume.name),
                _(
                    "It reads {angle}°; sharper than 90° it no longer looks like a box corner."
                ).format(angle=write_number(angle, 1)),
                angle,
                "deg",
                _near_place(look, picture),
                index,
                RIGHT_ANGLE_DEG / max(angle, 1.0),
                _stepping_back(look, index, lambda eye, p: sharpness(eye, p) + CORNER_MARGIN_DEG),
            )
        )
    return found


@rule_of_one
def points_too_close(look: Look) -> list[Remark]:
    """The two vanishing points on the eye level are too close for the height of the drawing."""

    def crowding(eye: Eye, picture: VolumePicture) -> float:
        spacing = points_apart(eye, picture)
        height = float(picture.bounds[3] - picture.bounds[1])
        if spacing is None or not math.isfinite(height):
            return -1.0
        return FORCED_SPACING * height - spacing

    found = []
    for index, picture in look.cornered():
        spacing = points_apart(look.eye, picture)
        lacking = crowding(look.eye, picture)
        if picture.volume.tipped or spacing is None or lacking <= HAND_MM:
            continue
        height = float(picture.bounds[3] - picture.bounds[1])
        found.append(
            Remark(
                Severity.DOUBTFUL,
                _("Vanishing points are too close"),
                _(
                    "They are {spacing} apart, {spacing2} × the drawn height of {name}; under "
                    "{forced_spacing} × it looks forced."
                ).format(
                    spacing=look.length(spacing),
                    spacing2=write_number(spacing / height, 1),
                    name=picture.volume.name,
                    forced_spacing=write_number(FORCED_SPACING),
                ),
                spacing,
                "mm",
                _near_place(look, picture),
                index,
                FORCED_SPACING * height / spacing,
                _stepping_back(look, index, crowding),
            )
        )
    return found


@rule_of_one
def static_turn(look: Look) -> list[Remark]:
    """Turned exactly 45°: both sides foreshorten alike and the view goes static."""
    found = []
    for index, picture in look.cornered():
        box = picture.volume
        if box.tipped:
            continue
        turn = right_going_yaw(look.eye, box.yaw_deg) + look.eye.heading_deg
        off = from_quarter(turn + 45.0)
        if abs(off) >= STATIC_WITHIN_DEG:
            continue
        livelier = box.yaw_deg + LIVELY_TURN_DEG - 45.0 - off
        found.append(
            Remark(
                Severity.NOTE,
                _("{name} stands at 45°").format(name=box.name),
                _(
                    "Turned {off}°, both sides foreshorten alike; 30° to one side is livelier."
                ).format(off=write_number(45.0 + off, 1)),
                45.0 + off,
                "deg",
                _near_place(look, picture),
                index,
                1.0,
                _edit(
                    _("Turn it to 30°"),
                    index,
                    partial(turn_volume, yaw_deg=livelier),
                ),
            )
        )
    return found


@rule_of_one
def edge_along_eye_level(look: Look) -> list[Remark]:
    """A level edge lies exactly along the eye level: top and side read as one line."""
    level = eye_level(look.eye)
    if level is None:
        return []
    found = []
    for index, picture in look.cornered():
        level_edges = np.flatnonzero(np.isin(picture.body.edge_axes, (0, 1)))
        if not len(level_edges) or picture.volume.tipped:
            continue
        off = np.abs(picture.sheet[picture.edges[level_edges], 1] - level).max(axis=1)
        off[~np.isfinite(off)] = np.inf
        closest = int(off.argmin())
        if off[closest] >= HAND_MM:
            continue
        found.append(
            Remark(
                Severity.DOUBTFUL,
                _("An edge of {name} runs along the eye level").format(name=picture.volume.name),
                _(
                    "It is {length} from it, so its face reads as a line; raise or lower the eye."
                ).format(length=look.length(float(off[closest]))),
                float(off[closest]),
                "mm",
                _place(look, picture, int(picture.edges[level_edges[closest], 0])),
                index,
                1.0,
                _edit(
                    _("Raise the eye level {clear_step}").format(
                        clear_step=look.length(CLEAR_STEP_MM)
                    ),
                    index,
                    partial(move_eye_level, y_mm=level + CLEAR_STEP_MM),
                ),
            )
        )
    return found


@rule_of_one
def face_edge_on(look: Look) -> list[Remark]:
    """An upright face is seen edge-on. (A level one has its edges along the eye level.)"""
    found = []
    for index, picture in look.cornered():
        upright = np.flatnonzero(np.abs(picture.figure.normals[:, 2]) < SAME).tolist()
        if not upright or len(upright) > MOST_SIDES:
            continue
        angles = np.abs([angle_of_sight(look.eye, picture, face) for face in upright])
        flat = int(angles.argmin())
        if angles[flat] >= EDGE_ON_DEG:
            continue
        found.append(
            Remark(
                Severity.DOUBTFUL,
                _("A face of {name} is edge-on").format(name=picture.volume.name),
                _(
                    "We see it at {value}° only, so it reads as a line; move sideways until it "
                    "opens or goes."
                ).format(value=write_number(float(angles[flat]), 1)),
                float(angles[flat]),
                "deg",
                _drawn_at(look, face_middle(picture, upright[flat])),
                index,
                1.0,
                _sideways(look, index),
            )
        )
    return found


MOST_SIDES = 12
"""A prism of more sides is a round corner: one facet of it edge-on is no accident."""


def corners_off_axis(eye: Eye, picture: VolumePicture) -> Array:
    """Degrees (n,) between the sight line and each corner, 0…180 (so it also serves behind us)."""
    v = (picture.world - np.array(eye.place)) @ sight_axes(eye).astype(float).T
    return np.asarray(np.degrees(np.arctan2(np.hypot(v[:, 0], v[:, 1]), v[:, 2])))


def points_apart(eye: Eye, picture: VolumePicture) -> float | None:
    """Distance on the sheet between the left and right vanishing points, mm; None without both."""
    points = {d.family: d.vanishing.sheet_mm for d in directions_of(eye, picture)[:2]}
    left, right = points.get("left"), points.get("right")
    return None if left is None or right is None else math.dist(left, right)


def _place(look: Look, picture: VolumePicture, corner: int) -> tuple[float, float]:
    place = picture.sheet[corner]
    if not np.isfinite(place).all():
        return look.eye.centre_of_vision_mm
    return float(place[0]), float(place[1])


def _near_place(look: Look, picture: VolumePicture) -> tuple[float, float]:
    return _drawn_at(look, near_place(look.eye, picture.volume))


def _drawn_at(look: Look, world: Array) -> tuple[float, float]:
    place = project(look.eye, world[None]).sheet[0]
    if not np.isfinite(place).all():
        return look.eye.centre_of_vision_mm
    return float(place[0]), float(place[1])


def _stepping_back(
    look: Look, index: int, shortfall: Callable[[Eye, VolumePicture], float]
) -> Callable[[], Remedy | None]:
    return lambda: step_back_until(look.document, index, shortfall)


def _edit(label: str, index: int, edit: Edit) -> Callable[[], Remedy | None]:
    return lambda: Remedy(label, lambda document: edit(select(document, index)))


def _sideways(look: Look, index: int) -> Callable[[], Remedy | None]:
    edge = near_edge(select(look.document, index))
    if edge is None:
        return lambda: None
    x, y = edge.corner_mm
    side = 1.0 if x < look.document.sheet.width_mm / 2 else -1.0
    return _edit(
        _("Move it {clear_step} on the paper").format(clear_step=look.length(CLEAR_STEP_MM)),
        index,
        partial(place_near_corner, place_mm=(x + side * CLEAR_STEP_MM, y)),
    )
