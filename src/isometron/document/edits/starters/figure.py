"""A plain figure of a given height, standing or seated: bounding volumes between its joints, to see
a framework by. Made up for sketching: no ergonomic data."""

from isometron.document.edits.fittings.legs import twin_of
from isometron.document.edits.starters.starter import Made, Question, Starter, Values
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.words import _, said

STANDING, SEATED = 1, 2
SHANK, THIGH, TRUNK, NECK, HEAD = 0.255, 0.225, 0.33, 0.05, 0.14
"""From joint to joint, as shares of the height."""

LIMB, ARM, BROAD, DEEP = 0.065, 0.05, 0.17, 0.11
"""How broad legs, arms and a trunk are, and how deep a trunk, as shares of the height."""


def _figure(values: Values) -> Made:
    high, seated = values["height"], round(values["pose"]) == SEATED
    group = _("Figure")

    def part(name: str, key: int, sides: tuple[float, float, float], **own: object) -> Volume:
        wide, deep, tall = (high * share for share in sides)
        return Volume(name, wide, deep, tall, key=key, group=group, **own)  # type: ignore[arg-type]

    def on(parent: int, shares: tuple[float, float, float], x: float, y: float, z: float) -> Anchor:
        return Anchor(parent, shares, (high * x, high * y, high * z))

    shank = part(_("Shank"), 0, (LIMB, LIMB, SHANK))
    upper = (LIMB, THIGH + LIMB, LIMB) if seated else (LIMB, LIMB, THIGH)
    thigh = part(_("Thigh"), 1, upper, on=on(0, (0.0, 0.0, 1.0), 0.0, 0.0, 0.0))
    back = 1.0 if seated else 0.5
    trunk = on(1, (0.0, back, 1.0), 0.0, -back * DEEP, 0.0)
    body = part(_("Trunk"), 2, (BROAD, DEEP, TRUNK), on=trunk)
    neck = part(
        _("Neck"), 3, (LIMB, LIMB, NECK), on=on(2, (0.5, 0.5, 1.0), -LIMB / 2, -LIMB / 2, 0.0)
    )
    head = part(
        _("Head"),
        4,
        (0.095, 0.115, HEAD),
        on=on(3, (0.5, 0.5, 1.0), -0.0475, -0.0575, 0.0),
    )
    arm = part(_("Arm"), 5, (ARM, ARM, 0.36), on=on(2, (0.0, 0.5, 1.0), -ARM, -ARM / 2, -0.36))
    twins = [twin_of(one, 2) for one in (shank, thigh, arm)]
    return Made((Module("figure", high),), [shank, thigh, body, neck, head, arm, *twins])


FIGURE = Starter(
    said("Figure"),
    said("millimetres"),
    (
        Question(
            said("height"),
            "length",
            1720.0,
            said("Standing upright: of a plain figure to see a framework by."),
        ),
        Question(
            said("pose"),
            "choice",
            1.0,
            said("Standing, or seated."),
            choices=(said("standing"), said("seated")),
        ),
    ),
    _figure,
)
