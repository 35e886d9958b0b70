"""Places along a length as people type them, the same wherever one is asked for: a fraction (1/3),
per cent (33%), a share (0.33), or a length with its unit (3cm)."""

import math
import re
from collections.abc import Sequence

from isometron.framework.marks import even
from isometron.nearness import SAME
from isometron.perspective.errors import IsometronError, LengthError, VolumeError
from isometron.perspective.lengths import read_length, write_length
from isometron.words import _, quoted

_SHARE = re.compile(r"\d+(?:[.,]\d+)?\s*%|\d+\s*/\s*\d+")
"""A per cent, or a fraction without a unit."""


def place_along(word: str, whole_mm: float | None, unit: str, *, bare_mm: bool = False) -> float:
    """A place along a whole as a share of it. whole_mm: how long it is; without it no length can be
    said. bare_mm: a number alone is a length in the sheet's unit, no share. Raises LengthError.
    """
    share = math.nan
    try:
        over, slash, under = word.partition("/")
        if word.endswith("%"):
            share = float(word[:-1]) / 100
        elif slash:
            share = float(over) / float(under)
        elif not bare_mm:
            share = float(word)
    except (ValueError, ZeroDivisionError):
        pass
    if math.isfinite(share):
        return share
    if not whole_mm:
        raise LengthError(
            _("“{word}” is no place along it: type 1/3, 33% or 0.33.").format(word=quoted(word))
        )
    return read_length(word, unit) / whole_mm


def places_in(words: Sequence[str], whole_mm: float | None, unit: str) -> list[float]:
    """Places along a whole as shares of it. A number alone is a length in the sheet's unit, as it
    is wherever one is typed; beside a share (1/3, 33%, end), 0 and 1 are the two ends. Raises
    LengthError, also for a length that lies beyond the whole."""
    shares = any(_SHARE.fullmatch(word) or word in _ends() for word in words)
    return [_place_in(word, whole_mm, unit, shares=shares) for word in words]


def _ends() -> tuple[str, ...]:
    return "end", _("end")


def _place_in(word: str, whole_mm: float | None, unit: str, *, shares: bool) -> float:
    if word in _ends() or (shares and word == "1"):
        return 1.0
    if word == "0":
        return 0.0
    share = place_along(word, whole_mm, unit, bare_mm=True)
    if whole_mm and share > 1:
        whole = write_length(whole_mm, unit)
        if write_length(share * whole_mm, unit) == whole:  # as long as it reads
            return 1.0
    if whole_mm and not 0 <= share <= 1:
        raise LengthError(
            _("“{word}” lies beyond it: it is {whole} long.").format(
                word=quoted(word), whole=write_length(whole_mm, unit)
            )
        )
    return share


def read_shares(text: str, whole_mm: float | None = None, unit: str = "mm") -> tuple[float, ...]:
    """Shares from what a person typed: a number of parts (``3``), or places along a whole of a
    length, mm (``1/4, 2/3``, ``0.25 50%``, ``3cm``). Raises VolumeError with the sentence to show.
    """
    words = text.replace(";", " ").replace(",", " ").split()
    shares: list[float] = []
    try:
        if len(words) == 1 and words[0].isdecimal():
            return even(int(words[0]))
        shares = [place_along(word, whole_mm, unit) for word in words]
    except (IsometronError, ValueError):
        shares = []
    if not shares or not all(0 < share < 1 for share in shares):
        raise VolumeError(
            _(
                "“{value}” divides nothing: type a number of parts, or places such as 1/3 50% 3cm."
            ).format(value=quoted(text))
        )
    return tuple(sorted(set(shares)))


def write_shares(shares: tuple[float, ...]) -> str:
    """Shares as a person writes them: a number of equal parts, or fractions."""
    count = len(shares) + 1
    if shares and all(abs(s - i / count) < SAME for i, s in enumerate(shares, start=1)):
        return str(count)
    return " ".join(f"{share:.4g}" for share in shares)


def read_pairs(text: str) -> list[list[str]]:
    """Pairs of words with commas between them: a place, and what is there."""
    return [pair.split() for pair in text.replace(";", ",").split(",") if pair.strip()]
