"""The geometry again, by itself: 50 digits, straight from the definitions, nothing shared; and
sight rays shot at triangles."""

import numpy as np
from mpmath import atan2, cos, mp, mpf, pi, sin

mp.dps = 50


def radians(degrees):
    return mpf(degrees) * pi / 180


def sight_axes(eye):
    """Right, up, forward from the written formulas, up as the cross product."""
    h, t = radians(eye.heading_deg), radians(eye.tilt_deg)
    r = (cos(h), -sin(h), mpf(0))
    f = (sin(h) * cos(t), cos(h) * cos(t), sin(t))
    u = (r[1] * f[2] - r[2] * f[1], r[2] * f[0] - r[0] * f[2], r[0] * f[1] - r[1] * f[0])
    return r, u, f


def dot(a, b):
    return sum(x * y for x, y in zip(a, b, strict=True))


def seen(eye, world):
    """(x, y, depth) of a world point; x and y are None behind the eye."""
    r, u, f = sight_axes(eye)
    place = (eye.x_mm, eye.y_mm, eye.height_mm)
    v = [mpf(float(p)) - mpf(e) for p, e in zip(world, place, strict=True)]
    depth = dot(v, f)
    if depth <= 1:
        return None, None, depth
    cx, cy = eye.centre_of_vision_mm
    d = mpf(eye.station_distance_mm)
    return cx + d * dot(v, r) / depth, cy + d * dot(v, u) / depth, depth


def level_direction(yaw_deg):
    y = radians(yaw_deg)
    return cos(y), sin(y), mpf(0)


def vanishing(eye, direction):
    """(x, y) where a direction vanishes; None when it stays parallel."""
    r, u, f = sight_axes(eye)
    ahead = dot(direction, f)
    if abs(ahead) < mpf(10) ** -40:
        return None
    cx, cy = eye.centre_of_vision_mm
    d = mpf(eye.station_distance_mm)
    return cx + d * dot(direction, r) / ahead, cy + d * dot(direction, u) / ahead


def box_corner(box, corner):
    """World corner of a box from its definition."""
    x, y = level_direction(box.yaw_deg), level_direction(mpf(box.yaw_deg) + 90)
    w, d, h = box.width_mm * (corner & 1), box.depth_mm * (corner >> 1 & 1), corner >> 2
    return (
        box.x_mm + w * x[0] + d * y[0],
        box.y_mm + w * x[1] + d * y[1],
        mpf(box.z_mm) + mpf(box.height_mm) * h,
    )


def angle_between(a, b):
    """Degrees between two sheet vectors."""
    cross, inner = a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]
    return abs(atan2(cross, inner)) * 180 / pi


def blocked(start, targets, corners, far=False, skin=1e-6):
    """Which straight sights from a place, or (far) out of a direction, to targets (p, 3) are
    stopped by any of some triangles (t, 3, 3) farther than a skin (mm) before the target (Möller
    and Trumbore's test)."""
    run = np.tile(start * 1e5, (len(targets), 1)) if far else start - targets
    length = np.linalg.norm(run, axis=1)
    stopped = np.zeros(len(targets), dtype=bool)
    for some in np.array_split(corners, 1 + len(corners) // 256):
        middle = some.mean(axis=(0, 1))
        radius = np.linalg.norm(some - middle, axis=2).max()
        off = middle - targets
        share = np.clip((off * run).sum(axis=1) / length**2, 0.0, 1.0)
        passed = np.linalg.norm(off - share[:, None] * run, axis=1) <= radius
        rows = np.flatnonzero(passed & ~stopped)
        stopped[rows] = _hit(targets[rows], run[rows], skin / length[rows], some)
    return stopped


def _hit(begin, run, least, corners):
    one, two = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
    across = np.cross(run[:, None], two)
    with np.errstate(all="ignore"):
        f = 1 / (one * across).sum(axis=2)
        s = begin[:, None] - corners[:, 0]
        u = f * (s * across).sum(axis=2)
        q = np.cross(s, one)
        v, t = f * (q * run[:, None]).sum(axis=2), f * (two * q).sum(axis=2)
        hit = (u >= 0) & (v >= 0) & (u + v <= 1) & (t > least[:, None]) & (t < 1 - 1e-9)
    return hit.any(axis=1)


def surely_blocked(start, targets, corners, far=False, miss=0.3, clear=8):
    """The same for triangles that miss what they stand for by less than `miss` mm: which are
    stopped, and which are so (or not) wherever within that distance they run. What lies nearer
    than `clear` times that distance before a target stops no sight of it."""
    answers = [
        blocked(start, targets + miss * np.array(way), corners, far, clear * miss)
        for way in ((0, 0, 0), (1, 1, 1), (1, -1, -1), (-1, 1, -1), (-1, -1, 1))
    ]
    return answers[0], np.all(np.array(answers) == answers[0], axis=0)
