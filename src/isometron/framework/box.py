"""The box as a figure: how its corners, edges and faces are numbered."""

import numpy as np

from isometron.words import said

AXES = (said("width"), said("depth"), said("height"))
"""The three sides of a box: along its own x, y and z."""

CORNERS = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)], dtype=float)
"""Corner i of the unit box: bit 0 is x, bit 1 is y, bit 2 is z. 0…3 is the base, 4…7 the top."""

EDGES = np.array(
    [(i, i | bit) for bit in (1, 2, 4) for i in range(8) if not i & bit], dtype=np.intp
)
"""(12, 2) corner indices; edges 0…3 run along x, 4…7 along y, 8…11 upright."""

FACES = np.array(
    [[0, 4, 6, 2], [1, 3, 7, 5], [0, 1, 5, 4], [2, 6, 7, 3], [0, 2, 3, 1], [4, 5, 7, 6]],
    dtype=np.intp,
)
"""(6, 4) corner indices counter-clockwise seen from outside: x=0, x=1, y=0, y=1, base, top."""

FACE_NORMALS = np.array(
    [[-1, 0, 0], [1, 0, 0], [0, -1, 0], [0, 1, 0], [0, 0, -1], [0, 0, 1]], dtype=float
)
"""Outward normals in the box's own axes."""

EDGE_FACES = np.array(
    [
        [f for f, ring in enumerate(FACES.tolist()) if {int(i), int(j)} <= set(ring)]
        for i, j in EDGES
    ],
    dtype=np.intp,
)
"""(12, 2) the two faces each edge joins."""


def rectangle_faces(axis: int) -> tuple[int, ...]:
    """The faces of a box in order, as the surfaces of its rectangle carried along an own axis: near
    and far end first, then the sides in the order the rectangle runs."""
    first, second = (other for other in range(3) if other != axis)
    made = (2 * axis, 2 * axis + 1, 2 * second, 2 * first + 1, 2 * second + 1, 2 * first)
    return tuple(made.index(face) for face in range(6))


SMALLEST_MM = 0.01
"""A side, a bar or a chamfer thinner than a hair of ink is a slip of the keyboard."""

SIDES = (said("front"), said("back"), said("left"), said("right"), said("top"), said("base"))
FACE_OF = {"left": 0, "right": 1, "front": 2, "back": 3, "base": 4, "top": 5}
"""Sides of a volume by their words, and as faces of its box."""
