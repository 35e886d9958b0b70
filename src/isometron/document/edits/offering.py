"""What a hand has just made true between parts, or all but true, and may have meant: offered to be
kept so."""

from collections.abc import Hashable
from functools import partial
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document, Edit
from isometron.document.edits.choosing import select
from isometron.document.edits.meaning import keep_as_long, keep_cube, keep_square, keep_square_to
from isometron.framework.box import AXES
from isometron.framework.intentions.centred import Centred
from isometron.framework.intentions.flush import Flush
from isometron.framework.intentions.intention import TRUE_MM, Intention, middle_of
from isometron.framework.intentions.square_to import off_square_deg
from isometron.framework.kinds.block import BLOCK
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.words import _

NEAR_MISS = 0.1
"""Sides that differ by no more than this share may be meant to be alike."""

EXACT_DEG, NEAR_DEG = 1e-6, 4.0
"""What is turned by less off a right angle has one; what is turned by no more may be meant to."""

NEAREST = 24
"""Of the other volumes so many, the nearest, are looked at."""


class Offer(NamedTuple):
    """What may have been meant: told in words, what does it, and what it is known by, so that it is
    offered once."""

    words: str
    edit: Edit
    key: Hashable


def offered(before: Document, after: Document) -> Offer | None:
    """What an edit may have been meant for, if anything: a tie it has made true, or sides that are
    all but alike."""
    tie = newly_true(before, after)
    if tie is not None:
        return Offer(tie.told(after.parts), lambda d: d.with_intention(tie), tie)
    return (
        _all_but_alike(before, after)
        or _all_but_as_long(before, after)
        or _all_but_square(before, after)
    )


def _changed_one(before: Document, after: Document) -> tuple[int, Volume, list[int]] | None:
    """The volume in work, its number, and which of its sides a hand has changed; None of a copy
    and of one that is new."""
    index, part = after.selected, after.volume
    old = None if part is None else before.by_key(part.key)
    if index is None or part is None or old is None or part.like is not None:
        return None
    return index, part, [axis for axis in range(3) if old.sides[axis] != part.sides[axis]]


def _others(after: Document, part: Volume) -> list[Volume]:
    """The volumes beside a part that are seen and not chosen with it, the nearest first."""
    chosen = {after.volumes[i].key for i in after.chosen}
    others = [one for one in after.volumes if one.shown and one.key not in (*chosen, part.key)]
    middle = middle_of(part)
    others.sort(key=lambda one: float(np.linalg.norm(middle_of(one) - middle)))
    return others[:NEAREST]


def _all_but_as_long(before: Document, after: Document) -> Offer | None:
    """A part whose side a hand has brought near that of another with the same other sides."""
    found = _changed_one(before, after)
    if found is None or len(found[2]) != 1 or found[1].counts[found[2][0]] is not None:
        return None
    index, part, (axis,) = found
    for other in _others(after, part):
        off = part.sides[axis] / other.sides[axis] - 1
        alike = all(n == axis or abs(part.sides[n] / other.sides[n] - 1) <= SAME for n in range(3))
        if not (alike and other.shape == part.shape and SAME < abs(off) <= NEAR_MISS) or _hangs_on(
            other, part
        ):
            continue
        words = _("{name} as long as {other}? Its {side} is {share} % off").format(
            name=part.name, other=other.name, side=_(AXES[axis]), share=f"{100 * abs(off):.2g}"
        )
        number = _number(after, other)
        return Offer(
            words,
            partial(_kept_as_long, index, number, axis),
            ("as long", part.key, other.key, axis),
        )
    return None


def _number(document: Document, volume: Volume) -> int:
    return next(i for i, one in enumerate(document.volumes) if one.key == volume.key)


def _kept_as_long(index: int, other: int, axis: int, document: Document) -> Document:
    return keep_as_long(select(document, index), axis, other, axis)


def _kept_square_to(index: int, other: int, document: Document) -> Document:
    return keep_square_to(select(document, index), other)


def _hangs_on(other: Volume, part: Volume) -> bool:
    """Whether another copies a part, or is counted in it: it follows already."""
    copies = other.like is not None and other.like.source == part.key
    counted = any(
        name.rpartition(".")[0] == part.name
        for count in other.counts
        if count is not None
        for name in count.names
    )
    return copies or counted


def _all_but_square(before: Document, after: Document) -> Offer | None:
    """A part that a hand has turned near a right angle to another, and that has none."""
    found = _changed_one(before, after)
    old = None if found is None else before.by_key(found[1].key)
    if found is None or old is None or old.yaw_deg == found[1].yaw_deg:
        return None
    index, part, _changed = found
    if part.shape.axle == 2:
        return None
    for other in _others(after, part):
        off = off_square_deg(part, other)
        if other.shape.axle == 2 or not EXACT_DEG < abs(off) <= NEAR_DEG:
            continue
        words = _("{name} square to {other}? It is turned {off}° off").format(
            name=part.name, other=other.name, off=f"{abs(off):.2g}"
        )
        number = _number(after, other)
        return Offer(
            words,
            partial(_kept_square_to, index, number),
            ("square to", part.key, other.key),
        )
    return None


def _all_but_alike(before: Document, after: Document) -> Offer | None:
    """A box whose sides a hand has brought near a cube's, or near a square's, and that is none."""
    found = _changed_one(before, after)
    if found is None or len(found[2]) != 1:
        return None
    index, part, changed = found
    if part.shape != BLOCK or any(part.counts):
        return None
    axis = changed[0]
    off = [side / part.sides[axis] - 1 for side in part.sides]
    near = [n for n in range(3) if n != axis and 0 < abs(off[n]) <= NEAR_MISS]
    same = [n for n in range(3) if n != axis and abs(off[n]) <= NEAR_MISS]
    if not near:
        return None
    usual = float(np.median(part.sides)) if len(same) == 2 else part.sides[axis]
    worst = max(same, key=lambda n: abs(part.sides[n] / usual - 1))
    if len(same) == 2:
        worst = max(range(3), key=lambda n: abs(part.sides[n] / usual - 1))
    share, side = f"{100 * abs(part.sides[worst] / usual - 1):.2g}", _(AXES[worst])
    if len(same) == 2:
        words = _("{name} as a cube? Its {side} is {share} % off").format(
            name=part.name, side=side, share=share
        )
        return Offer(words, lambda d: keep_cube(select(d, index)), ("cube", part.key))
    words = _("{name} square? Its {side} is {share} % off").format(
        name=part.name, side=side, share=share
    )
    pair = frozenset((axis, worst))
    return Offer(words, lambda d: keep_square(select(d, index), axis, worst), (part.key, pair))


def newly_true(before: Document, after: Document) -> Intention | None:
    """What an edit has made true of the volume in work and another one that lies square to it: in
    its middle, or in line with an end of it; None where nothing is, or it is kept already."""
    was, now = before.parts, after.parts
    part = after.volume
    if part is None or part.like is not None or before.eye != after.eye:
        return None
    old = was.get(part.key)
    if old is None or ((old.pose[0] == part.pose[0]).all() and old.sides == part.sides):
        return None
    for other in _others(after, part):
        if was.get(other.key) != other or not _square_to(part, other):
            continue
        for tie in _between(part, other):
            known = any(_as_much(tie, one) for one in after.intentions)
            if not known and tie.miss_mm(now) <= TRUE_MM < tie.miss_mm(was):
                return tie
    return None


def _as_much(tie: Intention, other: Intention) -> bool:
    """Whether another says something of the same two along the same axis already."""
    same_axis = getattr(tie, "axis", None) == getattr(other, "axis", None)
    return same_axis and {*tie.keys} <= {*other.keys}


def _square_to(part: Volume, other: Volume) -> bool:
    turned = np.abs(part.pose[1] @ other.pose[1].T).max(axis=1)
    return bool((turned > 1 - SAME).all())


def _between(part: Volume, other: Volume) -> list[Intention]:
    """What may be kept of the one in the other, that which says most first."""
    axes = range(3)
    middles: list[Intention] = [Centred(part.key, other.key, axis) for axis in axes]
    ends = [Flush(part.key, other.key, axis, far) for axis in axes for far in (False, True)]
    return [*middles, *ends]
