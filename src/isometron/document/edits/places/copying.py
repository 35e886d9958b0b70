"""Copies set down by hand: where a drag has led, or in a row up to there."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import chosen_volumes, free_name, in_work, with_new
from isometron.document.edits.places.standing import repeat
from isometron.words import _


def copies_at(document: Document, moved: Document, count: int = 2) -> Document:
    """Copies of the chosen volumes where another document has them, the old ones staying; of more
    than two, the volume in work as the first of a row that ends there, the others following it.

    Raises VolumeError for a row of more than there may be.
    """
    index, volume = in_work(document)
    run = np.subtract(moved.volumes[index].place, volume.place)
    if not run.any():
        return document
    if count > 2:
        x, y, z = (run / (count - 1)).tolist()
        return repeat(document, count - 1, (x, y, z))
    copies = []
    named = document
    for old in chosen_volumes(moved):
        name = free_name(named, old.name.rstrip("0123456789 ") or _("Box"))
        copy = replace(old, name=name, on=None, like=None, locked=False)
        copies.append(copy)
        named = replace(named, volumes=(*named.volumes, replace(copy, key=named.free_key)))
    return with_new(document, copies, document.intentions)
