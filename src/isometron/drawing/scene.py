"""The scene: every volume as it is drawn from the eye, with what is seen and what is hidden.

A scene remembers what it was made from. Asked for the next document it reworks only the volumes
that changed and those that overlap them on the sheet; everything else is the very same object.
"""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from isometron.document.document import Document
from isometron.drawing.built import DIVISION, SECTION, Built
from isometron.drawing.curve_pieces import CurvePieces, cut_curves
from isometron.drawing.joins import Join, meeting, pierce
from isometron.drawing.pieces import Pieces, cut_lines, seen_of_loose
from isometron.drawing.splitting import Span
from isometron.drawing.stage import Stage, overlapping, restaged, stage_of
from isometron.framework.aids import Aid
from isometron.framework.curved import SECTION as CURVED_SECTION
from isometron.framework.volume import Volume
from isometron.perspective.conics import chords
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import project

GHOST_GAP_MM = 0.1
"""What is left behind is only looked at while it is changed: its curves are drawn in chords."""


@dataclass(frozen=True, eq=False)
class VolumePicture:
    """One volume as it is drawn.

    built: the volume in the world; sheet (n, 2) mm of its corners, NaN in rows behind the eye;
    depth (n,) mm; shown (k,) faces turned to us; bounds (4,) sheet mm left, bottom, right, top;
    pieces: its lines cut into what is seen and what is hidden. `frame_…` are those of the eight
    corners of the box it fills.
    """

    eye: Eye
    built: Built
    sheet: Array
    depth: Array
    shown: NDArray[np.bool_]
    bounds: Array
    pieces: Pieces
    curves: CurvePieces

    @property
    def volume(self) -> Volume:
        """The volume itself."""
        return self.built.volume

    @property
    def axes(self) -> Array:
        """Its axes as rows (3, 3)."""
        return self.built.axes

    @property
    def world(self) -> Array:
        """Its corners (n, 3) world mm."""
        return self.built.world

    @property
    def edges(self) -> NDArray[np.intp]:
        """Its edges (m, 2) as corner numbers."""
        return self.built.solid.edges

    @cached_property
    def frame_world(self) -> Array:
        """(8, 3) world mm."""
        return self.world if self.built.plain else self.volume.corners()

    @cached_property
    def _frame(self) -> tuple[Array, Array]:
        if self.built.plain:
            return self.sheet, self.depth
        picture = project(self.eye, self.frame_world)
        return picture.sheet, picture.depth

    @property
    def frame_sheet(self) -> Array:
        """(8, 2) sheet mm."""
        return self._frame[0]

    @property
    def frame_depth(self) -> Array:
        """(8,) mm."""
        return self._frame[1]

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

    def mark_lines(self, kind: int) -> Array:
        """Lines (k, 4) sheet mm of the marks of a kind (DIVISION or SECTION) that are seen."""
        pieces = self.pieces
        return np.asarray(pieces.lines[pieces.seen & pieces.drawn & (pieces.kind == kind)])

    def curves_drawn(self, what: str) -> Array:
        """Arcs (k, 3, 3) on the sheet, homogeneous: "seen", "hidden", "section" (those seen), or
        "ghost"."""
        curves = self.curves
        section = curves.kind == CURVED_SECTION
        if self.volume.ghost or what == "ghost":
            some = curves.seen & curves.drawn & ~section & (self.volume.ghost and what == "ghost")
        elif what == "section":
            some = curves.seen & section
        else:
            some = curves.drawn & ~section & (curves.seen == (what == "seen"))
        return np.asarray(curves.arcs[some])

    def _edges(self, *, seen: bool, ghost: bool) -> Array:
        pieces = self.pieces
        if ghost != self.volume.ghost:
            return np.empty((0, 4))
        marks = (pieces.kind == DIVISION) | (pieces.kind == SECTION)
        wanted = ~marks & pieces.drawn
        return np.asarray(pieces.lines[wanted & (pieces.seen == seen)])

    @cached_property
    def visible(self) -> tuple[tuple[Span, ...], ...]:
        """For each edge the parts that are seen, as fractions of its true length."""
        parts: list[list[Span]] = [[] for _ in range(len(self.edges))]
        pieces = self.pieces
        for line, (start, end), seen in zip(
            pieces.line.tolist(),
            pieces.span.tolist(),
            (pieces.seen & pieces.drawn).tolist(),
            strict=True,
        ):
            if seen and line < len(parts):
                parts[line].append((start, end))
        return tuple(tuple(sorted(spans)) for spans in parts)


@dataclass(frozen=True, eq=False)
class Scene:
    """All volumes of a document as drawn from its eye."""

    eye: Eye
    pictures: tuple[VolumePicture, ...]
    stage: Stage
    joins: dict[tuple[int, int], Join]
    opaque: NDArray[np.bool_]
    aids: tuple[Aid, ...]
    aid_lines: Array
    """Lines (k, 4) sheet mm of the drawing aids, where no volume hides them."""


@lru_cache(maxsize=2)
def bare(scene: Scene) -> Scene:
    """The scene without its volumes: eye and paper only."""
    return replace(scene, pictures=(), aids=(), aid_lines=np.empty((0, 4)))


def scene_of(document: Document, before: Scene | None = None) -> Scene:
    """The scene of a document; what stands unchanged in `before` is taken over as it is."""
    eye, volumes = document.eye, document.volumes
    count = len(volumes)
    if before is None or before.eye != eye or len(before.pictures) != count:
        stage = stage_of(eye, volumes)
        joins = _joins(stage, {}, None)
        if before is not None and len(before.pictures) == count:
            changed = _changed(before, volumes)
            joins = _joins(stage, before.joins, set(changed.tolist()))
        return _scene(document, stage, joins, np.arange(count))
    changed = _changed(before, volumes)
    same_look = bool((_opaque(document) == before.opaque).all())
    if not len(changed) and same_look and before.aids == document.aids:
        return before
    stage = restaged(before.stage, volumes, changed)
    joins = _joins(stage, before.joins, set(changed.tolist()))
    if not same_look:
        return _scene(document, stage, joins, np.arange(count))
    touched = np.concatenate([before.stage.bounds[changed], stage.bounds[changed]])
    stale = np.union1d(changed, np.nonzero(overlapping(stage.bounds, touched))[0])
    return _scene(document, stage, joins, stale, before)


def _changed(before: Scene, volumes: tuple[Volume, ...]) -> NDArray[np.intp]:
    return np.array(
        [
            i
            for i, (picture, volume) in enumerate(zip(before.pictures, volumes, strict=True))
            if picture.volume is not volume and picture.volume != volume
        ],
        dtype=np.intp,
    )


def _opaque(document: Document) -> NDArray[np.bool_]:
    """(n,) volumes behind which hidden lines are left out."""
    usual = document.choices.see_through
    return np.array(
        [not (usual if v.see_through is None else v.see_through) for v in document.volumes],
        dtype=bool,
    )


def _joins(
    stage: Stage, known: dict[tuple[int, int], Join], changed: set[int] | None
) -> dict[tuple[int, int], Join]:
    """The lines where volumes pierce each other; those of unchanged pairs are taken over."""
    joins = {}
    if changed is not None:
        joins = {pair: join for pair, join in known.items() if not changed.intersection(pair)}
    for first, second in meeting(stage.reach, None if changed is None else sorted(changed)):
        a, b = stage.standing[first].built, stage.standing[second].built
        if all(one.volume.shown and not (one.volume.ghost or one.round) for one in (a, b)):
            joins[first, second] = pierce(a, b, first, second)
    return dict(sorted(joins.items()))


def _scene(
    document: Document,
    stage: Stage,
    joins: dict[tuple[int, int], Join],
    which: NDArray[np.intp],
    before: Scene | None = None,
) -> Scene:
    opaque = _opaque(document)
    groups = [volume.group for volume in document.volumes]
    bodies = [(a, b) for a, b in joins if groups[a] and groups[a] == groups[b]]
    piercing = [join for join in joins.values() if len(join.starts)]
    fresh = {
        i: VolumePicture(
            stage.eye,
            stage.standing[i].built,
            stage.standing[i].sheet,
            stage.standing[i].depth,
            stage.standing[i].shown,
            stage.standing[i].bounds,
            pieces,
            curves,
        )
        for i, pieces, curves in zip(
            which.tolist(),
            cut_lines(stage, which, piercing, opaque, bodies),
            cut_curves(stage, which, opaque),
            strict=True,
        )
    }
    kept = before.pictures if before is not None else ()
    for i in [i for i in fresh if kept and _same_picture(kept[i], fresh[i])]:
        del fresh[i]
    pictures = tuple(fresh[i] if i in fresh else kept[i] for i in range(len(document.volumes)))
    aids = document.aids
    if before is not None and not len(which) and before.aids == aids:
        return replace(before, stage=stage)
    return Scene(stage.eye, pictures, stage, joins, opaque, aids, _aid_lines(stage, aids))


def _same_picture(one: VolumePicture, other: VolumePicture) -> bool:
    """Whether a volume that was looked at again is drawn exactly as before."""
    if one.built is not other.built:
        return False
    a, b = one.pieces, other.pieces
    return (
        np.array_equal(a.lines, b.lines)
        and np.array_equal(a.seen, b.seen)
        and np.array_equal(a.drawn, b.drawn)
        and np.array_equal(one.curves.arcs, other.curves.arcs)
        and np.array_equal(one.curves.seen, other.curves.seen)
        and np.array_equal(one.curves.drawn, other.curves.drawn)
    )


def _aid_lines(stage: Stage, aids: tuple[Aid, ...]) -> Array:
    if not aids:
        return np.empty((0, 4))
    ends = [aid.lines() for aid in aids]
    starts, finishes = (np.concatenate(some) for some in zip(*ends, strict=True))
    return seen_of_loose(stage, starts, finishes)


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
