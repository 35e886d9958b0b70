"""One volume as it is drawn: its lines and curves cut into what is seen and what is hidden."""

from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import DIVISION, OUTLINE, SECTION, SKIN, Body, Indices
from isometron.framework.figures import Figure
from isometron.framework.volume import Volume
from isometron.hiding.pieces import Pieces
from isometron.hiding.standing import Standing
from isometron.perspective.conics import chords
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import project

EXTENT_GAP_MM = 0.01
"""How far a curve may reach beyond the extent told of it."""

Span = tuple[float, float]


class SeenParts(NamedTuple):
    """The parts of a line or curve that are seen, as fractions from its start, and where each is
    drawn on the sheet, mm."""

    spans: tuple[Span, ...]
    drawn: Array


CURVES_APART = {"section": SECTION, "division": DIVISION}
"""Curves drawn with a pencil of their own, and the kind of arc each is."""


@dataclass(frozen=True, eq=False)
class VolumePicture:
    """One volume as it is drawn.

    sheet (n, 2) mm of its corners, NaN in rows behind the eye; depth (n,) mm; standing: its figure
    before the eye; pieces: what is drawn of it, cut into seen and hidden; lines (l, 4) and arcs
    (a, 3, 3) on the sheet of its pieces, straight ones first. `box_…` are those of the eight
    corners of the box it fills. On a curved sheet lines and arcs only join the ends of the pieces;
    curves (c, 3, 3) draw them, each of a piece (c,), from one place of its item to another (c, 2).
    """

    eye: Eye
    volume: Volume
    standing: Standing
    sheet: Array
    depth: Array
    pieces: Pieces
    lines: Array
    arcs: Array
    curves: Array | None = None
    curve_pieces: Indices | None = None
    curve_spans: Array | None = None

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
        places = self.drawn_places
        if not len(places):
            return np.array([np.inf, np.inf, -np.inf, -np.inf])
        return np.concatenate([places.min(axis=0), places.max(axis=0)])

    @cached_property
    def drawn_places(self) -> Array:
        """Places (p, 2) sheet mm, the ends of its lines and of the chords of its curves, that hold
        between them all that is drawn of it within EXTENT_GAP_MM."""
        if self.curves is not None:
            shown = self.curves[self.pieces.drawn[self.curve_pieces]]
            return np.concatenate([np.empty((0, 2)), *chords(shown, EXTENT_GAP_MM)])
        runs = chords(self.arcs[self.arc_drawn], EXTENT_GAP_MM)
        lines = self.lines[self.pieces.drawn[: len(self.lines)]].reshape(-1, 2)
        return np.concatenate([lines, *runs])

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
        if self.curves is not None:
            return np.empty((0, 4))
        seen, drawn = self._state()
        return np.asarray(self.lines[seen & drawn & (self.line_kinds == kind)])

    def curves_drawn(self, what: str) -> Array:
        """Arcs (k, 3, 3) on the sheet, homogeneous: "seen", "hidden", those seen of
        CURVES_APART, or "ghost"."""
        kinds, seen, drawn = self.arc_kinds, self.arc_seen, self.arc_drawn
        if self.curves is not None:
            kinds = np.concatenate([self.line_kinds, kinds])
            seen, drawn = self.pieces.seen, self.pieces.drawn
        section = (kinds == SECTION) | (kinds == DIVISION)
        if self.volume.ghost or what == "ghost":
            some = seen & drawn & ~section & (self.volume.ghost and what == "ghost")
        elif what in CURVES_APART:
            some = seen & (kinds == CURVES_APART[what])
        elif what == "seen":
            some = drawn & ~section & seen
        else:
            some = drawn & ~section & ~seen & (kinds != SKIN)
        if self.curves is not None:
            return np.asarray(self.curves[some[self.curve_pieces]])
        return np.asarray(self.arcs[some])

    def _edges(self, *, seen: bool, ghost: bool) -> Array:
        if ghost != self.volume.ghost or self.curves is not None:
            return np.empty((0, 4))
        kinds = self.line_kinds
        marks = (kinds == DIVISION) | (kinds == SECTION) | ((kinds == SKIN) & (not seen))
        is_seen, drawn = self._state()
        return np.asarray(self.lines[~marks & drawn & (is_seen == seen)])

    @cached_property
    def seen_edges(self) -> tuple[SeenParts, ...]:
        """For each edge the parts that are seen, and where they are drawn (4,)."""
        return self._parts(self.pieces.item[: len(self.lines)], len(self.edges), self.lines)

    @cached_property
    def visible(self) -> tuple[tuple[Span, ...], ...]:
        """For each edge the parts that are seen, as fractions of its true length."""
        return tuple(parts.spans for parts in self.seen_edges)

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
    def seen_marks(self) -> tuple[SeenParts, ...]:
        """For each mark line the parts that are seen, as fractions of its true length."""
        edges, lines = len(self.figure.body.edges), len(self.figure.starts)
        numbers = self.pieces.item[: len(self.lines)] - edges
        return self._parts(numbers, max(lines - edges, 0), self.lines)

    @cached_property
    def seen_arcs(self) -> tuple[SeenParts, ...]:
        """For each arc of its body the parts that are seen, in the arc's own parameter, and where
        they are drawn (3, 3), homogeneous."""
        return self._parts(self.arc_numbers, len(self.body.arcs), self.arcs)

    @cached_property
    def seen_outlines(self) -> tuple[SeenParts, ...]:
        """For each of its outlines the parts that are seen, as `seen_arcs`."""
        return self._parts(-1 - self.arc_numbers, len(self.outlines), self.arcs)

    def _parts(self, numbers: Indices, count: int, drawn: Array) -> tuple[SeenParts, ...]:
        """The seen ones of the pieces (straight ones, or those that bend) by the number of what
        each is a piece of."""
        parts: list[list[tuple[float, float, int]]] = [[] for _ in range(count)]
        first = 0 if drawn is self.lines else len(self.lines)
        some = slice(first, first + len(numbers))
        seen = self.pieces.seen[some] & self.pieces.drawn[some]
        for row in np.flatnonzero(seen & (numbers >= 0) & (numbers < count)).tolist():
            start, end = self.pieces.span[first + row].tolist()
            parts[int(numbers[row])].append((start, end, row))
        return tuple(
            SeenParts(
                tuple((start, end) for start, end, _row in rows), drawn[[row[2] for row in rows]]
            )
            for rows in map(sorted, parts)
        )

    @cached_property
    def outlines(self) -> Array:
        """Its true outlines as world arcs (o, 3, 4), where surfaces turn away from us."""
        items = self.standing.items
        arcs = items.arcs[items.kinds == OUTLINE].copy()
        if self.eye.parallel is None:
            arcs[..., :3] += arcs[..., 3:] * np.array(self.eye.place)
        return np.asarray(arcs)
