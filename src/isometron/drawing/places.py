"""Where something lies, and what a drag is about, in words and in the sheet's unit."""

import math

from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.document.edits.shapes import profiles
from isometron.document.near_edge import near_edge
from isometron.drawing.measures import directions_of
from isometron.drawing.scene import Scene
from isometron.framework.outlines import Knot
from isometron.perspective.lengths import write_length, write_number, write_place
from isometron.perspective.places import Place
from isometron.perspective.sheet import Sheet
from isometron.words import _


def right_and_up(place: Place, unit: str) -> str:
    """A place of the sheet, from its lower left corner."""
    return write_place(place, unit)


def off_paper(sheet: Sheet, place: Place, unit: str) -> str:
    """Where a point lies from the paper's edge."""
    x, y = place
    across = max(-x, x - sheet.width_mm)
    along = max(-y, y - sheet.height_mm)
    if across <= 0 and along <= 0:
        return right_and_up(place, unit)
    wide, high = write_length(across, unit), write_length(along, unit)
    if along <= 0:
        told = _("{wide} left of paper") if x < 0 else _("{wide} right of paper")
        return told.format(wide=wide)
    if across <= 0:
        told = _("{high} below paper") if y < 0 else _("{high} above paper")
        return told.format(high=high)
    told = {
        (True, True): _("{wide} left, {high} below paper"),
        (True, False): _("{wide} left, {high} above paper"),
        (False, True): _("{wide} right, {high} below paper"),
        (False, False): _("{wide} right, {high} above paper"),
    }[x < 0, y < 0]
    return told.format(wide=wide, high=high)


def leaves_paper(sheet: Sheet, start: Place, point: Place, unit: str) -> str:
    """Where the line from a place on the paper to a point beyond it leaves the paper, in words."""
    (x, y), (vx, vy) = start, point
    if not (0 <= x <= sheet.width_mm and 0 <= y <= sheet.height_mm):
        return ""
    if 0 <= vx <= sheet.width_mm and 0 <= vy <= sheet.height_mm:
        return ""
    across = ((sheet.width_mm if vx > x else 0.0) - x) / (vx - x) if vx != x else math.inf
    along = ((sheet.height_mm if vy > y else 0.0) - y) / (vy - y) if vy != y else math.inf
    share = min(across, along)
    if across <= along:
        told = _("right edge, {length} up") if vx > x else _("left edge, {length} up")
        return told.format(length=write_length(y + share * (vy - y), unit))
    told = _("upper edge, {length} right") if vy > y else _("lower edge, {length} right")
    return told.format(length=write_length(x + share * (vx - x), unit))


def vanishing_places(document: Document, scene: Scene) -> dict[str, Place]:
    """Place of each vanishing point that is not at infinity, by family, for the volume in work
    or, on an empty sheet, for the lie of the set-up."""
    if scene.pictures and not scene.pictures[document.selected or 0].volume.tipped:
        directions = directions_of(document.eye, scene.pictures[document.selected or 0])
        places = {d.family: d.vanishing.sheet_mm for d in directions if d.family}
        return {family: place for family, place in places.items() if place is not None}
    return eye_edits.points_of_setup(document)


def near_edge_in_words(document: Document) -> str:
    """How long the near edge is drawn, and how long it is."""
    edge, volume = near_edge(document), document.volume
    if edge is None or volume is None:
        return ""
    unit = document.choices.unit
    return _("drawn {drawn}, true {true}").format(
        drawn=write_length(edge.drawn_mm, unit), true=write_length(volume.height_mm, unit)
    )


def near_corner_in_words(document: Document) -> str:
    """Where the near corner is drawn."""
    edge = near_edge(document)
    return "" if edge is None else right_and_up(edge.corner_mm, document.choices.unit)


def side_in_words(document: Document, axis: int) -> str:
    """A side of the volume in work, and how often the height goes into it."""
    volume = document.volume
    if volume is None:
        return ""
    side = volume.sides[axis]
    return _("{side}, {times} × the height").format(
        side=write_length(side, document.choices.unit),
        times=write_number(side / volume.height_mm, 2),
    )


def knot_in_words(document: Document, ring: int, knot: int) -> str:
    """Where a point of the profile in work lies in its side view."""
    volume, shape = document.volume, profiles.profile_of(document.volume)
    if volume is None or shape is None:
        return ""
    first, second = shape.cross
    one: Knot = shape.rings[ring][knot]
    unit = document.choices.unit
    return _("{along} along, {up} up").format(
        along=write_length(one.x * volume.sides[first], unit),
        up=write_length(one.y * volume.sides[second], unit),
    )
