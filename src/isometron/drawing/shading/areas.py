"""The areas of a sheet under its light: every visible part of every face, lit or in shadow, the
cast shadow and the contact shadow on the ground."""

from collections import defaultdict
from collections.abc import Sequence
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.finish import Finish
from isometron.document.light import Light, Shading
from isometron.drawing.scene import Scene
from isometron.drawing.shading.bands import Lit, lit_skin
from isometron.drawing.shading.receivers import contact_on, on_sheet, receivers_of, shadow_on
from isometron.drawing.shading.surroundings import (
    BACKGROUND,
    MIRROR,
    floor_on_sheet,
    mirrored,
    seen_in_mirror,
    surroundings_of,
)
from isometron.drawing.shading.values import LIT, Span, lightness, span_of
from isometron.hiding.areas import (
    Areas,
    Chart,
    Skin,
    ahead_of,
    mend,
    mended,
    seen_areas,
    shapely_parts,
    skin_of,
)
from isometron.perspective.curved import place_directions
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.projection import NEAR_MM
from isometron.perspective.watching import ticking
from isometron.words import _

GROUND = -1
"""Number of the volume of what lies on the ground, a shelf or a wall."""

SLIVER = 1e-9
"""A smaller share of a piece is nothing of it."""

BENT_STEP = 0.02
"""Sides are cut so fine, as a share of the distance of a picture, before they are bent: over a
station distance of 500 mm the chords miss by 0.03 mm."""

BEHIND = 1e-3
"""What lies nearer than this share to the direction exactly behind the eye is left out."""

HAIR_MM = 1e-6
"""A piece no wider is what is left of two edges that lie on each other."""

SNAP = 1e-7
"""Facets of one surface are joined on a grid this fine, sheet mm."""


HAIRS = (1e-4, -1.3e-4, 3.7e-3)
"""So far beside a light, degrees or mm, its areas are tried where it is a degenerate one: less
than 0.01 mm of a shadow as long as a sheet."""


class Area(NamedTuple):
    """One area of the sheet: what it is ("face", "shadow" on a face, "cast" on the ground,
    "contact", one of BACKGROUND, or a mirror image), its volume and surface (GROUND and the number
    of the receiver for what is none), its step, its polygons in sheet mm, and the cosine between
    its face and the light (of a bent one: of the middle of its band)."""

    kind: str
    volume: int
    face: int
    step: int
    shape: Any
    cosine: float

    @property
    def mm2(self) -> float:
        """Its area on the sheet."""
        return float(self.shape.area)

    def rings(self) -> list[list[Array]]:
        """Its polygons: outer ring (k, 2) first, then its holes."""
        return rings_of(self.shape)


def rings_of(shape: Any) -> list[list[Array]]:
    """The polygons of a shape: outer ring (k, 2) first, then its holes; none as thin as a hair."""
    return [
        [np.asarray(ring.coords) for ring in (one.exterior, *one.interiors)]
        for one in shapely_parts(shape)
        if one.area > HAIR_MM * one.length
    ]


def areas_of(document: Document, scene: Scene) -> tuple[Area, ...]:
    """All areas, what lies on the ground first; () without a light."""
    return () if document.light is None else _drawn_under(document, document.light, scene).areas


def light_in_words(document: Document, scene: Scene) -> str:
    """What was done to the light so that its areas could be told apart; "" for nothing. Raises
    ShadingError."""
    if document.light is None or _drawn_under(document, document.light, scene).exact:
        return ""
    return _("Under this light areas lie exactly on each other: it is drawn turned by a hair.")


class Drawn(NamedTuple):
    """All areas, and whether they are those of the very light that was asked for."""

    areas: tuple[Area, ...]
    exact: bool


def _drawn_under(document: Document, light: Light, scene: Scene) -> Drawn:
    if not scene.pictures:
        return Drawn((), exact=True)
    keys = tuple(volume.key for volume in document.volumes)
    return _told(
        scene,
        light,
        document.shading,
        document.finish,
        keys,
        document.sheet.width_mm,
        document.sheet.height_mm,
    )


class ShadingError(IsometronError):
    """A light under which areas cannot be told apart."""


def _told(scene: Scene, light: Light, shading: Shading, *others: Any) -> Drawn:
    """The areas under a light; where they cannot be told apart, under one a hair beside it."""
    from shapely.errors import ShapelyError

    failed: Exception | None = None
    for tried in (light, *map(light.beside, HAIRS)):
        try:
            return Drawn(_areas(scene, tried, shading, *others), exact=tried is light)
        except ShapelyError as error:
            failed = error
    raise ShadingError(
        _("Under this light areas fall together that should lie apart: turn it a little.")
    ) from failed


@lru_cache(maxsize=3)
def _areas(
    scene: Scene,
    light: Light,
    shading: Shading,
    finish: Finish,
    keys: tuple[int, ...],
    wide: float,
    high: float,
) -> tuple[Area, ...]:
    import shapely

    skin = skin_of_scene(scene)
    if not len(skin.figure):
        return ()
    span = span_of(scene.pictures, light)
    lit = lit_skin(skin, light, shading.steps, span)
    asked = _Asked(scene, lit, light, shading, finish, keys, span)
    paper = shapely.box(0.0, 0.0, wide, high)
    if scene.eye.curved:
        return _curved_areas(asked, paper)
    return tuple(_in_chart(asked, eye_chart(scene.eye), paper))


class _Asked(NamedTuple):
    """What areas are worked out from."""

    scene: Scene
    lit: Lit
    light: Light
    shading: Shading
    finish: Finish
    keys: tuple[int, ...]
    span: Span


def _in_chart(asked: _Asked, chart: Chart, paper: Any) -> list[Area]:
    """All areas in one flat picture, within a part of it, what lies behind first."""
    import shapely

    finish, shading = asked.finish, asked.shading
    seen = seen_areas(chart, asked.lit.skin)
    faces = _on_faces(asked, asked.lit, chart, seen)
    if not (shading.shadows or finish.mirror or finish.surroundings):
        return faces
    before = shapely.union_all(seen.seen) if len(seen.seen) else shapely.Polygon()
    ground = _on_room(asked, chart, before, paper) if shading.shadows else []
    if finish.mirror:
        mirror = _mirror(asked, chart, before, paper)
        if mirror:
            shown = shapely.union_all([area.shape for area in mirror])
            ground = [area._replace(shape=shapely.difference(area.shape, shown)) for area in ground]
        ground = [*mirror, *(area for area in ground if area.shape.area > 0)]
    if finish.surroundings:
        covered = shapely.union_all([before, *(area.shape for area in ground)])
        own = surroundings_of(
            asked.scene, asked.light, finish, chart, paper, covered, shading.steps, asked.span
        )
        ground = [
            *(Area(one.what, GROUND, GROUND, one.step, _joined([one.shape]), 0.0) for one in own),
            *ground,
        ]
    return [*ground, *faces]


def _mirror(asked: _Asked, chart: Chart, before: Any, paper: Any) -> list[Area]:
    """The mirror image of everything in the floor, where nothing stands before it."""
    import shapely

    held = shapely.difference(floor_on_sheet(asked.scene, chart, paper), before)
    above, reflected = seen_in_mirror(asked.lit, chart)
    image = _on_faces(asked, above, mirrored(chart), reflected)
    return _in_mirror(image, held, asked.shading.steps)


def _curved_areas(asked: _Asked, paper: Any) -> tuple[Area, ...]:
    """The areas of a curved sheet: worked out in six flat pictures all round the eye, each a
    quarter turn wide, laid onto the sheet and joined."""
    import shapely

    eye = asked.scene.eye
    parts: dict[tuple[str, int, int, int], list[Area]] = {}
    for chart in all_round(eye):
        edge = shapely.box(-chart.edge, -chart.edge, chart.edge, chart.edge)
        for area in _in_chart(asked, chart, edge):
            shape = shapely.intersection(bent_onto(eye, chart, area.shape), paper)
            if shape.area > 0:
                parts.setdefault(area[:4], []).append(area._replace(shape=shape))
    found = []
    for some in parts.values():
        shape = _joined([area.shape for area in some])
        if not shape.is_empty:
            found.append(some[0]._replace(shape=shape))
    return tuple(sorted(found, key=lambda area: (area.kind not in BACKGROUND, area.volume)))


def all_round(eye: Eye) -> list[Chart]:
    """Six pictures of all that lies round an eye, one of them along its sight axis."""
    axes, place = sight_axes(eye).astype(float), np.array(eye.place)
    found = []
    for axis in range(3):
        for sign in (1.0, -1.0):
            ahead, right = sign * axes[axis], axes[(axis + 1) % 3]
            up = np.cross(right, ahead)
            found.append(Chart(place, right, up, ahead, near=1e-3, edge=1.0))
    return found


def bent_onto(eye: Eye, chart: Chart, shape: Any) -> Any:
    """Polygons of a flat picture as polygons of a curved sheet, their sides in chords that miss the
    curves by less than a few hundredths of a millimetre."""
    import shapely

    if shape.is_empty:
        return shape
    if float(chart.ahead @ sight_axes(eye)[2].astype(float)) < -0.9:
        # what lies round the one direction that lands nowhere would be turned inside out
        parts = [shapely.intersection(shape, box) for box in _quarters(chart.edge)]
        return shapely.union_all([_laid(eye, chart, part) for part in parts])
    return _laid(eye, chart, shape)


def _quarters(edge: float) -> list[Any]:
    """The quarters of a square about its middle, but for the very middle."""
    import shapely

    hole = shapely.box(-BEHIND, -BEHIND, BEHIND, BEHIND)
    corners = [(x, y) for x in (-edge, edge) for y in (-edge, edge)]
    boxes = [shapely.box(min(x, 0), min(y, 0), max(x, 0), max(y, 0)) for x, y in corners]
    return [shapely.difference(box, hole) for box in boxes]


def _laid(eye: Eye, chart: Chart, shape: Any) -> Any:
    import shapely

    if shape.is_empty:
        return shape
    fine = shapely.segmentize(shape, BENT_STEP)
    flat = shapely.get_coordinates(fine)
    ways = chart.ahead + flat @ np.stack([chart.right, chart.up])
    drawn = shapely.set_coordinates(fine, place_directions(eye, ways).sheet)
    return drawn if drawn.is_valid else mended(drawn)


def _in_mirror(image: list[Area], held: Any, steps: int) -> list[Area]:
    """The areas of a mirror image within a part of the sheet, a step darker."""
    import shapely

    found = []
    for area in image:
        shape = shapely.intersection(area.shape, held)
        if shape.area > 0:
            step = min(area.step + 1, steps - 1)
            found.append(area._replace(kind=MIRROR, step=step, shape=_joined([shape])))
    return found


@lru_cache(maxsize=2)
def skin_of_scene(scene: Scene) -> Skin:
    """The skin of all volumes that are shown."""
    figures = [picture.figure for picture in scene.pictures]
    shown = [
        i
        for i, picture in enumerate(scene.pictures)
        if picture.volume.shown and not picture.volume.ghost
    ]
    return skin_of(figures, shown)


def eye_chart(eye: Eye) -> Chart:
    """The sheet as a picture to count areas in."""
    right, up, away = (np.asarray(axis, dtype=float) for axis in sight_axes(eye))
    return Chart(
        np.array(eye.place, dtype=float),
        right,
        up,
        away,
        far=eye.parallel is not None,
        distance=eye.parallel or eye.station_distance_mm,
        middle=eye.centre_of_vision_mm,
        near=max(NEAR_MM, 1e-3),
    )


def light_charts(light: Light) -> list[Chart]:
    """Pictures that the light sees: one for the sun, six about a lamp."""
    if light.far:
        toward = np.array(light.source[:3])
        across = np.linalg.svd(toward[None])[2][1:]
        return [Chart(np.zeros(3), across[0], across[1], -toward, far=True)]
    place, found = np.array(light.source[:3]), []
    for axis in range(3):
        for sign in (1.0, -1.0):
            ahead = sign * np.eye(3)[axis]
            right = np.eye(3)[(axis + 1) % 3]
            found.append(Chart(place, right, np.cross(ahead, right), ahead, near=1e-3, edge=1.0))
    return found


def _on_faces(asked: _Asked, lit: Lit, chart: Chart, seen: Areas) -> list[Area]:
    """The visible parts of faces by volume, surface and step; cast shadows on them apart."""
    shading, keys = asked.shading, asked.keys
    skin, cosines, steps = lit
    dark = _dark(lit, asked.light, chart, seen) if shading.shadows else {}
    groups: dict[tuple[str, int, int, int], list[int]] = defaultdict(list)
    parts: dict[tuple[str, int, int, int], list[Any]] = defaultdict(list)
    for number, (facet, shape) in enumerate(zip(seen.facets.tolist(), seen.seen, strict=True)):
        volume, face = int(skin.figure[facet]), int(skin.face[facet])
        by_hand = shading.step_of(keys[volume], face) if shading.by_hand else None
        step = int(steps[facet]) if by_hand is None else by_hand
        pieces = dark.get(number, (None, shape))
        for kind, own, piece in zip(
            ("shadow", "face"), (shading.steps - 1, step), pieces, strict=True
        ):
            if piece is not None:
                parts[kind, volume, face, own].append(piece)
                groups[kind, volume, face, own].append(facet)
    found = []
    for key in sorted(parts):
        whole = _joined(parts[key])
        if not whole.is_empty:
            found.append(Area(*key, whole, float(np.mean(cosines[groups[key]]))))
    return found


def _dark(lit: Lit, light: Light, chart: Chart, seen: Areas) -> dict[int, tuple[Any, Any]]:
    """By number of a seen piece that turns to the light: what of it lies in shadow and what in
    light, either None where there is nothing of it. A facet that turns away by itself where the
    true surface still turns to the light is lit: no light grazes it."""
    import shapely

    skin = lit.skin
    flat = lightness(light, skin.normals, skin.middles)
    numbers = np.flatnonzero((lit.cosines > LIT)[seen.facets] & (flat > LIT)[seen.facets])
    if not len(numbers):
        return {}
    known = _lit_on_sheet(skin, light, chart)
    none = shapely.Polygon()
    reached = np.array([known.get(f, none) for f in seen.facets[numbers].tolist()], dtype=object)
    whole = seen.seen[numbers]
    shadow = shapely.difference(whole, reached)
    share = shapely.area(shadow) / shapely.area(whole)
    mixed = (share > SLIVER) & (share < 1 - SLIVER)
    bright = whole.copy()
    bright[mixed] = shapely.difference(whole[mixed], shadow[mixed])
    return {
        number: (
            shadow[row] if share[row] > SLIVER else None,
            bright[row] if share[row] < 1 - SLIVER else None,
        )
        for row, number in enumerate(numbers.tolist())
    }


def _joined(shapes: list[Any]) -> Any:
    """Polygons joined to one, without the lines that joining may leave."""
    import shapely

    whole = shapes[0] if len(shapes) == 1 else shapely.union_all(shapes, grid_size=SNAP)
    parts = shapely_parts(whole)
    polygons = [one for one in parts if one.area > HAIR_MM * one.length]
    return shapely.multipolygons(polygons) if polygons else shapely.MultiPolygon()


@lru_cache(maxsize=2)
def _seen_by(light: Light, skin: Skin) -> list[tuple[Chart, Areas]]:
    """What the light sees of a skin, whichever picture asks."""
    return [(chart, seen_areas(chart, skin)) for chart in light_charts(light)]


def _lit_on_sheet(skin: Skin, light: Light, chart: Chart) -> dict[int, Any]:
    """By facet: what the light reaches of it, as polygons of the sheet."""
    import shapely

    found: dict[int, list[Any]] = defaultdict(list)
    toward = chart.facing(skin.normals, skin.offsets)
    for own, lit in _seen_by(light, skin):
        kept = toward[lit.facets]
        facets, shapes = lit.facets[kept], lit.seen[kept]
        if not len(facets):
            continue
        for row, facet in enumerate(ticking(facets.tolist(), len(facets))):
            shapes[row] = _before(own, chart, skin.rings[facet], shapes[row])
        flat, owner = shapely.get_coordinates(shapes, return_index=True)
        of = facets[owner]
        drawn = chart.picture(own.world(flat, skin.normals[of], skin.offsets[of]))
        moved = shapely.set_coordinates(shapes, drawn)
        moved = mend(moved)
        for facet, shape in zip(facets.tolist(), moved, strict=True):
            found[facet].append(shape)
    return {n: one[0] if len(one) == 1 else shapely.union_all(one) for n, one in found.items()}


def _before(own: Chart, chart: Chart, rings: Sequence[Array], shape: Any) -> Any:
    """The part of a polygon of a flat piece, as the light sees it, that lies before the eye."""
    import shapely

    if all(chart.depth(ring).min() > chart.near for ring in rings):
        return shape
    kept = ahead_of(chart, rings)
    if not kept:
        return shapely.Polygon()
    flat = [own.picture(ring) for ring in kept]
    return shapely.intersection(shape, mended(shapely.Polygon(flat[0], flat[1:])))


def _on_room(asked: _Asked, chart: Chart, before: Any, paper: Any) -> list[Area]:
    """The cast and contact shadows on the ground, shelves and walls, where the eye sees them."""
    import shapely

    found = []
    skin, steps = asked.lit.skin, asked.shading.steps
    for number, receiver in enumerate(receivers_of(asked.scene.aids, chart.origin)):
        for kind, shape in (
            ("cast", shadow_on(receiver, skin, asked.light)),
            ("contact", contact_on(receiver, skin)),
        ):
            drawn = shapely.intersection(on_sheet(chart, receiver, shape), paper)
            visible = shapely.difference(drawn, before)
            if visible.area > 0:
                found.append(Area(kind, GROUND, number, steps - 1, _joined([visible]), 0.0))
    return found
