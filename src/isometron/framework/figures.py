"""Figures: bodies set in the world, with the lines drawn on them, before anybody looks at them."""

from dataclasses import dataclass
from enum import Enum
from functools import cached_property

import numpy as np

from isometron.framework.bodies.body import DIVISION, EDGE, SECTION, SKIN, SMOOTH, Body, Indices
from isometron.framework.bodies.making import Making
from isometron.framework.volume import Volume
from isometron.perspective.conics import moved
from isometron.perspective.eye import Array
from isometron.perspective.remembering import remembered


class Hides(Enum):
    """What a figure hides: everything behind it, its own far side only (a ghost), or nothing."""

    ALL = "all"
    ITSELF = "itself"
    NOTHING = "nothing"


@dataclass(frozen=True, eq=False)
class Figure:
    """A body in the world, mm.

    axes (3, 3) and place (3,) of its own axes; world (n, 3) its corners; starts, ends (m, 3) of its
    lines, edges first, with the two surfaces (m, 2) each lies on (−1: none) and kinds (m,); arcs
    (a, 3, 4) with surfaces (a, 2) and kinds (a,); normals (k, 3) outward and offsets (k,) of its
    faces (normal·p = offset). One that is not shown has no lines.
    """

    body: Body
    axes: Array
    place: Array
    world: Array
    starts: Array
    ends: Array
    faces: Indices
    kinds: Indices
    arcs: Array
    arc_faces: Indices
    arc_kinds: Indices
    normals: Array
    offsets: Array
    hides: Hides

    @cached_property
    def reach(self) -> Array:
        """(6,) least x, y, z and greatest x, y, z that hold all of it."""
        held = self.body.enclosing @ self.axes + self.place
        if not len(held):
            held = np.concatenate([self.starts, self.ends])
        if not len(held):
            return np.array([np.inf, np.inf, np.inf, -np.inf, -np.inf, -np.inf])
        return np.concatenate([held.min(axis=0), held.max(axis=0)])


@remembered()
def figure_of(volume: Volume) -> Figure:
    """A volume set in the world. Raises VolumeError for one that cannot be."""
    body = volume.body
    place, axes = volume.pose
    world = volume.world()
    edges = body.edges if volume.shown else body.edges[:0]
    starts, ends = world[edges[:, 0]], world[edges[:, 1]]
    count = len(edges)
    faces, kinds = body.edge_faces[:count], np.where(body.smooth[:count], SMOOTH, EDGE)
    if volume.marks and volume.shown:
        marks = volume.drawn_marks
        starts = np.concatenate([starts, marks.starts @ axes + place])
        ends = np.concatenate([ends, marks.ends @ axes + place])
        faces = np.concatenate([faces, marks.faces])
        kinds = np.concatenate([kinds, np.where(marks.section, SECTION, DIVISION)])
    for skin in volume.laid_skins if volume.skins and volume.shown else ():
        starts = np.concatenate([starts, skin.starts @ axes + place])
        ends = np.concatenate([ends, skin.ends @ axes + place])
        on = np.stack([skin.surfaces, np.full(len(skin.surfaces), -1)], axis=1)
        faces = np.concatenate([faces, on])
        kind = SKIN if skin.object_lines else DIVISION
        kinds = np.concatenate([kinds, np.full(len(on), kind)])
    shown = slice(None) if volume.shown else slice(0)
    normals = np.asarray(body.normals @ axes)
    hides = Hides.ITSELF if volume.ghost else Hides.ALL
    return Figure(
        body,
        axes,
        place,
        world,
        starts,
        ends,
        faces,
        kinds,
        moved(body.arcs[shown], axes, place),
        body.arc_faces[shown],
        body.arc_kinds[shown],
        normals,
        body.offsets + normals @ place,
        hides if volume.shown else Hides.NOTHING,
    )


def loose_lines(starts: Array, ends: Array) -> Figure:
    """Lines (n, 3) to (n, 3) world mm that belong to no body and hide nothing."""
    count = len(starts)
    none = np.empty(0, dtype=np.intp)
    return Figure(
        Making().done(),
        np.eye(3),
        np.zeros(3),
        np.empty((0, 3)),
        starts,
        ends,
        np.full((count, 2), -1),
        np.full(count, EDGE),
        np.empty((0, 3, 4)),
        none.reshape(0, 2),
        none,
        np.empty((0, 3)),
        np.empty(0),
        Hides.NOTHING,
    )
