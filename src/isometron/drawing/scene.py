"""The scene: every volume as it is drawn from the eye, with what is seen and what is hidden.

A scene remembers what it was made from. Asked for the next document it reworks only what changed;
a volume that is drawn exactly as before is the very same object.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.framework.aids import Aid
from isometron.framework.bodies.body import DIVISION, OUTLINE, SECTION, Body, Indices
from isometron.framework.figures import Figure, figure_of, loose_lines
from isometron.framework.volume import Volume
from isometron.hiding.meeting import Meeting
from isometron.hiding.pieces import Pieces, in_a_row
from isometron.hiding.sight import Sight, sight_of
from isometron.hiding.standing import Standing, lot_of
from isometron.hiding.viewpoint import Viewpoint
from isometron.perspective.conics import between, chords, lens
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.projection import NEAR_MM, depths, project

GHOST_GAP_MM = 0.1
"""What is left behind is only looked at while it is changed: its curves are drawn in chords."""

EXTENT_GAP_MM = 0.01
"""How far a curve may reach beyond the extent told of it."""

Span = tuple[float, float]


@dataclass(frozen=True, eq=False)
class VolumePicture:
    """One volume as it is drawn.

    sheet (n, 2) mm of its corners, NaN in rows behind the eye; depth (n,) mm; standing: its figure
    before the eye; pieces: what is drawn of it, cut into seen and hidden; lines (l, 4) and arcs
    (a, 3, 3) on the sheet of its pieces, straight ones first. `box_…` are those of the eight
    corners of the box it fills."""

    eye: Eye
    volume: Volume
    standing: Standing
    sheet: Array
    depth: Array
    pieces: Pieces
    lines: Array
    arcs: Array

    @property
    def figure(self) -> Figure:
        """The volume in the world."""
        return self.standing.figure

    @property
    def body(self) -> Body:
        """Its body in its own axes."""
        return self.standing.figure.body

    @property
    def axes(self) -> Array:
        """Its axes as rows (3, 3)."""
        return self.standing.figure.axes

    @property
    def world(self) -> Array:
        """Its corners (n, 3) world mm."""
        return self.standing.figure.world

    @property
    def edges(self) -> Indices:
        """Its edges (m, 2) as corner numbers."""
        return self.body.edges

    @property
    def shown(self) -> NDArray[np.bool_]:
        """(k,) faces turned to us."""
        return self.standing.turned

    @property
    def bounds(self) -> Array:
        """(4,) sheet mm left, bottom, right, top; unbounded when it reaches behind us."""
        return self.standing.bounds

    @cached_property
    def extent(self) -> Array:
        """(4,) sheet mm left, bottom, right, top of all that is drawn of it; right of left where
        nothing is."""
        runs = chords(self.arcs[self.arc_drawn], EXTENT_GAP_MM)
        lines = self.lines[self.pieces.drawn[: len(self.lines)]].reshape(-1, 2)
        places = np.concatenate([lines, *runs])
        if not len(places):
            return np.array([np.inf, np.inf, -np.inf, -np.inf])
        return np.concatenate([places.min(axis=0), places.max(axis=0)])

    @cached_property
    def box_world(self) -> Array:
        """(8, 3) world mm."""
        return self.volume.corners()

    @cached_property
    def box_sheet(self) -> Array:
        """(8, 2) sheet mm."""
        return project(self.eye, self.box_world).sheet

    @cached_property
    def line_kinds(self) -> Indices:
        """(l,) kind of the line each straight piece is of."""
        return np.asarray(self.standing.items.kinds[self.pieces.item[: len(self.lines)]])

    @cached_property
    def arc_kinds(self) -> Indices:
        """(a,) kind of the arc each other piece is of."""
        return np.asarray(self.standing.items.kinds[self.pieces.item[len(self.lines) :]])

    @cached_property
    def arc_numbers(self) -> Indices:
        """(a,) the arc of the body each other piece is of; −1 − n for its outline n."""
        return np.asarray(self.standing.items.number[self.pieces.item[len(self.lines) :]])

    @property
    def arc_seen(self) -> NDArray[np.bool_]:
        """(a,) whether each other piece is seen."""
        return self.pieces.seen[len(self.lines) :]

    @property
    def arc_drawn(self) -> NDArray[np.bool_]:
        """(a,) whether each other piece is drawn at all."""
        return self.pieces.drawn[len(self.lines) :]

    @property
    def arc_spans(self) -> Array:
        """(a, 2) the part of its arc each other piece is, in the arc's parameter."""
        return self.pieces.span[len(self.lines) :]

    @cached_property
    def seen_lines(self) -> Array:
        """Lines (k, 4) sheet mm x0, y0, x1, y1 of every edge seen."""
        return self._edges(seen=True, ghost=False)

    @cached_property
    def hidden_lines(self) -> Array:
        """Lines (k, 4) sheet mm of every edge that is hidden yet drawn."""
        return self._edges(seen=False, ghost=False)

    @cached_property
    def ghost_lines(self) -> Array:
        """Lines (k, 4) sheet mm of a ghost."""
        return self._edges(seen=True, ghost=True)

    def _state(self) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
        count = len(self.lines)
        return self.pieces.seen[:count], self.pieces.drawn[:count]

    def mark_lines(self, kind: int) -> Array:
        """Lines (k, 4) sheet mm of the marks of a kind (DIVISION or SECTION) that are seen."""
        seen, drawn = self._state()
        return np.asarray(self.lines[seen & drawn & (self.line_kinds == kind)])

    def curves_drawn(self, what: str) -> Array:
        """Arcs (k, 3, 3) on the sheet, homogeneous: "seen", "hidden", "section" (those seen), or
        "ghost"."""
        section = self.arc_kinds == SECTION
        seen, drawn = self.arc_seen, self.arc_drawn
        if self.volume.ghost or what == "ghost":
            some = seen & drawn & ~section & (self.volume.ghost and what == "ghost")
        elif what == "section":
            some = seen & section
        else:
            some = drawn & ~section & (seen == (what == "seen"))
        return np.asarray(self.arcs[some])

    def _edges(self, *, seen: bool, ghost: bool) -> Array:
        if ghost != self.volume.ghost:
            return np.empty((0, 4))
        kinds = self.line_kinds
        marks = (kinds == DIVISION) | (kinds == SECTION)
        is_seen, drawn = self._state()
        return np.asarray(self.lines[~marks & drawn & (is_seen == seen)])

    @cached_property
    def visible(self) -> tuple[tuple[Span, ...], ...]:
        """For each edge the parts that are seen, as fractions of its true length."""
        return self._parts(self.pieces.item[: len(self.lines)], len(self.edges), 0)

    @cached_property
    def seen_corners(self) -> Indices:
        """(c,) corners at which a seen part of an edge ends."""
        seen = set()
        for (first, second), spans in zip(self.edges.tolist(), self.visible, strict=True):
            if spans and spans[0][0] <= 0:
                seen.add(first)
            if spans and spans[-1][1] >= 1:
                seen.add(second)
        return np.array(sorted(seen), dtype=np.intp)

    @cached_property
    def visible_marks(self) -> tuple[tuple[Span, ...], ...]:
        """For each mark line the parts that are seen, as fractions of its true length."""
        edges, lines = len(self.figure.body.edges), len(self.figure.starts)
        numbers = self.pieces.item[: len(self.lines)] - edges
        return self._parts(numbers, max(lines - edges, 0), 0)

    @cached_property
    def visible_arcs(self) -> tuple[tuple[Span, ...], ...]:
        """For each arc of its body the parts that are seen, in the arc's own parameter."""
        return self._parts(self.arc_numbers, len(self.body.arcs), len(self.lines))

    def _parts(self, numbers: Indices, count: int, first: int) -> tuple[tuple[Span, ...], ...]:
        parts: list[list[Span]] = [[] for _ in range(count)]
        some = slice(first, first + len(numbers))
        seen = self.pieces.seen[some] & self.pieces.drawn[some]
        for number, (start, end), one in zip(
            numbers.tolist(), self.pieces.span[some].tolist(), seen.tolist(), strict=True
        ):
            if one and 0 <= number < count:
                parts[number].append((start, end))
        return tuple(tuple(sorted(spans)) for spans in parts)

    @cached_property
    def outlines(self) -> Array:
        """Its true outlines as world arcs (o, 3, 4), where surfaces turn away from us."""
        items = self.standing.items
        arcs = items.arcs[items.kinds == OUTLINE].copy()
        arcs[..., :3] += arcs[..., 3:] * np.array(self.eye.place)
        return np.asarray(arcs)


@dataclass(frozen=True, eq=False)
class Scene:
    """All volumes of a document as drawn from its eye; `sight` knows what hides what."""

    eye: Eye
    pictures: tuple[VolumePicture, ...]
    sight: Sight
    aids: tuple[Aid, ...]
    aid_lines: Array
    """Lines (k, 4) sheet mm of the drawing aids, where no volume hides them."""

    @cached_property
    def bounds(self) -> Array:
        """(n, 4) sheet mm left, bottom, right, top of each volume."""
        return np.array([picture.bounds for picture in self.pictures]).reshape(-1, 4)

    @property
    def meetings(self) -> dict[tuple[int, int], Meeting]:
        """Where volumes touch or pierce each other, by pair of numbers."""
        return self.sight.meetings


@lru_cache(maxsize=2)
def bare(scene: Scene) -> Scene:
    """The scene without its volumes: eye and paper only."""
    return replace(scene, pictures=(), aids=(), aid_lines=np.empty((0, 4)))


def viewpoint_of(eye: Eye) -> Viewpoint:
    """The eye as a viewpoint: its picture plane and what lies before it save work."""
    ahead = sight_axes(eye)[2].astype(float)
    place = np.array(eye.place)
    near = -float(ahead @ place) - NEAR_MM * (1 + 1e-9)
    return Viewpoint(place, chart=lens(eye), ahead=np.append(ahead, near))


def scene_of(document: Document, before: Scene | None = None) -> Scene:
    """The scene of a document; what stands unchanged in `before` is taken over as it is."""
    eye, volumes = document.eye, document.volumes
    if before is not None and len(before.pictures) != len(volumes):
        before = None
    figures = [figure_of(volume) for volume in volumes]
    aids = document.aids
    same_aids = before is not None and before.aids == aids
    loose = before.sight.standing[-1].figure if same_aids and before is not None else _loose(aids)
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


def _solid(document: Document) -> NDArray[np.bool_]:
    """(n,) volumes behind which hidden lines are left out."""
    usual = document.choices.see_through
    return np.array(
        [not (usual if v.see_through is None else v.see_through) for v in document.volumes],
        dtype=bool,
    )


@lru_cache(maxsize=4)
def _loose(aids: tuple[Aid, ...]) -> Figure:
    if not aids:
        return loose_lines(np.empty((0, 3)), np.empty((0, 3)))
    starts, ends = zip(*(aid.lines() for aid in aids), strict=True)
    return loose_lines(np.concatenate(starts), np.concatenate(ends))


def _scene(document: Document, sight: Sight, aids: tuple[Aid, ...], before: Scene | None) -> Scene:
    eye, volumes = document.eye, document.volumes
    count = len(volumes)
    fresh = [i for i in range(count + 1) if not _same(before, sight, i)]
    known = {} if before is None else dict(enumerate(before.pictures))
    aid_lines = np.empty((0, 4)) if before is None else before.aid_lines
    for i, (lines, arcs, sheet, depth) in zip(fresh, _drawn(eye, sight, fresh), strict=True):
        if i == count:
            aid_lines = lines[sight.pieces[i].seen]
            continue
        known[i] = VolumePicture(
            eye, volumes[i], sight.standing[i], sheet, depth, sight.pieces[i], lines, arcs
        )
    for i, volume in enumerate(volumes):
        if known[i].volume is not volume and known[i].volume != volume:
            known[i] = replace(known[i], volume=volume)
    return Scene(eye, tuple(known[i] for i in range(count)), sight, aids, aid_lines)


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
    arcs = between(lot.items.arcs[bent][..., :3] @ lens(eye).T, part[:, 0], part[:, 1])
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


def _lines(eye: Eye, start: Array, end: Array, spans: Array) -> Array:
    """Lines (k, 4) on the sheet of parts (k, 2) of lines from start to end (k, 3)."""
    ends = (start[:, None] + spans[:, :, None] * (end - start)[:, None]).reshape(-1, 3)
    short = NEAR_MM * (1 + 1e-6) - depths(eye, ends)
    if (short > 0).any():  # cut exactly at the near plane: a hair in front of it can be drawn
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
