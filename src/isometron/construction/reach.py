"""How much of a framework an order constructs: what the finished drawing shows, everything, or the
framework alone."""

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from isometron.document.building import EVERYTHING, FRAMEWORK
from isometron.document.document import Document
from isometron.drawing.rounds import DrawnCircle
from isometron.drawing.volume_picture import VolumePicture
from isometron.nearness import NEAR
from isometron.perspective.conics import points_at
from isometron.perspective.eye import Array


class Wanted:
    """What of one volume an order constructs. A see-through sheet shows what is hidden too."""

    def __init__(self, document: Document, picture: VolumePicture) -> None:
        reach = document.building.reach
        self.picture = picture
        self.framework_only = reach == FRAMEWORK
        see = picture.volume.see_through
        through = document.choices.see_through if see is None else see
        self.everything = through or reach in (EVERYTHING, FRAMEWORK)
        self.hidden_too = reach == EVERYTHING

    @cached_property
    def at_all(self) -> bool:
        """Whether anything of it shows."""
        pieces = self.picture.pieces
        return self.everything or bool((pieces.seen & pieces.drawn).any())

    @cached_property
    def edges(self) -> NDArray[np.bool_]:
        """(m,) which edges of its body show."""
        count = len(self.picture.edges)
        if self.everything:
            return np.ones(count, dtype=bool)
        return np.array([bool(spans) for spans in self.picture.visible], dtype=bool).reshape(count)

    @cached_property
    def corners(self) -> NDArray[np.bool_]:
        """(n,) which corners of its body edges that show run to."""
        found = np.zeros(len(self.picture.world), dtype=bool)
        found[self.picture.edges[self.edges]] = True
        return found

    @cached_property
    def _arcs(self) -> set[int]:
        picture = self.picture
        return set(picture.arc_numbers[picture.arc_seen & picture.arc_drawn].tolist())

    def circle(self, circle: DrawnCircle) -> bool:
        """Whether a circle shows; of one that other arcs draw, whether any of those do."""
        one = self.picture.body.circles[circle.number]
        if self.everything:
            return True
        if one.first < one.last:
            return any(number in self._arcs for number in range(one.first, one.last))
        arcs = self.picture.body.arcs[[number for number in self._arcs if number >= 0]]
        places = arcs[:, 0, :3] / np.where(arcs[:, 0, 3:] > 0, arcs[:, 0, 3:], 1.0)
        off = places - one.centre
        level = np.abs(off @ one.normal) <= NEAR * one.radius_mm
        away = np.abs(np.linalg.norm(off, axis=1) - one.radius_mm) <= NEAR * one.radius_mm
        return bool((level & away).any())

    def outline(self, number: int) -> bool:
        """Whether an outline of it shows."""
        return self.everything or -1 - number in self._arcs

    @cached_property
    def shown_places(self) -> Array:
        """Places (k, 3), own mm, in the middle of every part of an edge or an arc that shows."""
        body = self.picture.body
        found: list[Array] = [np.empty((0, 3))]
        for (a, b), spans in zip(body.vertices[body.edges], self.picture.visible, strict=False):
            found += [(a + (low + high) / 2 * (b - a))[None] for low, high in spans]
        for arc, parts in zip(body.arcs, self.picture.seen_arcs, strict=True):
            if parts.spans:
                t = np.array([(low + high) / 2 for low, high in parts.spans])
                found.append(points_at(np.tile(arc, (len(t), 1, 1)), t))
        return np.concatenate(found)

    def side(self, face: int) -> bool:
        """Whether any line on a face of it shows."""
        if self.everything:
            return True
        body = self.picture.body
        mine = (body.edge_faces[: len(self.edges)] == face).any(axis=1) & self.edges
        arcs = np.flatnonzero((body.arc_faces == face).any(axis=1)).tolist()
        return bool(mine.any()) or any(number in self._arcs for number in arcs)
