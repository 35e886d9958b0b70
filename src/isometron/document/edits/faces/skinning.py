"""Edits of the skins laid over the faces of a volume: courses, tiles, boards, ribs."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.faces.on_faces import face_to, whole_face
from isometron.framework.bent_sides import bent_numbers
from isometron.framework.skins import Skin
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

UPRIGHT = 0.7
"""A face is upright when its normal rises by less than 45° (the sine)."""


def surfaces_of(volume: Volume, where: str, picked: int | None = None, bent: int = -1) -> list[int]:
    """The surfaces a skin is laid on: "picked" (a face by its number, or a bent side), "upright"
    (every upright face and bent side), or a side of the box by its number. Raises VolumeError when
    there is none."""
    body = volume.unopened
    if where == "picked":
        if bent >= 0:
            return [bent_numbers(volume.body)[bent]] if bent in bent_numbers(volume.body) else []
        return [face_to(volume, 2) if picked is None else whole_face(volume, picked)]
    if where == "upright":
        faces = np.flatnonzero(np.abs(body.normals[:, 2]) < UPRIGHT).tolist()
        return [*(int(face) for face in faces), *sorted(set(bent_numbers(body).values()))]
    return [face_to(volume, int(where))]


def lay_skins(document: Document, surfaces: list[int], skin: Skin) -> Document:
    """A skin on some surfaces of the volume in work, in the place of what was laid there. Raises
    VolumeError for one that cannot be drawn."""
    index, volume = in_work(document)
    if not surfaces:
        raise VolumeError(_("Nothing there takes a skin: pick a face or a round side."))
    kept = [one for one in volume.skins if one.surface not in surfaces]
    laid = [replace(skin, surface=surface) for surface in surfaces]
    done = replace(volume, skins=(*kept, *laid))
    _unused = done.laid_skins
    return document.with_volume(index, done)


def strip(document: Document) -> Document:
    """The volume in work without its skins."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, skins=()))
