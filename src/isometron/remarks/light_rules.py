"""The rules of the second look about values: planes that read as one."""

from dataclasses import replace
from functools import partial

import numpy as np

from isometron.document.document import Document, Edit
from isometron.document.edits.lighting import set_light
from isometron.document.light import MOST_STEPS, Light, Shading
from isometron.drawing.measures import face_middle
from isometron.drawing.shading.values import Span, lightness, span_of, steps_of
from isometron.drawing.volume_picture import VolumePicture
from isometron.hiding.contact import holds
from isometron.perspective.lengths import write_number
from isometron.perspective.projection import project
from isometron.remarks.remark import Look, Remark, Remedy, Severity, rule_called
from isometron.words import _

MOST_TURN_DEG = 60
LIFT_SHARE = 0.5
"""A lamp is lifted out of a volume by so much of its height."""

ROUND_ABOUT = 0.01 * np.concatenate([np.eye(3), -np.eye(3)])
"""A lamp so near to a skin, mm, lies on it."""

LEAST_EDGE_MM = 8.0
"""Planes that meet along a shorter line on the paper may read as one."""

SMOOTH_DEG = 12.0
"""Planes that turn by less from each other are meant to read as one."""


@rule_called("planes read as one")
def planes_read_as_one(look: Look) -> list[Remark]:
    """Two visible planes of a volume that meet fall on the same step of grey."""
    light, shading = look.document.light, look.document.shading
    if light is None:
        return []
    found = []
    pictures = [picture for _index, picture in look.volumes()]
    span = span_of(pictures, light)
    for index, picture in look.volumes():
        pairs = _meeting_planes(picture)
        key = look.document.volumes[index].key
        alike = _alike(picture, pairs, light, shading, key, span)
        if not alike:
            continue
        edge = alike[0]
        middle = picture.sheet[picture.edges[edge]].mean(axis=0)
        turn = _turn(look, picture, pairs, index)
        text = _("The two planes that meet here fall on one step of grey.")
        if turn is not None:
            text = _("The two planes that meet here fall on one step: turn the light by {deg}°.")
            text = text.format(deg=write_number(abs(turn)))
        found.append(
            Remark(
                Severity.DOUBTFUL,
                _("Two planes of {name} read as one").format(name=picture.volume.name),
                text,
                float(abs(turn or 0)),
                "deg",
                (float(middle[0]), float(middle[1])),
                index,
                1.0,
                partial(_remedy, look, picture, pairs, index, turn),
            )
        )
    return found


@rule_called("lamp inside")
def lamp_inside(look: Look) -> list[Remark]:
    """A lamp within a volume, or on its skin, lights nothing beyond that."""
    lamp = look.document.light
    if lamp is None or lamp.far:
        return []
    place = np.array(lamp.source[:3])
    drawn = project(look.eye, place[None])
    x, y = drawn.sheet[0] if drawn.seen[0] else look.eye.centre_of_vision_mm
    found = []
    for index, picture in look.volumes():
        ghost, inside = look.document.volumes[index].ghost, holds(picture.figure, place)
        touches = any(holds(picture.figure, place + step) for step in ROUND_ABOUT)
        if ghost or not (inside or touches):
            continue
        title = _("The lamp is inside {name}") if inside else _("The lamp lies on {name}")
        top = float(picture.figure.reach[5])
        found.append(
            Remark(
                Severity.SERIOUS,
                title.format(name=picture.volume.name),
                _("Nothing beyond its skin is lit: lift the lamp out, or open the volume."),
                top - float(place[2]),
                "mm",
                (float(x), float(y)),
                index,
                2.0,
                partial(_lifted, top + LIFT_SHARE * (top - float(picture.figure.reach[2]))),
            )
        )
    return found


def _lifted(mm: float) -> Remedy:
    def lift(document: Document) -> Document:
        other = None if document.light is None else document.light.lifted(mm)
        return document if other is None else set_light(document, other)

    return Remedy(_("Lift it out"), lift)


def _remedy(
    look: Look,
    picture: VolumePicture,
    pairs: list[tuple[int, int, int]],
    index: int,
    turn: int | None,
) -> Remedy | None:
    """The turn of the light that parts the planes; where no small one does, as many more steps of
    grey as part them, or both."""
    if turn is not None:
        return Remedy(_("Turn the light"), _turned(turn))
    light, key = look.document.light, look.document.volumes[index].key
    if light is None:
        return None
    span = span_of([one for _index, one in look.volumes()], light)
    for count in range(look.document.shading.steps + 1, MOST_STEPS + 1):
        shading = replace(look.document.shading, steps=count)
        if not _alike(picture, pairs, light, shading, key, span):
            words = _("Take {n} steps of grey").format(n=count)
            return Remedy(words, _in_steps(count))
    for count in range(look.document.shading.steps, MOST_STEPS + 1):
        shading = replace(look.document.shading, steps=count)
        turn = _turn(look, picture, pairs, index, range(MOST_TURN_DEG, 181, 5), shading)
        if turn is not None:
            words = _("Turn the light by {deg}°, {n} steps of grey").format(
                deg=write_number(abs(turn)), n=count
            )
            return Remedy(words, _both(_turned(turn), _in_steps(count)))
    return None


def _both(first: Edit, second: Edit) -> Edit:
    return lambda document: second(first(document))


def _in_steps(count: int) -> Edit:
    return lambda document: replace(document, shading=replace(document.shading, steps=count))


def _turned(turn: int) -> Edit:
    def edit(document: Document) -> Document:
        other = None if document.light is None else document.light.turned(turn)
        return document if other is None else set_light(document, other)

    return edit


def _meeting_planes(picture: VolumePicture) -> list[tuple[int, int, int]]:
    """Edges with the two planes that meet there, both turned to us, long enough to be seen."""
    found = []
    turned, body = picture.shown, picture.body
    for edge, (one, two) in enumerate(body.edge_faces.tolist()):
        if not (0 <= one < body.faces and 0 <= two < body.faces and turned[one] and turned[two]):
            continue
        normals = picture.figure.normals
        if float(normals[one] @ normals[two]) > np.cos(np.radians(SMOOTH_DEG)):
            continue
        ends = picture.sheet[picture.edges[edge]]
        if np.isfinite(ends).all() and float(np.hypot(*(ends[1] - ends[0]))) >= LEAST_EDGE_MM:
            found.append((edge, one, two))
    return found


def _alike(
    picture: VolumePicture,
    pairs: list[tuple[int, int, int]],
    light: Light,
    shading: Shading,
    key: int,
    span: Span,
) -> list[int]:
    """Edges whose two planes fall on one step."""
    faces = sorted({face for _edge, one, two in pairs for face in (one, two)})
    if not faces:
        return []
    normals = picture.figure.normals[faces]
    middles = np.array([face_middle(picture, face) for face in faces])
    told = steps_of(lightness(light, normals, middles), normals[:, 2], shading.steps, span).tolist()
    steps = dict(zip(faces, told, strict=True))
    for face in faces:
        own = shading.step_of(key, face)
        steps[face] = steps[face] if own is None else own
    return [edge for edge, one, two in pairs if steps[one] == steps[two]]


def _turn(
    look: Look,
    picture: VolumePicture,
    pairs: list[tuple[int, int, int]],
    index: int,
    turns: range = range(1, MOST_TURN_DEG + 1),
    shading: Shading | None = None,
) -> int | None:
    """By how many degrees, of some, the sun turns at least, so that no two planes read as one."""
    light, key = look.document.light, look.document.volumes[index].key
    pictures = [one for _index, one in look.volumes()]
    if light is None:
        return None
    for by in turns:
        for turn in (by, -by):
            other = light.turned(turn)
            if other is None:
                return None
            span = span_of(pictures, other)
            if not _alike(picture, pairs, other, shading or look.document.shading, key, span):
                return turn
    return None
