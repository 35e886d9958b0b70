"""A second look at one's own sketch: what is off, by how much, and how to redraw it.

A rule looks at a reading of a straightened sheet and gives faults; what lies below the hand's own
precision, or below three times the error of the number, is not said."""

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import underlay_of
from isometron.document.edits.pictures.marking import mark_of
from isometron.document.kit import Hand
from isometron.document.picture import ROUND, SheetPicture
from isometron.drawing.scene import Scene, scene_of
from isometron.perspective.eye import sight_axes
from isometron.perspective.lengths import write_angle, write_length, write_mm
from isometron.perspective.places import Place
from isometron.reading.comparing import Difference, compare
from isometron.reading.fit import Fit
from isometron.reading.model import State, observed
from isometron.reading.of_picture import PictureReading, reading_of
from isometron.reading.sketch.agreed import agreed
from isometron.reading.sketch.fans import seen_error_mm
from isometron.reading.sketch.faults import CLEARLY, LEAST_MM, Fault, Sketch, across_paper, rules
from isometron.reading.told import Told
from isometron.words import _

LEAST_NOISE_MM = 0.25
"""A stroke lies off its line by so much at least."""

OF_TWO = ("wheels disagree", "wheels out of line")


def faults_in(document: Document, scene: Scene | None = None) -> list[Fault]:
    """What is off in the sketch in work; where the framework is what it was meant to be, seen from
    the same eye, its edges that lie beside those of the framework too. Raises MarksError when
    nothing is marked."""
    picture = document.photograph
    if picture is None or picture.paper_mm is None:
        return []
    read = reading_of(picture)
    if picture.laid is None or underlay_of(document) is None or read.fit is None:
        return judge(picture, read, document.kit.hand)
    faults = judge(picture, read, document.kit.hand, meant_fit(document, read))
    aside = [
        one
        for one in compare(document, scene or scene_of(document), read)
        if one.mm >= LEAST_MM + CLEARLY * document.kit.hand.line_mm
    ]
    if any(one.mark.kind == ROUND for one in aside):  # each by itself says more than both together
        faults = [fault for fault in faults if fault.rule not in OF_TWO]
    told = {fault.mark for fault in faults}
    beside = [_beside(picture, one) for one in aside if one.mark not in told]
    return _ticked(picture, [*faults, *beside])


def meant_fit(document: Document, read: PictureReading) -> Fit:
    """The framework's own eye and the sides of its volume in work as a fit that nothing is unsure
    of. Frames as in `reading.model`."""
    picture, lead, found = document.photograph, document.lead, read.fit
    assert picture is not None and picture.laid is not None and found is not None
    if lead is None:
        return found
    eye = document.eye
    right, up, away = (np.asarray(axis, dtype=float) for axis in sight_axes(eye))
    axes = np.array([np.asarray(axis, dtype=float) for axis in lead.axes()])
    seen = observed(replace(read.marks, rounds=()), np.zeros(len(read.marks.edges), dtype=bool))
    state = State(
        np.array([axes @ right, axes @ up, axes @ away]),
        eye.station_distance_mm / picture.laid.mm_per_px,
        np.array(picture.looked_at) - seen.origin,
        np.zeros(2),
        np.ones(3),
        np.empty((0, 3)),
        np.empty((0, 3)),
    )
    count = state.count
    return Fit(
        seen,
        state,
        np.zeros((count, count)),
        found.noise,
        0.0,
        np.empty(0),
        np.empty((count, 0)),
        {},
    )


def _beside(picture: SheetPicture, one: Difference) -> Fault:
    """An edge or rim that lies beside the one of the framework it was meant to be."""
    assert picture.laid is not None and picture.paper_mm is not None
    at = picture.laid.on_picture(one.place)
    redraw = None
    if one.drawn is not None:
        start, end = map(np.array, one.drawn)
        redraw = across_paper(start, end - start, picture.paper_mm)
    kind = _("A rim") if one.mark.kind == ROUND else _("A stroke")
    return Fault(
        "beside the framework",
        one.mark,
        _("{kind} lies beside the framework").format(kind=kind),
        _("It lies {mm} off, {deg}: {name}.").format(
            mm=write_mm(one.mm), deg=write_angle(round(one.deg, 1)), name=one.name
        ),
        one.mm,
        one.deg,
        None,
        at,
        redraw,
    )


def redraw_words(fault: Fault, paper_mm: tuple[float, float], unit: str) -> str:
    """Where the two marks of a corrected line lie on the paper's edges; "" where there are none."""
    if fault.redraw is None:
        return ""
    one, two = (_edge_words(place, paper_mm, unit) for place in fault.redraw)
    return _("Join {one} with {two}.").format(one=one, two=two)


def _edge_words(place: Place, paper_mm: tuple[float, float], unit: str) -> str:
    (x, y), (wide, high) = place, paper_mm
    near = min((x, "left"), (wide - x, "right"), (y, "lower"), (high - y, "upper"))[1]
    if near in ("left", "right"):
        side = _("left edge") if near == "left" else _("right edge")
        return _("{length} up the {side}").format(length=write_length(y, unit), side=side)
    side = _("lower edge") if near == "lower" else _("upper edge")
    return _("{length} along the {side}").format(length=write_length(x, unit), side=side)


def judge(
    picture: SheetPicture,
    read: PictureReading,
    hand: Hand | None = None,
    meant: Fit | None = None,
) -> list[Fault]:
    """What is off in a sketch, by what the eye notices: mm at the worst place, the worst first.

    meant: the eye of the framework that it was meant to be, when that is known. Nothing is said
    where its strokes tell no directions, or nobody said how large the sheet is."""
    if read.fit is None or picture.paper_mm is None or not any(not e.left for e in picture.edges):
        return []
    mm_per_px = picture.paper_mm[0] / picture.width
    # rims that are off must not shape the eye they are judged from
    best = meant or agreed(read.marks, LEAST_NOISE_MM / mm_per_px)
    sketch = Sketch(picture, read.reading, best, Told(best), mm_per_px, hand or Hand(), read.marks)
    sketch = replace(sketch, seen_error_mm=seen_error_mm(sketch), known=meant is not None)
    faults = [fault for one in rules() for fault in one(sketch)]
    return _ticked(picture, faults)


def _ticked(picture: SheetPicture, faults: Iterable[Fault]) -> list[Fault]:
    """Faults, the worst first, those ticked off that have been mended."""
    told = [one._replace(mended=mark_of(picture, one.mark).mended) for one in faults]
    return sorted(told, key=lambda fault: -fault.by_mm)
