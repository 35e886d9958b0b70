"""Made-up boxes and rims as marks, projected here by formulas of their own."""

import numpy as np

from isometron.document.marks import FAMILIES, Edge, Marks, Picture, Round

EDGES = [(a, b) for a in range(8) for b in range(a + 1, 8) if a ^ b in (1, 2, 4)]
SIZE, CENTRE = (250.0, 180.0), (125.0, 90.0)


def eye_frame(heading, tilt, roll=0.0):
    """Rows right, up, away of an eye in the frame of the box (width, depth, height)."""
    h, t, r = np.radians([heading, tilt, roll])
    right = np.array([np.cos(h), -np.sin(h), 0.0])
    away = np.array([np.sin(h) * np.cos(t), np.cos(h) * np.cos(t), np.sin(t)])
    up = np.cross(right, away)
    return np.array([np.cos(r) * right - np.sin(r) * up, np.sin(r) * right + np.cos(r) * up, away])


def box(heading, tilt, roll=0.0, distance=450.0, sides=(5.0, 2.0, 1.5), centre=CENTRE):
    """Pictures (8, 2) of the corners of a box and their depths, its middle on the line of sight."""
    frame, sides = eye_frame(heading, tilt, roll), np.array(sides)
    corners = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)]) * sides
    away = 3.0 * np.linalg.norm(sides)
    seen = (corners - sides / 2) @ frame.T + (0, 0, away)
    return np.array(centre) + distance * seen[:, :2] / seen[:, 2:], seen[:, 2]


def shown(depths):
    """The nine edges that do not meet the farthest corner."""
    return [edge for edge in EDGES if int(depths.argmax()) not in edge]


def marks(places, edges, rng, noise=0.3, *, known=True, given=True, **more):
    """Edges with their corners, every end off by noise in both directions."""
    found = []
    for a, b in edges:
        one, two = (tuple(places[i] + noise * rng.standard_normal(2)) for i in (a, b))
        found.append(Edge(one, two, FAMILIES[(a ^ b).bit_length() - 1], (a, b)))
    picture = Picture(*SIZE, CENTRE if known else None)
    return Marks(picture, tuple(found), noise=noise if given else None, **more)


def rim(centre, axle, radius, heading, tilt, distance=450.0, count=40):
    """A circle about a place of the eye's frame, at right angles to an axis of the box (0 … 2)."""
    frame = eye_frame(heading, tilt)
    others = [frame[:, i] for i in range(3) if i != axle]
    t = np.linspace(0, 2 * np.pi, count, endpoint=False)[:, None]
    places = np.array(centre) + radius * (np.cos(t) * others[0] + np.sin(t) * others[1])
    seen = np.array(CENTRE) + distance * places[:, :2] / places[:, 2:]
    return Round(tuple(map(tuple, seen)), FAMILIES[axle], "rim")
