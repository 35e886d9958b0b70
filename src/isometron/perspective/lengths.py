"""Measures as people write them: millimetres, centimetres, metres, inches with ruler fractions."""

import math
import re
from collections.abc import Mapping
from fractions import Fraction
from typing import NamedTuple

from isometron.nearness import NEAR
from isometron.perspective.errors import LengthError
from isometron.perspective.reckoning import reckon, reckon_number
from isometron.words import _, quoted

PARTS = (1e-3, 1e3)
"""What a part of a proportion may be."""

MM_PER = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4}
UNIT_WORDS = {"mm": "mm", "cm": "cm", "m": "metres", "in": "inches"}
"""How a unit is called in a sentence."""

RULER_LADDERS = {
    "cm": [(0.1, 5, 10), (0.5, 2, 10), (1.0, 5, 5), (5.0, 2, 2), (10.0, 5, 5), (50.0, 2, 2)],
    "in": [(0.0625, 4, 16), (0.25, 2, 4), (0.5, 2, 4), (1.0, 2, 2), (4.0, 3, 3), (12.0, 2, 2)],
}
"""Divisions a drawn ruler may have, finest first: their length in its unit, how many make a middle
one, and how many a numbered one."""


class TypedAngle(NamedTuple):
    """Degrees typed where a length could stand."""

    deg: float


def ruler_unit_mm(unit: str) -> float:
    """What a ruler is divided by, mm: centimetres, or inches for a sheet read in inches."""
    return MM_PER["in" if unit == "in" else "cm"]


RULER_FRACTION = 16
"""A ruler in inches is read to sixteenths; half of one is 0.8 mm, near the hand's own precision."""

_NUMBER = r"(?:\d+(?:[.,]\d*)?|[.,]\d+)"
_RATIO_PART = re.compile(rf"\s*({_NUMBER})\s*")
_UNIT_AT_END = re.compile(rf"\s*{_NUMBER}\s*([^\s\d].*?)\s*")


def read_length(text: str, unit: str, known: Mapping[str, float] | None = None) -> float:
    """Millimetres from what a person typed, in `unit` when none is written; `known` are lengths
    (mm) it may speak of by name.

    Accepts ``241.8``, ``24,5 cm``, ``305mm``, ``9 5/8 in``, ``9-5/8"``, ``5' 3"``, ``3 cm 5 mm``,
    ``2*3 w + 4 cm``, ``1/3 of sheet``. Raises LengthError with the sentence to show.
    """
    known = known or {}
    found = reckon(text, unit, known)
    return found.mm + sum(count * known[name] for name, count in found.terms.items())


MOST_PARTS, SAME_SHARE = 12, 1e-9
"""Shares are written as fractions of so many parts at most, when they are the very same."""


def write_length(mm: float, unit: str, *, with_unit: bool = True) -> str:
    """The measure in words for a ruler: tenths of mm, hundredths of cm, sixteenths of an inch."""
    tail = f" {unit}" if with_unit else ""
    value = mm / MM_PER[unit]
    if unit == "in":
        return _inches(value) + tail
    text = f"{value:.{ {'mm': 1, 'cm': 2, 'm': 3}[unit] }f}"
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return ("0" if text in ("-0", "") else text).replace("-", "−") + tail


NOTHING = 1e-6
"""A count of modules below this is nothing."""


def write_place(place: tuple[float, float], unit: str, *, with_unit: bool = True) -> str:
    """A place of the sheet from its lower left corner: so far right or left of it, up or down."""
    across, along = (write_length(abs(mm), unit, with_unit=with_unit) for mm in place)
    nothing = write_length(0.0, unit, with_unit=with_unit)
    right, up = place[0] >= 0 or across == nothing, place[1] >= 0 or along == nothing
    told = {
        (True, True): _("{across} right, {along} up"),
        (True, False): _("{across} right, {along} down"),
        (False, True): _("{across} left, {along} up"),
        (False, False): _("{across} left, {along} down"),
    }[right, up]
    return told.format(across=across, along=along)


def write_short(mm: float, unit: str, *, whole: bool = False) -> str:
    """A length without its unit, in three figures, or in whole ones where there is little room and
    it is not below one: for lists, where it only tells things apart."""
    if whole and mm >= MM_PER[unit]:
        return f"{mm / MM_PER[unit]:.0f}"
    if unit == "in":
        return write_length(mm, unit, with_unit=False)
    value = mm / MM_PER[unit]
    return f"{value:.0f}" if value >= 100 else f"{value:.3g}"


def _inches(value: float) -> str:
    parts = round(abs(value) * RULER_FRACTION)
    whole, rest = divmod(parts, RULER_FRACTION)
    sign = "−" if value < 0 and parts else ""
    if not rest:
        return f"{sign}{whole}"
    fraction = Fraction(rest, RULER_FRACTION)
    over = f"{fraction.numerator}/{fraction.denominator}"
    return f"{sign}{whole} {over}" if whole else sign + over


def read_angle(text: str) -> float:
    """Degrees from what a person typed, with or without the ° sign. Raises LengthError."""
    asked = text.strip().lower().removesuffix("°").removesuffix("deg").strip().replace("−", "-")
    try:
        value = reckon_number(asked)
    except LengthError:
        value = math.nan
    if not math.isfinite(value):
        raise LengthError(
            _("“{value}” is not an angle: type degrees such as 34.5°.").format(value=quoted(text))
        )
    return value


def write_angle(degrees: float) -> str:
    """Degrees to a tenth, with the sign."""
    text = f"{degrees:.1f}".removesuffix(".0")
    return ("0" if text == "-0" else text).replace("-", "−") + "°"


def write_short_count(value: float) -> str:
    """How many of something, in three figures; what is no more than rounding is nothing."""
    return "0" if abs(value) < NOTHING else f"{value:.3g}"


def write_percent(value: float) -> str:
    """Per cent: whole ones, with a tenth below ten."""
    return f"{value:.1f} %" if abs(value) < 10 else f"{value:.0f} %"


def write_share(share: float) -> str:
    """A share as a hand would write it: a fraction in up to twelfths, else in four figures."""
    near = Fraction(share).limit_denominator(MOST_PARTS)
    return str(near) if abs(float(near) - share) < SAME_SHARE else f"{share:.4g}"


def write_number(value: float, digits: int | None = None) -> str:
    """A bare number: with so many digits behind the point, or as short as it can be told."""
    return f"{value:g}" if digits is None else f"{value:.{digits}f}"


def write_mm(mm: float) -> str:
    """A small error, always in millimetres, whatever the sheet is read in."""
    return f"{mm:.2f} mm" if mm < 1 else f"{mm:.1f} mm"


def read_fraction(text: str) -> float:
    """A number, or so many hundredths: ``1/3``, ``0.25`` or ``25 %``. Raises LengthError."""
    asked = text.strip()
    return reckon_number(asked[:-1]) / 100 if asked.endswith("%") else reckon_number(asked)


def read_scale(text: str) -> float:
    """Drawn mm per true mm from ``1 : 4``, ``25 %`` or ``0.25``. Raises LengthError."""
    asked = text.strip()
    try:
        if ":" in asked:
            over, under = (reckon_number(part) for part in asked.split(":"))
            value = over / under
        else:
            value = read_fraction(asked)
    except (LengthError, ValueError, ZeroDivisionError):
        value = math.nan
    if not NEAR <= value <= 1e4:
        raise LengthError(
            _("“{value}” is not a scale: type 1 : 4 or 25 %.").format(value=quoted(text))
        )
    return value


def write_scale(scale: float) -> str:
    """A scale as 1 : 4.15 (or 2 : 1 when larger than life)."""
    if scale >= 1:
        return f"{scale:.3g} : 1"
    return f"1 : {1 / scale:.3g}"


def sides_in(text: str) -> list[str]:
    """What stands between the signs of ``3 : 2 : 1``, ``3 × 2 × 1`` or ``3 x 2 x 1``."""
    return re.split(r"[:×]|\s+[xX]\s+|(?<=\d)[xX](?=\d)", text)


def read_three_lengths(
    text: str, unit: str, known: Mapping[str, float] | None = None
) -> tuple[float, float, float] | None:
    """Width : depth : height as three lengths, mm, when one of them speaks of a measure: ``10 cm :
    10 cm : 1.2 m``; a unit that the last alone has is that of all. None for plain numbers, which
    are a proportion. Raises LengthError."""
    parts = sides_in(text)
    plain = [bool(_RATIO_PART.fullmatch(part.lower())) for part in parts]
    if len(parts) != 3 or all(plain):
        return None
    measured = _UNIT_AT_END.fullmatch(parts[2])
    if plain == [True, True, False] and measured is not None:
        parts[:2] = [f"{part} {measured[1]}" for part in parts[:2]]
    width, depth, height = (read_length(part, unit, known) for part in parts)
    return width, depth, height


def read_ratio(text: str) -> tuple[float, float, float]:
    """Width : depth : height as three positive numbers, written ``3 : 2 : 1`` or ``3x2x1``.

    Raises LengthError with the sentence to show.
    """
    parts = [_RATIO_PART.fullmatch(part) for part in re.split(r"[:x×/]", text.lower())]
    values = [float(part[1].replace(",", ".")) for part in parts if part]
    if len(parts) != 3 or len(values) != 3 or not all(PARTS[0] <= v <= PARTS[1] for v in values):
        raise LengthError(
            _(
                "“{value}” is not a proportion: type width : depth : height, such as 3 : 2 : 1."
            ).format(value=quoted(text))
        )
    return values[0], values[1], values[2]
