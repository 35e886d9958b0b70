"""A starter opened again: its answers read back from the framework, changed, and merged with what a
hand has done to its parts since."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, NamedTuple

import numpy as np

from isometron.document.begun import Answer, Begun, Part
from isometron.document.document import Document
from isometron.document.edits.choosing import own_name
from isometron.document.edits.starters.setting_down import called_on_sheet, tried_answers
from isometron.document.edits.starters.starter import Made, Read, Starter, Values
from isometron.framework.box import AXES
from isometron.framework.placing import Counts, Pose
from isometron.framework.settling import settle
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

ALIKE = 1e-7
"""Two numbers of a framework that differ by a smaller share are the same: what was dragged is read
back into the answers, not typed."""


class Opened(NamedTuple):
    """A starter opened again: what it set down, its answers as they stand, and what was done to its
    parts by hand since, in words."""

    begun: Begun
    answers: dict[str, float]
    own: tuple[str, ...]


def open_again(document: Document, begun: Begun, starter: Starter) -> Opened:
    """A starter as the framework stands now. Raises VolumeError where what it was told, in a file
    that somebody has written, gives no framework."""
    tried_answers(starter, starter.proposal | dict(begun.answers))
    answers = _read_back(document, begun, starter)
    before = _Set(document, begun, starter, answers)
    own = []
    for mine, key in begun.parts:
        now, then = document.by_key(key), before.parts.get(mine)
        if now is not None and then is not None:
            what = list(_changed(now, then, before.frees(mine)))
            if what:
                own.append(f"{now.name}: {', '.join(what)}")
    return Opened(begun, answers, tuple(own))


def begin_again(document: Document, begun: Begun, starter: Starter, values: Values) -> Document:
    """The sheet with a starter's framework as other answers give it. What was done to its parts by
    hand stays, where the part is still there; what was taken away stays away; the eye stays.

    Raises VolumeError for answers that give no framework.
    """
    tried_answers(starter, values)
    before = _Set(document, begun, starter, _read_back(document, begun, starter))
    after = _Set(document, begun, starter, values, before)
    kept: dict[int, Volume] = {}
    names = document
    for mine, new in after.parts.items():
        key, now, then = after.keys[mine], document.by_key(after.keys[mine]), before.parts.get(mine)
        if now is not None and then is not None:
            kept[key] = _merged(now, then, new, free=before.frees(mine))
        elif then is None:
            named = replace(new, name=own_name(names, new.name))
            names = replace(names, volumes=(*names.volumes, named))
            kept[key] = named
    gone = begun.keys - kept.keys()
    there = [kept.pop(v.key, v) for v in document.volumes if v.key not in gone]
    volumes = _with_sources([*there, *kept.values()])
    lead = None if document.volume is None else document.volume.key
    known = {one.name for one in after.modules}
    others = tuple(one for one in document.modules if one.name not in known)
    there_now = {volume.key for volume in volumes}
    fresh = Begun(
        begun.starter,
        tuple(Answer(*one) for one in values.items()),
        tuple(
            Part(mine, after.keys[mine]) for mine in after.parts if after.keys[mine] in there_now
        ),
        begun.modules,
    )
    meant = after.meant(document, before)
    bare = replace(
        document,
        intentions=meant,
        begun=tuple(fresh if one == begun else one for one in document.begun),
        selected=None,
        also=frozenset(),
    )
    done = bare.settled(volumes, (*after.modules, *others))
    keys = [volume.key for volume in done.volumes]
    return replace(done, selected=keys.index(lead) if lead in keys else 0 if keys else None)


def _read_back(document: Document, begun: Begun, starter: Starter) -> dict[str, float]:
    """The answers as the framework stands: what a question measures is measured, the others are as
    they were told; all as told where that gives no framework any more."""
    told = starter.proposal | dict(begun.answers)
    parts = {mine: one for mine, key in begun.parts if (one := document.by_key(key)) is not None}
    if starter.frame not in parts:
        return told
    now, answers = Read(parts, starter.frame), dict(told)
    for question in starter.questions:
        if question.measure is None:
            continue
        try:
            value = question.measure(now, told)
        except KeyError:  # its part was taken away
            continue
        if math.isfinite(value) and not _alike(value, told[question.name]):
            answers[question.name] = value
    try:
        tried_answers(starter, answers)
        made = starter.make(answers)
        settle(made.volumes, made.modules)
    except (VolumeError, ValueError, ZeroDivisionError):
        return told
    return answers


class _Set:
    """What a starter sets down from some answers, where and as it is called on the sheet."""

    def __init__(
        self,
        document: Document,
        begun: Begun,
        starter: Starter,
        values: Values,
        before: "_Set | None" = None,
    ) -> None:
        """before: the same from other answers, with which it shares its place."""
        self.made: Made = starter.make(values)
        self.made_keys = {volume.key for volume in self.made.volumes}
        self.parts: dict[int, Volume]
        self.place: Pose
        self.keys: dict[int, int] = dict(begun.parts) if before is None else dict(before.keys)
        free = 1 + max((document.free_key - 1, *self.keys.values()))
        for volume in self.made.volumes:
            if volume.key not in self.keys:
                self.keys[volume.key], free = free, free + 1
        self.modules, volumes = called_on_sheet(self.made, dict(begun.modules))
        settled, self.modules = settle(volumes, self.modules)
        self.place = self._placed(document, begun, settled) if before is None else before.place
        self.parts = {
            volume.key: self._on_sheet(volume)
            for volume in settled
            if before is None
            or volume.key not in before.made_keys
            or document.by_key(self.keys[volume.key]) is not None
        }

    def _placed(self, document: Document, begun: Begun, settled: tuple[Volume, ...]) -> Pose:
        """Where the starter's own ground lies on the sheet, by the first part that hangs on
        nothing."""
        for volume in settled:
            key = self.keys.get(volume.key)
            now = None if key is None else document.by_key(key)
            if volume.on is None and volume.like is None and now is not None and now.on is None:
                axes = np.asarray(volume.pose[1].T @ now.pose[1])
                return np.asarray(now.pose[0] - volume.pose[0] @ axes), axes
        return np.zeros(3), np.eye(3)

    def _on_sheet(self, volume: Volume) -> Volume:
        place, axes = self.place
        own = volume.pose
        moved = volume
        if np.any(place) or not np.array_equal(axes, np.eye(3)):
            moved = volume.posed((own[0] @ axes + place, own[1] @ axes))
        on, like = volume.on, volume.like
        if on is not None:
            on = replace(on, parent=self.keys[on.parent])
        if like is not None:
            of = {"source": self.keys[like.source]}
            if hasattr(like, "about"):
                of["about"] = self.keys[like.about]
            like = replace(like, **of)  # type: ignore[arg-type]
        return replace(moved, key=self.keys[volume.key], on=on, like=like)

    def frees(self, mine: int) -> bool:
        """Whether a part stands on the ground, wherever the person puts it."""
        part = self.parts[mine]
        return part.on is None and part.like is None

    def meant(self, document: Document, before: "_Set") -> tuple[Any, ...]:
        """The sheet's intentions with those of this framework for those it had before; what was let
        go stays let go."""
        old = {_tie(one.rekeyed(before.keys)) for one in before.made.meant}
        there = {_tie(one) for one in document.intentions}
        own = [one.rekeyed(self.keys) for one in self.made.meant]
        kept = [one for one in own if _tie(one) in there or _tie(one) not in old]
        others = [one for one in document.intentions if _tie(one) not in old]
        return (*others, *(one for one in kept if one not in others))


def _tie(one: Any) -> tuple[str, tuple[int, ...], int]:
    """What tells an intention from others: its kind, what it ties, along which axis."""
    return one.word, one.keys, getattr(one, "axis", 0)


def _alike(one: Any, other: Any) -> bool:
    """Whether two values say the same, numbers but for ALIKE."""
    if isinstance(one, float | int) and isinstance(other, float | int):
        return math.isclose(one, other, rel_tol=ALIKE, abs_tol=ALIKE)
    if is_dataclass(one) and type(one) is type(other):
        return all(
            _alike(getattr(one, each.name), getattr(other, each.name)) for each in fields(one)
        )
    if isinstance(one, tuple) and isinstance(other, tuple):
        return len(one) == len(other) and all(map(_alike, one, other))
    return bool(one == other)


@dataclass(frozen=True)
class _Apart:
    """In what a part differs from what its starter set down."""

    sides: tuple[bool, bool, bool]
    shape: bool
    place: bool


def _apart(now: Volume, then: Volume) -> _Apart:
    width, depth, height = (not _alike(a, b) for a, b in zip(now.sides, then.sides, strict=True))
    size = ALIKE * max(*now.sides, *then.sides)
    (at, axes), (was, turned) = now.pose, then.pose
    moved = float(np.abs(at - was).max()) > size or float(np.abs(axes - turned).max()) > ALIKE
    return _Apart((width, depth, height), not _alike(now.shape, then.shape), moved)


def _changed(now: Volume, then: Volume, free: bool) -> Iterator[str]:
    """What a hand has changed of a part, in words."""
    if now.like is not None:
        return
    apart = _apart(now, then)
    yield from (_(AXES[axis]) for axis in range(3) if apart.sides[axis])
    if apart.shape:
        yield _("shape")
    if apart.place and not free:
        yield _("place")
    if any(_drawn_apart(now, then)):
        yield _("what is cut or drawn on it")


DRAWN = ("cuts", "edgings", "marks", "circles", "face_rings", "skins")
"""What is cut or drawn on a part."""


def _drawn_apart(now: Volume, then: Volume) -> list[str]:
    """Which of DRAWN a hand has changed."""
    return [name for name in DRAWN if not _alike(getattr(now, name), getattr(then, name))]


def _merged(now: Volume, then: Volume, new: Volume, *, free: bool) -> Volume:
    """A part as new answers give it, with what a hand has changed of it."""
    if now.locked or (now.like is not None and now.like == then.like):
        return now if now.locked else replace(now, like=new.like)
    apart = _apart(now, then)
    sides, counts = list(new.sides), list(new.counts)
    for axis in range(3):
        if apart.sides[axis]:
            sides[axis], counts[axis] = now.sides[axis], now.counts[axis]
    width, depth, height = sides
    every: Counts = (counts[0], counts[1], counts[2])
    done = replace(now, width_mm=width, depth_mm=depth, height_mm=height, counts=every)
    if not apart.shape:
        done = replace(done, shape=new.shape)
    own = _drawn_apart(now, then)
    done = replace(done, **{name: getattr(new, name) for name in DRAWN if name not in own})
    if free and now.on is None and apart.place:
        shift = np.array(new.place) - np.array(then.place)
        x, y, z = (float(v) for v in np.array(now.place) + shift)
        return replace(done, x_mm=x, y_mm=y, z_mm=z)
    return done if apart.place else replace(done.posed(new.pose), on=new.on)


def _with_sources(volumes: list[Volume]) -> list[Volume]:
    """Without the copies of what is gone."""
    keys = {volume.key for volume in volumes}
    kept = [
        one
        for one in volumes
        if one.like is None
        or {one.like.source, getattr(one.like, "about", one.like.source)} <= keys
    ]
    return kept if len(kept) == len(volumes) else _with_sources(kept)
