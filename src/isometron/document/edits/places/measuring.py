"""Edits of the measures pinned to the sheet."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.framework.dimensions import FURTHEST_OFF_MM, Dimension
from isometron.perspective.errors import VolumeError
from isometron.words import _


def pin(document: Document, dimension: Dimension) -> Document:
    """The sheet with a measure pinned to it. Raises VolumeError for one that is there already."""
    if dimension in document.dimensions:
        raise VolumeError(_("That measure is on the sheet already: drag it where you want it."))
    return replace(document, dimensions=(*document.dimensions, dimension))


def take_off(document: Document, number: int) -> Document:
    """The sheet without one of its measures."""
    left = document.dimensions[:number] + document.dimensions[number + 1 :]
    return replace(document, dimensions=left)


def set_beside(document: Document, number: int, off_mm: float) -> Document:
    """A measure drawn so far beside what it measures, sheet mm, as far as it may be."""
    every = list(document.dimensions)
    off = float(np.clip(off_mm, -FURTHEST_OFF_MM, FURTHEST_OFF_MM))
    every[number] = replace(every[number], off_mm=off)
    return replace(document, dimensions=tuple(every))
