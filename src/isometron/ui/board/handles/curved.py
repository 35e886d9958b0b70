"""Handles of a curved sheet: those of its flat twin, where their directions lie."""

from collections.abc import Callable
from dataclasses import fields, replace
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.places.sliding import Slid
from isometron.document.edits.projecting import flat_twin
from isometron.drawing.curved_twin import twin_of
from isometron.drawing.scene import Scene
from isometron.perspective.curved import from_flat, to_flat
from isometron.perspective.eye import Eye
from isometron.perspective.places import Place
from isometron.ui.board.handles.handle import Drag, Handle, Number, Slide

Lands = Callable[[Document], Place | None]
ROUNDS, NEAR_MM = 12, 0.02


def bent(eye: Eye, handle: Handle) -> Handle | None:
    """A handle of the flat sheet as it lies on the curved one; None where it cannot."""
    if handle.of_paper:
        return handle
    changed: dict[str, Any] = {
        name.name: _moved(eye, getattr(handle, name.name))
        for name in fields(handle)
        if name.name in ("place", "other", "line", "arms")
    }
    if not np.isfinite(np.array(changed["place"], dtype=float)).all():
        return None
    changed["drag"] = _flattened(eye, handle.drag)
    if handle.lands is not None:
        changed["drag"] = _followed(eye, handle, handle.lands)
    if handle.shifted is not None:
        changed["shifted"] = _flattened(eye, handle.shifted)
    for name in ("slides", "shift_slides"):
        if getattr(handle, name) is not None:
            changed[name] = _slid(eye, getattr(handle, name))
    changed["number"] = _told(handle.number)
    return replace(handle, **changed)


def _moved(eye: Eye, given: Any) -> Any:
    """Places of the flat sheet, in any nesting of pairs, on the curved one."""
    if given is None:
        return None
    flat = np.array(given, dtype=float)
    drawn = from_flat(eye, flat.reshape(-1, 2)).reshape(flat.shape)
    if isinstance(given, np.ndarray):
        return drawn
    return _as_tuples(drawn.tolist())


def _as_tuples(given: Any) -> Any:
    return tuple(_as_tuples(one) for one in given) if isinstance(given, list) else given


def flattened(eye: Eye, sheet_mm: Place) -> Place | None:
    """Where a flat sheet has the direction of a place of the curved one; None from 90° off."""
    x, y = to_flat(eye, np.array([sheet_mm]))[0].tolist()
    return (x, y) if np.isfinite(x) and np.isfinite(y) else None


def _flattened(eye: Eye, drag: Drag) -> Drag:
    def dragged(document: Document, sheet_mm: Place) -> Document:
        place = flattened(eye, sheet_mm)
        return document if place is None else drag(document, place)

    return dragged


def _followed(eye: Eye, handle: Handle, lands: Lands) -> Drag:
    """A drag that puts a handle under the hand where the sheet bends anew with what it changes: a
    point far off runs ahead of the hand else. The hand's way is told longer or shorter until the
    handle lies as far along its own way as the hand does."""
    start = from_flat(eye, np.array([handle.place]))[0]

    def dragged(document: Document, sheet_mm: Place) -> Document:
        pulled = np.subtract(sheet_mm, start)
        share, made = 1.0, document
        for _round in range(ROUNDS):
            x, y = (start + share * pulled).tolist()
            place = flattened(eye, (x, y))
            if place is None:
                return made
            made = handle.drag(document, place)
            there = lands(made)
            if there is None:
                return made
            moved = from_flat(made.eye, np.array([there]))[0] - start
            far = float(np.hypot(*moved))
            wanted = float(pulled @ moved) / max(far, 1e-12)
            if far < NEAR_MM or wanted <= 0 or abs(far - wanted) < NEAR_MM:
                return made
            share *= wanted / far
        return made

    return dragged


def _slid(eye: Eye, slide: Slide) -> Slide:
    def slid(document: Document, sheet_mm: Place, snap: bool) -> Slid:
        place = flattened(eye, sheet_mm)
        return slide(document, handle_place(eye, sheet_mm) if place is None else place, snap)

    return slid


def handle_place(eye: Eye, sheet_mm: Place) -> Place:
    """A place 90° off the sight axis or farther, brought just within."""
    off = np.subtract(sheet_mm, eye.centre_of_vision_mm)
    near = 0.49 * np.pi * eye.station_distance_mm / max(float(np.hypot(*off)), 1e-9)
    x, y = (np.array(eye.centre_of_vision_mm) + near * off).tolist()
    return flattened(eye, (x, y)) or eye.centre_of_vision_mm


def _told(number: Number) -> Number:
    def told(document: Document, scene: Scene) -> str:
        twin = flat_twin(document)
        return number(twin, twin_of(scene, twin.eye))

    return told
