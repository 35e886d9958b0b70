"""Legs and feet under a volume: a front and a back one, upright, raked or splayed, and the twins of
both."""

import math
from dataclasses import replace
from typing import NamedTuple

from isometron.framework.intentions.on_ground import OnGround
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import CYLINDER
from isometron.framework.placing import Anchor, Mirrored
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

STEEPEST_DEG = 60.0
"""A leg leans less than this."""


class Legs(NamedTuple):
    """Legs: how high and how thick, how far in from the sides of what they carry, mm; how far they
    lean toward front and back, and toward the sides, degrees; square or round."""

    high: float
    thick: float
    inset: float
    rake_deg: float = 0.0
    splay_deg: float = 0.0
    round: bool = False


def legs_under(carrier: Volume, legs: Legs, key: int, twins: int = 2) -> list[Volume]:
    """A front leg (of key), a back leg (key + 1) and the mirrored twins of both across the width
    (key + twins and on). Raises VolumeError for legs that have no room or lean too far."""
    high, thick, inset, rake_deg, splay_deg, is_round = legs
    if not (high > 0 and thick > 0 and inset >= 0):
        raise VolumeError(_("A leg has a height and a thickness: type both."))
    if 2 * (inset + thick) > min(carrier.sides[:2]):
        raise VolumeError(_("Those legs have no room: make them thinner or set them less far in."))
    if not max(abs(rake_deg), abs(splay_deg)) < STEEPEST_DEG:
        raise VolumeError(_("A leg leans less than {most:g}°.").format(most=STEEPEST_DEG))
    rake, splay = (high * math.tan(math.radians(deg)) for deg in (rake_deg, splay_deg))
    if is_round and (rake or splay):
        raise VolumeError(_("Round feet stand upright: take square legs, or type 0° for both."))
    sides = (thick, thick, high)
    if is_round:
        x = y = round_inset(carrier, inset, thick)
    else:
        x = y = inset

    def leg(name: str, own: int, at: Anchor, rake: float) -> Volume:
        shape: Kind = CYLINDER if is_round else BLOCK
        if rake or splay:
            shape = Taper(rake, -rake, splay, -splay)
        return Volume(name, *sides, on=at, shape=shape, key=own, group=carrier.group)

    near = Anchor(carrier.key, (0.0, 0.0, 0.0), (x - splay, y - rake, -high))
    far = Anchor(carrier.key, (0.0, 1.0, 0.0), (x - splay, rake - y - thick, -high))
    made = [leg(_("Front leg"), key, near, rake), leg(_("Back leg"), key + 1, far, -rake)]
    return [*made, *(twin_of(one, carrier.key, twins) for one in made)]


def round_inset(carrier: Volume, inset: float, thick: float) -> float:
    """How far in a round foot stands from the sides of the box of its carrier, mm: under something
    round it is set in from its rim."""
    if carrier.shape.axle != 2:
        return inset
    radius = min(carrier.sides[:2]) / 2
    return radius - (radius - inset - thick / 2) / math.sqrt(2.0) - thick / 2


def twin_of(source: Volume, about: int, further: int = 10, axis: int = 0) -> Volume:
    """The mirrored twin of a part, across the middle of part `about`; its key is so many more."""
    return replace(
        source,
        name=_("{name} twin").format(name=source.name),
        key=further + source.key,
        on=None,
        like=Mirrored(source.key, about, axis),
    )


def standing(legs: list[Volume]) -> tuple[OnGround, ...]:
    """What legs are meant to do: their feet stay on the ground."""
    return tuple(OnGround(one.key) for one in legs if one.like is None)
