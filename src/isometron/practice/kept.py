"""What stands in the log, taken as it is or left aside: another hand, another program or a fault of
the disk may have written what no entry of ours holds."""

import json
import math
from datetime import datetime
from typing import Any

LARGEST = 1e9
"""No error, hand or time that was kept is larger."""

FORMER_DRILLS = {"fence": "masts"}
"""Drills by the names they once had: rows of these are told as those of today, and their exercises
are the same."""

MISS_KEYS = ("measure", "error", "unit", "hand", "words")


def moment_told(at: object) -> str | None:
    """A moment as the log keeps it; None for what is none."""
    if not isinstance(at, str):
        return None
    try:
        moment = datetime.fromisoformat(at)
    except ValueError:
        return None
    plain = moment.tzinfo is None and "T" in at
    return at if plain else moment.replace(tzinfo=None).isoformat(timespec="seconds")


def what_was_kept(text: object) -> dict[str, Any]:
    """What an entry keeps; nothing where that is no JSON object. Errors without what errors have,
    and numbers that are none, are left out."""
    if not isinstance(text, str):
        return {}
    try:
        told = json.loads(text, parse_constant=_none, parse_float=_finite, parse_int=_whole)
    except (ValueError, RecursionError):
        return {}
    if not isinstance(told, dict):
        return {}
    if "misses" in told:
        misses = told["misses"] if isinstance(told["misses"], list) else []
        told["misses"] = misses if all(map(_is_miss, misses)) else []
    seconds = told.get("seconds", 0.0)
    if not _is_number(seconds) or seconds < 0:
        told["seconds"] = 0.0
    for name in ("words", "helped", "path"):
        if not isinstance(told.get(name, ""), str):
            told[name] = ""
    return told


def _none(_text: str) -> None:
    return None


def _finite(text: str) -> float | None:
    value = float(text)
    return value if math.isfinite(value) else None


def _whole(text: str) -> int | float | None:
    return int(text) if len(text) < 16 else _finite(text)


def _is_number(value: object) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and abs(value) <= LARGEST


def _is_miss(miss: object) -> bool:
    return (
        isinstance(miss, dict)
        and all(key in miss for key in MISS_KEYS)
        and all(isinstance(miss[key], str) for key in ("measure", "unit", "words"))
        and _is_number(miss["error"])
        and _is_number(miss["hand"])
    )
