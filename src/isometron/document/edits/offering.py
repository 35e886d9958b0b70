"""What a hand has just made true between parts, and may have meant: offered to be kept so."""

from collections.abc import Hashable
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document, Edit
from isometron.document.edits.choosing import select
from isometron.document.edits.meaning import keep_cube, keep_square
from isometron.framework.box import AXES
from isometron.framework.intentions.centred import Centred
from isometron.framework.intentions.flush import Flush
from isometron.framework.intentions.intention import TRUE_MM, Intention, middle_of
from isometron.framework.kinds.block import BLOCK
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.words import _

NEAR_MISS = 0.1
"""Sides that differ by no more than this share may be meant to be alike."""

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
    return _all_but_alike(before, after)


def _all_but_alike(before: Document, after: Document) -> Offer | None:
    """A box whose sides a hand has brought near a cube's, or near a square's, and that is none."""
    index, part = after.selected, after.volume
    old = None if part is None else before.by_key(part.key)
    if index is None or part is None or old is None or part.like is not None:
        return None
    changed = [axis for axis in range(3) if old.sides[axis] != part.sides[axis]]
    if len(changed) != 1 or part.shape != BLOCK or any(part.counts):
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
    chosen = {after.volumes[i].key for i in after.chosen}
    others = [one for one in after.volumes if one.shown and one.key not in chosen]
    others = [one for one in others if one.key in was and was[one.key] == one]
    middle = middle_of(part)
    others.sort(key=lambda one: float(np.linalg.norm(middle_of(one) - middle)))
    for other in others[:NEAREST]:
        if not _square_to(part, other):
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
