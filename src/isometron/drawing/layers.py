"""The layers of a drawing, lightest first: what each draws, with which pencil, what it depends on
and how far it reaches. Paper, board, printer and every file read this table."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from enum import Flag, auto
from functools import lru_cache, partial
from typing import Any, NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.finish import Finish
from isometron.drawing.dimension_marks import Label, dimension_labels, dimension_lines
from isometron.drawing.ellipse_aids import ellipse_aids
from isometron.drawing.fans import curved_fan, fan, to_diagonal_point
from isometron.drawing.finish.composition import captions, composition_marks, frame_lines
from isometron.drawing.pencils import (
    GRAPHITE,
    MOSS,
    OXBLOOD,
    PALE_GRAPHITE,
    PLUM,
    RUST,
    TEAL,
    Pencil,
)
from isometron.drawing.scene import LEVEL_REACH, Scene, scene_of
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.bodies.body import DIVISION
from isometron.framework.bodies.body import SECTION as SECTION_LINE
from isometron.perspective.curved import curves_along, place_directions
from isometron.perspective.eye import Array, Eye, eye_level, sight_axes
from isometron.perspective.places import Rectangle
from isometron.words import _

CENTRE_CROSS_MM = 3.0
"""Half the length of the cross that marks the centre of vision."""

LEVEL_TURN = np.pi - 1e-3
"""The eye level of a curved sheet is drawn this far round to either side, radians."""
FARTHEST_POINT = np.radians(170.0)
"""Vanishing points farther off the sight axis lie behind us."""
POINT_MM = 2.4

NO_LINES, NO_ARCS = np.empty((0, 4)), np.empty((0, 3, 3))


class Depends(Flag):
    """What a layer is drawn from."""

    VOLUMES = auto()
    """Each volume's own picture."""
    EYE = auto()
    AIDS = auto()
    """The drawing aids as they are seen."""
    IN_WORK = auto()
    """Which volume or circle is in work, and what the person has chosen to see."""


STANDS = Depends.VOLUMES | Depends.EYE | Depends.AIDS
"""What depends on nothing else stands still while the person chooses and points."""


class Given(NamedTuple):
    """What a layer is drawn from: a document, its scene, those of the pictures that are wanted, and
    the part of the sheet, mm."""

    document: Document
    scene: Scene
    pictures: Sequence[VolumePicture]
    within: Rectangle


Drawn = tuple[Array, Array]
"""Lines (n, 4) sheet mm x0, y0, x1, y1 and homogeneous arcs (m, 3, 3)."""


def own_bounds(picture: VolumePicture) -> Array:
    """(4,) sheet mm: a layer that draws a volume only where the volume is."""
    return picture.bounds


@dataclass(frozen=True, eq=False, repr=False)
class Layer:
    """One layer. `name` is what it is called in files; `family` the pencil family it belongs to
    ("left", "right", "centre", "third", "level" or ""); `end_mark` strokes (k, 4) in a unit square
    drawn near the end of every line; `says` gives the words among its lines. On the board it may be
    paler (`board_alpha`), of another width (`board_px`), or not `on_board` at all where a handle
    stands for it."""

    name: str
    pencil: Pencil
    depends: Depends
    draws: Callable[[Given], Drawn]
    reaches: Callable[[VolumePicture], Array] = own_bounds
    family: str = ""
    end_mark: Array | None = None
    board_alpha: int = 255
    board_px: float | None = None
    on_board: bool = True
    of_paper: bool = False
    """Whether it belongs to the paper, not to a view of it."""
    says: Callable[[Given], list[Label]] | None = None

    @property
    def stands(self) -> bool:
        """Whether it stands still while the person chooses and points."""
        return not self.depends & ~STANDS


def _eye_level(given: Given) -> Array:
    """The eye level right across the part that is wanted, where no solid volume hides it."""
    seen, (left, _bottom, right, _top) = given.scene.level_lines, given.within
    if not len(seen) or given.scene.eye.curved:
        return seen
    level, middle = float(seen[0, 1]), given.scene.eye.centre_of_vision_mm[0]
    ends = [(left, middle - LEVEL_REACH), (middle + LEVEL_REACH, right)]
    beyond = [[a, level, b, level] for a, b in ends if a < b]
    return np.concatenate([seen, np.array(beyond).reshape(-1, 4)])


def _eye_level_curve(given: Given) -> Array:
    """The eye level of a curved sheet: all level directions but the one behind the eye."""
    eye = given.scene.eye
    if not eye.curved or eye_level(eye) is None:
        return NO_ARCS
    right = sight_axes(eye)[0].astype(float)
    away = np.array([-right[1], right[0], 0.0])

    def along(_row: Any, t: Array) -> Array:
        return np.asarray(np.cos(t)[:, None] * away + np.sin(t)[:, None] * right)

    spans = np.array([[-LEVEL_TURN, LEVEL_TURN]])
    return curves_along(eye, along, spans).arcs


def _aids(given: Given, *, light: bool) -> Drawn:
    """The lines of the room that are drawn lightly, or the others."""
    if given.scene.eye.curved:
        return NO_LINES, given.scene.curves_of_aids(light=light)
    return given.scene.lines_of_aids(light=light), NO_ARCS


def _points(given: Given) -> list[tuple[str, tuple[float, float]]]:
    """The vanishing points of a curved sheet: of all six ways of the set-up but one behind us."""
    eye = given.scene.eye
    if not eye.curved:
        return []
    yaw = np.radians(given.document.lead_yaw_deg)
    width, depth = np.array([np.cos(yaw), np.sin(yaw), 0]), np.array([-np.sin(yaw), np.cos(yaw), 0])
    up = np.array([0.0, 0.0, 1.0])
    ways = np.array([width, -width, depth, -depth, up, -up])
    placed = place_directions(eye, ways)
    found = []
    for (x, y), angle in zip(placed.sheet.tolist(), placed.off_axis.tolist(), strict=True):
        if np.isfinite(x) and angle < FARTHEST_POINT:
            found.append((_("{deg}° off").format(deg=round(np.degrees(angle))), (x, y)))
    return found


def _point_marks(given: Given) -> Array:
    marks = [_ring(12, 0.0) * POINT_MM + np.tile(place, 2) for _words, place in _points(given)]
    return np.concatenate([NO_LINES, *marks])


def centre_cross(eye: Eye) -> Array:
    """The two strokes (2, 4) that mark the centre of vision."""
    x, y = eye.centre_of_vision_mm
    c = CENTRE_CROSS_MM
    return np.array([[x - c, y, x + c, y], [x, y - c, x, y + c]])


def _ring(corners: int, first_deg: float) -> Array:
    angle = np.radians(first_deg + 360.0 * np.arange(corners + 1) / corners)
    points = 0.5 * np.stack([np.cos(angle), np.sin(angle)], axis=1)
    return np.concatenate([points[:-1], points[1:]], axis=1)


def _fan(given: Given, family: str) -> Drawn:
    document = given.document
    if not document.choices.fans or document.lead is None or not given.scene.pictures:
        return NO_LINES, NO_ARCS
    picture = given.scene.pictures[document.selected or 0]
    see_through = document.choices.see_through
    if document.eye.curved:
        curves = curved_fan(document.eye, picture, family, see_through=see_through)
        return NO_LINES, curves
    reach = reach_of(given)
    return fan(document.eye, picture, family, reach, see_through=see_through), NO_ARCS


def _diagonal(given: Given) -> tuple[Array, Array]:
    """The line to the 45° point of the volume in work, and the point, when they are wanted."""
    document = given.document
    if (
        document.eye.curved
        or not document.choices.diagonal_point
        or document.lead is None
        or not given.scene.pictures
    ):
        return NO_LINES, np.empty((0, 2))
    picture = given.scene.pictures[document.selected or 0]
    return to_diagonal_point(document.eye, picture, reach_of(given))


def reach_of(given: Given) -> float:
    """How far a line must run to leave the part that is wanted, and any view of the sheet, mm."""
    left, bottom, right, top = given.within
    return max(given.document.sheet.reach_mm, 2.0 * (right - left + top - bottom))


def _volumes(given: Given, what: Callable[[VolumePicture], Array], curves: str) -> Drawn:
    """Lines and curves of every wanted volume."""
    lines = [NO_LINES, *(what(picture) for picture in given.pictures)]
    arcs: list[Array] = [NO_ARCS]
    if curves:
        arcs += [
            p.curves_drawn(curves) for p in given.pictures if len(p.arcs) or p.curves is not None
        ]
    return np.concatenate(lines), np.concatenate(arcs)


def _marks(picture: VolumePicture, kind: int) -> Array:
    return picture.mark_lines(kind) if picture.volume.marks or picture.volume.skins else NO_LINES


def _ghosts(picture: VolumePicture) -> Array:
    return picture.ghost_lines if picture.volume.ghost else NO_LINES


def _fan_layer(
    family: str, to: str, colour: str, mark: Array, dash: tuple[float, ...] = ()
) -> Layer:
    return Layer(
        f"fan to the {to} point",
        Pencil(colour, 0.12, dash_mm=dash),
        Depends.IN_WORK | Depends.VOLUMES | Depends.EYE,
        partial(_fan, family=family),
        family=family,
        end_mark=mark,
        board_alpha=120,
        board_px=1.0,
    )


FAN_LEFT = _fan_layer("left", "left", RUST, _ring(4, 45.0))
FAN_RIGHT = _fan_layer("right", "right", TEAL, _ring(12, 0.0), (4.0, 1.2))
FAN_CENTRE = _fan_layer(
    "centre",
    "centre",
    TEAL,
    np.array([[-0.5, -0.5, 0.5, 0.5], [-0.5, 0.5, 0.5, -0.5]]),
    (4.0, 1.0, 0.6, 1.0),
)
FAN_THIRD = _fan_layer("third", "third", PLUM, _ring(3, 90.0), (0.6, 1.2))
"""End marks are square, ring, cross and triangle, and lines are whole, in long dashes or in dots:
families told apart without colour."""

EYE_LEVEL = Layer(
    "eye level",
    Pencil(OXBLOOD, 0.18),
    Depends.EYE | Depends.VOLUMES,
    lambda given: (_eye_level(given), _eye_level_curve(given)),
    family="level",
    board_px=1.4,
)
CENTRE = Layer(
    "centre of vision",
    Pencil(OXBLOOD, 0.25),
    Depends.EYE,
    lambda given: (centre_cross(given.scene.eye), NO_ARCS),
    on_board=False,
)
ELLIPSE_AID = Layer(
    "ellipse aids",
    Pencil("#8b7f66", 0.12),
    Depends.IN_WORK,
    lambda given: (ellipse_aids(given.document, given.scene), NO_ARCS),
    board_alpha=205,
    board_px=1.0,
)
AID = Layer(
    "floor, shelf and wall",
    Pencil(GRAPHITE, 0.25),
    Depends.AIDS,
    lambda given: _aids(given, light=False),
)
GRID = Layer(
    "ground grid",
    Pencil("#8b7f66", 0.12),
    Depends.AIDS,
    lambda given: _aids(given, light=True),
    board_px=0.9,
)
GHOST = Layer(
    "ghost lines",
    Pencil(OXBLOOD, 0.15),
    Depends.VOLUMES,
    lambda given: _volumes(given, _ghosts, "ghost"),
)
HIDDEN = Layer(
    "hidden edges",
    Pencil(PALE_GRAPHITE, 0.22, dash_mm=(1.6, 1.2), dxf_linetype="DASHED"),
    Depends.VOLUMES,
    lambda given: _volumes(given, lambda p: p.hidden_lines, "hidden"),
)
DIVISIONS = Layer(
    "division marks",
    Pencil(GRAPHITE, 0.2),
    Depends.VOLUMES,
    lambda given: _volumes(given, lambda p: _marks(p, DIVISION), "division"),
)
SECTIONS = Layer(
    "centre and section lines",
    Pencil(GRAPHITE, 0.18, dash_mm=(5.0, 1.2, 1.0, 1.2)),
    Depends.VOLUMES,
    lambda given: _volumes(given, lambda p: _marks(p, SECTION_LINE), "section"),
)
OBJECT = Layer(
    "object lines",
    Pencil(GRAPHITE, 0.45),
    Depends.VOLUMES,
    lambda given: _volumes(given, lambda p: p.seen_lines, "seen"),
)

DIMENSIONS = Layer(
    "dimensions",
    Pencil(GRAPHITE, 0.18),
    Depends.IN_WORK,
    lambda given: (dimension_lines(given.document), NO_ARCS),
    says=lambda given: dimension_labels(given.document),
)

DIAGONAL = Layer(
    "line to the 45° point",
    Pencil(OXBLOOD, 0.12, dash_mm=(2.4, 0.9, 0.5, 0.9, 0.5, 0.9)),
    Depends.IN_WORK | Depends.VOLUMES | Depends.EYE,
    lambda given: (_diagonal(given)[0], NO_ARCS),
    family="level",
    end_mark=_ring(4, 0.0),
    board_px=1.0,
    says=lambda given: [
        Label(_("45° point"), (x, y + 2.0)) for x, y in _diagonal(given)[1].tolist()
    ],
)


def _hatching(given: Given) -> Array:
    if given.document.light is None:
        return NO_LINES
    from isometron.drawing.shading.shown import hatching_of

    return hatching_of(given.document, given.scene)


def _steps(given: Given) -> list[Label]:
    if given.document.light is None:
        return []
    from isometron.drawing.shading.shown import numbers_of

    return numbers_of(given.document, given.scene)


HATCHING = Layer(
    "hatching",
    Pencil(GRAPHITE, 0.13),
    STANDS,
    lambda given: (_hatching(given), NO_ARCS),
    on_board=False,
)
STEPS = Layer(
    "steps of grey",
    Pencil(GRAPHITE, 0.18),
    STANDS,
    lambda given: (NO_LINES, NO_ARCS),
    on_board=False,
    says=_steps,
)
"""On the board both come with the washes, once these have been worked out beside it."""


def _mirror(given: Given) -> Drawn:
    if not given.document.finish.mirror:
        return NO_LINES, NO_ARCS
    from isometron.drawing.finish.mirror import mirror_lines

    return mirror_lines(given.document, given.scene)


CURVED_POINTS = Layer(
    "vanishing points",
    Pencil(OXBLOOD, 0.18),
    Depends.EYE | Depends.IN_WORK,
    lambda given: (_point_marks(given), NO_ARCS),
    board_px=1.4,
    says=lambda given: [Label(words, (x, y - 5.0)) for words, (x, y) in _points(given)],
)
"""On a flat sheet their places are told by handles and flags."""
MIRROR_IMAGE = Layer("mirror image", Pencil(PALE_GRAPHITE, 0.25), STANDS, _mirror, on_board=False)
COMPOSITION = Layer(
    "composition marks",
    Pencil(MOSS, 0.15, dash_mm=(3.0, 1.5)),
    Depends.IN_WORK,
    lambda given: (composition_marks(given.document), NO_ARCS),
    board_px=1.0,
    of_paper=True,
)
FRAMES = Layer(
    "frames and captions",
    Pencil(GRAPHITE, 0.15),
    Depends.IN_WORK,
    lambda given: (frame_lines(given.document), NO_ARCS),
    board_px=1.0,
    of_paper=True,
    says=lambda given: captions(given.document),
)


def _before(given: Given) -> Drawn:
    before = given.document.views[given.document.view].before
    if before is None or before == given.document.eye:
        return NO_LINES, NO_ARCS
    scene = scene_of(given.document.with_eye(before))
    return _volumes(
        given._replace(scene=scene, pictures=scene.pictures), lambda p: p.seen_lines, "seen"
    )


def _beneath(given: Given) -> Drawn:
    """The lines that the other variants show, each kept with its variant for the eyes in use."""
    document = given.document
    if not document.beneath or not document.variants:
        return NO_LINES, NO_ARCS
    lines, arcs = [NO_LINES], [NO_ARCS]
    for number, one in enumerate(document.variants):
        if number == document.variant or not one.volumes:
            continue
        if document.eye not in one.kept:
            if len(one.kept) >= MOST_EYES:
                one.kept.clear()
            alone = replace(document, volumes=one.volumes, modules=one.modules, **APART)
            scene = scene_of(alone)
            shown = given._replace(scene=scene, pictures=scene.pictures)
            one.kept[document.eye] = _volumes(shown, lambda p: p.seen_lines, "seen")
        drawn = one.kept[document.eye]
        lines.append(drawn[0])
        arcs.append(drawn[1])
    return np.concatenate(lines), np.concatenate(arcs)


MOST_EYES = 4
"""For so many eyes the lines of a variant are kept."""

APART: dict[str, Any] = {
    **dict.fromkeys(("variants", "dimensions", "intentions", "begun"), ()),
    **{"selected": None, "also": frozenset(), "variant": 0},
}
"""What a sheet has not when one of its variants is drawn alone."""

BENEATH = Layer(
    "other variants",
    Pencil(PLUM, 0.15),
    Depends.IN_WORK | Depends.EYE,
    _beneath,
    board_alpha=120,
    board_px=1.0,
)
"""The other variants, pale under the one in hand."""

BEFORE = Layer("before", Pencil(OXBLOOD, 0.15), STANDS | Depends.IN_WORK, _before, on_board=False)
"""What the old eye saw, pale under what the new one sees."""


def layer_in(layer: Layer, finish: Finish) -> Layer:
    """A layer with the line weight it has on a finished sheet."""
    if not finish.weighted or layer not in (OBJECT, HATCHING):
        return layer
    return _at_weight(layer, finish.edge_mm if layer is OBJECT else finish.fine_mm)


@lru_cache(maxsize=16)
def _at_weight(layer: Layer, mm: float) -> Layer:
    return replace(layer, pencil=layer.pencil._replace(width_mm=mm))


LAYERS = [
    HATCHING,
    BEFORE,
    BENEATH,
    MIRROR_IMAGE,
    FAN_RIGHT,
    FAN_LEFT,
    FAN_CENTRE,
    FAN_THIRD,
    DIAGONAL,
    ELLIPSE_AID,
    EYE_LEVEL,
    CURVED_POINTS,
    CENTRE,
    GRID,
    AID,
    GHOST,
    HIDDEN,
    DIVISIONS,
    SECTIONS,
    OBJECT,
    STEPS,
    DIMENSIONS,
    COMPOSITION,
    FRAMES,
]
"""Construction thin and pale, object lines dark, hidden edges in short dashes, centre lines in long
and short ones."""

FANS = {layer.family: layer for layer in (FAN_LEFT, FAN_RIGHT, FAN_CENTRE, FAN_THIRD)}
