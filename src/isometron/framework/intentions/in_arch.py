"""In its arch: a wheel turns free under a guard arc cut into the base of a body."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import ClassVar, Self

import numpy as np

from isometron.framework.box import AXES
from isometron.framework.intentions.intention import (
    TRUE_MM,
    Edited,
    Intention,
    Mark,
    Parts,
    Way,
    middle_of,
    moved_by,
    own_place,
)
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.outlines import Knot, Ring
from isometron.framework.volume import Volume
from isometron.nearness import NEAR
from isometron.perspective.errors import VolumeError
from isometron.words import _

LIP = 0.1
"""An overhang gives way until this share of the wheel's diameter is left between its arch and the
end of the body; then the wheel gives way, or the body."""

ON_BASE = 1e-9
"""Knots nearer to the base than this share of the height lie on it."""


def arches_of(ring: Ring) -> list[int]:
    """Numbers of the knots with which the arcs let into the base of an outline begin, in their
    order along it."""
    count = len(ring)
    found = [
        i
        for i, knot in enumerate(ring)
        if knot.bulge and abs(knot.y) < ON_BASE and abs(ring[(i + 1) % count].y) < ON_BASE
    ]
    return sorted(found, key=lambda i: ring[i].x + ring[(i + 1) % count].x)


def outlined(volume: Volume) -> Extruded | None:
    """The shape of a volume that has an outline to let an arch into."""
    return volume.shape if isinstance(volume.shape, Extruded) else None


@dataclass(frozen=True)
class InArch(Intention):
    """A wheel in arch number `arch` of a body, counted along its base from 0. clearance: from tyre
    to arch, as a share of the wheel's diameter."""

    wheel: int
    body: int
    arch: int
    clearance: float
    word: ClassVar[str] = "in its arch"
    rank: ClassVar[int] = 0
    ties: ClassVar[tuple[str, ...]] = ("wheel", "body")

    def _there(self, parts: Parts) -> tuple[Extruded, Ring, int] | None:
        """The shape of its body, its outline, and the knot its arch begins with."""
        shape = outlined(parts[self.body])
        if shape is None:
            return None
        arches = arches_of(shape.rings[0])
        return (shape, shape.rings[0], arches[self.arch]) if self.arch < len(arches) else None

    def _axle(self, parts: Parts, shape: Extruded) -> tuple[float, float, float]:
        """Along the base and above it, mm, where the axle lies, and the radius of the arc."""
        wheel, body = parts[self.wheel], parts[self.body]
        first, second = shape.cross
        own = own_place(body, middle_of(wheel))
        across = max(mm for axis, mm in enumerate(wheel.sides) if axis != wheel.shape.axle)
        return float(own[first]), float(own[second]), (0.5 + self.clearance) * across

    def _ends(self, parts: Parts, shape: Extruded) -> tuple[float, float, float] | None:
        """Where the arc about the axle meets the base, mm from its begin, and how it bulges; None
        where it does not."""
        along, rise, radius = self._axle(parts, shape)
        if abs(rise) >= radius:
            return None
        half = math.sqrt(radius**2 - rise**2)
        return along - half, along + half, math.tan((math.pi - math.acos(rise / radius)) / 2)

    def miss_mm(self, parts: Parts) -> float:
        """How far it is from true, mm."""
        there = self._there(parts)
        if there is None:
            return math.nan
        shape, ring, at = there
        wanted = self._ends(parts, shape)
        if wanted is None:
            return math.inf
        one, other = ring[at], ring[(at + 1) % len(ring)]
        long = parts[self.body].sides[shape.cross[0]]
        low, far = sorted((one.x * long, other.x * long))
        half = (far - low) / 2
        off = abs(abs(one.bulge) - wanted[2]) * half
        return max(abs(low - wanted[0]), abs(far - wanted[1]), off)

    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be changed so that it is true again: the arch; else the wheel is kept in the
        body, or the body under it, by as little as will do."""
        cut = partial(self._arch_cut, lip=self._lip(edited.before))
        if self.wheel in edited.by_hand and self.body in edited.by_hand:
            return (cut,)
        if self.wheel in edited.by_hand:
            return cut, partial(self._body_longer, lip=self._lip(edited.before))
        if edited.reshaped(self.body):
            return self._wheel_under, cut
        return cut, partial(self._wheel_in, lip=self._lip(edited.before)), self._wheel_under

    def _lip(self, before: Parts) -> float:
        """How much of the base is left between an arch and the end of the body at least, mm."""
        there = self._there(before) if before.keys() >= set(self.keys) else None
        ends = None if there is None else self._ends(before, there[0])
        if there is None or ends is None:
            return 0.0
        long = before[self.body].sides[there[0].cross[0]]
        usual = LIP * max(before[self.wheel].sides)
        return max(0.0, min(usual, ends[0], long - ends[1]))

    def _cut_at(self, parts: Parts) -> tuple[Extruded, Ring, int, tuple[float, float, float]]:
        """Its shape, outline and knot, and the arc there should be. Raises VolumeError."""
        there = self._there(parts)
        wanted = None if there is None else self._ends(parts, there[0])
        if there is None or wanted is None:
            raise VolumeError(_("The wheel does not reach the base of that body."))
        return *there, wanted

    def _arch_cut(self, parts: Parts, lip: float = 0.0) -> tuple[Volume, ...]:
        """The body with its arch about the axle. Raises VolumeError where it leaves the base."""
        shape, ring, at, (low, far, _bulge) = self._cut_at(parts)
        long = parts[self.body].sides[shape.cross[0]]
        if low < lip - TRUE_MM or far > long - lip + TRUE_MM:
            raise VolumeError(_("That arch runs out of the side: make it smaller or move it."))
        placed = self._placed_arch(parts)
        done = outlined(placed)
        if done is None or not _runs_on(ring, done.rings[0], at):
            raise VolumeError(_("That arch runs out of the side: make it smaller or move it."))
        return (placed,)

    def _shifted(self, parts: Parts, along_mm: float, lip: float = 0.0) -> tuple[Volume, ...]:
        """The wheel moved along the base, or a body that stands on it moved the other way; and the
        arch made to fit."""
        wheel, body = parts[self.wheel], parts[self.body]
        step = along_mm * body.pose[1][self._cut_at(parts)[0].cross[0]]
        if body.on is not None and body.on.parent == wheel.key:
            return self._arch_cut({**parts, body.key: moved_by(body, -step)}, lip)
        moved = moved_by(wheel, step)
        return (moved, *self._arch_cut({**parts, wheel.key: moved}, lip))

    def _wheel_under(self, parts: Parts) -> tuple[Volume, ...]:
        """The wheel under the middle of its arch as it is."""
        shape, ring, at, (low, far, _bulge) = self._cut_at(parts)
        long = parts[self.body].sides[shape.cross[0]]
        middle = (ring[at].x + ring[(at + 1) % len(ring)].x) / 2 * long
        return self._shifted(parts, middle - (low + far) / 2)

    def _wheel_in(self, parts: Parts, lip: float) -> tuple[Volume, ...]:
        """The wheel as far in as its arch needs."""
        shape, _ring, _at, (low, far, _bulge) = self._cut_at(parts)
        long = parts[self.body].sides[shape.cross[0]]
        return self._shifted(parts, max(0.0, lip - low) - max(0.0, far - long + lip), lip)

    def _body_longer(self, parts: Parts, lip: float) -> tuple[Volume, ...]:
        """The body as much longer as the arch of its wheel needs; other arches stay."""
        shape, ring, _at, (low, far, _bulge) = self._cut_at(parts)
        body, first = parts[self.body], shape.cross[0]
        begin = max(0.0, lip - low)
        end = max(0.0, far - body.sides[first] + lip)
        was, long = body.sides[first], body.sides[first] + begin + end
        knots = list(ring)
        for arch in arches_of(ring):
            for at in (arch, (arch + 1) % len(ring)):
                knots[at] = replace(ring[at], x=(ring[at].x * was + begin) / long)
        shape = replace(shape, rings=(tuple(knots), *shape.rings[1:]))
        longer = replace(body, **{f"{AXES[first]}_mm": long}, shape=shape)  # type: ignore[arg-type]
        longer = moved_by(longer, -begin * body.pose[1][first])
        return self._arch_cut({**parts, body.key: longer}, lip)

    def together(self, others: Sequence[Intention], edited: Edited) -> tuple[Volume, ...]:
        """The wheels of a body moved along it by the least in all, so that their arches stand one
        after another on its base; a linear programme. What the hand moved stays."""
        from scipy.optimize import linprog

        parts = edited.now
        mine = [one for one in (self, *others) if isinstance(one, InArch) and one.body == self.body]
        cuts = {one: one._cut_at(parts) for one in sorted(mine, key=lambda one: one.arch)}
        mine = list(cuts)
        body, first = parts[self.body], cuts[self][0].cross[0]
        now = np.array([sum(cuts[one][3][:2]) / 2 for one in mine])
        half = np.array([cuts[one][3][1] for one in mine]) - now
        lip = np.array([one._lip(edited.before) for one in mine])
        # unknown: how far each wheel moves, then how far the body does, then the sizes of both
        count = len(mine) + 1
        carried = [body.on is not None and body.on.parent == one.wheel for one in mine]
        held = [a or one.wheel in edited.by_hand for a, one in zip(carried, mine, strict=True)]
        move = np.hstack(
            [np.eye(count - 1), -np.ones((count - 1, 1)), np.zeros((count - 1, count))]
        )
        rows = [-move[0], move[-1], *(move[:-1] - move[1:])]
        most = [
            now[0] - half[0] - lip[0],
            body.sides[first] - lip[-1] - now[-1] - half[-1],
            *(now[1:] - half[1:] - now[:-1] - half[:-1]),
        ]
        size = [np.hstack([s * np.eye(count), -np.eye(count)]) for s in (1.0, -1.0)]
        found = linprog(
            np.repeat([0.0, 1.0], count),
            A_ub=np.vstack([*rows, *size]),
            b_ub=np.concatenate([most, np.zeros(2 * count)]),
            bounds=[*((0, 0) if h else (None, None) for h in held), *[(None, None)] * (count + 1)],
        )
        if not found.success:
            raise VolumeError(_("So many arches find no room on that base."))
        axis = body.pose[1][first]
        shift = found.x[:count]
        moved = {
            one.wheel: moved_by(parts[one.wheel], float(by) * axis)
            for one, by in zip(mine, shift, strict=False)
            if by
        }
        there = {**parts, **moved, body.key: moved_by(body, float(shift[-1]) * axis)}
        for one in sorted(mine, key=lambda one: -abs(shift[mine.index(one)])):
            there[body.key] = one._placed_arch(there)
        return (*moved.values(), there[body.key])

    def _placed_arch(self, parts: Parts) -> Volume:
        """The body with its arch about the axle, whatever is beside it."""
        shape, ring, at, (low, far, bulge) = self._cut_at(parts)
        body = parts[self.body]
        long = body.sides[shape.cross[0]]
        after = (at + 1) % len(ring)
        ends = (low / long, far / long)
        if ring[at].x > ring[after].x:
            ends = ends[::-1]
        knots = list(ring)
        knots[at] = Knot(ends[0], 0.0, math.copysign(bulge, ring[at].bulge))
        knots[after] = replace(ring[after], x=ends[1], y=0.0)
        return replace(body, shape=replace(shape, rings=(tuple(knots), *shape.rings[1:])))

    def marked(self, parts: Parts) -> Mark:
        """From the axle to both ends of the arch."""
        axle = middle_of(parts[self.wheel])
        there = self._there(parts)
        wanted = None if there is None else self._ends(parts, there[0])
        if there is None or wanted is None:
            return Mark(np.empty((0, 2, 3)), axle, "")
        body, (first, second) = parts[self.body], there[0].cross
        place, axes = body.pose
        ends = np.tile(own_place(body, axle), (2, 1))
        ends[:, first], ends[:, second] = wanted[:2], 0.0
        lines = np.stack([np.tile(axle, (2, 1)), place + ends @ axes], axis=1)
        under = axle - max(parts[self.wheel].sides) / 2 * axes[second]
        return Mark(lines, under, _("in its arch"), hangs=True)

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        return _("{wheel} turns in its arch in {body}").format(
            wheel=parts[self.wheel].name, body=parts[self.body].name
        )

    def followed(self, before: Parts, now: Parts) -> Self:
        """By its place on the base, where the body has more arches or fewer than before."""
        was, there = (outlined(parts[self.body]) for parts in (before, now))
        if was is None or there is None or was == there:
            return self
        old, new = (arches_of(shape.rings[0]) for shape in (was, there))
        if len(old) == len(new) or self.arch >= len(old):
            return self
        at = was.rings[0][old[self.arch]].x
        off = [abs(there.rings[0][one].x - at) for one in new]
        return replace(self, arch=int(np.argmin(off)) if off and min(off) < NEAR else len(new))


def _runs_on(ring: Ring, changed: Ring, at: int) -> bool:
    """Whether the knots round an arc still follow each other along the base as they did."""
    count = len(ring)
    places = [(at + step) % count for step in (-1, 0, 1, 2)]
    way = math.copysign(1.0, ring[places[2]].x - ring[places[1]].x)
    xs = [changed[place].x * way for place in places]
    flat = [abs(changed[place].y) < ON_BASE for place in places]
    return (
        xs[1] < xs[2]
        and (not flat[0] or xs[0] < xs[1])
        and (not flat[3] or xs[2] < xs[3])
        and all(0.0 < changed[place].x < 1.0 for place in places[1:3])
    )
