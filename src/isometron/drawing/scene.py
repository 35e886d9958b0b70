"""The scene: every volume as it is drawn from the eye, with what is seen and what is hidden.

A scene remembers what it was made from. Asked for the next document it reworks only what changed;
a volume that is drawn exactly as before is the very same object.
"""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.aids import Aid
from isometron.framework.figures import Figure, figure_of, loose_lines
from isometron.framework.volume import Volume
from isometron.hiding.meeting import Meeting
from isometron.hiding.pieces import NO_PIECES, in_a_row
from isometron.hiding.sight import Sight, sight_of
from isometron.hiding.standing import lot_of, stand
from isometron.hiding.viewpoint import Viewpoint
from isometron.nearness import NEAR, SAME
from isometron.perspective.conics import at, between, chords, item_lens, lens
from isometron.perspective.curved import curves_along, place_directions
from isometron.perspective.eye import Array, Eye, eye_level, sight_axes
from isometron.perspective.projection import NEAR_MM, depths, project, sight_ray

GHOST_GAP_MM = 0.1
"""What is left behind is only looked at while it is changed: its curves are drawn in chords."""


LEVEL_REACH = 3000.0
"""So far to either side of the centre of vision, sheet mm, volumes may hide the eye level."""


@dataclass(frozen=True, eq=False)
class Scene:
    """All volumes of a document as drawn from its eye; `sight` knows what hides what."""

    eye: Eye
    pictures: tuple[VolumePicture, ...]
    sight: Sight
    aids: tuple[Aid, ...]
    aid_lines: Array
    """Lines (k, 4) sheet mm of the drawing aids, where no volume hides them."""
    aid_rows: NDArray[np.intp] = field(default_factory=lambda: np.empty(0, dtype=np.intp))
    """(k,) the number of the aid each of those lines is of."""
    aid_curves: Array = field(default_factory=lambda: np.empty((0, 3, 3)))
    aid_curve_rows: NDArray[np.intp] = field(default_factory=lambda: np.empty(0, dtype=np.intp))
    """On a curved sheet: arcs (c, 3, 3) that draw those lines, and the aid (c,) each is of."""
    level_lines: Array = field(default_factory=lambda: np.empty((0, 4)))
    """Lines (k, 4) sheet mm of the eye level, as far as `LEVEL_REACH` goes to both sides of the
    centre of vision, where no solid volume hides it."""

    @cached_property
    def bounds(self) -> Array:
        """(n, 4) sheet mm left, bottom, right, top of each volume."""
        return np.array([picture.bounds for picture in self.pictures]).reshape(-1, 4)

    def lines_of_aids(self, *, light: bool) -> Array:
        """The lines (k, 4) of the aids that are drawn lightly, or of the others."""
        if self.eye.curved:
            return np.empty((0, 4))
        lightly = np.array([aid.light for aid in self.aids], dtype=bool)
        return np.asarray(self.aid_lines[lightly[self.aid_rows] == light])

    def curves_of_aids(self, *, light: bool) -> Array:
        """As `lines_of_aids`, the arcs (k, 3, 3) of a curved sheet."""
        lightly = np.array([aid.light for aid in self.aids], dtype=bool)
        return np.asarray(self.aid_curves[lightly[self.aid_curve_rows] == light])

    @property
    def meetings(self) -> dict[tuple[int, int], Meeting]:
        """Where volumes touch or pierce each other, by pair of numbers."""
        return self.sight.meetings


@lru_cache(maxsize=2)
def bare(scene: Scene) -> Scene:
    """The scene without its volumes: eye and paper only."""
    level, x = eye_level(scene.eye), scene.eye.centre_of_vision_mm[0]
    line = [] if level is None else [[x - LEVEL_REACH, level, x + LEVEL_REACH, level]]
    lines, none = np.array(line).reshape(-1, 4), np.empty(0, dtype=np.intp)
    return replace(
        scene, pictures=(), aids=(), aid_lines=np.empty((0, 4)), aid_rows=none, level_lines=lines
    )


def viewpoint_of(eye: Eye) -> Viewpoint:
    """The eye as a viewpoint: its picture plane and what lies before it save work."""
    ahead = sight_axes(eye)[2].astype(float)
    if eye.parallel is not None:
        far = Viewpoint(-ahead, far=True)
        return replace(far, chart=item_lens(eye) @ np.linalg.pinv(far.sight))
    place = np.array(eye.place)
    if eye.curved:
        return Viewpoint(place)  # what lies beside and behind it is seen too
    near = -float(ahead @ place) - NEAR_MM * (1 + SAME)
    return Viewpoint(place, chart=lens(eye), ahead=np.append(ahead, near))


def scene_of(document: Document, before: Scene | None = None) -> Scene:
    """The scene of a document; what stands unchanged in `before` is taken over as it is."""
    eye, volumes = document.eye, document.volumes
    if before is not None and len(before.pictures) != len(volumes):
        before = None
    figures = [figure_of(volume) for volume in volumes]
    aids = document.aids
    same_aids = before is not None and before.aids == aids
    loose = _loose(aids, eye, _beyond(eye, figures))
    solid = np.append(_solid(document), False)
    groups = [*(volume.group for volume in volumes), ""]
    known = before.sight if before is not None else None
    if before is not None and known is not None and before.eye == eye:
        same = all(
            p.volume is v or p.volume == v for p, v in zip(before.pictures, volumes, strict=True)
        )
        if same and same_aids and np.array_equal(solid, known.solid):
            return before
        viewpoint = known.viewpoint
    else:
        viewpoint = viewpoint_of(eye)
    sight = sight_of(viewpoint, [*figures, loose], solid, groups, known)
    return _scene(
        document, sight, aids, before if before is not None and before.eye == eye else None
    )


def corners_drawn(eye: Eye, volume: Volume) -> VolumePicture:
    """A volume with its corners on the sheet and its bounds, and none of its lines: for what is
    asked of many eyes."""
    figure = figure_of(volume)
    (standing,) = stand(viewpoint_of(eye), [figure])
    seen = project(eye, figure.world)
    return VolumePicture(
        eye, volume, standing, seen.sheet, seen.depth, NO_PIECES, np.empty((0, 4)),
        np.empty((0, 3, 3)),
    )  # fmt: skip


def _solid(document: Document) -> NDArray[np.bool_]:
    """(n,) volumes behind which hidden lines are left out."""
    usual = document.choices.see_through
    return np.array(
        [not (usual if v.see_through is None else v.see_through) for v in document.volumes],
        dtype=bool,
    )


def _beyond(eye: Eye, figures: Sequence[Figure]) -> float:
    """A depth, mm, beyond all figures, in doubling steps: where the eye level is drawn in the world
    so that everything hides it."""
    reach = np.array([figure.reach for figure in figures]).reshape(-1, 6)
    far = np.abs(reach.reshape(-1, 2, 3) - np.array(eye.place)).max(initial=eye.station_distance_mm)
    return float(2.0 ** math.ceil(math.log2(4.0 * far)))


@lru_cache(maxsize=4)
def _loose(aids: tuple[Aid, ...], eye: Eye, beyond_mm: float) -> Figure:
    """The lines of the drawing aids and, last, the eye level."""
    starts: list[Array] = [np.empty((0, 3))]
    ends: list[Array] = [np.empty((0, 3))]
    for aid in aids:
        start, end = aid.lines()
        starts.append(start)
        ends.append(end)
    level = eye_level(eye)
    if level is not None and not eye.curved:
        middle = eye.centre_of_vision_mm[0]
        for x, some in ((middle - LEVEL_REACH, starts), (middle + LEVEL_REACH, ends)):
            some.append((np.array(eye.place) + beyond_mm * sight_ray(eye, (x, level)))[None])
    return loose_lines(np.concatenate(starts), np.concatenate(ends))


def _scene(document: Document, sight: Sight, aids: tuple[Aid, ...], before: Scene | None) -> Scene:
    eye, volumes = document.eye, document.volumes
    count = len(volumes)
    fresh = [i for i in range(count + 1) if not _same(before, sight, i)]
    known = {} if before is None else dict(enumerate(before.pictures))
    aid_lines = np.empty((0, 4)) if before is None else before.aid_lines
    aid_rows = np.empty(0, dtype=np.intp) if before is None else before.aid_rows
    aid_of = np.repeat(np.arange(len(aids)), [len(aid.lines()[0]) for aid in aids])
    level_lines = np.empty((0, 4)) if before is None else before.level_lines
    drawn_level = eye_level(eye) is not None and not eye.curved
    last = len(sight.standing[-1].figure.starts) - drawn_level
    curves = _curves(eye, sight, fresh) if eye.curved else {}
    aid_curves = np.empty((0, 3, 3)) if before is None else before.aid_curves
    aid_curve_rows = aid_rows[:0] if before is None else before.aid_curve_rows
    for i, (lines, arcs, sheet, depth) in zip(fresh, _drawn(eye, sight, fresh), strict=True):
        if i == count:
            pieces, of_aid = sight.pieces[i], sight.pieces[i].item < last
            aid_lines, level_lines = lines[pieces.seen & of_aid], lines[pieces.drawn & ~of_aid]
            aid_rows = aid_of[pieces.item[pieces.seen & of_aid]]
            if i in curves:
                drawn, piece, _spans = curves[i]
                aid_curves = drawn[pieces.seen[piece]]
                aid_curve_rows = aid_of[pieces.item[piece[pieces.seen[piece]]]]
            continue
        known[i] = VolumePicture(
            eye,
            volumes[i],
            sight.standing[i],
            sheet,
            depth,
            sight.pieces[i],
            lines,
            arcs,
            *curves.get(i, (None, None, None)),
        )
    for i, volume in enumerate(volumes):
        if known[i].volume is not volume and known[i].volume != volume:
            known[i] = replace(known[i], volume=volume)
    pictures = tuple(known[i] for i in range(count))
    return Scene(
        eye,
        pictures,
        sight,
        aids,
        aid_lines,
        aid_rows,
        aid_curves,
        aid_curve_rows,
        level_lines,
    )


def _curves(
    eye: Eye, sight: Sight, which: Sequence[int]
) -> dict[int, tuple[Array, NDArray[np.intp], Array]]:
    """By figure: the arcs that draw its pieces on a curved sheet, the piece each is of, and its
    part of the item."""
    pieces = [sight.pieces[i] for i in which]
    if not pieces:
        return {}
    arcs = np.concatenate(
        [sight.standing[i].items.arcs[one.item] for i, one in zip(which, pieces, strict=True)]
    )
    spans = np.concatenate([one.span for one in pieces])

    def along(row: NDArray[np.intp], t: Array) -> Array:
        return np.asarray(at(arcs[row], t)[:, :3])

    drawn, number, parts = curves_along(eye, along, spans)
    firsts = np.cumsum([0, *(len(one.item) for one in pieces)])
    ends = np.searchsorted(number, firsts)
    return {
        i: (drawn[a:b], number[a:b] - first, parts[a:b])
        for i, a, b, first in zip(
            which, ends[:-1].tolist(), ends[1:].tolist(), firsts.tolist(), strict=False
        )
    }


def _same(before: Scene | None, sight: Sight, number: int) -> bool:
    """Whether a figure is drawn exactly as before."""
    if before is None:
        return False
    then, now = before.sight.pieces[number], sight.pieces[number]
    if before.sight.standing[number] is not sight.standing[number]:
        return False
    return then is now or (
        np.array_equal(then.span, now.span)
        and np.array_equal(then.item, now.item)
        and np.array_equal(then.seen, now.seen)
        and np.array_equal(then.drawn, now.drawn)
    )


Drawn = tuple[Array, Array, Array, Array]
"""Lines (l, 4), arcs (a, 3, 3), sheet places (n, 2) and depths (n,) of the corners."""


def _drawn(eye: Eye, sight: Sight, which: Sequence[int]) -> list[Drawn]:
    """Pieces and corners of some figures on the sheet, all at once."""
    if not which:
        return []
    lot = sight.lot if len(which) == len(sight.standing) else None
    lot = lot or lot_of([sight.standing[i].items for i in which])
    pieces = [sight.pieces[i] for i in which]
    item = in_a_row([one.item for one in pieces], lot.first[:-1])
    span = np.concatenate([one.span for one in pieces])
    is_line = lot.line[item]
    line = (np.cumsum(lot.line) - 1)[item[is_line]]
    lines = _lines(eye, lot.items.starts[line], lot.items.ends[line], span[is_line])
    bent, part = item[~is_line], span[~is_line]
    arcs = (
        _through(eye, lot.items.arcs[bent], part)
        if eye.curved
        else between(lot.items.arcs[bent] @ item_lens(eye).T, part[:, 0], part[:, 1])
    )
    corners = [sight.standing[i].figure.world for i in which]
    seen = project(eye, np.concatenate(corners))
    ends = np.searchsorted(lot.owner[item[is_line]], np.arange(len(which) + 1)).tolist()
    arc_ends = np.searchsorted(lot.owner[bent], np.arange(len(which) + 1)).tolist()
    last = np.cumsum([0, *(len(one) for one in corners)]).tolist()
    return [
        (lines[a:b], arcs[c:d], seen.sheet[e:f], seen.depth[e:f])
        for (a, b), (c, d), (e, f) in zip(
            *(itertools.pairwise(x) for x in (ends, arc_ends, last)), strict=True
        )
    ]


def _through(eye: Eye, arcs: Array, spans: Array) -> Array:
    """Parabolas (n, 3, 3) of a curved sheet through begin, middle and end of parts of arcs taken
    from the eye."""
    t = np.column_stack([spans[:, 0], spans.mean(axis=1), spans[:, 1]])
    found = np.ones((len(arcs), 3, 3))
    for column in range(3):
        found[:, column, :2] = place_directions(eye, at(arcs, t[:, column])[:, :3]).sheet
    found[:, 1, :2] = 2 * found[:, 1, :2] - (found[:, 0, :2] + found[:, 2, :2]) / 2
    return found


def _lines(eye: Eye, start: Array, end: Array, spans: Array) -> Array:
    """Lines (k, 4) on the sheet of parts (k, 2) of lines from start to end (k, 3)."""
    ends = (start[:, None] + spans[:, :, None] * (end - start)[:, None]).reshape(-1, 3)
    short = NEAR_MM * (1 + NEAR) - depths(eye, ends)
    if (
        eye.parallel is None and (short > 0).any()
    ):  # cut exactly at the near plane: a hair in front of it can be drawn
        ends += np.maximum(short, 0.0)[:, None] * sight_axes(eye)[2].astype(float)
    return project(eye, ends).sheet.reshape(-1, 4)


def left_behind(before: Scene, after: Scene) -> Array:
    """Lines (k, 4) sheet mm of the volumes that have changed, as they were: what a sketcher leaves
    standing beside the new edge until it is right. Nothing when the eye itself has moved."""
    if before.eye != after.eye:
        return np.empty((0, 4))
    now = {picture.volume for picture in after.pictures}
    old = [p for p in before.pictures if p.volume not in now and p.volume.shown]
    same_form = {(p.volume.key, p.bounds.tobytes()) for p in after.pictures}
    gone = [p for p in old if (p.volume.key, p.bounds.tobytes()) not in same_form]
    lines = [p.seen_lines for p in gone]
    for picture in gone:
        for run in chords(picture.curves_drawn("seen"), GHOST_GAP_MM):
            lines.append(np.concatenate([run[:-1], run[1:]], axis=1))
    return np.concatenate(lines) if lines else np.empty((0, 4))
