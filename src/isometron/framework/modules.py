"""Modules: named lengths that dimensions are counted in, and dimensions counted in each other."""

import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from fractions import Fraction

from isometron.framework.box import AXES
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.eye import LARGEST_MM
from isometron.perspective.lengths import read_length
from isometron.words import _

LONGEST_NAME = 24
MOST_SHOWN = 6
"""Lengths that are named in a sentence about a round trip."""

_KEY = re.compile(r" #\d+(?=\.)")
_NAME = re.compile(r"[^\W\d_][\w\- ]*")
_COUNT = re.compile(
    r"(?:(?P<over>\d+)/(?P<under>\d+)|(?P<number>\d+(?:[.,]\d*)?|[.,]\d+))?\s*[×*]?\s*"
    r"(?P<of>[^\W\d_].*?)(?:\s*/\s*(?P<by>\d+(?:[.,]\d*)?))?"
)


@dataclass(frozen=True)
class Count:
    """A length as so many times another: `of` is a module's name, "width", "depth" or "height" of
    the same volume, or "<volume>.height" and so on of another."""

    number: float
    of: str

    def __post_init__(self) -> None:
        if not (math.isfinite(self.number) and self.number > 0):
            raise VolumeError(_("A count must be larger than nothing: type, say, 3.2 w."))


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


def read_dimension(text: str, unit: str, names: Iterable[str]) -> float | Count:
    """What a person typed for a dimension: mm, or a Count such as ``3.2 w``, ``1/2 height``,
    ``width / 3`` or ``2 Bench.depth``. names: everything a count may refer to.

    Raises LengthError with the sentence to show.
    """
    asked = text.strip()
    match = _COUNT.fullmatch(asked)
    if match is not None:
        known = {name.casefold(): name for name in names}
        of = known.get(match["of"].strip().casefold())
        if of is not None:
            return Count(_number(match), of)
    try:
        return read_length(text, unit)
    except LengthError as error:
        if match is None or not match["of"]:
            raise
        word = match["of"].strip()
        raise LengthError(
            _(
                "“{word}” is no unit, module or side here: use mm, cm, m, in, width, "
                "depth, height or a module's name."
            ).format(word=word)
        ) from error


def _number(match: re.Match[str]) -> float:
    if match["over"]:
        if int(match["under"]) == 0:
            raise LengthError(
                _("A fraction cannot have nothing below its line: write 5/8, not 5/0.")
            )
        number = float(Fraction(int(match["over"]), int(match["under"])))
    else:
        number = float((match["number"] or "1").replace(",", "."))
    by = float((match["by"] or "1").replace(",", "."))
    if number == 0 or by == 0:
        raise LengthError(_("Nothing times a length is no length: type a number above 0."))
    return number / by


def write_count(count: Count) -> str:
    """A count as a person writes it: 3.2 w."""
    return f"{count.number:.4g} {count.of}"


def resolve(plain: Mapping[str, float], counted: Mapping[str, Count]) -> dict[str, float]:
    """Every length by name, mm: the plain ones, and the counted ones worked out.

    Raises VolumeError when a count refers to itself or to nothing.
    """
    done: dict[str, float] = {}
    for name in counted:
        way: dict[str, None] = {}  # an ordered set
        at = name
        while at in counted and at not in done:
            if at in way:
                every = list(way)
                raise VolumeError(_refers_to_itself([*every[every.index(at) :], at]))
            way[at] = None
            at = counted[at].of
        if at not in done and at not in plain:
            raise VolumeError(
                _("There is no “{name}” to count in any more: type a length.").format(name=at)
            )
        length = done[at] if at in done else plain[at]
        for step in reversed(way):
            length *= counted[step].number
            done[step] = length
    return {**plain, **done}


def _refers_to_itself(round_trip: list[str]) -> str:
    shown = round_trip if len(round_trip) <= MOST_SHOWN else [*round_trip[:3], "…", round_trip[-1]]
    way = " → ".join(_KEY.sub("", step) for step in shown)
    return _("That length refers to itself ({way}): count it in something else.").format(way=way)
