"""The rules of the second look about rounds: ellipses, wheels, guides."""

import itertools
import math
from functools import partial

import numpy as np

from isometron.document.edits.choosing import select
from isometron.document.edits.places.standing import stand_on_ground
from isometron.drawing.rounds import DrawnCircle, circle_in_work, circles_of
from isometron.nearness import NEAR, SAME
from isometron.perspective.cone import off_axis
from isometron.perspective.lengths import write_mm, write_number
from isometron.remarks.limits import (
    CONTACT_MM,
    DISAGREE_DEG,
    FLAT_ELLIPSE_DEG,
    HAND_MM,
    ONE_AXLE_DEG,
    ROUND_ELLIPSE_DEG,
)
from isometron.remarks.remark import Look, Remark, Remedy, Severity, rule, rule_of_one
from isometron.words import _

AROUND = np.linspace(0.0, 360.0, 72, endpoint=False)

SMALL_MM = 3.0
"""Nobody lays a guide over an ellipse that is drawn shorter than this."""


def _circles(look: Look) -> list[DrawnCircle]:
    return [circle for index, _unused in look.volumes() for circle in circles_of(look.scene, index)]


def _place(look: Look, circle: DrawnCircle) -> tuple[float, float]:
    if circle.ellipse is not None:
        return circle.ellipse.centre_mm
    if circle.picture.segment_mm is not None:
        (x, y), (x2, y2) = circle.picture.segment_mm
        return (x + x2) / 2, (y + y2) / 2
    return circle.picture.centre_mm or look.eye.centre_of_vision_mm


def _named(look: Look, circle: DrawnCircle) -> str:
    return _("{circle} of {name}").format(
        circle=_(circle.name).capitalize(), name=look.document.volumes[circle.volume].name
    )


@rule_of_one
def thin_or_open_ellipse(look: Look) -> list[Remark]:
    """An ellipse so thin that it is drawn as a line, or so open that it is drawn as a circle."""
    found: dict[tuple[int, bool], tuple[float, DrawnCircle]] = {}
    for circle in _circles(look):
        if circle.ellipse is None and circle.picture.segment_mm is None:
            continue
        degree = circle.ellipse.degree_deg if circle.ellipse is not None else 0.0
        thin = degree < FLAT_ELLIPSE_DEG
        if not (thin or degree > ROUND_ELLIPSE_DEG) or circle.role == "section":
            continue
        key = (circle.volume, thin)
        beyond = FLAT_ELLIPSE_DEG - degree if thin else degree - ROUND_ELLIPSE_DEG
        if key not in found or beyond > found[key][0]:
            found[key] = (beyond, circle)
    remarks = []
    for (index, thin), (_unused, circle) in found.items():
        degree = circle.ellipse.degree_deg if circle.ellipse is not None else 0.0
        advice = (
            _("under {flat_ellipse}° it is drawn as a line; raise or lower the eye").format(
                flat_ellipse=write_number(FLAT_ELLIPSE_DEG)
            )
            if thin
            else _("over {round_ellipse}° it is drawn as a circle").format(
                round_ellipse=write_number(ROUND_ELLIPSE_DEG)
            )
        )
        remarks.append(
            Remark(
                Severity.DOUBTFUL if thin else Severity.NOTE,
                (_("{name} goes flat") if thin else _("{name} is all but round")).format(
                    name=_named(look, circle)
                ),
                _("It opens to {degree}°: {advice}.").format(
                    degree=write_number(degree, 1), advice=advice
                )
                if circle.ellipse is not None
                else _("It is seen edge-on, a straight line; raise or lower the eye."),
                degree,
                "deg",
                _place(look, circle),
                index,
                1.0,
            )
        )
    return remarks


@rule
def wheels_disagree(look: Look) -> list[Remark]:
    """Wheels of one side whose axles or openness do not agree."""
    wheels: list[list[DrawnCircle]] = []
    for index, picture in look.volumes():
        if picture.volume.shape.rolls:
            circles = [c for c in circles_of(look.scene, index) if c.ellipse and c.role != "ring"]
            most = max((c.radius_mm for c in circles), default=0.0)
            wheels.append([c for c in circles if c.radius_mm >= most * (1 - SAME)])
    found = []
    for first, second in itertools.combinations([circles for circles in wheels if circles], 2):
        pair = min(itertools.product(first, second), key=_plane_offset)
        remark = _disagreement(look, *pair)
        if remark is not None:
            found.append(remark)
    return found[:2]


def _plane_offset(pair: tuple[DrawnCircle, DrawnCircle]) -> float:
    """How far apart the planes of two circles lie, mm: wheels of one side share theirs."""
    return abs(float((pair[1].centre - pair[0].centre) @ pair[0].normal))


def _disagreement(look: Look, first: DrawnCircle, second: DrawnCircle) -> Remark | None:
    cosine = min(abs(float(first.normal @ second.normal)), 1.0)
    off = math.degrees(math.acos(cosine))
    if _plane_offset((first, second)) > 0.5 * first.radius_mm or off > 30.0:
        return None  # they stand on different sides
    names = " and ".join(look.document.volumes[c.volume].name for c in (first, second))
    if off > ONE_AXLE_DEG:
        title, text = (
            _("stand askew"),
            _("Their axles differ by {off}°; turn one like the other.").format(
                off=write_number(off, 1)
            ),
        )
        value, unit = off, "deg"
    else:
        assert first.ellipse is not None and second.ellipse is not None
        value = abs(first.ellipse.degree_deg - second.ellipse.degree_deg)
        if value <= DISAGREE_DEG:
            return None
        title, unit = _("open differently"), "deg"
        text = _(
            "Their ellipses open to {degree}° and {degree2}°; step back until they look alike."
        ).format(
            degree=write_number(first.ellipse.degree_deg, 0),
            degree2=write_number(second.ellipse.degree_deg, 0),
        )
    return Remark(
        Severity.DOUBTFUL,
        f"{names} {title}",
        text,
        value,
        unit,
        _place(look, second),
        second.volume,
        value / DISAGREE_DEG,
    )


@rule_of_one
def minor_axis_off_axle(look: Look) -> list[Remark]:
    """The rule of the minor axis costs more than a hand can draw. Of each volume the worst."""
    worst: dict[int, tuple[float, DrawnCircle]] = {}
    for circle in _circles(look):
        bound = circle.rule_gap_bound_mm()
        if bound <= max(HAND_MM, worst.get(circle.volume, (0.0, circle))[0]):
            continue
        gap = circle.rule_gap_mm() or 0.0
        if gap > max(HAND_MM, worst.get(circle.volume, (0.0, circle))[0]):
            worst[circle.volume] = (gap, circle)
    return [
        Remark(
            Severity.NOTE,
            _("{look} leans off its axle").format(look=_named(look, circle)),
            _(
                "Its short axis misses the axle by {value}°; laid along the axle the "
                "ellipse would be {gap} wrong."
            ).format(value=write_number(circle.picture.miss_deg or 0.0, 1), gap=write_mm(gap)),
            gap,
            "mm",
            _place(look, circle),
            circle.volume,
            gap / HAND_MM,
        )
        for gap, circle in worst.values()
    ]


@rule_of_one
def circle_outside_the_cone(look: Look) -> list[Remark]:
    """A circle leaves the cone of vision: its ellipse looks stretched."""
    half = look.document.choices.cone_deg / 2
    worst: dict[int, tuple[float, DrawnCircle]] = {}
    for circle in _circles(look):
        if circle.ellipse is None:
            continue
        angle = float(off_axis(look.eye, circle.ellipse.point(AROUND)).max())
        if angle > half + NEAR and angle > worst.get(circle.volume, (0.0, circle))[0]:
            worst[circle.volume] = (angle, circle)
    return [
        Remark(
            Severity.SERIOUS,
            _("{look} leaves the cone").format(look=_named(look, circle)),
            _(
                "It reaches {angle}° off the centre of vision, the cone {half}°: there an "
                "ellipse looks stretched. Step back, or bring it nearer to the centre."
            ).format(angle=write_number(angle, 1), half=write_number(half)),
            angle,
            "deg",
            _place(look, circle),
            circle.volume,
            angle / half,
        )
        for angle, circle in worst.values()
    ]


@rule_of_one
def circle_beside_the_eye(look: Look) -> list[Remark]:
    """A circle reaches the eye's own plane: its picture is no ellipse."""
    found = {}
    for circle in _circles(look):
        passes = circle.picture.conic in ("parabola", "hyperbola")
        if passes and circle.volume not in found:
            found[circle.volume] = circle
    return [
        Remark(
            Severity.SERIOUS,
            _("{look} passes beside the eye").format(look=_named(look, circle)),
            _(
                "Part of it lies beside or behind us, so it is drawn as a {conic}; step "
                "back until all of it lies before us."
            ).format(conic=circle.picture.conic),
            circle.radius_mm,
            "mm",
            _place(look, circle),
            circle.volume,
            2.0,
        )
        for circle in found.values()
    ]


@rule
def no_guide_fits(look: Look) -> list[Remark]:
    """No guide of the person's own set comes near the ellipse in work."""
    circle = circle_in_work(look.document, look.scene)
    if circle is None or circle.ellipse is None or not look.document.kit.guide_degrees:
        return []
    if 2 * circle.ellipse.semi_major_mm < SMALL_MM:
        return []
    guide = circle.guide(look.document.kit)
    if guide is None or guide.error_mm <= HAND_MM:
        return []
    return [
        Remark(
            Severity.NOTE,
            _("No guide fits the {name} of {name2}").format(
                name=circle.name, name2=look.document.volumes[circle.volume].name
            ),
            (
                _(
                    "It is {length} long at {degree}°, larger than your guides: draw it in its "
                    "square."
                )
                if guide.larger
                else _(
                    "It is {length} long at {degree}°; the nearest, {degree2}° and {long_axis} "
                    "mm, is {error} off. Draw it in its square."
                )
            ).format(
                length=look.length(2 * circle.ellipse.semi_major_mm),
                degree=write_number(circle.ellipse.degree_deg, 0),
                degree2=write_number(guide.degree_deg),
                long_axis=write_number(guide.long_axis_mm),
                error=write_mm(guide.error_mm),
            ),
            guide.error_mm,
            "mm",
            _place(look, circle),
            circle.volume,
            guide.error_mm / HAND_MM,
        )
    ]


@rule_of_one
def wheel_off_the_ground(look: Look) -> list[Remark]:
    """A wheel with a level axle hangs above the ground, or sinks into it."""
    found = []
    for index, picture in look.volumes():
        volume = picture.volume
        axle = volume.shape.axle
        if axle is None or not volume.shape.rolls:
            continue
        if abs(float(picture.axes[axle][2])) > math.sin(math.radians(1.0)):
            continue
        circles = [c for c in circles_of(look.scene, index) if c.role != "ring"]
        if not circles:
            continue
        radius = max(c.radius_mm for c in circles)
        gap = float(circles[0].centre[2]) - radius
        if abs(gap) <= CONTACT_MM or volume.like is not None:
            continue
        found.append(
            Remark(
                Severity.DOUBTFUL,
                (
                    _("{name} hangs in the air") if gap > 0 else _("{name} sinks into the ground")
                ).format(name=volume.name),
                _("Its lowest point lies {length} {which} the ground.").format(
                    length=look.length(abs(gap)), which=_("above") if gap > 0 else _("below")
                ),
                gap,
                "mm",
                _place(look, circles[0]),
                index,
                1.0,
                partial(_set_down, index),
            )
        )
    return found


def _set_down(index: int) -> Remedy | None:
    return Remedy(_("Set it on the ground"), lambda d: stand_on_ground(select(d, index)))
