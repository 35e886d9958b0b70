"""What lies between two chosen volumes: gap, and how far apart along each direction; of two rounds
on level axles the wheelbase and the track."""

import numpy as np

from isometron.document.document import Document
from isometron.drawing.picks.pick import Quantity, Reading, Row, in_modules
from isometron.drawing.scene import Scene
from isometron.framework.box import AXES
from isometron.framework.volume import Volume
from isometron.hiding.contact import How, contact
from isometron.perspective.eye import Array
from isometron.words import _

LEVEL = 1e-9
"""An axle rising less than this (sine) is level."""

SAME_AXLE = 0.05
"""Wheels whose axles lie nearer than this share of their height one behind the other share one."""

PARALLEL = 1e-6
"""Axles whose angle has a smaller sine than this are parallel."""


def between(document: Document, scene: Scene) -> Reading | None:
    """The reading of the two chosen volumes; None unless just two are chosen.

    Lengths are true ones, mm, from middle to middle along the directions of the volume in work; the
    gap is the least distance of their skins.
    """
    if len(document.chosen) != 2 or document.selected is None:
        return None
    other = next(i for i in document.chosen if i != document.selected)
    one, two = document.volumes[document.selected], document.volumes[other]
    apart = middle_of(two) - middle_of(one)
    figures = (scene.pictures[document.selected].figure, scene.pictures[other].figure)
    found = contact(*figures, within=float(np.linalg.norm(apart)) + sum(one.sides))
    gap = Row(_("gap"), found.gap_mm, Quantity.MM)
    if found.how is not How.APART:
        gap = Row(_("gap"), _("none: they touch or pierce"), Quantity.TEXT)
    rows = [gap, in_modules(document, _("middle to middle"), float(np.linalg.norm(apart)))]
    for name, along in zip(AXES, one.pose[1], strict=True):
        words = _("in {side}").format(side=_(name))
        rows.append(in_modules(document, words, abs(float(apart @ along))))
    rows += _axles(document, one, two, apart)
    title = _("Between {one} and {other}").format(one=one.name, other=two.name)
    return Reading(title, tuple(rows))


def vehicle(document: Document) -> Reading | None:
    """The reading of a chosen vehicle: three volumes or more, among them wheels on level, parallel
    axles at two places or more. None for anything else.

    Wheelbase from axle to axle, track from middle to middle of the wheels furthest apart on each
    axle, overhangs from the outer axles to the furthest part of what is chosen.
    """
    chosen = [document.volumes[i] for i in document.chosen]
    wheels = [v for v in chosen if v.shape.axle is not None and not v.ghost]
    if len(wheels) < 2 or len(wheels) == len(chosen):
        return None
    axle = wheels[0].pose[1][wheels[0].shape.axle or 0]
    wheels = [v for v in wheels if _parallel(v, axle)]
    if abs(float(axle[2])) > LEVEL or len(wheels) < 2:
        return None
    ahead = np.array([-axle[1], axle[0], 0.0])
    at = {wheel.key: float(middle_of(wheel) @ ahead) for wheel in wheels}
    ordered = sorted(wheels, key=lambda wheel: at[wheel.key])
    rows_of: list[list[Volume]] = [[ordered[0]]]
    for wheel in ordered[1:]:
        same = at[wheel.key] - at[rows_of[-1][0].key] <= SAME_AXLE * wheel.height_mm
        if same:
            rows_of[-1].append(wheel)
        else:
            rows_of.append([wheel])
    if len(rows_of) < 2:
        return None
    ends = at[rows_of[0][0].key], at[rows_of[-1][0].key]
    rows = [in_modules(document, _("wheelbase"), ends[1] - ends[0])]
    for row in (rows_of[0], rows_of[-1]):
        across = [float(middle_of(wheel) @ axle) for wheel in row]
        if len(row) > 1:
            words = _("track at {wheel}").format(wheel=row[0].name)
            rows.append(in_modules(document, words, max(across) - min(across)))
    reach = np.array([v.reach_along(ahead) for v in chosen if not v.ghost])
    for row, mm in ((rows_of[0], ends[0] - reach.min()), (rows_of[-1], reach.max() - ends[1])):
        words = _("overhang beyond {wheel}").format(wheel=row[0].name)
        rows.append(in_modules(document, words, float(mm)))
    rows.append(in_modules(document, _("whole length"), float(reach.max() - reach.min())))
    return Reading(_("Vehicle"), tuple(rows))


def _parallel(volume: Volume, axle: Array) -> bool:
    own = volume.pose[1][volume.shape.axle or 0]
    return float(np.linalg.norm(np.cross(own, axle))) <= PARALLEL


def middle_of(volume: Volume) -> Array:
    """The middle (3,) of the box a volume fills, world mm; of a round one it lies on its axle."""
    corners = volume.corners()
    return np.asarray((corners[0] + corners[7]) / 2)


def _axles(document: Document, one: Volume, two: Volume, apart: Array) -> list[Row]:
    """Wheelbase and track of two rounds on level, parallel axles."""
    first, second = one.shape.axle, two.shape.axle
    if first is None or second is None:
        return []
    axle, other = one.pose[1][first], two.pose[1][second]
    if abs(float(axle[2])) > LEVEL or float(np.linalg.norm(np.cross(axle, other))) > PARALLEL:
        return []
    track = abs(float(apart @ axle))
    ahead = np.array([-axle[1], axle[0], 0.0])
    return [
        in_modules(document, _("wheelbase"), abs(float(apart @ ahead))),
        in_modules(document, _("track"), track),
    ]
