"""A volume built in the world: corners, lines and faces, before any eye looks at it."""

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from isometron.framework.curved import Curved
from isometron.framework.marks import draw_marks
from isometron.framework.shapes import BLOCK
from isometron.framework.solid import Solid
from isometron.framework.volume import Volume
from isometron.perspective.conics import moved
from isometron.perspective.eye import Array

EDGE, SMOOTH, DIVISION, SECTION, JOIN = range(5)
"""Kinds of lines: edges, edges within a round corner (drawn only as outline), division marks,
section and centre lines, and the lines along which two volumes pierce each other."""


@dataclass(frozen=True, eq=False)
class Built:
    """A volume in the world, mm.

    axes (3, 3); world (n, 3) corners; starts, ends (m, 3) of its lines, edges first; faces (m, 2)
    the faces each line lies on; kinds (m,); normals (k, 3) outward and offsets (k,) of its faces
    (normal·p = offset); plain: a whole box. A volume that is not shown has no lines.
    """

    volume: Volume
    solid: Solid
    axes: Array
    world: Array
    starts: Array
    ends: Array
    faces: NDArray[np.intp]
    kinds: NDArray[np.intp]
    normals: Array
    offsets: Array
    plain: bool
    curved: Curved | None
    """Its curved body, or what is drawn on its faces; own mm."""
    round: bool
    """Whether it is a curved body: its box is then only what it fills, and draws and hides nothing.
    """

    @cached_property
    def arcs(self) -> Array:
        """Its curves (n, 3, 4) as arcs in the world."""
        if self.curved is None:
            return np.empty((0, 3, 4))
        return moved(self.curved.arcs, self.axes, np.array(self.volume.place))

    @cached_property
    def reach(self) -> Array:
        """(6,) least and greatest x, y, z."""
        return np.concatenate([self.world.min(axis=0), self.world.max(axis=0)])


@lru_cache(maxsize=4096)
def build(volume: Volume) -> Built:
    """A volume set in the world. Raises VolumeError for a shape that cannot be."""
    solid = volume.solid
    exact, place = volume.axes(), np.array(volume.place)
    axes = exact.astype(float)
    world = volume.world()
    curved, is_round = volume.curved, volume.is_round
    edges = solid.edges if volume.shown and not is_round else solid.edges[:0]
    starts, ends = world[edges[:, 0]], world[edges[:, 1]]
    count = len(edges)
    faces, kinds = solid.edge_faces[:count], np.where(solid.smooth[:count], SMOOTH, EDGE)
    if volume.marks and volume.shown and not is_round:
        marks = draw_marks(volume.marks, solid, volume.sides)
        starts = np.concatenate([starts, marks.starts @ axes + place])
        ends = np.concatenate([ends, marks.ends @ axes + place])
        faces = np.concatenate([faces, marks.faces])
        kinds = np.concatenate([kinds, np.where(marks.section, SECTION, DIVISION)])
    normals = np.asarray(solid.normals @ axes)
    firsts = [rings[0][0] for rings in solid.rings]
    offsets = (normals * world[firsts]).sum(axis=1)
    plain = volume.shape == BLOCK and not volume.cuts and not is_round
    return Built(
        volume,
        solid,
        axes,
        world,
        starts,
        ends,
        faces,
        kinds,
        normals,
        offsets,
        plain,
        curved,
        is_round,
    )
