"""What the person with the pencil is told of a circle."""

from isometron.document.document import Document
from isometron.drawing.rounds import DrawnCircle
from isometron.perspective.lengths import write_angle, write_length, write_mm

GOOD_ENOUGH_MM = 0.5
"""An error on the paper that a hand with a ruler cannot tell."""


def how_to_draw(document: Document, circle: DrawnCircle) -> tuple[str, ...]:
    """What the person with the pencil is told of a circle: how open and how tilted, whether the
    rule of the minor axis holds here, and which guide."""
    unit = document.choices.unit

    def length(mm: float) -> str:
        return write_length(mm, unit)

    ellipse = circle.ellipse
    if ellipse is None:
        return (f"It passes beside us: a {circle.picture.conic}, not an ellipse.",)
    words = [
        f"Opens to {ellipse.degree_deg:.1f}°; {length(2 * ellipse.semi_major_mm)} long, tilted "
        f"{write_angle(round(ellipse.major_axis_deg, 1))}."
    ]
    gap = circle.rule_gap_mm()
    if gap is not None and circle.picture.miss_deg is not None:
        good = "good enough here" if gap <= GOOD_ENOUGH_MM else "do not follow it here"
        words.append(
            f"The short axis misses the axle by {circle.picture.miss_deg:.1f}°. Laid along it you "
            f"lose {write_mm(gap)}: {good}."
        )
    guide = circle.guide(document.kit)
    if guide is None:
        words.append("You have listed no guide: draw it in its square.")
    else:
        fits = "fits" if guide.error_mm <= GOOD_ENOUGH_MM else "is the nearest guide"
        words.append(
            f"{guide.degree_deg:g}°, {guide.long_axis_mm:g} mm {fits}; it errs by "
            f"{write_mm(guide.error_mm)} at most."
        )
    return tuple(words)
