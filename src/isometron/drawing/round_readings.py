"""What the person with the pencil is told of a circle."""

import math

from isometron.document.document import Document
from isometron.drawing.rounds import DrawnCircle
from isometron.perspective.lengths import write_angle, write_length, write_mm, write_number
from isometron.words import _

GOOD_ENOUGH_MM = 0.5
"""An error on the paper that a hand with a ruler cannot tell."""


def how_to_draw(document: Document, circle: DrawnCircle) -> tuple[str, ...]:
    """What the person with the pencil is told of a circle: how open and how tilted, whether the
    rule of the minor axis holds here, and which guide."""
    unit = document.choices.unit

    def length(mm: float) -> str:
        return write_length(mm, unit)

    ellipse = circle.ellipse
    drawn = circle.picture
    if drawn.segment_mm is not None:
        long = length(math.dist(*drawn.segment_mm))
        return (_("Seen edge-on: draw a straight line, {length} long.").format(length=long),)
    if drawn.conic == "behind":
        return (_("It lies behind us: nothing of it is drawn."),)
    if ellipse is None:
        return (
            _("It passes beside us: a {conic}, not an ellipse.").format(conic=circle.picture.conic),
        )
    words = [
        _("Exactly round: draw it with the compass, {length} across.").format(
            length=length(2 * ellipse.semi_major_mm)
        )
        if drawn.conic == "round"
        else _("Opens to {degree}°; {length} long, tilted {write_angle}.").format(
            degree=write_number(ellipse.degree_deg, 1),
            length=length(2 * ellipse.semi_major_mm),
            write_angle=write_angle(round(ellipse.major_axis_deg, 1)),
        )
    ]
    if drawn.gap_mm is not None and drawn.gap_mm >= GOOD_ENOUGH_MM / 10:
        told = _("On a curved sheet it is no true ellipse: this one misses it by {gap} at most.")
        words.append(told.format(gap=write_mm(drawn.gap_mm)))
    gap = circle.rule_gap_mm()
    if gap is not None and circle.picture.miss_deg is not None:
        good = _("good enough here") if gap <= GOOD_ENOUGH_MM else _("do not follow it here")
        words.append(
            _(
                "The short axis misses the axle by {miss}°. Laid along it you lose {gap}: {good}."
            ).format(miss=write_number(circle.picture.miss_deg, 1), gap=write_mm(gap), good=good)
        )
    guide = circle.guide(document.kit)
    if guide is None:
        words.append(_("You have listed no guide: draw it in its square."))
    elif guide.larger:
        words.append(_("It is larger than your guides: draw it in its square."))
    else:
        fits = _("fits") if guide.error_mm <= GOOD_ENOUGH_MM else _("is the nearest guide")
        words.append(
            _("{degree}°, {long_axis} mm {fits}; it errs by {error} at most.").format(
                degree=write_number(guide.degree_deg),
                long_axis=write_number(guide.long_axis_mm),
                fits=fits,
                error=write_mm(guide.error_mm),
            )
        )
    return tuple(words)
