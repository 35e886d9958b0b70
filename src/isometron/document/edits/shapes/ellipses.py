"""Edits about ellipses: which circle is in work, its aids, and the guides a person has."""

from collections.abc import Sequence
from dataclasses import replace

from isometron.document.document import Document
from isometron.nearness import SAME
from isometron.perspective.errors import LengthError
from isometron.words import _, quoted


def show_ellipse_aids(document: Document, shown: bool) -> Document:
    """Whether the aids of the ellipse in work are drawn."""
    return replace(document, choices=replace(document.choices, ellipse_aids=shown))


def choose_circle(document: Document, number: int | None) -> Document:
    """Another circle of the volume in work to read and to draw aids for."""
    return replace(document, circle=number)


def set_guides(
    document: Document, degrees: tuple[float, ...] | None, sizes_mm: tuple[float, ...] | None
) -> Document:
    """The person's own ellipse guides; None keeps that list."""
    kit = document.kit
    return replace(
        document,
        kit=replace(
            kit,
            guide_degrees=kit.guide_degrees if degrees is None else degrees,
            guide_sizes_mm=kit.guide_sizes_mm if sizes_mm is None else sizes_mm,
        ),
    )


def read_list(text: str) -> tuple[float, ...]:
    """Numbers from a list such as ``10-80/5, 85`` (from 10 to 80 in steps of 5, and 85).

    Raises LengthError with the sentence to show.
    """
    found: list[float] = []
    try:
        for word in text.replace(";", ",").split(","):
            spell, _unused, step = word.strip().partition("/")
            low, dash, high = spell.partition("-")
            if not dash:
                found.append(float(low))
                continue
            by = float(step or "1")
            count = int((float(high) - float(low)) / by + SAME)
            if not (by > 0 and 0 <= count < 500):
                raise ValueError
            found += [float(low) + i * by for i in range(count + 1)]
    except (ValueError, ZeroDivisionError, OverflowError) as error:
        raise LengthError(
            _("“{value}” is no list: type, say, 10-80/5 or 12, 20, 32.").format(value=quoted(text))
        ) from error
    return tuple(sorted(set(found)))


def write_list(values: Sequence[float]) -> str:
    """A list of numbers as a person writes it, even runs as from-to/step."""
    words: list[str] = []
    i = 0
    while i < len(values):
        end = i + 1
        step = values[end] - values[i] if end < len(values) else 0.0
        while end + 1 < len(values) and abs(values[end + 1] - values[end] - step) < SAME:
            end += 1
        if end - i >= 3:
            words.append(f"{values[i]:g}-{values[end]:g}/{step:g}")
            i = end + 1
        else:
            words.append(f"{values[i]:g}")
            i += 1
    return ", ".join(words)
