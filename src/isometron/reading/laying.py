"""A sheet laid over a picture: the eye that was read, the picture at its true place under it, the
marked corner as a first box, marked rims as circles."""

import math
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, with_new
from isometron.document.edits.pictures.bringing import change_picture, in_work
from isometron.document.marks import FAMILIES, Marks, MarksError
from isometron.document.picture import Laid, SheetPicture
from isometron.framework.kinds.loop import Loop
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.eye import Eye
from isometron.perspective.sheet import Sheet
from isometron.reading.fit import Fit
from isometron.reading.model import Array, State
from isometron.reading.of_picture import PictureReading, reading_of
from isometron.reading.reading import eye_of, rims_of
from isometron.words import _

LONGEST_MM = 1000.0
"""The longest side of a thing whose size nobody told: the picture does not tell it."""

THIN = 0.001
"""How thick a rim's circle is, as a share of its width."""

STANDING_MM = 1600.0
"""Height of the eye where nothing marked tells what stands on the ground."""

UPRIGHT = FAMILIES.index("height")
ON_AXLE = 0.15
"""Rims whose middles pass an upright axle by less than this share of the radius turn about it."""

BESIDE_FACE = 0.6
"""A rim belongs to a face of the box when its middle lies within this share of a side beside it."""


class Placed(NamedTuple):
    """Where eye and box stand in the world: width, depth and height are its axes. scale: mm per
    unit of the box as it is fitted; first: the world place of its marked first corner."""

    eye_place: Array
    scale: float
    box: Volume | None


def lay_sheet(document: Document) -> Document:
    """The document with an eye that sees what the picture in work shows, the picture under it, the
    marked corner as a box and marked rims as circles, in place of those laid from it before.
    Raises MarksError when the marks do not tell the eye, with what would."""
    picture = in_work(document)
    read = reading_of(picture)
    fit = _told_eye(read)
    sheet = document.sheet if document.volumes else _turned_as(document.sheet, picture)
    if picture.paper_mm is not None and not document.volumes:
        sheet = Sheet(*picture.paper_mm)
    distance, heading, tilt, roll = eye_of(fit.state).tolist()
    middle = fit.seen.origin + fit.state.centre
    laid_at, scale = _on_sheet(sheet, picture, roll)
    centre = _turned_by(middle - np.array(picture.middle), -roll) * scale + laid_at
    placed = _placed(document, picture, read, fit)
    x, y, z = placed.eye_place.tolist()
    eye = Eye(x, y, z, heading, tilt, distance * scale, (float(centre[0]), float(centre[1])))
    before = picture.laid
    laid = Laid(
        (float(middle[0]), float(middle[1])),
        (float(centre[0]), float(centre[1])),
        scale,
        -roll,
        eye,
    )
    if before is not None:
        laid = replace(laid, strength=before.strength, sent=before.sent)
    document = replace(document, sheet=sheet).with_eye(eye)
    document = change_picture(document, lambda one: replace(one, laid=laid))
    volumes = [] if placed.box is None else [placed.box]
    volumes += _circles(read.marks, fit, placed, document)
    return _with_volumes(document, picture, volumes)


def _told_eye(read: PictureReading) -> Fit:
    """The fit, when it tells the eye. Raises MarksError."""
    view, fit = read.reading.view, read.fit
    if fit is None or view is None or view.station_distance is None or view.tilt_deg is None:
        helps = [one.would_help for one in read.reading.refused]
        raise MarksError(
            _("These marks do not tell where the eye was. {help}").format(
                help=helps[0] if helps else _("Mark edges of two families.")
            )
        )
    return fit


def _turned_as(sheet: Sheet, picture: SheetPicture) -> Sheet:
    """The paper lying or upright as the picture is."""
    lies = picture.width >= picture.height
    return sheet if sheet.lying == lies else Sheet(sheet.height_mm, sheet.width_mm)


def _on_sheet(sheet: Sheet, picture: SheetPicture, roll_deg: float) -> tuple[Array, float]:
    """Where the middle of the picture lies on the sheet (mm), and mm per px: as large as the paper
    takes it when its roll is taken out."""
    c, s = (abs(f(math.radians(roll_deg))) for f in (math.cos, math.sin))
    wide, high = picture.size
    across, along = c * wide + s * high, s * wide + c * high
    scale = min(sheet.width_mm / across, sheet.height_mm / along)
    if picture.paper_mm is not None:  # a sketch lies under the sheet at 1 : 1
        scale = picture.paper_mm[0] / wide
    return np.array(sheet.middle), scale


def _turned_by(place: Array, turn_deg: float) -> Array:
    c, s = (f(math.radians(turn_deg)) for f in (math.cos, math.sin))
    return np.array([c * place[0] - s * place[1], s * place[0] + c * place[1]])


def _placed(document: Document, picture: SheetPicture, read: PictureReading, fit: Fit) -> Placed:
    """Where the eye stands, and the box. The box stands on the ground, its first corner over the
    ground origin; its longest side is a metre unless a length is known."""
    state, seen = fit.state, fit.seen
    if not seen.boxed:
        return Placed(np.array([0.0, 0.0, STANDING_MM]), STANDING_MM / state.distance, None)
    first = np.array([state.corner[0] - state.centre[0], state.corner[1] - state.centre[1]])
    to_first = state.turned.T @ np.array([first[0], first[1], state.distance])
    bits = np.array([seen.first >> axis & 1 for axis in range(3)], dtype=float)
    to_origin = to_first - bits * state.sides
    scale = _true_scale(read, fit)
    width, depth, height = (state.sides * scale).tolist()
    box = Volume(_box_name(picture), width, depth, height, key=document.free_key)
    return Placed(-to_origin * scale, scale, box)


def _box_name(picture: SheetPicture) -> str:
    """What the box is called: as its named edges say, else plainly."""
    names = [edge.name for edge in picture.edges if edge.corners is not None and edge.name]
    return names[0][:60] if names else _("Box of the picture")


def _true_scale(read: PictureReading, fit: Fit) -> float:
    """mm per unit of the fitted box."""
    sides = fit.state.sides
    for known in read.marks.known:
        edge = read.marks.edges[known.edges[0]]
        if known.kind == "length" and known.value is not None and edge.corners is not None:
            return float(known.value / sides[FAMILIES.index(edge.family)])
    return float(LONGEST_MM / sides.max())


def _circles(marks: Marks, fit: Fit, placed: Placed, document: Document) -> list[Volume]:
    """Marked rims as circles. One whose middle lies before a face of the box across its axle lies
    on that face; others lie on the ground, or as far away as the box's first corner."""
    found: list[Volume] = []
    numbers = rims_of(marks, fit)
    pairs = list(zip(numbers, fit.state.rims.tolist(), strict=False))
    pairs.sort(key=lambda pair: pair[1][1])  # what lies lowest stands on the ground
    for place, (number, told) in enumerate(pairs):
        axis = FAMILIES.index(marks.rounds[number].axle)
        ray = fit.state.turned.T @ np.array(
            [told[0] - fit.state.centre[0], told[1] - fit.state.centre[1], fit.state.distance]
        )
        share = _on_axle(ray, axis, placed, found) or _depth_of(ray, axis, placed, fit.state)
        middle = placed.eye_place + ray * share
        radius = told[2] * share
        if not 0.01 <= 2 * radius <= 1e6:
            continue
        sides = [2 * radius] * 3
        sides[axis] = max(2 * radius * THIN, 0.01)
        corner = middle - np.array(sides) / 2
        name = marks.rounds[number].name or _("Rim {number}").format(number=number + 1)
        key = document.free_key + 1 + place
        (width, depth, height), (x, y, z) = sides, corner.tolist()
        shape = Loop(axis=axis)
        found.append(Volume(name[:56], width, depth, height, x, y, z, shape=shape, key=key))
    return found


def _on_axle(ray: Array, axis: int, placed: Placed, before: list[Volume]) -> float | None:
    """How many times a ray runs from the eye to where it passes the upright axle of a circle that
    was laid before; None when it passes none within a share of its radius."""
    for one in before:
        if axis != UPRIGHT or one.shape.axle != UPRIGHT:
            continue
        radius = one.width_mm / 2
        away = np.array([one.x_mm + radius, one.y_mm + radius]) - placed.eye_place[:2]
        flat = ray[:2]
        share = float(flat @ away) / max(float(flat @ flat), 1e-12)
        if share > 0 and np.hypot(*(flat * share - away)) <= ON_AXLE * radius:
            return share
    return None


def _depth_of(ray: Array, axis: int, placed: Placed, state: State) -> float:
    """How many times a ray (world, of the fitted lengths) runs from the eye to the circle's
    middle: to the face of the box across the axle that it meets nearest to its middle, facing us;
    else to the ground, else to the depth of the first corner."""
    eye, box = placed.eye_place, placed.box
    if box is not None:
        sides = np.array(box.sides)
        tries = []
        for plane in (0.0, sides[axis]):
            if abs(ray[axis]) < SAME:
                continue
            share = (plane - eye[axis]) / ray[axis]
            if share <= 0:
                continue
            off = np.abs((eye + ray * share) / sides - 0.5)
            off[axis] = 0.0
            if off.max() <= 0.5 + BESIDE_FACE:
                tries.append(share)
        if tries:
            return float(min(tries))
    if abs(ray[2]) > SAME and -eye[2] / ray[2] > 0 and axis == 2:
        return float(-eye[2] / ray[2])
    return placed.scale


def _with_volumes(document: Document, picture: SheetPicture, volumes: list[Volume]) -> Document:
    """Volumes on the sheet; those of the same names that were laid before make way, so that a
    picture may be laid again."""
    stems = {volume.name for volume in volumes}
    if picture.laid is not None:
        kept = [one for one in document.volumes if not _laid_before(one.name, stems)]
        document = replace(
            document, volumes=tuple(kept), selected=None, also=frozenset(), circle=None
        ).settled(kept)
    first = len(document.volumes)
    for volume in volumes:
        own = replace(volume, name=_own_name(document, volume.name), key=document.free_key)
        document = with_new(document, [own])
    return replace(document, selected=first if volumes else document.selected, also=frozenset())


def _laid_before(name: str, stems: set[str]) -> bool:
    """Whether a volume of such a name was laid with a picture before."""
    return name in stems or name.rstrip("0123456789").rstrip() in stems


def _own_name(document: Document, name: str) -> str:
    """The name itself, or with a number when it is taken."""
    taken = {volume.name for volume in document.volumes}
    return free_name(document, name) if name in taken else name
