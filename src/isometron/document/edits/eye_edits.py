"""Edits of the eye, told on the paper or in the world.

One rule decides what stays: the near corner keeps its place on the paper unless it is dragged
itself. Each edit's docstring says what else stays. All raise IsometronError with a sentence and
leave the given document as it is.
"""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.near_edge import (
    drawn_place,
    hand_setup,
    held_on_paper,
    near_edge,
    near_edge_world,
    scale_at_near_corner,
    seen_from,
    station,
)
from isometron.perspective.errors import SetupError
from isometron.perspective.eye import eye_level
from isometron.perspective.hand_setup import (
    HandSetup,
    NearEdge,
    OnePoint,
    SquareTwoPoint,
    ThreePoint,
    TwoPoint,
)
from isometron.perspective.places import Place
from isometron.perspective.projection import project
from isometron.words import _

PAGE_MARGIN = 0.08
"""A drawing fitted on the page keeps this share of it free on every side."""


def move_eye_level(document: Document, y_mm: float) -> Document:
    """The eye level at another height of the sheet. Vanishing points ride along; the near edge
    stays as drawn, so the eye goes up or down."""
    level = eye_level(document.eye)
    if level is None:
        raise SetupError(
            _("Looking straight down or up there is no eye level: tilt less than 90°.")
        )
    at = station(document)
    cx, cy = at.centre_of_vision_mm
    return seen_from(document, replace(at, centre_of_vision_mm=(cx, cy + y_mm - level)))


def move_left_point(document: Document, x_mm: float) -> Document:
    """The left vanishing point at another place of the eye level. The near edge, the other points
    and the centre of vision stay; the station distance and the turn follow."""
    setup = hand_setup(document)
    if isinstance(setup, TwoPoint | ThreePoint):
        return _set_up(document, replace(setup, left_mm=x_mm))
    raise _no_side_points("left")


def move_right_point(document: Document, x_mm: float) -> Document:
    """The right vanishing point at another place of the eye level; what stays: as for the left."""
    setup = hand_setup(document)
    if isinstance(setup, TwoPoint | ThreePoint):
        return _set_up(document, replace(setup, right_mm=x_mm))
    raise _no_side_points("right")


def move_third_point(document: Document, y_mm: float) -> Document:
    """The third point higher or lower. The near edge and the points on the eye level stay; tilt,
    station distance and the height of the centre of vision follow."""
    setup = hand_setup(document)
    if isinstance(setup, ThreePoint):
        return _set_up(document, replace(setup, third_mm=(setup.third_mm[0], y_mm)))
    if isinstance(setup, SquareTwoPoint):
        return _set_up(document, replace(setup, third_mm=y_mm))
    raise SetupError(_("Uprights stay upright while the eye looks level: tilt it first."))


def move_centre_of_vision(document: Document, place_mm: Place) -> Document:
    """The centre of vision elsewhere. The near edge and the points on the eye level stay (the third
    point follows). With a level eye it moves along the eye level only; with a face square to us it
    takes its vanishing point along."""
    setup = hand_setup(document)
    x, y = place_mm
    if isinstance(setup, TwoPoint):
        return _set_up(document, replace(setup, centre_mm=x))
    if isinstance(setup, OnePoint):
        level = setup.centre_of_vision_mm[1]
        return _set_up(document, replace(setup, centre_of_vision_mm=(x, level)))
    if isinstance(setup, SquareTwoPoint):
        return _set_up(document, replace(setup, centre_of_vision_mm=(x, y)))
    drop = setup.eye_level_mm - y
    if drop * (setup.eye_level_mm - setup.third_mm[1]) <= 0:
        raise SetupError(
            _(
                "The centre of vision must stay on the third point's side of the eye "
                "level: tilt the eye to cross it."
            )
        )
    product = (x - setup.left_mm) * (setup.right_mm - x)
    third = (x, setup.eye_level_mm - product / drop)
    return _set_up(document, replace(setup, third_mm=third))


def raise_centre_of_vision(document: Document, y_mm: float) -> Document:
    """The centre of vision higher or lower; with a level eye it takes the eye level along."""
    if document.eye.tilt_deg == 0:
        return move_eye_level(document, y_mm)
    return move_centre_of_vision(document, (document.eye.centre_of_vision_mm[0], y_mm))


def place_near_corner(document: Document, place_mm: Place) -> Document:
    """The near corner elsewhere on the paper. Vanishing points and the drawn length of the near
    edge stay; the eye moves."""
    edge = _drawn_near_edge(document)
    return seen_from(document, station(document), replace(edge, corner_mm=place_mm))


def draw_near_edge(document: Document, drawn_mm: float) -> Document:
    """The near edge drawn longer or shorter from its foot. Vanishing points and all true measures
    stay; the eye comes closer or goes further away."""
    edge = _drawn_near_edge(document)
    return seen_from(document, station(document), replace(edge, drawn_mm=drawn_mm))


def pull_near_edge_top(document: Document, place_mm: Place) -> Document:
    """The top end of the near edge pulled to a place of the sheet (along its own upright)."""
    edge = _drawn_near_edge(document)
    foot, top = _near_edge_ends(document)
    return draw_near_edge(document, max(_along(foot, top, place_mm), edge.drawn_mm * 1e-3))


def pull_near_edge_foot(document: Document, place_mm: Place) -> Document:
    """The foot of the near edge pulled along its upright; the top end stays where it is drawn."""
    foot, top = _near_edge_ends(document)
    drawn = max(_along(top, foot, place_mm), 1e-3 * math.dist(foot, top))
    share = drawn / math.dist(foot, top)
    corner = (top[0] + share * (foot[0] - top[0]), top[1] + share * (foot[1] - top[1]))
    return seen_from(document, station(document), NearEdge(corner, drawn))


def step_back(document: Document, station_distance_mm: float) -> Document:
    """Another station distance: only the strength of convergence changes. The near edge, the centre
    of vision and the directions stay; the eye walks along its sight line, and vanishing points
    spread from the centre of vision or draw in towards it."""
    return seen_from(document, replace(station(document), station_distance_mm=station_distance_mm))


def size_on_page(document: Document, factor: float) -> Document:
    """The whole drawing `factor` times as large on the paper, about the near corner (about the
    centre of vision on an empty sheet). The perspective and every true measure stay."""
    eye = document.eye
    grown = replace(eye, station_distance_mm=eye.station_distance_mm * factor)
    return held_on_paper(document, grown)


def draw_to_scale(document: Document, scale: float) -> Document:
    """The drawing at another scale (drawn mm per true mm at the near corner); the view stays."""
    now = scale_at_near_corner(document)
    if now is None:
        raise SetupError(_("There is no near edge in front of the eye: lay one down first."))
    return size_on_page(document, scale / now)


def fit_on_page(document: Document) -> Document:
    """The whole drawing made smaller or larger and slid so that every shown volume lies on the
    paper, with a margin. The perspective and every true measure stay."""
    shown = [volume.enclosing() for volume in document.volumes if volume.shown]
    if not shown:
        raise SetupError(_("There is no volume on the sheet: lay down a near edge first."))
    seen = project(document.eye, np.concatenate(shown))
    if not seen.seen.all():
        raise SetupError(_("Part of it lies behind the eye: step back first."))
    low, high = seen.sheet.min(axis=0), seen.sheet.max(axis=0)
    page = np.array([document.sheet.width_mm, document.sheet.height_mm])
    grow = float(((1 - 2 * PAGE_MARGIN) * page / np.maximum(high - low, 1e-9)).min())
    centre = np.array(document.eye.centre_of_vision_mm)
    put = page / 2 + grow * (centre - (low + high) / 2)
    eye = replace(
        document.eye,
        station_distance_mm=document.eye.station_distance_mm * grow,
        centre_of_vision_mm=(float(put[0]), float(put[1])),
    )
    return document.with_eye(eye)


def move_eye(document: Document, place_mm: Place) -> Document:
    """The eye elsewhere on the ground plan, world mm. Its height, tilt and station distance stay,
    and it goes on looking the same way past the near corner; the near corner keeps its place."""
    eye = document.eye
    moved = replace(eye, x_mm=place_mm[0], y_mm=place_mm[1])
    if document.lead is not None:
        foot = near_edge_world(eye, document.lead)[0]
        swing = _bearing(place_mm, foot) - _bearing((eye.x_mm, eye.y_mm), foot)
        moved = replace(moved, heading_deg=eye.heading_deg + swing)
    return held_on_paper(document, moved)


def set_eye_height(document: Document, height_mm: float) -> Document:
    """The eye higher or lower above the ground. Its place on the plan, heading, tilt and station
    distance stay; the near corner keeps its place, so the eye level moves on the paper."""
    return held_on_paper(document, replace(document.eye, height_mm=height_mm))


def set_heading(document: Document, heading_deg: float) -> Document:
    """The eye turned to look another way from where it stands. The near corner keeps its place on
    the paper; the vanishing points move."""
    return held_on_paper(document, replace(document.eye, heading_deg=heading_deg))


def look_towards(document: Document, place_mm: Place) -> Document:
    """The eye turned to look over a place of the ground plan, world mm; see `set_heading`."""
    eye = document.eye
    if math.dist(place_mm, (eye.x_mm, eye.y_mm)) == 0:
        raise SetupError(_("The eye cannot look at itself: pull the sight line away from it."))
    heading = math.degrees(math.atan2(place_mm[0] - eye.x_mm, place_mm[1] - eye.y_mm))
    return set_heading(document, heading)


def tilt_towards(document: Document, ahead_and_up_mm: Place) -> Document:
    """The eye tilted to look at a point so far ahead (mm along the heading) and so high above the
    ground; see `set_tilt`."""
    ahead, up = ahead_and_up_mm
    tilt = math.degrees(math.atan2(up - document.eye.height_mm, max(ahead, 0.0)))
    return set_tilt(document, tilt)


def set_tilt(document: Document, tilt_deg: float) -> Document:
    """The eye tilted up or down where it stands. The near corner keeps its place on the paper; the
    eye level and the third point move."""
    return held_on_paper(document, replace(document.eye, tilt_deg=tilt_deg))


def points_of_setup(document: Document) -> dict[str, Place]:
    """The vanishing points of the set-up by family ("left", "right", "centre", "third"), sheet mm;
    empty when the sight line is vertical."""
    if eye_level(document.eye) is None:
        return {}
    setup = hand_setup(document)
    if isinstance(setup, OnePoint):
        return {"centre": setup.centre_of_vision_mm}
    level = setup.eye_level_mm
    if isinstance(setup, SquareTwoPoint):
        cx = setup.centre_of_vision_mm[0]
        return {"centre": (cx, level), "third": (cx, setup.third_mm)}
    points = {"left": (setup.left_mm, level), "right": (setup.right_mm, level)}
    return points if isinstance(setup, TwoPoint) else {**points, "third": setup.third_mm}


def _set_up(document: Document, setup: HandSetup) -> Document:
    return seen_from(document, setup.station())


def _drawn_near_edge(document: Document) -> NearEdge:
    edge = near_edge(document)
    if edge is None:
        raise SetupError(_("There is no near edge in front of the eye: lay one down first."))
    return edge


def _near_edge_ends(document: Document) -> tuple[Place, Place]:
    if document.lead is None:
        raise SetupError(_("There is no near edge yet: lay one down first."))
    foot, top = near_edge_world(document.eye, document.lead)
    return drawn_place(document.eye, foot), drawn_place(document.eye, top)


def _along(start: Place, end: Place, place: Place) -> float:
    """Signed length of start → place measured along start → end."""
    run = np.subtract(end, start)
    return float(np.subtract(place, start) @ run / np.hypot(*run))


def _bearing(place: Place, world: np.ndarray) -> float:
    return math.degrees(math.atan2(world[0] - place[0], world[1] - place[1]))


def _no_side_points(side: str) -> SetupError:
    return SetupError(
        _(
            "A face is square to us, so there is no {side} vanishing point: turn the eye first."
        ).format(side=side)
    )
