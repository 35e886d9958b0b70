"""Edits of what is cut out of a volume: shapes by fractions, openings, another volume."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.framework.bodies.cuts import Cut
from isometron.framework.turning import turns_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

NOTCHES = {
    "L": (Cut((0.5, 0.0, 0.5), (1.0, 1.0, 1.0)),),
    "T": (Cut((0.0, 0.0, 0.0), (0.35, 1.0, 0.6)), Cut((0.65, 0.0, 0.0), (1.0, 1.0, 0.6))),
    "U": (Cut((0.3, 0.0, 0.3), (0.7, 1.0, 1.0)),),
    "notch": (Cut((0.35, 0.0, 0.75), (0.65, 1.0, 1.0)),),
}
"""Cuts by fractions of the full box."""


def cut_by_fractions(document: Document, cuts: tuple[Cut, ...]) -> Document:
    """More cuts taken out of the volume in work, given as shares of its sides."""
    index, volume = in_work(document)
    if volume.shape.faceted(volume.sides) is None:
        raise VolumeError(
            _("{name} is round and takes no cut: drill a round hole instead.").format(
                name=volume.name
            )
        )
    return document.with_volume(index, replace(volume, cuts=(*volume.cuts, *cuts)))


def pierce_opening(document: Document, axis: int, wall_mm: float) -> Document:
    """An opening right through the volume in work along its width (0), depth (1) or height (2),
    however far it leans that way, leaving a wall of a thickness on the four sides. Raises
    VolumeError when the walls leave no opening."""
    _unused, volume = in_work(document)
    low, high = [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]
    least, most = volume.bare.reach_along(np.eye(3)[axis])
    low[axis] = min(least / volume.sides[axis], 0.0)
    high[axis] = max(most / volume.sides[axis], 1.0)
    for other in {0, 1, 2} - {axis}:
        share = wall_mm / volume.sides[other]
        if not 0 < share < 0.5:
            raise VolumeError(_("Walls that thick leave no opening: type a thinner one."))
        low[other], high[other] = share, 1.0 - share
    cut = Cut((low[0], low[1], low[2]), (high[0], high[1], high[2]))
    return cut_by_fractions(document, (cut,))


def cut_out(document: Document, tool: int, *, keep_tool: bool = False) -> Document:
    """Volume number `tool` cut out of the volume in work; the tool leaves the sheet unless kept.

    Raises VolumeError for a tool that is itself cut, or that takes everything.
    """
    index, volume = in_work(document)
    if tool == index:
        raise VolumeError(_("A volume cannot be cut out of itself: choose the other one too."))
    cutter = document.volumes[tool]
    if cutter.cuts:
        raise VolumeError(
            _("{name} is itself cut: cut with whole volumes only.").format(name=cutter.name)
        )
    for one, verb in ((cutter, _("cuts nothing out")), (volume, _("takes no cut"))):
        if one.shape.faceted(one.sides) is None:
            raise VolumeError(
                _("{name} is round and {verb}: drill a round hole instead.").format(
                    name=one.name, verb=verb
                )
            )
    cut = _as_cut(volume, cutter)
    done = document.with_volume(index, replace(volume, cuts=(*volume.cuts, cut)))
    if keep_tool:
        return done
    left = [other for i, other in enumerate(done.volumes) if i != tool]
    bare = replace(done, volumes=(), selected=None, also=frozenset()).settled(left)
    return replace(bare, selected=index - (tool < index))


def _as_cut(volume: Volume, cutter: Volume) -> Cut:
    place, axes = volume.pose
    own = axes @ (np.array(cutter.place) - place)
    low = own / np.array(volume.sides)
    high = low + np.array(cutter.sides) / np.array(volume.sides)
    yaw, pitch, roll = turns_of(cutter.pose[1] @ axes.T)
    (x0, y0, z0), (x1, y1, z1) = ([float(v) for v in corner] for corner in (low, high))
    return Cut((x0, y0, z0), (x1, y1, z1), yaw, pitch, roll, cutter.shape)


def fill_cuts(document: Document) -> Document:
    """The volume in work without its cuts."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, cuts=()))
