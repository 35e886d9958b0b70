"""What a deed's drawing shows: its example, and over it what the deed makes of it."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np

from isometron.deeds.deed import Given, Parameter
from isometron.deeds.table import deed, deeds
from isometron.document.document import Document
from isometron.document.edits.stances import STANCES, take_stance
from isometron.document.edits.starters import STARTERS, VEHICLE, with_starter
from isometron.document.edits.viewing import frame_of
from isometron.drawing.curves import clipped_arcs
from isometron.drawing.layers import (
    AID,
    DIVISIONS,
    GHOST,
    GRID,
    HIDDEN,
    NO_ARCS,
    NO_LINES,
    OBJECT,
    SECTIONS,
    Drawn,
)
from isometron.drawing.scene import scene_of
from isometron.drawing.shading.areas import areas_of
from isometron.drawing.shading.shown import hatching_of
from isometron.drawing.small import small_of
from isometron.drawing.strokes import clipped, sheet_strokes
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array, eye_level
from isometron.perspective.places import Rectangle

SHOWN = (OBJECT, DIVISIONS, SECTIONS, AID, GRID, GHOST)
"""Layers that a deed may add to."""

SHADOWS = ("cast", "shadow")
"""Areas whose borders a deed's drawing shows."""

SAME_DIGITS = 6
"""What is the same to so many digits of a mm was there before."""

MOST_KEPT = 1024
"""Drawings that are kept: more than there are deeds."""

AROUND = 0.15
"""So much room is left round the framework, as a share of its longer side."""


@dataclass(frozen=True, eq=False)
class Drawing:
    """Lines (n, 4) and arcs (m, 3, 3), sheet mm, that stay, those that are new, and those that
    go; what is hidden now; the part of the sheet that is shown."""

    stays: Drawn
    new: Drawn
    gone: Drawn
    hidden: Drawn
    part: Rectangle

    @property
    def says_something(self) -> bool:
        """Whether the deed changes what is drawn."""
        return any(len(some) for some in (*self.new, *self.gone))


def drawing_of(key: str) -> Drawing:
    """What a deed makes of its example, or a starter of what it proposes: from the file of drawings
    that ships with the program, else drawn now."""
    kept = _kept().get(key)
    return drawn(key) if kept is None else kept


STARTER, STANCE, ONE_OF = "starter ", "stance ", " | "
"""The drawings of starters and stances are known by these and their names; that of one of a choice
by what asks, what is asked for and its number, parted by the last."""


def choice_key(asks: str, asked: str, number: int) -> str:
    """What the drawing of one of a choice is known by: asks is the key of a deed, or of a starter;
    number: from 0."""
    return ONE_OF.join((asks, asked, str(number)))


@lru_cache(maxsize=MOST_KEPT)
def drawn(key: str) -> Drawing:
    """The same, drawn from the real thing."""
    asks, *chosen = key.split(ONE_OF)
    values = {chosen[0]: int(chosen[1])} if chosen else {}
    if asks.startswith(STARTER):
        return _of_starter(asks.removeprefix(STARTER), values)
    if key.startswith(STANCE):
        return _of_stance(key.removeprefix(STANCE))
    if chosen and (shown_by := _parameter(asks, chosen[0]).shown_by):
        return _of_part(shown_by(int(chosen[1])))
    return _of_deed(asks, values)


def _parameter(asks: str, asked: str) -> Parameter:
    return next(one for one in deed(asks).parameters if one.key == asked)


def drawn_choices() -> list[str]:
    """The keys of what can be drawn of every choice that a starter or a deed asks for."""
    found = [
        choice_key(f"{STARTER}{starter.name}", question.name, number)
        for starter in STARTERS
        for question in starter.questions
        for number in range(len(question.choices))
    ]
    for key, one in deeds().items():
        for parameter in () if one.in_place else one.parameters:
            every = [
                choice_key(key, parameter.key, number) for number in range(len(parameter.choices))
            ]
            told = [as_data(drawing) for drawing in map(_if_drawn, every) if drawing is not None]
            if len(told) == len(every) and any(data != told[0] for data in told):
                found += every
    return found


def _if_drawn(key: str) -> Drawing | None:
    """The drawing of one of a choice, where the example allows that one."""
    try:
        return drawn(key)
    except IsometronError:
        return None


def is_drawn(key: str) -> bool:
    """Whether the file of drawings has one of this key."""
    return key in _kept()


def plain_keys() -> list[str]:
    """All that have a drawing whatever is chosen."""
    starters = (f"{STARTER}{starter.name}" for starter in STARTERS)
    stances = (f"{STANCE}{stance.name}" for stance in STANCES)
    return [*deeds(), *starters, *stances]


def keys() -> list[str]:
    """All that have a drawing."""
    return [*plain_keys(), *drawn_choices()]


def _of_starter(name: str, chosen: Mapping[str, int]) -> Drawing:
    starter = next(one for one in STARTERS if one.name == name)
    values = starter.proposal | {asked: number + 1.0 for asked, number in chosen.items()}
    small = small_of(with_starter(Document(), starter, values))
    return Drawing(small.seen, (NO_LINES, NO_ARCS), (NO_LINES, NO_ARCS), small.hidden, small.part)


def _of_stance(name: str) -> Drawing:
    """A vehicle of one step as it is seen from a stance, its eye level in the other pencil."""
    vehicle = with_starter(Document(), VEHICLE, {**VEHICLE.proposal, "boxes": 1.0})
    stance = next(one for one in STANCES if one.name == name)
    seen = small_of(take_stance(vehicle, stance))
    left, bottom, right, top = seen.part
    level = eye_level(take_stance(vehicle, stance).eye)
    there = level is not None and bottom < level < top
    line = np.array([[left, level, right, level]]) if there else NO_LINES
    nothing = NO_LINES, NO_ARCS
    return Drawing(seen.seen, (line, NO_ARCS), nothing, nothing, seen.part)


def _of_part(document: Document) -> Drawing:
    """A framework, and over it the volume in work as it is by itself; none where none is."""
    seen, nothing = small_of(document), (NO_LINES, NO_ARCS)
    if document.volume is None:
        return Drawing(seen.seen, nothing, nothing, seen.hidden, seen.part)
    alone = [replace(one, shown=n == document.selected) for n, one in enumerate(document.volumes)]
    lines, arcs, *_hidden = _shown(replace(document, volumes=tuple(alone)))
    part = clipped(lines, seen.part), clipped_arcs(arcs, seen.part)
    return Drawing(seen.seen, part, nothing, seen.hidden, seen.part)


def _of_views(document: Document, numbers: Sequence[int]) -> Drawing:
    """Views side by side."""
    found: list[Drawn] = []
    hidden: list[Drawn] = []
    at, low, high = 0.0, 0.0, 0.0
    for number in numbers:
        small = small_of(replace(document, view=0, views=(document.views[number],)))
        frame = frame_of(document, number)
        ends = frame.left_mm + frame.width_mm, frame.bottom_mm + frame.height_mm
        left, bottom = np.maximum(small.part[:2], (frame.left_mm, frame.bottom_mm)).tolist()
        right, top = np.minimum(small.part[2:], ends).tolist()
        part = left, bottom, right, top
        by = np.array([at - left, -(bottom + top) / 2])
        for shown, some in ((found, small.seen), (hidden, small.hidden)):
            shown.append(_moved((clipped(some[0], part), clipped_arcs(some[1], part)), by))
        at += 1.1 * (right - left)
        low, high = min(low, (bottom - top) / 2), max(high, (top - bottom) / 2)
    nothing = NO_LINES, NO_ARCS
    new, pale = (
        (np.concatenate([one[0] for one in some]), np.concatenate([one[1] for one in some]))
        for some in (found, hidden)
    )
    return Drawing(nothing, new, nothing, pale, (0.0, low, at, high))


def _moved(drawn: Drawn, by: Array) -> Drawn:
    """Lines and arcs moved over the sheet by (2,) mm."""
    lines, arcs = drawn
    arcs = arcs.copy()
    arcs[..., :2] += by * arcs[..., 2:]
    return lines + np.tile(by, 2), arcs


def _of_deed(key: str, chosen: Mapping[str, int]) -> Drawing:
    one = deed(key)
    example = one.shows()
    values = {**example.values, **chosen}
    done = one.with_given(Given(values, example.pick))(example.document)
    if len(done.views) > len(example.document.views):
        stands = (example.document.eye.place, example.document.eye.tilt_deg)
        kept = (done.views[0].eye.place, done.views[0].eye.tilt_deg) == stands
        return _of_views(done, range(int(kept), len(done.views)))
    boxes = np.array([small_of(document).part for document in (example.document, done)])
    (left, bottom), (right, top) = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    if not example.document.volumes:
        left, bottom, right, top = boxes[1]
    off = AROUND * max(right - left, top - bottom)
    part = float(left - off), float(bottom - off), float(right + off), float(top + off)
    before, after = _shown(example.document), _shown(done)
    lines, arcs = (_told_apart(now, was) for now, was in zip(after[:2], before[:2], strict=True))
    stays, new, gone = (
        (clipped(some, part), clipped_arcs(bows, part))
        for some, bows in zip(lines, arcs, strict=True)
    )
    hidden = clipped(after[2], part), clipped_arcs(after[3], part)
    return Drawing(stays, new, gone, hidden, part)


def _shown(document: Document) -> tuple[Array, Array, Array, Array]:
    """Lines and arcs of what is seen, then of what is hidden."""
    found: dict[bool, list[Drawn]] = {seen: [(NO_LINES, NO_ARCS)] for seen in (True, False)}
    for one in sheet_strokes(document, scene_of(document), lambda layer: id(layer) in _WANTED):
        found[one.layer.name != HIDDEN.name].append((one.lines, one.arcs))
    seen, hidden = found[True], found[False]
    if document.light is not None:
        seen.append((_shade(document), NO_ARCS))
    return (
        np.concatenate([lines for lines, _arcs in seen]),
        np.concatenate([arcs for _lines, arcs in seen]),
        np.concatenate([lines for lines, _arcs in hidden]),
        np.concatenate([arcs for _lines, arcs in hidden]),
    )


def _shade(document: Document) -> Array:
    """Lines of what the light does: the borders of shadows, and hatching."""
    scene, lines = scene_of(document), [NO_LINES]
    for area in areas_of(document, scene):
        if area.kind in SHADOWS:
            for ring in (ring for rings in area.rings() for ring in rings):
                lines.append(np.concatenate([ring, np.roll(ring, -1, axis=0)], axis=1))
    return np.concatenate([*lines, hatching_of(document, scene)])


# The file of drawings

FILE = Path(__file__).with_name("drawings.json")

DIGITS = 2
"""Decimals of a mm that lines are kept with: far finer than any small drawing shows."""

ARC_DIGITS = 6
"""Digits that arcs are kept with, of what is largest in them."""

SORTS = ("stays", "new", "gone", "hidden")


def as_data(drawing: Drawing) -> dict[str, Any]:
    """A drawing as plain numbers, empty parts left out."""
    data: dict[str, Any] = {"part": [round(mm, DIGITS) for mm in drawing.part]}
    for sort in SORTS:
        lines, arcs = getattr(drawing, sort)
        if len(lines):
            data[sort] = np.round(lines, DIGITS).tolist()
        if len(arcs):
            scale = np.abs(arcs).max(axis=(1, 2), keepdims=True)
            data[f"{sort} arcs"] = np.round(arcs / scale, ARC_DIGITS).tolist()
    return data


def _from_data(data: dict[str, Any]) -> Drawing:
    left, bottom, right, top = data["part"]
    sorts = [
        (
            np.array(data.get(sort, NO_LINES), dtype=float).reshape(-1, 4),
            np.array(data.get(f"{sort} arcs", NO_ARCS), dtype=float).reshape(-1, 3, 3),
        )
        for sort in SORTS
    ]
    return Drawing(sorts[0], sorts[1], sorts[2], sorts[3], (left, bottom, right, top))


@lru_cache(maxsize=1)
def _kept() -> dict[str, Drawing]:
    """All drawings of the file."""
    if not FILE.exists():
        return {}
    return {key: _from_data(data) for key, data in json.loads(FILE.read_text()).items()}


_WANTED = frozenset(id(layer) for layer in (*SHOWN, HIDDEN))


def _told_apart(now: Array, was: Array) -> tuple[Array, Array, Array]:
    """Those of some lines or arcs that stay, those that are new, and those that go."""
    before, after = [_key(one) for one in was], [_key(one) for one in now]
    old = np.isin(after, before) if before else np.zeros(len(after), dtype=bool)
    left = ~np.isin(before, after) if after else np.ones(len(before), dtype=bool)
    return now[old], now[~old], was[left]


def _key(one: Array) -> str:
    """What a line or an arc is known by, whichever way it runs and whatever its scale."""
    if one.shape == (4,):
        ends = sorted(np.round(one.reshape(2, 2), SAME_DIGITS).tolist())
        return repr(ends)
    scale = np.abs(one).max() or 1.0
    return repr((np.round(one / scale, SAME_DIGITS) + 0.0).tolist())
