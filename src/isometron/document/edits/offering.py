"""What a hand has just made true between parts, and may have meant: offered to be kept so."""

import numpy as np

from isometron.document.document import Document
from isometron.framework.intentions.centred import Centred
from isometron.framework.intentions.flush import Flush
from isometron.framework.intentions.intention import TRUE_MM, Intention, middle_of
from isometron.framework.volume import Volume
from isometron.nearness import SAME

NEAREST = 24
"""Of the other volumes so many, the nearest, are looked at."""


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
