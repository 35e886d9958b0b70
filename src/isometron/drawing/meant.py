"""What the volume in work is meant to be to others, as it is shown on the board: a thin line from
the one to the other, and a word where it is kept."""

from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.perspective.projection import project

PIECES = 16
"""A straight line on a curved sheet is drawn in so many."""


class MeantWord(NamedTuple):
    """A word above a place of the sheet, mm, or hung below it."""

    word: str
    place: Place
    hangs: bool


def meant_marks(document: Document) -> tuple[Array, list[MeantWord]]:
    """Of every tie of the volume in work the lines (n, 4), sheet mm, and a word at its place; what
    lies behind the eye is left out."""
    if document.volume is None or not document.intentions:
        return np.empty((0, 4)), []
    parts, key = document.parts, document.volume.key
    found = [np.empty((0, 4))]
    words: list[MeantWord] = []
    shares = np.linspace(0, 1, PIECES + 1 if document.eye.curved else 2)[:, None]
    for one in document.intentions:
        if key not in one.keys:
            continue
        mark = one.marked(parts)
        for start, end in mark.lines:
            drawn = project(document.eye, start + shares * (end - start)).sheet
            lines = np.concatenate([drawn[:-1], drawn[1:]], axis=1)
            found.append(lines[np.isfinite(lines).all(axis=1)])
        ((x, y),) = project(document.eye, mark.place[None]).sheet.tolist()
        if np.isfinite((x, y)).all() and mark.word:
            words.append(MeantWord(mark.word, (x, y), mark.hangs))
    return np.concatenate(found), words
