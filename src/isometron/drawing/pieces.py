"""Lines cut into straight pieces that are wholly seen or wholly hidden."""

import itertools
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from isometron.drawing.built import EDGE, JOIN, SMOOTH
from isometron.drawing.curve_pieces import curved_covers
from isometron.drawing.joins import Join, flush_spans
from isometron.drawing.occlusion import hidden_spans, uncovered
from isometron.drawing.splitting import Cover, Covers, Span, split
from isometron.drawing.stage import EVERYWHERE, Stage, overlapping
from isometron.perspective.eye import Array, Eye, frame
from isometron.perspective.projection import NEAR_MM, clip_pieces, depths, project


@dataclass(frozen=True, eq=False)
class Pieces:
    """k pieces: which line (k,) of the volume they belong to and its kind (k,), their span (k, 2)
    in fractions of its true length, whether they are seen (k,), whether they are drawn at all
    (k,), and their lines (k, 4) on the sheet, mm."""

    line: NDArray[np.intp]
    kind: NDArray[np.intp]
    span: Array
    seen: NDArray[np.bool_]
    drawn: NDArray[np.bool_]
    lines: Array


@dataclass(frozen=True, eq=False)
class Lines:
    """The lines of several volumes in one row: starts, ends (m, 3) world mm; whole (m, 2) from
    where to where each lies in front of us (end < start: nowhere); turned (m,) whether a
    face they lie on turns to us; kinds (m,); owner (m,) row of the volume each belongs to, mate
    (m,) number of the other volume it lies on (−1 for none); first (r + 1,) where each volume's
    lines begin."""

    starts: Array
    ends: Array
    whole: Array
    turned: NDArray[np.bool_]
    kinds: NDArray[np.intp]
    owner: NDArray[np.intp]
    mate: NDArray[np.intp]
    first: NDArray[np.intp]


@dataclass(frozen=True, eq=False)
class Rows:
    """Whose lines are cut: numbers of volumes (r,) (−1 for loose lines), their bounds (r, 4) on the
    sheet and furthest depth (r,)."""

    numbers: NDArray[np.intp]
    bounds: Array
    furthest: Array


def cut_lines(
    stage: Stage,
    which: NDArray[np.intp],
    joins: Sequence[Join],
    opaque: NDArray[np.bool_],
    bodies: Sequence[tuple[int, int]],
) -> list[Pieces]:
    """The pieces of every volume in `which`, hidden behind any volume of the stage.

    opaque (n,): volumes behind which nothing is drawn, not even hidden lines. bodies: pairs of
    volumes that are one body, whose flush joints are not drawn.
    """
    if not len(which):
        return []
    lines = _gather(stage, which, joins)
    t0, t1 = lines.whole.T
    rows = Rows(which, stage.bounds[which], stage.furthest[which])
    covers = _covers(stage, rows, lines, opaque)
    lost = _lost(stage, which, lines, bodies)
    own = opaque[which][lines.owner]
    by_hand = set(lost)
    if opaque.any() and not opaque.all():
        by_hand |= set(covers.line.tolist())
    plain = t1 > t0
    plain[covers.line] = False
    plain[list(by_hand)] = False
    at = np.flatnonzero(plain)
    turned = lines.turned
    seen, drawn = turned[at], turned[at] | ~own[at]
    together = (t1 > t0)[covers.line]
    if by_hand:
        together &= ~np.isin(covers.line, list(by_hand))
    cut = split(covers.line[together], covers.span[together], t0, t1)
    number, spans_by_hand, states = _parts_of(by_hand, covers, lost, lines, own)
    at = np.concatenate([at, cut.line, number])
    spans = np.concatenate([lines.whole[at[: len(seen)]], cut.span, spans_by_hand])
    seen = np.concatenate([seen, cut.free, states == SEEN])
    drawn = np.concatenate([drawn, cut.free | ~own[cut.line], states != GONE])
    keep = np.arange(len(at))
    if (lines.kinds == SMOOTH).any():
        keep = np.flatnonzero((lines.kinds[at] != SMOOTH) | _outline(stage, which, lines)[at])
    order = keep[np.lexsort((spans[keep, 0], at[keep]))]
    at, spans, seen, drawn = at[order], spans[order], seen[order], drawn[order]
    drawn_at = _drawn(stage.eye, lines.starts[at], lines.ends[at], spans)
    ends = np.searchsorted(lines.owner[at], np.arange(len(which) + 1)).tolist()
    local = at - lines.first[lines.owner[at]]
    return [
        Pieces(local[a:b], lines.kinds[at[a:b]], spans[a:b], seen[a:b], drawn[a:b], drawn_at[a:b])
        for a, b in itertools.pairwise(ends)
    ]


SEEN, HIDDEN, GONE = range(3)
"""States of a part: drawn whole, drawn broken, not drawn."""


def _parts_of(
    some: set[int],
    covers: Covers,
    lost: dict[int, list[Span]],
    lines: "Lines",
    own: NDArray[np.bool_],
) -> tuple[NDArray[np.intp], Array, NDArray[np.intp]]:
    """Line, span and state of every part of the lines that need a closer look: those that a flush
    joint takes from, and, when some volumes are solid and others see-through, all covered ones."""
    if not some:
        return np.empty(0, dtype=np.intp), np.empty((0, 2)), np.empty(0, dtype=np.intp)
    by_line = covers.by_line()
    parts = [
        (number, span, state)
        for number in sorted(some)
        if lines.whole[number, 1] > lines.whole[number, 0]
        for span, state in _parts(
            (float(lines.whole[number, 0]), float(lines.whole[number, 1])),
            by_line.get(number, []),
            lost.get(number, []),
            turned=bool(lines.turned[number]),
            own=bool(own[number]),
        )
    ]
    return (
        np.array([part[0] for part in parts], dtype=np.intp),
        np.array([part[1] for part in parts]).reshape(-1, 2),
        np.array([part[2] for part in parts], dtype=np.intp),
    )


def _parts(
    whole: Span, covers: list[Cover], lost: list[Span], *, turned: bool, own: bool
) -> list[tuple[Span, int]]:
    """A line's parts with their state."""
    wholes, gone = uncovered(whole, lost)
    parts = [(span, GONE) for span in gone]
    for piece in wholes:
        rest = [piece]
        if turned:
            free, rest = uncovered(piece, [(a, b) for a, b, _ in covers])
            parts += [(span, SEEN) for span in free]
        elif own:
            parts.append((piece, GONE))
            continue
        dense = [(a, b) for a, b, solid in covers if solid]
        for span in rest:
            through, shut = uncovered(span, dense)
            parts += [(one, HIDDEN) for one in through] + [(one, GONE) for one in shut]
    return parts


def _gather(stage: Stage, which: NDArray[np.intp], joins: Sequence[Join]) -> Lines:
    starts, ends, turned, kinds, owner, mate, counts = [], [], [], [], [], [], []
    by_first: dict[int, list[Join]] = defaultdict(list)
    for join in joins:
        by_first[join.first].append(join)
    for row, number in enumerate(which.tolist()):
        one = stage.standing[number]
        built = one.built
        both = one.shown[built.faces]
        count = len(built.starts)
        starts.append(built.starts)
        ends.append(built.ends)
        turned.append(both.any(axis=1) if one.shown.any() else np.ones(count, dtype=bool))
        kinds.append(built.kinds)
        mate.append(np.full(count, -1))
        for join in by_first.get(number, []):
            other = stage.standing[join.second]
            starts.append(join.starts)
            ends.append(join.ends)
            turned.append(one.shown[join.faces[:, 0]] & other.shown[join.faces[:, 1]])
            kinds.append(np.full(len(join.starts), JOIN))
            mate.append(np.full(len(join.starts), join.second))
            count += len(join.starts)
        counts.append(count)
        owner.append(np.full(count, row))
    every_start, every_end = np.concatenate(starts), np.concatenate(ends)
    return Lines(
        every_start,
        every_end,
        np.stack(clip_pieces(stage.eye, every_start, every_end), axis=1),
        np.concatenate(turned),
        np.concatenate(kinds),
        np.concatenate(owner),
        np.concatenate(mate),
        np.concatenate([[0], np.cumsum(counts)]).astype(np.intp),
    )


def _outline(stage: Stage, which: NDArray[np.intp], lines: Lines) -> NDArray[np.bool_]:
    """(m,) lines between a face turned to us and one turned away."""
    found = np.zeros(len(lines.starts), dtype=bool)
    for row, number in enumerate(which.tolist()):
        one = stage.standing[number]
        both = one.shown[one.built.faces]
        begin = int(lines.first[row])
        found[begin : begin + len(both)] = both[:, 0] != both[:, 1]
    return found


def seen_of_loose(stage: Stage, starts: Array, ends: Array) -> Array:
    """The parts (k, 4) on the sheet of loose lines (n, 3) that no volume hides."""
    count = len(starts)
    whole = np.stack(clip_pieces(stage.eye, starts, ends), axis=1)
    lines = Lines(
        starts,
        ends,
        whole,
        np.ones(count, dtype=bool),
        np.full(count, EDGE),
        np.zeros(count, dtype=np.intp),
        np.full(count, -1),
        np.array([0, count], dtype=np.intp),
    )
    t0, t1 = whole.T
    rows = Rows(np.array([-1]), EVERYWHERE[None], np.array([np.inf]))
    covers = _covers(stage, rows, lines, np.zeros(len(stage.standing), dtype=bool))
    plain = t1 > t0
    plain[covers.line] = False
    bare = np.flatnonzero(plain)
    ahead = (t1 > t0)[covers.line]
    cut = split(covers.line[ahead], covers.span[ahead], t0, t1)
    at = np.concatenate([bare, cut.line[cut.free]])
    spans = np.concatenate([lines.whole[bare], cut.span[cut.free]])
    order = np.lexsort((spans[:, 0], at))
    at, spans = at[order], spans[order]
    return _drawn(stage.eye, starts[at], ends[at], spans)


def _covers(stage: Stage, rows: Rows, lines: Lines, opaque: NDArray[np.bool_]) -> Covers:
    """What hides each line (by its number): flat volumes and curved bodies."""
    flat = _flat_covers(stage, rows, lines, opaque)
    if not any(one.surfaces is not None for one in stage.standing):
        return flat
    bounds, _ = _line_bounds(stage, lines)
    asked = lines.turned | bool(opaque.any() and not opaque.all())
    asked &= lines.whole[:, 1] > lines.whole[:, 0]
    curved = curved_covers(stage, lines.starts, lines.ends, bounds, asked, opaque)
    if curved is None:
        return flat
    return Covers(
        np.concatenate([flat.line, curved.line]),
        np.concatenate([flat.span, curved.span]),
        np.concatenate([flat.solid, curved.solid]),
    )


def _flat_covers(stage: Stage, rows: Rows, lines: Lines, opaque: NDArray[np.bool_]) -> Covers:
    """What flat volumes hide of each line."""
    none = Covers(np.empty(0, dtype=np.intp), np.empty((0, 2)), np.empty(0, dtype=bool))
    near = overlapping(rows.bounds, stage.bounds) & stage.hides
    near &= stage.nearest < rows.furthest[:, None]
    own = rows.numbers[:, None] == np.arange(len(stage.hides))
    near &= ~own | stage.bent
    hiding = np.flatnonzero(near.any(axis=0)).tolist()
    if not hiding:
        return none
    near = near[:, hiding]
    all_found = [none]
    groups: dict[int, list[int]] = defaultdict(list)
    for at, i in enumerate(hiding):
        groups[stage.standing[i].regions.shape[1]].append(at)
    bounds, depth = _line_bounds(stage, lines)
    place = np.array(stage.eye.place)
    starts, ends = lines.starts - place, lines.ends - place
    mixed = bool(opaque.any() and not opaque.all())
    asked = lines.turned | mixed
    for group in groups.values():
        numbers = [hiding[at] for at in group]
        line, region, owner = _pairs(stage, lines, near[:, group], numbers)
        if not len(line):
            continue
        planes = np.concatenate([stage.standing[i].regions for i in numbers])
        keep = asked[line] & _may_meet(bounds[line], stage.bounds[owner])
        keep &= depth[line] > stage.nearest[owner]
        keep &= lines.mate[line] != owner
        line, region, owner = line[keep], region[keep], owner[keep]
        spans = hidden_spans(starts[line], ends[line], planes[region])
        found = np.flatnonzero(spans[:, 1] > spans[:, 0])
        all_found.append(Covers(line[found], spans[found], opaque[owner[found]]))
    return Covers(
        np.concatenate([some.line for some in all_found]),
        np.concatenate([some.span for some in all_found]),
        np.concatenate([some.solid for some in all_found]),
    )


def _pairs(
    stage: Stage, lines: Lines, near: NDArray[np.bool_], numbers: list[int]
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Every line of the volumes in `near` rows with every region of the volumes in its columns:
    line, region (counted through all `numbers`) and the number of the volume that hides."""
    counts = np.array([len(stage.standing[i].regions) for i in numbers])
    begin = np.concatenate([[0], np.cumsum(counts)[:-1]])
    rows, columns = np.nonzero(near)
    some = np.diff(lines.first)[rows]
    blocks = some * counts[columns]
    pair = np.repeat(np.arange(len(rows)), blocks)
    within = np.arange(blocks.sum()) - np.repeat(np.cumsum(blocks) - blocks, blocks)
    row, column = rows[pair], columns[pair]
    line = lines.first[row] + within // counts[column]
    region = begin[column] + within % counts[column]
    return line, region, np.array(numbers, dtype=np.intp)[column]


def _line_bounds(stage: Stage, lines: Lines) -> tuple[Array, Array]:
    """Bounds (m, 4) of each line on the sheet, unbounded behind the eye, and its furthest depth."""
    ends = np.concatenate([lines.starts, lines.ends])
    right, up, ahead = ((ends - np.array(stage.eye.place)) @ frame(stage.eye).astype(float).T).T
    behind = ahead <= NEAR_MM
    with np.errstate(divide="ignore", invalid="ignore"):
        cx, cy = stage.eye.centre_of_vision_mm
        d = stage.eye.station_distance_mm
        x, y = cx + d * right / ahead, cy + d * up / ahead
    m = len(lines.starts)
    x, y = x.reshape(2, m), y.reshape(2, m)
    bounds = np.stack([x.min(axis=0), y.min(axis=0), x.max(axis=0), y.max(axis=0)], axis=1)
    bounds[behind[:m] | behind[m:]] = (-np.inf, -np.inf, np.inf, np.inf)
    return bounds, ahead.reshape(2, m).max(axis=0)


def _may_meet(a: Array, b: Array) -> NDArray[np.bool_]:
    return np.asarray(
        (a[:, 0] <= b[:, 2]) & (b[:, 0] <= a[:, 2]) & (a[:, 1] <= b[:, 3]) & (b[:, 1] <= a[:, 3])
    )


def _lost(
    stage: Stage, which: NDArray[np.intp], lines: Lines, bodies: Sequence[tuple[int, int]]
) -> dict[int, list[Span]]:
    """Parts of edges that are no edges, because a flush face of the same body goes on there."""
    row_of = {number: row for row, number in enumerate(which.tolist())}
    lost: dict[int, list[Span]] = defaultdict(list)
    for pair in bodies:
        for one, other in (pair, pair[::-1]):
            if one not in row_of:
                continue
            a, b = stage.standing[one].built, stage.standing[other].built
            begin = int(lines.first[row_of[one]])
            for edge, start, end in flush_spans(a, b):
                if a.kinds[edge] == EDGE:
                    lost[begin + edge].append((start, end))
    return lost


def _drawn(eye: Eye, start: Array, end: Array, spans: Array) -> Array:
    """Lines (k, 4) on the sheet of parts (k, 2) of lines from start to end (k, 3)."""
    ends = (start[:, None] + spans[:, :, None] * (end - start)[:, None]).reshape(-1, 3)
    short = NEAR_MM * (1 + 1e-6) - depths(eye, ends)
    if (short > 0).any():  # cut exactly at the near plane: a hair in front of it can be drawn
        ends += np.maximum(short, 0.0)[:, None] * frame(eye)[2].astype(float)
    return project(eye, ends).sheet.reshape(-1, 4)
