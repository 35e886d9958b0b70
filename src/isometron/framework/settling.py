"""Settling: working out everything that hangs on something else.

Sides counted in modules or in other sides, volumes that stand on others, and copies that follow
their source. Settling what is settled changes nothing.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import partial
from typing import TypeVar

import numpy as np

from isometron.framework.bodies.cuts import Cut
from isometron.framework.bodies.edging import Edging, same_edge
from isometron.framework.bodies.whole import Whole
from isometron.framework.box import AXES
from isometron.framework.circles import FaceCircle
from isometron.framework.face_rings import FaceRing, mirrored_ring
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.kind import Kind
from isometron.framework.modules import Count, Module, resolve
from isometron.framework.placing import (
    UNCOUNTED,
    Anchor,
    Mirrored,
    Stepped,
    anchor_at,
    anchored_axes,
    anchored_place,
    mirrored_pose,
    swung_pose,
)
from isometron.framework.skins import Skin, skin_kept
from isometron.framework.volume import Volume, checked
from isometron.perspective.angles import wrapped
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import LARGEST_MM, Array
from isometron.words import _

Modules = tuple[Module, ...]
T = TypeVar("T")


def settle(
    volumes: Sequence[Volume],
    modules: Modules,
    known: Sequence[Volume] = (),
    *,
    tried: bool = True,
) -> tuple[tuple[Volume, ...], Modules]:
    """The volumes and modules with everything that hangs on something else worked out.

    known: volumes that have been settled before, whose shape need not be tried again. tried: False
    leaves trying the others to who goes on with them.

    Raises VolumeError for a length, a standing or a copy that refers to itself, and for a volume
    whose shape cannot be. What hung on a volume that is gone keeps its place and size.
    """
    if not modules and not any(map(_hangs, volumes)):
        return tuple(volumes), modules
    freed = _without_lost(volumes)
    lengths = _lengths(freed, modules)
    modules = tuple(_same(m, replace(m, mm=lengths[m.name])) for m in modules)
    sized = [_sized(volume, lengths) for volume in freed]
    placed = _Placing(sized, {module.name: module.mm for module in modules}).all()
    if tried:
        try_anew(placed, known)
    return tuple(placed), modules


def try_anew(volumes: Sequence[Volume], known: Sequence[Volume]) -> None:
    """Raise VolumeError for a volume whose shape cannot be; those that are known can."""
    there = set(map(id, known))
    for volume in volumes:
        if id(volume) not in there and _has_form(volume):
            checked(volume)


def _hangs(volume: Volume) -> bool:
    """Whether a volume has anything to be worked out or checked."""
    plain = volume.on is None and volume.like is None and volume.counts == UNCOUNTED
    return not plain or _has_form(volume)


def _has_form(volume: Volume) -> bool:
    cut = volume.cuts or volume.edgings or volume.face_rings
    drawn = volume.marks or volume.circles or volume.skins
    return volume.shape != BLOCK or bool(cut) or bool(drawn)


def _same(old: T, new: T) -> T:
    """The old object when the new one says the same (so that caches know it again)."""
    return old if old == new else new


def _without_lost(volumes: Sequence[Volume]) -> list[Volume]:
    keys = {volume.key for volume in volumes}
    kept = []
    for volume in volumes:
        on, like = volume.on, volume.like
        if on is None and like is None:
            kept.append(volume)
            continue
        if on is not None and on.parent not in keys:
            on = None
        if like is not None and not {like.source, getattr(like, "about", like.source)} <= keys:
            like = None
        kept.append(_same(volume, replace(volume, on=on, like=like)))
    return kept


def _lengths(volumes: Sequence[Volume], modules: Modules) -> dict[str, float]:
    plain = {module.name: module.mm for module in modules}
    counted = {module.name: module.count for module in modules if module.count is not None}
    if not counted and all(volume.counts == UNCOUNTED for volume in volumes):
        return plain
    by_name = {volume.name: volume for volume in reversed(volumes)}
    for volume in volumes:
        for axis, count in enumerate(volume.counts):
            plain[_side_name(volume, axis)] = volume.sides[axis]
            if count is not None:
                counted[_side_name(volume, axis)] = count.called_anew(
                    partial(_referred, volume=volume, by_name=by_name)
                )
    return resolve(plain, counted)


def _side_name(volume: Volume, axis: int) -> str:
    return f"{volume.name} #{volume.key}.{AXES[axis]}"


def _referred(of: str, volume: Volume, by_name: dict[str, Volume]) -> str:
    if of in AXES:
        return _side_name(volume, AXES.index(of))
    name, _unused, side = of.rpartition(".")
    if side in AXES and name in by_name:
        return _side_name(by_name[name], AXES.index(side))
    return of


def _sized(volume: Volume, lengths: dict[str, float]) -> Volume:
    if volume.counts == UNCOUNTED:
        return volume
    width, depth, height = (
        side if count is None else lengths[_side_name(volume, axis)]
        for axis, (side, count) in enumerate(zip(volume.sides, volume.counts, strict=True))
    )
    return _same(volume, volume.with_sides((width, depth, height)))


def _hangs_on(volume: Volume) -> tuple[int, ...]:
    """Keys of what must be in its place before a volume is."""
    if volume.like is not None:
        return volume.like.source, getattr(volume.like, "about", volume.like.source)
    return () if volume.on is None else (volume.on.parent,)


class _Placing:
    """Volumes put in their places, what they hang on first."""

    def __init__(self, volumes: Sequence[Volume], modules: Mapping[str, float]) -> None:
        self._modules = modules
        self._by_name = {volume.name: volume for volume in reversed(volumes)}
        self._waiting = {volume.key: volume for volume in volumes}
        self._order = [volume.key for volume in volumes]
        self._placed: dict[int, Volume] = {}

    def all(self) -> list[Volume]:
        for key in self._order:
            self._place_from(key)
        return [self._placed[key] for key in self._order]

    def _place_from(self, key: int) -> None:
        """Put a volume in its place, and before it everything it hangs on."""
        way = {key: None} if key not in self._placed else {}  # an ordered set
        while way:
            at = next(reversed(way))
            first = next((k for k in _hangs_on(self._waiting[at]) if k not in self._placed), None)
            if first is None:
                self._placed[at] = self._put_in_place(self._waiting[at])
                del way[at]
            elif first in way:
                raise VolumeError(
                    _("{name} would hang on itself: let it stand on another.").format(
                        name=self._waiting[first].name
                    )
                )
            else:
                way[first] = None

    def _put_in_place(self, volume: Volume) -> Volume:
        if volume.like is not None:
            return self._copied(volume)
        if volume.on is not None:
            counted = self._counted(volume, volume.on)
            held = _same(volume, replace(volume, on=counted))
            return stood(held, counted, self._placed[volume.on.parent])
        return volume

    def _counted(self, volume: Volume, anchor: Anchor) -> Anchor:
        """An anchor with the offsets that are counted in other lengths worked out."""
        if anchor.counts == UNCOUNTED:
            return anchor
        x, y, z = (
            mm if count is None else math.copysign(self._length(volume, count), mm)
            for count, mm in zip(anchor.counts, anchor.offsets_mm, strict=True)
        )
        return _same(anchor, replace(anchor, offsets_mm=(x, y, z)))

    def _length(self, volume: Volume, count: Count) -> float:
        known: dict[str, float] = {}
        for name in count.names:
            stem, _unused, side = name.rpartition(".")
            if name in AXES:
                known[name] = volume.sides[AXES.index(name)]
            elif side in AXES and stem in self._by_name:
                known[name] = self._by_name[stem].sides[AXES.index(side)]
            elif name in self._modules:
                known[name] = self._modules[name]
            else:
                raise VolumeError(
                    _("There is no “{name}” to count in any more: type a length.").format(name=name)
                )
        return count.length(known)

    def _copied(self, volume: Volume) -> Volume:
        rule = volume.like
        assert rule is not None
        source = self._placed[rule.source]
        shape, cuts, marks, circles = source.shape, source.cuts, source.marks, source.circles
        rings, skins, edgings = source.face_rings, source.skins, source.edgings
        if isinstance(rule, Mirrored):
            about = self._placed[rule.about]
            pose = mirrored_pose(source.pose, source.width_mm, about.pose, about.sides, rule.axis)
            shape, cuts = shape.mirrored(), tuple(cut.mirrored() for cut in cuts)
            edgings = _mirrored_edges(source, shape, cuts)
            circles, rings, skins = _mirrored_on_faces(source, shape, cuts, edgings)
            marks = tuple(mark for mark in marks if mark.kind == "section" and mark.axis != 0)
        elif isinstance(rule, Stepped):
            step = rule.count * np.array(rule.step_mm)
            pose = (source.pose[0] + step, source.pose[1])
        else:
            pose = swung_pose(source.pose, rule)
        twin = replace(
            volume,
            width_mm=source.width_mm,
            depth_mm=source.depth_mm,
            height_mm=source.height_mm,
            shape=shape,
            cuts=cuts,
            marks=marks,
            circles=circles,
            face_rings=rings,
            skins=skins,
            edgings=edgings,
            counts=UNCOUNTED,
            on=None,
        )
        if isinstance(rule, Stepped):
            x, y, z = (float(v) for v in pose[0])
            turns = (source.yaw_deg, source.pitch_deg, source.roll_deg)
            return _same(volume, _put(twin, (x, y, z), turns))
        return _same(volume, twin.posed(pose))


def _mirrored_edges(source: Volume, shape: Kind, cuts: tuple[Cut, ...]) -> tuple[Edging, ...]:
    """What is taken off the edges of a volume as it is off those of its twin."""
    if not source.edgings:
        return ()
    twin = Whole(shape, source.sides, cuts).bare
    flip = np.array([[-1.0, 1.0, 1.0], [source.width_mm, 0.0, 0.0]])
    found = [(one, same_edge(source.sharp, one.edge, twin, flip)) for one in source.edgings]
    return tuple(replace(one, edge=edge) for one, edge in found if edge >= 0)


def _mirrored_on_faces(
    source: Volume, shape: Kind, cuts: tuple[Cut, ...], edgings: tuple[Edging, ...]
) -> tuple[tuple[FaceCircle, ...], tuple[FaceRing, ...], tuple[Skin, ...]]:
    """The circles, outlines and skins on the faces of a volume as they lie on its twin."""
    if not (source.circles or source.face_rings or source.skins):
        return (), (), ()
    whole = replace(source.whole, circles=(), rings=()).bare
    twin = Whole(shape, source.sides, cuts, edgings=edgings).bare
    wide = source.width_mm
    found = (source.shape.mirrored_circle(one, whole, twin, wide) for one in source.circles)
    flip = np.array([[-1.0, 1.0, 1.0], [wide, 0.0, 0.0]])
    skins = (skin_kept(one, whole, twin, flip) for one in source.skins)
    rings = (mirrored_ring(one, whole, twin, wide) for one in source.face_rings)
    return (
        tuple(one for one in found if one is not None),
        tuple(
            replace(one, twin=old.twin)
            for one, old in zip(rings, source.face_rings, strict=True)
            if one is not None
        ),
        tuple(one for one in skins if one is not None),
    )


def _inside(
    volume: Volume,
    axes: Array,
    along: Array,
    own: tuple[float, float, float],
    *,
    of_extent: bool,
) -> Array:
    """Where the place at its own shares lies in a volume with axes (3, 3), from its corner 0, mm
    along the three directions of its parent (3, 3)."""
    if not of_extent:
        return np.asarray((np.array(own) * np.array(volume.sides)) @ axes @ along.T)
    reach = np.array([volume.bare.reach_along(axes @ direction) for direction in along])
    return np.asarray(reach[:, 0] + np.array(own) * (reach[:, 1] - reach[:, 0]))


def stood(volume: Volume, anchor: Anchor, parent: Volume) -> Volume:
    """The volume put where its anchor on the parent says."""
    axes = anchored_axes(anchor, parent.pose)
    inside = _inside(volume, axes, parent.pose[1], anchor.own, of_extent=anchor.of_extent)
    place = anchored_place(anchor, parent.pose, parent.sides, inside)
    x, y, z = (float(v) for v in place)
    if parent.tipped:
        return _same(volume, volume.posed((place, axes)))
    yaw, pitch, roll = anchor.turns_deg
    return _same(volume, _put(volume, (x, y, z), (parent.yaw_deg + yaw, pitch, roll)))


def _put(
    volume: Volume, place: tuple[float, float, float], turns: tuple[float, float, float]
) -> Volume:
    if max(abs(v) for v in place) > LARGEST_MM:
        raise VolumeError(
            _("{name} stands out of reach: keep it within a kilometre.").format(name=volume.name)
        )
    yaw, pitch, roll = (wrapped(turn) for turn in turns)
    (x, y, z) = place
    return replace(volume, x_mm=x, y_mm=y, z_mm=z, yaw_deg=yaw, pitch_deg=pitch, roll_deg=roll)


def anchored(
    volume: Volume,
    parent: Volume,
    shares: tuple[float, float, float],
    own: tuple[float, float, float] = (0.0, 0.0, 0.0),
    *,
    of_extent: bool = False,
) -> Volume:
    """The volume, where it is now, held to shares of the parent's sides by the place at shares of
    its own, or of its extent along the parent's axes."""
    inside = _inside(volume, volume.pose[1], parent.pose[1], own, of_extent=of_extent)
    anchor = anchor_at(parent.key, shares, volume.pose, parent.pose, parent.sides, inside, own)
    anchor = replace(anchor, of_extent=of_extent)
    if not parent.tipped:
        turns = (wrapped(volume.yaw_deg - parent.yaw_deg), volume.pitch_deg, volume.roll_deg)
        anchor = replace(anchor, turns_deg=turns)
    return replace(volume, on=anchor)


def reheld(volume: Volume, by_key: Callable[[int], Volume | None]) -> Volume:
    """A volume that has been moved by hand, held anew to the parent it stands on."""
    if volume.on is None:
        return volume
    parent = by_key(volume.on.parent)
    if parent is None:
        return volume
    on = volume.on
    return anchored(volume, parent, on.shares, on.own, of_extent=on.of_extent)
