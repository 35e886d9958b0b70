"""The rule of the second look about proportion: what falls outside the band of its kind. Sketching
proportions; not engineering or ergonomic data."""

from functools import partial

import numpy as np

from isometron.document.edits.judging.judging import Judged, brought_in, judged, told_of_measure
from isometron.framework.intentions.intention import middle_of
from isometron.perspective.errors import IsometronError
from isometron.perspective.projection import project
from isometron.remarks.remark import Look, Remark, Remedy, Severity, rule
from isometron.words import _


@rule
def proportion(look: Look) -> list[Remark]:
    """A measure lies outside the band of proportion of its kind."""
    document = look.document
    if not document.begun and not any(volume.role for volume in document.volumes):
        return []
    numbers = {volume.key: number for number, volume in enumerate(document.volumes)}
    found = []
    for one in judged(document):
        if not one.beyond:
            continue
        volume = document.volumes[numbers[one.key]]
        words = (
            _("{what} of {kind}: too little") if one.beyond < 0 else _("{what} of {kind}: too much")
        )
        end = one.low if one.beyond < 0 else one.high
        ((x, y),) = project(look.eye, middle_of(volume)[None]).sheet.tolist()
        known = np.isfinite([x, y]).all()
        found.append(
            Remark(
                Severity.DOUBTFUL,
                words.format(what=_first_upper(_(one.band.what)), kind=_(one.band.of)),
                _(
                    "{value}, {off} beyond {end}: {why}. A proportion for sketching, no "
                    "engineering or ergonomic data."
                ).format(
                    value=told(look, one, one.value),
                    off=told(look, one, abs(one.beyond)),
                    end=told(look, one, end),
                    why=_(one.band.why),
                ),
                one.value if one.unit == "deg" else one.value * one.mm,
                "deg" if one.unit == "deg" else "mm",
                (x, y) if known else (0.0, 0.0),
                numbers[one.key],
                1.0 + abs(one.beyond) / max(abs(end), 1.0),
                partial(_remedy, look, one, end),
                f"proportion: {one.band.what}",
            )
        )
    return found


def told(look: Look, one: Judged, value: float) -> str:
    """A value in its own unit, in words."""
    return told_of_measure(one, value, look.document.choices.unit)


def _remedy(look: Look, one: Judged, end: float) -> Remedy | None:
    try:
        brought_in(look.document, one)
    except IsometronError:
        return None
    label = _("Make it {length}").format(length=told(look, one, end))
    return Remedy(label, lambda document: brought_in(document, one))


def _first_upper(words: str) -> str:
    return words[:1].upper() + words[1:]
