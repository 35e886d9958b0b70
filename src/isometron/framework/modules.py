"""Modules: named lengths that dimensions are counted in, and dimensions counted in each other."""

import math
import re
from collections import ChainMap
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple

from isometron.framework.box import AXES
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.eye import LARGEST_MM
from isometron.perspective.lengths import write_length
from isometron.perspective.reckoning import reckon
from isometron.words import _

LONGEST_NAME = 24
MOST_SHOWN = 6
"""Lengths that are named in a sentence about a round trip."""

MOST_ADDED = 6
"""More lengths than this nobody adds up in a field."""

_KEY = re.compile(r" #\d+(?=\.)")
_NAME = re.compile(r"[^\W\d_][\w\- ]*")


class NewModule(NamedTuple):
    """A module made where a side is typed: w = 62 cm."""

    text: str


@dataclass(frozen=True)
class Count:
    """A length as so many times another, others (`plus`: number and name) and mm added to it.

    `of` and the names of others are a module's, "width", "depth" or "height" of the same volume, or
    "<volume>.height" and so on of another.
    """

    number: float
    of: str
    plus: tuple["Added", ...] = ()
    plus_mm: float = 0.0

    def __post_init__(self) -> None:
        numbers = (self.number, self.plus_mm, *(one.number for one in self.plus))
        if not (all(map(math.isfinite, numbers)) and self.number > 0):
            raise VolumeError(_("A count must be larger than nothing: type, say, 3.2 w."))
        if len(self.plus) > MOST_ADDED:
            raise VolumeError(_("That is counted in too many lengths: use fewer of them."))

    @property
    def names(self) -> tuple[str, ...]:
        """All it is counted in."""
        return (self.of, *(one.of for one in self.plus))

    def called_anew(self, anew: Callable[[str], str]) -> "Count":
        """The same with everything it is counted in called anew."""
        plus = tuple(replace(one, of=anew(one.of)) for one in self.plus)
        return replace(self, of=anew(self.of), plus=plus)

    def length(self, lengths: Mapping[str, float]) -> float:
        """mm, from the lengths it is counted in."""
        return self.number * lengths[self.of] + self._rest(lengths)

    def _rest(self, lengths: Mapping[str, float]) -> float:
        return self.plus_mm + sum(one.number * lengths[one.of] for one in self.plus)

    def giving(self, mm: float, lengths: Mapping[str, float]) -> "Count | None":
        """The same with another number, so that it gives mm; None when no number does."""
        if not set(self.names) <= set(lengths):
            return None
        number = (mm - self._rest(lengths)) / lengths[self.of]
        return replace(self, number=number) if number > 0 else None


@dataclass(frozen=True)
class Added:
    """What a count adds (or takes off): so many times a named length."""

    number: float
    of: str


@dataclass(frozen=True)
class Module:
    """A named length of the sheet, mm; counted in another length when `count` is given."""

    name: str
    mm: float
    count: Count | None = None

    def __post_init__(self) -> None:
        if not (_NAME.fullmatch(self.name) and len(self.name) <= LONGEST_NAME):
            raise VolumeError(_("A module's name is a word, such as w or seat: change it."))
        if self.name in AXES or self.name in ("mm", "cm", "m", "in"):
            raise VolumeError(
                _("“{name}” means something else here: choose another name.").format(name=self.name)
            )
        if not (math.isfinite(self.mm) and 0 < self.mm <= LARGEST_MM):
            raise VolumeError(_("A module must be longer than nothing: type, say, 620 mm."))


def read_dimension(
    text: str, unit: str, names: Iterable[str], *, nothing: bool = False
) -> float | Count:
    """What a person typed for a dimension: mm, or a Count such as ``3.2 w``, ``1/2 height``,
    ``width / 3``, ``2*3 w + 4 cm`` or ``2 Bench.depth``. names: everything a count may refer to;
    nothing: whether a length of nothing is one too.

    Raises LengthError with the sentence to show.
    """
    found = reckon(text, unit, names)
    terms = sorted(found.terms.items(), key=lambda term: -term[1])
    if not terms and (found.mm or nothing):
        return found.mm
    if not terms:
        raise LengthError(_("Nothing times a length is no length: type a number above 0."))
    (of, number), *rest = terms
    if number <= 0:
        raise LengthError(_("Nothing times a length is no length: type a number above 0."))
    return Count(number, of, tuple(Added(count, name) for name, count in rest), found.mm)


def write_count(count: Count, unit: str = "mm") -> str:
    """A count as a person writes it: 3.2 w, 2 w + 0.5 height − 4 cm."""
    told = f"{count.number:.4g} {count.of}"
    for one in count.plus:
        told += f" {'−' if one.number < 0 else '+'} {abs(one.number):.4g} {one.of}"
    if count.plus_mm:
        told += f" {'−' if count.plus_mm < 0 else '+'} {write_length(abs(count.plus_mm), unit)}"
    return told


def resolve(plain: Mapping[str, float], counted: Mapping[str, Count]) -> dict[str, float]:
    """Every length by name, mm: the plain ones, and the counted ones worked out.

    Raises VolumeError when a count refers to itself or to nothing, or comes to nothing.
    """
    done: dict[str, float] = {}
    known = ChainMap(done, {name: mm for name, mm in plain.items() if name not in counted})
    for start in counted:
        way: dict[str, None] = {start: None}  # an ordered set: what waits for what comes after it
        while way:
            at = next(reversed(way))
            waits = next((n for n in counted[at].names if n in counted and n not in done), None)
            if at in done or waits is None:
                del way[at]
                if at not in done:
                    done[at] = _worked_out(at, counted[at], known)
            elif waits in way:
                every = list(way)
                raise VolumeError(_refers_to_itself([*every[every.index(waits) :], waits]))
            else:
                way[waits] = None
    return {**plain, **done}


def _worked_out(name: str, count: Count, known: Mapping[str, float]) -> float:
    lost = next((one for one in count.names if one not in known), None)
    if lost is not None:
        raise VolumeError(
            _("There is no “{name}” to count in any more: type a length.").format(name=lost)
        )
    mm = count.length(known)
    if not mm > 0:
        raise VolumeError(
            _("{count} comes to nothing: type a larger length.").format(count=write_count(count))
        )
    return mm


def _refers_to_itself(round_trip: list[str]) -> str:
    shown = round_trip if len(round_trip) <= MOST_SHOWN else [*round_trip[:3], "…", round_trip[-1]]
    way = " → ".join(_KEY.sub("", step) for step in shown)
    return _("That length refers to itself ({way}): count it in something else.").format(way=way)
