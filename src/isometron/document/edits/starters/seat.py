"""A seat with splayed legs; a leaning back, a panel or slats between posts; arms."""

import math
from dataclasses import replace

from isometron.document.edits.fittings.legs import twin_of
from isometron.document.edits.starters.starter import (
    Made,
    Question,
    Read,
    Starter,
    Values,
    side,
    span,
)
from isometron.framework.intentions.on_ground import OnGround
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.taper import Taper
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.places import Sides
from isometron.words import _, said

BOARD, LEG, ARM, BACK = 50.0, 42.0, 46.0, 40.0
"""Thickness of seat, legs, arms and back, mm."""

MOST_SLATS = 12
SLATTED = 0.62
"""Slats take this share of the height of a back, the gaps between them the rest."""


def _part(
    name: str, key: int, sides: Sides, anchor: Anchor | None = None, shape: Kind = BLOCK
) -> Volume:
    return Volume(name, *sides, key=key, on=anchor, shape=shape, group=_("Seat"))


def _legs(values: Values) -> list[Volume]:
    high = values["seat height"] - BOARD
    splay = high * math.tan(math.radians(values["splay"]))
    inset = 0.5 * LEG
    front = _part(
        _("Front leg"),
        1,
        (LEG, LEG, high),
        Anchor(0, (0.0, 0.0, 0.0), (inset - splay, inset - splay, -high)),
        Taper(splay, -splay, splay, -splay),
    )
    back = _part(
        _("Back leg"),
        2,
        (LEG, LEG, high),
        Anchor(0, (0.0, 1.0, 0.0), (inset - splay, splay - inset - LEG, -high)),
        Taper(-splay, splay, splay, -splay),
    )
    return [front, back]


def _arms(values: Values) -> list[Volume]:
    deep, high = values["depth"], values["arm height"] - 28.0
    rest = _part(
        _("Arm"),
        4,
        (ARM, 0.82 * deep, 28.0),
        Anchor(0, (0.0, 0.0, 1.0), (0.0, 0.1 * deep, high)),
    )
    post = _part(
        _("Arm post"), 5, (ARM, ARM, high), Anchor(0, (0.0, 0.0, 1.0), (0.0, 0.16 * deep, 0.0))
    )
    return [rest, post]


def _back(values: Values) -> tuple[list[Volume], list[Volume]]:
    """The back, or its slats and what they stand between; and those of them that have a twin."""
    wide, high, slats = values["width"], values["back height"], round(values["slats"])
    slope = math.tan(math.radians(values["back rake"]))
    posts = values["posts"] > 0 or slats > 0  # slats stand between something
    if not slats <= MOST_SLATS:
        raise VolumeError(
            _("So many slats fit no back: type 0 for a panel, up to {most}.").format(
                most=MOST_SLATS
            )
        )
    inner = wide - 2 * LEG if posts else wide
    begin = LEG if posts else 0.0

    def leaning(name: str, key: int, wide: float, x: float, foot: float, tall: float) -> Volume:
        run = tall * slope
        at = Anchor(0, (0.0, 1.0, 1.0), (x, foot * slope - BACK, foot))
        return _part(name, key, (wide, BACK, tall), at, Taper(run, -run, 0.0, 0.0))

    post = [leaning(_("Back post"), 6, LEG, 0.0, 0.0, high)] if posts else []
    if slats == 0:
        return [leaning(_("Back"), 3, inner, begin, 0.0, high)], post
    # between posts the lowest slat leaves the seat free
    gaps = max(slats - 1, 1) if slats == 1 or not posts else slats
    tall = SLATTED * high / slats
    gap = (high - slats * tall) / gaps
    lowest = gap if gaps == slats else 0.0
    boards = [
        leaning(
            _("Slat {number}").format(number=n + 1),
            20 + n,
            inner,
            begin,
            lowest + n * (tall + gap),
            tall,
        )
        for n in range(slats)
    ]
    return boards, post


def _seat(values: Values) -> Made:
    height, wide, deep = (values[k] for k in ("seat height", "width", "depth"))
    if height <= BOARD or min(wide, deep) <= 3 * LEG or values["arm height"] <= 28.0:
        raise VolumeError(_("That is too small for a seat: make it higher or wider."))
    seat = replace(_part(_("Seat"), 0, (wide, deep, BOARD)), z_mm=height - BOARD)
    backs, posts = _back(values)
    arms = _arms(values) if values["arms"] > 0 else []
    sides = [*_legs(values), *arms, *posts]
    twins = [twin_of(source, 0) for source in sides]
    return Made(
        (Module("seat", height),), [seat, *backs, *sides, *twins], tuple(map(OnGround, (1, 2)))
    )


def _seat_height(now: Read, _told: Values) -> float:
    """From the floor to the top of the seat."""
    return now.parts[0].z_mm + now.side(0, 2)


def _back_height(now: Read, _told: Values) -> float:
    """From the seat to the top of the back, or of its posts."""
    return now.side(3 if 3 in now.parts else 6, 2)


def _leaning(now: Read, key: int) -> float:
    """How far the front of a part leans, degrees. Raises KeyError for another kind of part."""
    leans = now.parts[key].shape.leans
    if leans is None:
        raise KeyError
    return math.degrees(math.atan2(leans[0], now.side(key, 2)))


def _rake(now: Read, _told: Values) -> float:
    """How far the back leans."""
    return _leaning(now, 3 if 3 in now.parts else 6)


def _splay(now: Read, _told: Values) -> float:
    """How far the legs spread."""
    return _leaning(now, 1)


SEAT = Starter(
    said("Seat"),
    said("millimetres"),
    (
        Question(
            said("seat height"),
            "length",
            440.0,
            said("From the floor to the top of the seat."),
            measure=_seat_height,
        ),
        Question(
            said("depth"),
            "length",
            460.0,
            said("From front to back."),
            measure=side(0, 1),
        ),
        Question(
            said("width"),
            "length",
            500.0,
            said("From side to side."),
            measure=side(0, 0),
        ),
        Question(
            said("back height"),
            "length",
            430.0,
            said("From the seat to the top of the back."),
            measure=_back_height,
        ),
        Question(said("back rake"), "angle", 12.0, said("How far the back leans."), measure=_rake),
        Question(said("slats"), "count", 0.0, said("How many; 0 for a panel."), none=True),
        Question(
            said("posts"),
            "yes",
            0.0,
            said("Posts above the seat, both sides; slats always have them."),
            none=True,
        ),
        Question(said("arms"), "yes", 1.0, said("An arm at each side."), none=True),
        Question(
            said("arm height"),
            "length",
            220.0,
            said("From the seat to the top of the arm."),
            measure=span(0, 1.0, 4, 1.0, 2),
        ),
        Question(
            said("splay"), "angle", 5.0, said("How far the legs spread outward."), measure=_splay
        ),
    ),
    _seat,
)
