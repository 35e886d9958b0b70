"""What is picked of a mirrored twin, on the volume it is the twin of."""

from dataclasses import replace

import numpy as np

from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.pick import Pick
from isometron.framework.volume import Volume
from isometron.nearness import NEAR
from isometron.perspective.eye import Array


def on_source(pick: Pick, twin: Volume, source: Volume, index: int) -> Pick | None:
    """A picked face, edge or corner of a twin as that of its source, volume number `index`: what
    lies at the picture of its place across the middle of the width; None for anything else."""
    if isinstance(pick, FacePick):
        places = _of_faces(twin)[pick.index], _of_faces(source)
    elif isinstance(pick, EdgePick):
        places = _of_edges(twin)[pick.index], _of_edges(source)
    elif isinstance(pick, CornerPick):
        places = twin.bare.vertices[pick.index][None], source.bare.vertices[:, None]
    else:
        return None
    own, every = places
    pictured = own * [-1.0, 1.0, 1.0] + [twin.width_mm, 0.0, 0.0]
    off = np.abs(every - pictured[np.lexsort(np.round(pictured, 6).T)]).max(axis=(1, 2))
    number = int(off.argmin())
    near = off[number] <= NEAR * max(twin.sides)
    return replace(pick, volume=index, index=number) if near else None


def _of_faces(volume: Volume) -> Array:
    """The middle of every face and a place outward of it, (n, 2, 3) mm, in order of its own."""
    body, reach = volume.bare, max(volume.sides)
    middles = np.array([body.middle_of(face) for face in range(body.faces)])
    return _ordered(np.stack([middles, middles + reach * body.normals], axis=1))


def _of_edges(volume: Volume) -> Array:
    """The ends of every edge, (n, 2, 3) mm, in an order of its own."""
    return _ordered(volume.bare.vertices[volume.bare.edges])


def _ordered(places: Array) -> Array:
    return np.array([one[np.lexsort(np.round(one, 6).T)] for one in places])
