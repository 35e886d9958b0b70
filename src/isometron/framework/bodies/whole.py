"""The body of a volume: of its kind, with what is cut from it, drilled through it, drawn on it."""

from dataclasses import dataclass, replace
from functools import cached_property
from weakref import WeakValueDictionary

import numpy as np

from isometron.framework.bodies.body import CIRCLE, Body, Circle
from isometron.framework.bodies.cuts import Cut, cut_body
from isometron.framework.bodies.edging import Edging, edged
from isometron.framework.bodies.facets import flat_triangles
from isometron.framework.bodies.openings import (
    Tunnel,
    opened,
    solid_of,
    triangles_of,
    trimmed,
    tunnels_of,
)
from isometron.framework.bodies.slicing import Slice, chamfered
from isometron.framework.circles import FaceCircle
from isometron.framework.face_rings import FaceRing, arcs_on, openings_of, with_drawn, with_twins
from isometron.framework.kinds.kind import Kind, Triangles
from isometron.perspective.conics import circle_arcs
from isometron.perspective.errors import VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides
from isometron.words import _

_BODIES: WeakValueDictionary["Whole", Body] = WeakValueDictionary()
"""Bodies somebody holds, by what they are made from."""


@dataclass(frozen=True)
class Whole:
    """What a body is made from: a kind in a box of the given sides (mm), cut, with circles (holes
    among them) and outlines (openings among them) on its faces, and edges taken off.

    What it gives raises VolumeError for a lean that folds it, an outline that crosses itself, a cut
    that removes everything, a hole or opening that does not fit."""

    shape: Kind
    sides: Sides
    cuts: tuple[Cut, ...] = ()
    circles: tuple[FaceCircle, ...] = ()
    rings: tuple[FaceRing, ...] = ()
    edgings: tuple[Edging, ...] = ()

    @property
    def holes(self) -> tuple[FaceCircle, ...]:
        """The circles that are holes right through."""
        return tuple(one for one in self.circles if one.through)

    @cached_property
    def bare(self) -> Body:
        """The body with nothing drawn on it. A kind that cannot be cut keeps what it has."""
        openings = tuple(one for one in self.rings if one.cut)
        key = replace(self, circles=self.holes, rings=openings)
        body = _BODIES.get(key)
        if body is None:
            body = key._made()
            _BODIES[key] = body
        return body

    @property
    def unopened(self) -> Body:
        """The body without the openings in its faces, which it numbers as the body does."""
        return replace(self, rings=()).bare if any(one.cut for one in self.rings) else self.bare

    @property
    def sharp(self) -> Body:
        """The body before its edges are taken off, which numbers them."""
        return replace(self, rings=(), edgings=()).bare if self.edgings else self.unopened

    def _made(self) -> Body:
        if self.rings:
            solid_of(self._closed_skin(), self.tunnels)
            return opened(self.unopened, self.tunnels)
        if self.edgings:
            sharp = self.sharp
            return edged(sharp, self.edgings) if sharp.parts else chamfered(sharp, self.edgings)[0]
        flat = self.shape.faceted(self.sides) if self.cuts else None
        if flat is None:
            return self.shape.body(self.sides, self.holes)
        if self.holes:
            raise VolumeError(_("A volume with cuts takes no round hole: fill its cuts first."))
        return cut_body(flat, self.cuts, self.sides)

    @property
    def _slices(self) -> list[Slice]:
        """What chamfers take off a body that bends; nothing of a flat one, whose faces tell it."""
        bends = self.edgings and not self.sharp.parts
        return chamfered(self.sharp, self.edgings)[1] if bends else []

    @cached_property
    def tunnels(self) -> tuple[Tunnel, ...]:
        """The openings among its outlines, twins too, carried through it."""
        rings = tuple(one for one in self.rings if one.cut)
        twins = with_twins(rings, self.unopened, self.sides)
        return tunnels_of(self.unopened, openings_of(twins, self.unopened))

    def _closed_skin(self) -> Triangles:
        base = self.unopened
        found = flat_triangles(base) if base.parts else self.shape.triangles(self.sides, self.holes)
        if found is None:
            raise VolumeError(_("A line in space has no face to open: choose a volume."))
        planes = [(one.normal, one.offset) for one in self._slices]
        return trimmed(found, planes) if planes else found

    @property
    def skin(self) -> Triangles | None:
        """Its skin as triangles in own mm, arcs in chords; None for what has no body."""
        if not self.unopened.parts and self.shape.triangles(self.sides, self.holes) is None:
            return None
        skin = self._closed_skin()
        return triangles_of(solid_of(skin, self.tunnels)) if self.tunnels else skin

    @property
    def contents_mm3(self) -> float:
        """True contents, mm³."""
        base = self.unopened
        if (self.cuts or self.edgings) and base.parts:
            whole = base.contents_of_parts_mm3
        else:
            whole = self.shape.contents_mm3(self.sides, self.holes)
        whole -= sum(one.contents_mm3 for one in self._slices)
        return whole - sum(one.contents_mm3 for one in self.tunnels)

    def drawn(self) -> Body:
        """The body with the circles and outlines that are only drawn on its faces. Raises
        VolumeError for one that fits nowhere, or lies on a face that is gone."""
        body = self._with_circles(self.bare) if self.circles else self.bare
        rings = tuple(one for one in self.rings if not one.cut)
        base = self.unopened
        return with_drawn(body, with_twins(rings, base, self.sides), base) if rings else body

    def rings_on(self, body: Body) -> tuple[Array, ...]:
        """The outlines that are only drawn on its body, twins too, each as its arcs (k, 3, 4) where
        its face is there."""
        base = self.unopened
        drawn = [one for one in with_twins(self.rings, base, self.sides) if not one.cut]
        return tuple(arcs_on(body, one, base) for one in drawn)

    def _with_circles(self, body: Body) -> Body:
        drawn = [one for one in self.circles if not one.through]
        if not drawn:
            return body
        arcs: list[Array] = [body.arcs]
        faces: list[int] = []
        found: list[Circle] = []
        count = len(body.arcs)
        for one in drawn:
            plane, face = self.shape.face_plane(self.unopened, self.sides, one)
            middle, radius = plane.middle(one), plane.radius_of(one)
            axes = np.stack([plane.across, plane.along])
            for share in one.shares:
                size = share * radius
                made = circle_arcs(
                    middle, size * axes[0], size * axes[1], one.start_deg, one.sweep_deg
                )
                found.append(Circle(middle, axes, size, "mark", count, count + len(made)))
                arcs.append(made)
                faces += [face] * len(made)
                count += len(made)
        on = np.stack([np.array(faces, dtype=np.intp), np.full(len(faces), -1)], axis=1)
        kinds = np.full(len(faces), CIRCLE)
        return replace(
            body,
            arcs=np.concatenate(arcs),
            arc_kinds=np.concatenate([body.arc_kinds, kinds]),
            arc_faces=np.concatenate([body.arc_faces, on]),
            circles=(*body.circles, *found),
        )
