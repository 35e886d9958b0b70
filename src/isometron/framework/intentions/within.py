"""Within: a part that does not reach beyond another along one of its axes."""

from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np

from isometron.framework.box import AXES, SMALLEST_MM
from isometron.framework.intentions.intention import (
    Edited,
    Intention,
    Mark,
    Parts,
    Way,
    line_along,
    moved_by,
    own_place,
)
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

ALONG = 1e-9
"""An axis that runs along another, but for this."""


@dataclass(frozen=True)
class Within(Intention):
    """Part `inner` between the ends of part `outer` along that one's own axis (0 width, 1 depth, 2
    height), and a margin from them, mm."""

    inner: int
    outer: int
    axis: int
    margin_mm: float = 0.0
    word: ClassVar[str] = "within"
    rank: ClassVar[int] = 1
    ties: ClassVar[tuple[str, ...]] = ("inner", "outer")

    def _over(self, parts: Parts) -> tuple[float, float]:
        """How far it reaches out at the begin and at the end, mm (below 0: room left)."""
        outer = parts[self.outer]
        places = np.array([own_place(outer, one) for one in parts[self.inner].corners()])
        low, far = float(places[:, self.axis].min()), float(places[:, self.axis].max())
        return self.margin_mm - low, far - (outer.sides[self.axis] - self.margin_mm)

    def miss_mm(self, parts: Parts) -> float:
        """How far it is from true, mm."""
        return max(0.0, *self._over(parts))

    def ways(self, edited: Edited) -> tuple[Way, ...]:
        """What may be changed so that it is true again."""
        return self._trimmed, self._slid, self._given_way

    def _own_axis(self, parts: Parts) -> tuple[int, float]:
        """The axis of the inner part that runs along, and which way. Raises VolumeError."""
        turned = parts[self.inner].pose[1] @ parts[self.outer].pose[1][self.axis]
        own = int(np.abs(turned).argmax())
        if abs(turned[own]) < 1.0 - ALONG:
            raise VolumeError(_("It lies aslant: there is no side to make shorter."))
        return own, float(np.sign(turned[own]))

    def _trimmed(self, parts: Parts) -> tuple[Volume, ...]:
        """The inner part shortened where it reaches out."""
        inner = parts[self.inner]
        own, way = self._own_axis(parts)
        begin, end = (max(0.0, over) for over in self._over(parts))
        left = inner.sides[own] - begin - end
        if left < max(SMALLEST_MM, 0.05 * inner.sides[own]):
            raise VolumeError(_("Nothing of it would be left."))
        first = begin if way > 0 else end
        shorter = replace(inner, **{f"{AXES[own]}_mm": left})  # type: ignore[arg-type]
        return (moved_by(shorter, first * inner.pose[1][own]),)

    def _slid(self, parts: Parts) -> tuple[Volume, ...]:
        """The inner part moved in."""
        begin, end = self._over(parts)
        if begin + end > 0:
            raise VolumeError(_("It is longer than what holds it."))
        off = max(0.0, begin) - max(0.0, end)
        return (moved_by(parts[self.inner], off * parts[self.outer].pose[1][self.axis]),)

    def _given_way(self, parts: Parts) -> tuple[Volume, ...]:
        """The outer part made longer where the inner one reaches out."""
        outer = parts[self.outer]
        begin, end = (max(0.0, over) for over in self._over(parts))
        field = f"{AXES[self.axis]}_mm"
        longer = replace(outer, **{field: outer.sides[self.axis] + begin + end})  # type: ignore[arg-type]
        return (moved_by(longer, -begin * outer.pose[1][self.axis]),)

    def marked(self, parts: Parts) -> Mark:
        """From end to end of what holds it, through its middle."""
        ends = self.margin_mm, parts[self.outer].sides[self.axis] - self.margin_mm
        return Mark(*line_along(parts, self.inner, self.outer, self.axis, ends), _("within"))

    def told(self, parts: Parts) -> str:
        """It in a sentence."""
        return _("{inner} stays within the {side} of {outer}").format(
            inner=parts[self.inner].name,
            side=_(AXES[self.axis]),
            outer=parts[self.outer].name,
        )
