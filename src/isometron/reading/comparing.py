"""A framework against the picture under it: by how many degrees and millimetres each marked edge
and rim differs from what is drawn."""

import math
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import in_work, underlay_of
from isometron.document.marks import MarksError
from isometron.document.picture import EDGE, ROUND, Laid, Mark, SheetPicture
from isometron.drawing.rounds import all_circles
from isometron.drawing.scene import Scene
from isometron.nearness import NEAR
from isometron.perspective.ellipses import Ellipse
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.reading.of_picture import PictureReading, straight
from isometron.words import _

NEAR_MM, NEAR_DEG = 14.0, 12.0
"""A drawn edge is compared with a marked one that lies within so many mm and degrees of it."""

OVERLAP = 0.3
"""And that runs beside it along this share of the shorter one at least."""

ELLIPSE_MM = 25.0


class Difference(NamedTuple):
    """How a drawn edge or rim differs from a marked one: which mark, what it is called, degrees
    (of an edge its direction, of a rim its degree), mm at the worse end (of a rim, of its middle),
    and where on the sheet, mm."""

    mark: Mark
    name: str
    deg: float
    mm: float
    place: tuple[float, float]
    drawn: tuple[Place, Place] | None = None
    """Both ends of the drawn edge, mm; None for a rim."""


def compare(document: Document, scene: Scene, read: PictureReading) -> list[Difference]:
    """Every marked edge and rim with the drawn one nearest to it, the worst first. Raises
    MarksError when the picture does not lie under the sheet as it is seen."""
    picture, laid = in_work(document), underlay_of(document)
    if laid is None:
        raise MarksError(
            _("The picture does not lie under this view: take its eye again, and show it.")
        )
    found = [*_edges(picture, laid, scene), *_rims(picture, laid, scene, read)]
    return sorted(found, key=lambda one: -one.mm)


def _edges(picture: SheetPicture, laid: Laid, scene: Scene) -> list[Difference]:
    drawn = [
        (one.volume.name, one.sheet[one.edges].reshape(-1, 4))
        for one in scene.pictures
        if one.volume.shown
    ]
    names = [name for name, lines in drawn for _line in lines]
    lines = np.concatenate([np.empty((0, 4)), *(lines for _name, lines in drawn)])
    keep = np.isfinite(lines).all(axis=1)
    lines, names = lines[keep], [n for n, k in zip(names, keep.tolist(), strict=True) if k]
    found = []
    for number, edge in enumerate(picture.edges):
        if edge.left or not len(lines):
            continue
        ends = np.array(
            [laid.on_sheet(straight(picture, place)) for place in (edge.start, edge.end)]
        )
        told = _nearest(ends, lines)
        if told is not None:
            line, deg, mm = told
            middle = ends.mean(axis=0)
            name = edge.name or _("edge of {name}").format(name=names[line])
            place, mark = (float(middle[0]), float(middle[1])), Mark(EDGE, number)
            x0, y0, x1, y1 = lines[line].tolist()
            found.append(Difference(mark, name, deg, mm, place, ((x0, y0), (x1, y1))))
    return found


def _nearest(ends: Array, lines: Array) -> tuple[int, float, float] | None:
    """The drawn line (n, 4) that runs beside a marked one (2, 2): its number, degrees between
    them, and mm at the marked one's worse end."""
    run = ends[1] - ends[0]
    length = float(np.hypot(*run))
    ways = lines[:, 2:] - lines[:, :2]
    lengths = np.hypot(*ways.T)
    fair = lengths > NEAR
    unit = ways / np.where(fair, lengths, 1.0)[:, None]
    across = np.abs(unit[:, 0] * run[1] - unit[:, 1] * run[0])
    along = np.abs(unit @ run)
    deg = np.degrees(np.arctan2(across, along))
    off = ends[:, None, :] - lines[None, :, :2]
    miss = np.abs(off[..., 0] * unit[:, 1] - off[..., 1] * unit[:, 0]).max(axis=0)
    place = (off * unit[None]).sum(axis=2)
    low, high = place.min(axis=0).clip(0), np.minimum(place.max(axis=0), lengths)
    beside = (high - low) >= OVERLAP * np.minimum(length, lengths)
    right = fair & beside & (deg < NEAR_DEG) & (miss < NEAR_MM)
    if not right.any():
        return None
    best = int(np.where(right, miss + deg, np.inf).argmin())
    return best, float(deg[best]), float(miss[best])


def _rims(
    picture: SheetPicture, laid: Laid, scene: Scene, read: PictureReading
) -> list[Difference]:
    drawn = [(one.name, one.ellipse) for one in all_circles(scene) if one.ellipse]
    names = [rim.name or str(i) for i, rim in enumerate(picture.rounds)]
    found = []
    for rim in read.reading.rims:
        centre = laid.on_sheet((rim.centre[0].value, rim.centre[1].value))
        size = rim.semi_major.value * laid.mm_per_px
        best: tuple[float, str, Ellipse] | None = None
        for name, ellipse in drawn:
            assert ellipse is not None
            far = math.dist(centre, ellipse.centre_mm) + abs(size - ellipse.semi_major_mm)
            if far < ELLIPSE_MM and (best is None or far < best[0]):
                best = far, name, ellipse
        if best is None or rim.name not in names:
            continue
        ellipse = best[2]
        mm = max(math.dist(centre, ellipse.centre_mm), abs(size - ellipse.semi_major_mm))
        deg = abs(rim.degree_deg.value - ellipse.degree_deg)
        mark = Mark(ROUND, names.index(rim.name))
        found.append(Difference(mark, best[1], deg, mm, centre))
    return found
