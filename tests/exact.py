"""The geometry again, by itself: 50 digits, straight from the definitions, nothing shared."""

from mpmath import atan2, cos, mp, mpf, pi, sin

mp.dps = 50


def radians(degrees):
    return mpf(degrees) * pi / 180


def frame(eye):
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
    r, u, f = frame(eye)
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
    r, u, f = frame(eye)
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
