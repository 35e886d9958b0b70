"""An edge of a volume."""

from dataclasses import dataclass

import numpy as np

from isometron.document.document import Document
from isometron.document.near_edge import box_near_corner
from isometron.drawing.measures import directions_of, edge_measures
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe, in_shares, place_row
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.box import AXES, EDGES
from isometron.nearness import NEAR, SAME
from isometron.perspective.cone import off_axis, stretch
from isometron.perspective.eye import Array, Eye, eye_level
from isometron.perspective.lengths import write_number
from isometron.perspective.vanishing import vanishing_point
from isometron.words import _

RUNS_TO = {
    "left": _("VP left"),
    "right": _("VP right"),
    "centre": _("VP"),
    "third": _("third point"),
    "": _("parallel"),
}


@dataclass(frozen=True)
class EdgePick(Pick):
    """An edge, by its number in the body."""

    def count(self, picture: VolumePicture) -> int | None:
        return len(picture.edges)

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        return _reading(document.eye, scene.pictures[self.volume], self.index)

    def swipe(self, scene: Scene) -> Swipe:
        picture = scene.pictures[self.volume]
        ends = picture.sheet[picture.edges[self.index]]
        return Swipe(lines=ends.reshape(1, 4)) if np.isfinite(ends).all() else Swipe()

    def place(self, picture: VolumePicture, number: int) -> Array | None:
        ends = in_shares(picture, picture.body.vertices[picture.edges[number]])
        order = np.lexsort(np.round(ends, 6).T)
        return np.asarray(ends[order].reshape(-1))

    def tag(self, scene: Scene) -> tuple[Array, float] | None:
        picture = scene.pictures[self.volume]
        ends = picture.sheet[picture.edges[self.index]]
        if not np.isfinite(ends).all():
            return None
        return ends.mean(axis=0), float(picture.body.true_mm[self.index])


def _reading(eye: Eye, picture: VolumePicture, edge: int) -> Reading:
    measures = edge_measures(eye, picture)
    axis = int(picture.body.edge_axes[edge])
    first, second = (int(i) for i in picture.edges[edge])
    if picture.world[first, 2] > picture.world[second, 2]:
        first, second = second, first
    near, far = sorted((first, second), key=lambda i: picture.depth[i])
    rows = [Row(_("true length"), float(measures.true_mm[edge]), Quantity.MM)]
    if np.isfinite(measures.drawn_mm[edge]):
        rows += [
            Row(_("on the paper"), float(measures.drawn_mm[edge]), Quantity.MM),
            Row(
                _("foreshortened to"), 100 * float(measures.foreshortening[edge]), Quantity.PERCENT
            ),
            Row(_("lies at"), to_level(float(measures.paper_angle_deg[edge])), Quantity.DEG),
            Row(_("runs to"), _runs_to(eye, picture, edge), Quantity.TEXT),
            *place_row(
                _("near end") if axis != 2 else _("foot"), picture, near if axis != 2 else first
            ),
            *place_row(
                _("far end") if axis != 2 else _("top"), picture, far if axis != 2 else second
            ),
            *off_centre(eye, picture, [first, second]),
            Row(_("seen"), _seen(picture, edge), Quantity.TEXT),
        ]
    else:
        rows.append(Row(_("on the paper"), _("reaches behind the eye"), Quantity.TEXT))
    return Reading(f"{edge_name(eye, picture, edge)} of {picture.volume.name}", tuple(rows))


def _runs_to(eye: Eye, picture: VolumePicture, edge: int) -> str:
    axis = int(picture.body.edge_axes[edge])
    if axis >= 0:
        return RUNS_TO[directions_of(eye, picture)[axis].family]
    ends = picture.world[picture.edges[edge]]
    place = vanishing_point(eye, ends[1] - ends[0]).sheet_mm
    level = eye_level(eye)
    if place is None or level is None:
        return "parallel" if place is None else _("a point of its own")
    if abs(place[1] - level) < NEAR:
        return _("a point on eye level")
    return _("{which} eye level").format(which=_("above") if place[1] > level else _("below"))


def edge_name(eye: Eye, picture: VolumePicture, edge: int) -> str:
    """What a sketcher calls an edge: near edge, left far edge, top near edge to VP right."""
    if not picture.body.boxed or picture.volume.tipped:
        axis = int(picture.body.edge_axes[edge])
        return (
            _("Sloping edge")
            if axis < 0
            else _("Edge along the {value}").format(value=_(AXES[axis]))
        )
    corner = box_near_corner(eye, picture.volume)
    first = int(EDGES[edge, 0])
    if edge >= 8:
        if first == corner:
            return _("Near edge")
        if first == corner ^ 3:
            return _("Furthest edge")
        beside = picture.sheet[first, 0] - picture.sheet[corner, 0]
        return _("Right far edge") if beside > 0 else _("Left far edge")
    level = _("Top") if first & 4 else _("Base")
    near = corner in (first & 3, int(EDGES[edge, 1]) & 3)
    family = directions_of(eye, picture)[edge // 4].family
    run = f" to {RUNS_TO[family]}" if family else ""
    return f"{level} {'near' if near else 'far'} edge{run}"


def to_level(paper_angle_deg: float) -> float:
    """Acute angle of a drawn line to the level, degrees 0…90."""
    return abs((paper_angle_deg + 90.0) % 180.0 - 90.0)


def off_centre(eye: Eye, picture: VolumePicture, corners: list[int]) -> list[Row]:
    """How far the furthest of some corners lies off the centre of vision, when all are drawn."""
    angles = off_axis(eye, picture.sheet[corners])
    if not np.isfinite(angles).all():
        return []
    worst = float(angles.max())
    return [
        Row(_("off the centre"), worst, Quantity.DEG),
        Row(
            _("stretched by"),
            100 * float(stretch(np.array(worst), curved=eye.curved)) - 100,
            Quantity.PERCENT,
        ),
    ]


def _seen(picture: VolumePicture, edge: int) -> str:
    share = sum(end - start for start, end in picture.visible[edge])
    if share >= 1 - SAME:
        return _("whole")
    return (
        _("hidden")
        if share <= SAME
        else _("{share} % of it").format(share=write_number(100 * share, 0))
    )


def _stretched(eye: Eye, off_axis_deg: float) -> float:
    """How much a small shape is stretched along the radius, percent."""
    return 100 * float(stretch(np.array(off_axis_deg), curved=eye.curved)) - 100
