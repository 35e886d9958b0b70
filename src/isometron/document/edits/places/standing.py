"""Edits of where volumes stand and how they are turned, and of copies that follow their source."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_name, in_work, with_new
from isometron.document.near_edge import near_place
from isometron.framework.box import CORNERS
from isometron.framework.circles import FaceCircle
from isometron.framework.kinds.block import BLOCK
from isometron.framework.placing import Mirrored, Stepped, Swung
from isometron.framework.settling import anchored
from isometron.framework.turning import axes_of
from isometron.framework.volume import Volume
from isometron.nearness import NEAR, SAME
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array, sight_axes
from isometron.perspective.vanishing import vanishing_point
from isometron.words import _, said

UP = np.array([0.0, 0.0, 1.0])

MOST_COPIES = 200
"""More copies in one row than this are a mistake."""


def let_stand_free(document: Document) -> Document:
    """The volume in work free of what it stood on; it keeps its place."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, on=None))


def stand_on_ground(document: Document) -> Document:
    """The volume in work let down (or lifted) until its lowest corner touches the ground."""
    index, volume = in_work(document)
    lowest, _unused = volume.reach_along(UP)
    free = replace(volume, on=None, z_mm=volume.z_mm - lowest)
    return document.with_volume(index, free)


def stand_on(document: Document, parent: int) -> Document:
    """The volume in work set down on top of volume `parent`, which it follows from now on; one that
    lies beside it is set on its middle."""
    index, volume = in_work(document)
    base = _other(document, index, parent)
    volume = _over(volume, base)
    lift = base.reach_along(UP)[1] - volume.reach_along(UP)[0]
    put = replace(volume, z_mm=volume.z_mm + lift, on=None)
    shares = (0.0, 0.0, 1.0) if not base.tipped else (0.0, 0.0, 0.0)
    return document.with_volume(index, anchored(put, base, shares))


def _over(volume: Volume, base: Volume) -> Volume:
    """A volume with something of the base under it: itself, or moved over the base's middle."""
    own, under = volume.enclosing(), base.enclosing()
    low = np.maximum(own.min(axis=0), under.min(axis=0))[:2]
    high = np.minimum(own.max(axis=0), under.max(axis=0))[:2]
    if (high > low).all():
        return volume
    step = (under.min(axis=0) + under.max(axis=0) - own.min(axis=0) - own.max(axis=0)) / 2
    return replace(volume, x_mm=volume.x_mm + float(step[0]), y_mm=volume.y_mm + float(step[1]))


def set_against(document: Document, parent: int, face: int) -> Document:
    """The volume in work pushed square against a side of volume `parent` (face 0…5 of its box: x=0,
    x=1, y=0, y=1, base, top), turned with it, and following it from now on."""
    index, volume = in_work(document)
    base = _other(document, index, parent)
    axis, positive = divmod(face, 2)
    turned = replace(
        volume, yaw_deg=base.yaw_deg, pitch_deg=base.pitch_deg, roll_deg=base.roll_deg, on=None
    )
    own = base.pose[1] @ (np.array(turned.place) - base.pose[0])
    own[axis] = base.sides[axis] if positive else -turned.sides[axis]
    x, y, z = (float(v) for v in base.pose[0] + own @ base.pose[1])
    put = replace(turned, x_mm=x, y_mm=y, z_mm=z)
    shares = [0.0, 0.0, 0.0]
    shares[axis] = float(positive)
    return document.with_volume(index, anchored(put, base, (shares[0], shares[1], shares[2])))


def set_along_edge(document: Document, parent: int, edge: int, share: float) -> Document:
    """Corner 0 of the volume in work set at a fraction along an edge (0…11) of the box of volume
    `parent`, which it follows from now on."""
    index, volume = in_work(document)
    base = _other(document, index, parent)
    if not (math.isfinite(share) and 0 <= share <= 1):
        raise VolumeError(_("A place along an edge is a fraction from 0 to 1: type, say, 1/3."))
    axis = edge // 4
    start = CORNERS[_edge_start(edge)].copy()
    start[axis] = share
    x, y, z = (float(v) for v in start)
    corner = base.pose[0] + (start * np.array(base.sides)) @ base.pose[1]
    px, py, pz = (float(v) for v in corner)
    put = replace(volume, x_mm=px, y_mm=py, z_mm=pz, on=None)
    return document.with_volume(index, anchored(put, base, (x, y, z)))


def _edge_start(edge: int) -> int:
    from isometron.framework.box import EDGES

    return int(EDGES[edge, 0])


def _other(document: Document, index: int, parent: int) -> Volume:
    if parent == index or not 0 <= parent < len(document.volumes):
        raise VolumeError(_("A volume cannot stand on itself: choose another one."))
    return document.volumes[parent]


TURNING_POINTS = (said("centre"), said("near corner"), said("chosen edge"))


def turning_point(document: Document, about: str, edge: int | None = None) -> Array:
    """World point (3,) that the volume in work is turned about: its centre, its near corner, or the
    middle of a chosen edge."""
    _unused, volume = in_work(document)
    if about == "centre":
        corners = volume.corners()
        return np.asarray((corners[0] + corners[7]) / 2)
    if about == "near corner" or edge is None:
        return near_place(document.eye, volume)
    ends = volume.world()[volume.bare.edges[edge]]
    return np.asarray(ends.mean(axis=0))


def turn_about(document: Document, turns_deg: tuple[float, float, float], point: Array) -> Document:
    """The volume in work given other turns (yaw, pitch, roll), a world point (3,) of it staying
    where it is. Its true size stays."""
    index, volume = in_work(document)
    place, axes = volume.pose
    own = axes @ (point - place)
    yaw, pitch, roll = turns_deg
    turned = replace(volume, yaw_deg=yaw, pitch_deg=pitch, roll_deg=roll)
    if turned.tipped and abs(abs(pitch) - 90.0) < SAME:
        turned = turned.posed((place, axes_of(yaw, pitch, roll).astype(float)))
    x, y, z = (float(v) for v in point - own @ turned.pose[1])
    return document.with_volume(index, replace(turned, x_mm=x, y_mm=y, z_mm=z))


def turn_round_edge(document: Document, edge: int, angle_deg: float) -> Document:
    """The volume in work turned by an angle round one of its edges."""
    index, volume = in_work(document)
    start, end = volume.world()[volume.bare.edges[edge]]
    along = (end - start) / np.linalg.norm(end - start)
    angle = math.radians(angle_deg)
    cross = np.array([[0, -along[2], along[1]], [along[2], 0, -along[0]], [-along[1], along[0], 0]])
    turn = np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * cross @ cross
    place, axes = volume.pose
    moved = start + turn @ (place - start)
    return document.with_volume(index, volume.posed((moved, axes @ turn.T)))


def same_again_turned(document: Document, yaw_deg: float) -> Document:
    """The same volume again, turned about its centre on the same ground; the old one becomes a
    ghost to compare with. Same true size, its own vanishing points."""
    index, volume = in_work(document)
    ghost = document.with_each({index: replace(volume, ghost=True)})
    name = free_name(document, volume.name.rstrip("0123456789 ") or _("Box"))
    copy = replace(volume, name=name, on=None, like=None, locked=False, ghost=False)
    grown = with_new(ghost, [copy])
    middle = turning_point(grown, "centre")
    return turn_about(grown, (yaw_deg, volume.pitch_deg, volume.roll_deg), middle)


def same_again_in_round(document: Document, angle_deg: float) -> Document:
    """The same square block again, turned about the upright through its middle: the ellipse drawn
    in the old square touches the sides of the new one too. Both have it on base and top. Raises
    VolumeError for what stands on no square."""
    index, volume = in_work(document)
    width, depth, _height = volume.sides
    if volume.shape != BLOCK or volume.cuts or abs(width - depth) > NEAR * width or volume.tipped:
        raise VolumeError(
            _("{name} stands on no square: make width and depth alike first.").format(
                name=volume.name
            )
        )
    ellipses = tuple(FaceCircle(face) for face in (4, 5))
    kept = tuple(one for one in volume.circles if one not in ellipses)
    drawn = document.with_volume(index, replace(volume, circles=(*kept, *ellipses)))
    name = free_name(drawn, volume.name.rstrip("0123456789 ") or _("Box"))
    copy = replace(drawn.volumes[index], name=name, on=None, like=None, locked=False)
    grown = with_new(drawn, [copy])
    middle = turning_point(grown, "centre")
    return turn_about(grown, (volume.yaw_deg + angle_deg, 0.0, 0.0), middle)


def mirror(document: Document, about: int, axis: int = 0) -> Document:
    """Mirrored twins of the chosen volumes across the middle of volume `about`, square to its width
    (axis 0), depth (1) or height (2). They follow their sources from now on."""
    chosen = [i for i in document.chosen if i != about]
    if not chosen or not 0 <= about < len(document.volumes):
        raise VolumeError(_("A twin needs a volume to mirror and another to mirror across."))
    key = document.volumes[about].key
    twins = []
    named = document
    for number, index in enumerate(chosen):
        source = document.volumes[index]
        bare = source.name.rstrip("0123456789 ") or _("Box")
        twin = replace(
            source,
            name=free_name(named, _("{name} twin").format(name=bare)),
            key=-1 - number,
            like=Mirrored(source.key, key, axis),
            on=None,
            locked=False,
        )
        twins.append(twin)
        named = replace(named, volumes=(*named.volumes, replace(twin, key=named.free_key)))
    return with_new(document, twins)


def repeat(document: Document, copies: int, step_mm: tuple[float, float, float]) -> Document:
    """The volume in work repeated `copies` times at equal true steps (world mm)."""
    return _row(document, copies, lambda key, n: Stepped(key, n, step_mm))


def step_over(volume: Volume, count: int, along: Array, length_mm: float) -> float:
    """How far it is from one to the next, mm, of `count` like a volume in a row as long as a
    length, from the outer side of the first to that of the last, along a unit direction (3,).
    Raises VolumeError where they do not find room beside each other."""
    if not 2 <= count <= MOST_COPIES + 1:
        raise VolumeError(
            _("A row has 2 to {most} of them: type another number.").format(most=MOST_COPIES + 1)
        )
    low, high = volume.reach_along(along)
    step = (length_mm - (high - low)) / (count - 1)
    if not (math.isfinite(step) and step > 0):
        raise VolumeError(_("They find no room in that length: type a longer one."))
    return float(step)


def repeat_over(document: Document, count: int, along: Array, length_mm: float) -> Document:
    """The volume in work as the first of a row of `count`, evenly spread over a length (mm) along a
    unit world direction (3,); the others follow it."""
    _index, volume = in_work(document)
    run = step_over(volume, count, along, length_mm) * along
    return repeat(document, count - 1, (float(run[0]), float(run[1]), float(run[2])))


def way_to_point(document: Document, family: str) -> Array:
    """The unit direction of the lie of the sheet that runs to its left or right point. Raises
    VolumeError where there is none."""
    axes = axes_of(document.yaw_deg).astype(float)
    for along in (axes[0], axes[1]):
        ahead = along if along @ sight_axes(document.eye)[2].astype(float) > 0 else -along
        place = vanishing_point(document.eye, ahead).sheet_mm
        centre = document.eye.centre_of_vision_mm[0]
        if place is not None and (place[0] < centre) == (family == "left"):
            return np.asarray(ahead)
    raise VolumeError(_("From here nothing runs to that point: choose another way."))


def repeat_round(
    document: Document,
    copies: int,
    about_mm: tuple[float, float, float],
    axis: int,
    angle_deg: float,
) -> Document:
    """The volume in work repeated `copies` times at equal turns round a line through a world point
    along world axis 0, 1 or 2."""
    if not (math.isfinite(angle_deg) and angle_deg != 0):
        raise VolumeError(_("A repeat round a line needs an angle: type, say, 60°."))
    return _row(document, copies, lambda key, n: Swung(key, n, about_mm, axis, angle_deg))


def _row(document: Document, copies: int, rule) -> Document:  # type: ignore[no-untyped-def]
    index, source = in_work(document)
    if not 1 <= copies <= MOST_COPIES:
        raise VolumeError(_("Repeat it 1 to {most_copies} times.").format(most_copies=MOST_COPIES))
    stem = source.name.rstrip("0123456789 ") or _("Box")
    made = []
    named = document
    for n in range(1, copies + 1):
        copy = replace(
            source,
            name=free_name(named, stem),
            key=-n,
            like=rule(source.key, n),
            on=None,
            locked=False,
        )
        made.append(copy)
        named = replace(named, volumes=(*named.volumes, replace(copy, key=named.free_key)))
    grown = with_new(document, made)
    return replace(grown, selected=index, also=frozenset())


def let_go(document: Document) -> Document:
    """The chosen volumes as volumes of their own: copies no longer follow their source."""
    changed = {i: replace(document.volumes[i], like=None) for i in document.chosen}
    return document.with_each(changed)
