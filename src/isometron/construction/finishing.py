"""The end of an order: the construction rubbed out family by family, what runs over trimmed, and
the object lines gone over, until the sheet is the finished drawing."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from isometron.construction.draft import Draft
from isometron.construction.moves import LINES, StepOff, Upright, draws
from isometron.construction.strokes import DASHED, OBJECT, THIN, Stroke
from isometron.construction.targets import Targets
from isometron.document.building import FRAMEWORK
from isometron.document.document import Document
from isometron.drawing.curves import cubics
from isometron.drawing.layers import CENTRE, GHOST, GRID, HATCHING, HIDDEN, STEPS
from isometron.drawing.layers import OBJECT as OBJECT_LINES
from isometron.drawing.scene import Scene
from isometron.drawing.strokes import clipped, sheet_strokes
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.words import _, many

CURVE_MM = 0.01
"""Curves of the finished drawing are drawn as cubics that miss them by less than this."""

THROUGH_MM = 1e-6
"""A line passes through a point that lies this near it (farther for one far off the paper)."""

LOOKS = {OBJECT_LINES: OBJECT, HIDDEN: DASHED}
"""How the layers of a drawing look when it is finished; all others are thin."""


def finish(draft: Draft, targets: Targets, document: Document, scene: Scene) -> None:
    """The lines of the room, rubbing out, trimming, object lines and their weights."""
    _room(draft, scene)
    framework = document.building.reach == FRAMEWORK
    _rub_out(draft, targets, framework)
    if framework:
        told = _("Draw the object into its framework by hand, then rub the framework out.")
        draft.step("finish.object", told)
        draft.chapter("finish", _("Finish"))
        return
    draft.step(
        "finish.trim",
        _(
            "Trim what is left: rub off the ends of lines that run past their corners{hidden}, and "
            "the eye level where it runs through something solid."
        ).format(
            hidden="" if document.choices.see_through else _(", what lies behind something solid")
        ),
    )
    told = _("Go over the object lines where they are seen; what is hidden is left out.")
    if document.choices.see_through:
        told = _("Go over the object lines where they are seen; draw hidden ones in short dashes.")
    weights = _(
        "Three weights: the outline and what lies nearest heaviest, edges where two faces that are "
        "seen meet lighter, divisions and marks lightest."
    )
    draft.step("finish.object", f"{told} {weights}")
    draft.chapter("finish", _("Finish"))


def _room(draft: Draft, scene: Scene) -> None:
    room = clipped(np.asarray(scene.lines_of_aids(light=False)).reshape(-1, 4), draft.sheet.paper)
    for a in room:
        draft.keep(draft.join(draft.mark((a[0], a[1])), draft.mark((a[2], a[3]))))
    if len(room):
        draft.step(
            "finish.floor",
            many(
                "Draw the line of the room, between its two marks on the paper.",
                "Draw the lines of the room, each between its two marks on the paper.",
                len(room),
            ),
        )


def _rub_out(draft: Draft, targets: Targets, framework: bool) -> None:
    """One step for each family of light lines, those that help least first. Of a framework only the
    measuring lines go: uprights and fans are its boxes."""
    measures, helping, fans = _families(draft, targets)
    _rub(
        draft,
        "finish.rub.measures",
        many(
            "Rub out {count} measuring line, with its marks.",
            "Rub out the {count} measuring lines, and the lines from their marks to the measuring "
            "points.",
            len(measures),
        ).format(count=len(measures)),
        measures,
    )
    if framework:
        return
    _rub(
        draft,
        "finish.rub.helping",
        many(
            "Rub out {count} helping line inside the framework.",
            "Rub out the {count} helping lines inside the framework: diagonals, middles, axes and "
            "squares.",
            len(helping),
        ).format(count=len(helping)),
        helping,
    )
    told = ", ".join(
        _("{count} to {point}").format(count=len(names), point=words)
        for words, names in fans.items()
    )
    _rub(
        draft,
        "finish.rub",
        _("Rub out the fans: {lines}.").format(lines=told),
        [name for names in fans.values() for name in names],
    )


def _rub(draft: Draft, key: str, told: str, lines: list[str]) -> None:
    """A step that rubs lines out, when there are any."""
    if lines:
        draft.step(key, told, rubs=tuple(lines))


def _families(draft: Draft, targets: Targets) -> tuple[list[str], list[str], dict[str, list[str]]]:
    """The light lines drawn so far: measuring lines and those to measuring points; helping lines;
    and fans by the name of the vanishing point they run to."""
    steps = [s for chapter in draft.chapters for s in chapter.steps]
    kept = {name for s in steps for name in s.objects} | {targets.level_line}
    moves = [move for s in steps for move in s.moves]
    upright = {move.name for move in moves if isinstance(move, Upright)}  # edges and true heights
    stepped = {move.line for move in moves if isinstance(move, StepOff)} - upright
    light = [m.name for m in moves if isinstance(m, LINES) and draws(m) and m.name not in kept]
    lines = np.array([draft.line(name) for name in light]).reshape(-1, 2, 2)
    vanishing = _through(lines, [target.place for target in targets.vanishing])
    measuring = _through(lines, [target.place for target in targets.measures])
    measures: list[str] = []
    helping: list[str] = []
    fans: dict[str, list[str]] = {}
    for row, name in enumerate(light):
        if vanishing[row].any():
            words = targets.vanishing[int(vanishing[row].argmax())].words
            fans.setdefault(words, []).append(name)
        elif name in stepped or measuring[row].any():
            measures.append(name)
        else:
            helping.append(name)
    return measures, helping, fans


def _through(lines: Array, places: list[Place]) -> NDArray[np.bool_]:
    """Which lines (n, 2, 2; a point and the unit direction) run through which places (n, k), as
    exactly as their distance lets one tell."""
    through = np.zeros((len(lines), len(places)), dtype=np.bool_)
    for column, place in enumerate(places):
        (x, y), along = (place - lines[:, 0]).T, lines[:, 1]
        off = np.abs(x * along[:, 1] - y * along[:, 0])
        through[:, column] = off < THROUGH_MM * (1.0 + 1e-3 * np.hypot(x, y))
    return through


def finished_strokes(document: Document, scene: Scene) -> tuple[Stroke, ...]:
    """The finished drawing, as the sheet is drawn: object lines, hidden edges where wanted, eye
    level, room, sections. Empty for a framework, into which the object is drawn by hand."""
    if document.building.reach == FRAMEWORK:
        return ()
    found: list[Stroke] = []
    plain = replace(document, finish=replace(document.finish, weighted=False))
    for strokes in sheet_strokes(plain, scene):
        layer = strokes.layer
        if not layer.stands or layer in (CENTRE, GHOST, GRID, HATCHING, STEPS):
            continue
        age = LOOKS.get(layer, THIN)
        ends: list[Array] = list(strokes.lines.reshape(-1, 2, 2))
        found += [Stroke(layer.name, age, one) for one in ends]
        curves, number = cubics(strokes.arcs, CURVE_MM)
        parts = np.split(curves, np.flatnonzero(np.diff(number)) + 1) if len(curves) else []
        found += [Stroke(layer.name, age, cubics=part) for part in parts]
    return tuple(found)
