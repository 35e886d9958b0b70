"""The page: all views of the framework on one sheet, each within its frame."""

from collections.abc import Iterator
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.view import View
from isometron.drawing.curves import clipped_arcs
from isometron.drawing.layers import CENTRE, LAYERS, Layer
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.shading.shown import Wash, washes_of
from isometron.drawing.strokes import Strokes, Wanted, clipped, every, sheet_strokes
from isometron.perspective.places import Rectangle

Known = dict[int, Scene]
"""The last scene of each view by its number: who shows a page time and again keeps one, and the
next scenes are brought up from it."""


class Shown(NamedTuple):
    """One view as it is shown: its number, the document seen from its eye, its scene, and its part
    of the paper (left, bottom, right, top)."""

    number: int
    document: Document
    scene: Scene
    part: Rectangle


def part_of(document: Document, view: View) -> Rectangle:
    """The part of the paper a view is drawn in, sheet mm."""
    left, bottom, right, top = document.sheet.paper
    if view.frame is None:
        return left, bottom, right, top
    frame = view.frame
    return (
        max(left, frame.left_mm),
        max(bottom, frame.bottom_mm),
        min(right, frame.left_mm + frame.width_mm),
        min(top, frame.bottom_mm + frame.height_mm),
    )


def seen_in(document: Document, number: int) -> Document:
    """The document as one view draws it, in its frame and without the others. A plan or elevation
    so is only to be drawn: it has no eye to work from."""
    view = document.views[number]
    return replace(document, views=(replace(view, before=None),), view=0)


def others_shown(document: Document, known: Known) -> Iterator[Shown]:
    """The views that are not in work and have a frame of their own: of those that take the whole
    sheet only the one in work is drawn. `known` is brought up to date."""
    for number, view in enumerate(document.views):
        if number != document.view and view.frame is not None:
            seen = seen_in(document, number)
            known[number] = scene_of(seen, known.get(number))
            yield Shown(number, seen, known[number], part_of(document, view))


def views_shown(document: Document, scene: Scene, known: Known) -> list[Shown]:
    """All views, the one in work last."""
    mine = Shown(document.view, document, scene, part_of(document, document.views[document.view]))
    return [*others_shown(document, known), mine]


def page_strokes(
    document: Document, scene: Scene, known: Known | None = None
) -> tuple[Strokes, ...]:
    """Everything drawn on the paper, light lines first, every view cut at its frame."""
    if len(document.views) == 1 and document.views[0].frame is None:
        return sheet_strokes(document, scene)
    found: list[Strokes] = []
    for shown in others_shown(document, {} if known is None else known):
        found += cut_to(shown, with_others)
    mine = Shown(document.view, document, scene, part_of(document, document.views[document.view]))
    found += cut_to(mine)
    return tuple(_put_together(found))


def page_washes(document: Document, scene: Scene, known: Known | None = None) -> list[Wash]:
    """The values and shadows of all views, each within its frame."""
    if document.light is None:
        return []
    if len(document.views) == 1 and document.views[0].frame is None:
        return washes_of(document, scene)
    every = views_shown(document, scene, {} if known is None else known)
    return [wash for shown in every for wash in washes_in(shown)]


def washes_in(shown: Shown) -> list[Wash]:
    """The values and shadows of one view within its frame."""
    import shapely

    part, found = shapely.box(*shown.part), []
    for wash in washes_of(shown.document, shown.scene):
        shape = shapely.intersection(wash.area.shape, part)
        if shape.area > 0:
            found.append(wash._replace(area=wash.area._replace(shape=shape)))
    return found


def cut_to(shown: Shown, wanted: Wanted = every) -> list[Strokes]:
    """The strokes of one view within its frame, of the layers that are wanted; what belongs to the
    paper is not cut."""
    found = []
    left, bottom, right, top = shown.part
    for one in sheet_strokes(shown.document, shown.scene, wanted):
        if one.layer.of_paper:
            found.append(one)
            continue
        labels = tuple(
            label
            for label in one.labels
            if left <= label.place[0] <= right and bottom <= label.place[1] <= top
        )
        lines, arcs = clipped(one.lines, shown.part), clipped_arcs(one.arcs, shown.part)
        if len(lines) or len(arcs) or labels:
            found.append(replace(one, lines=lines, arcs=arcs, labels=labels))
    return found


def with_others(layer: Layer) -> bool:
    """Whether a layer is drawn of views that are not in work."""
    return layer.stands and layer is not CENTRE and not layer.of_paper


def _put_together(strokes: list[Strokes]) -> list[Strokes]:
    """Strokes of one layer as one, in the order of the layers."""
    order = {layer.name: n for n, layer in enumerate(LAYERS)}
    place = {id(one): order.get(one.layer.name, order[_OBJECT]) for one in strokes}
    by_name: dict[str, list[Strokes]] = {}
    for one in sorted(strokes, key=lambda one: place[id(one)]):
        by_name.setdefault(one.layer.name, []).append(one)
    return [
        Strokes(
            some[0].layer,
            np.concatenate([one.lines for one in some]),
            np.concatenate([one.arcs for one in some]),
            tuple(label for one in some for label in one.labels),
        )
        for some in by_name.values()
    ]


_OBJECT = "object lines"
"""Object lines in their weights stand where object lines do."""
