"""What is marked on the picture in work: edges, rims, rows, places, and what is known of them.

A mark is told by its kind and number (`Mark`)."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import change_picture, in_work
from isometron.document.marks import (
    FAMILIES,
    Edge,
    Known,
    Round,
    Row,
)
from isometron.document.picture import EDGE, ROUND, ROW, SPOT, Mark, SheetPicture, Spot
from isometron.perspective.places import Place

HELD_IN = {EDGE: "edges", ROUND: "rounds", ROW: "rows", SPOT: "spots"}
"""Where marks of a kind are held."""

LESS = 0.3
"""How much a mark counts that is weighed less."""


def every_mark(picture: SheetPicture) -> list[tuple[Mark, Any]]:
    """All marks of a picture, each with the Edge, Round, Row or Spot it is."""
    return [
        (Mark(kind, number), one)
        for kind, held in HELD_IN.items()
        for number, one in enumerate(getattr(picture, held))
    ]


def mark_of(picture: SheetPicture, mark: Mark) -> Any:
    """The Edge, Round, Row or Spot that a mark is; None when it is there no more."""
    every = getattr(picture, HELD_IN[mark.kind])
    return every[mark.number] if 0 <= mark.number < len(every) else None


def add_edge(
    document: Document, start: Place, end: Place, family: str, *, open_ends: bool = True
) -> Document:
    """An edge drawn by hand."""
    edge = Edge(start, end, family, open_ends=open_ends)
    return _added(document, EDGE, edge)


def add_round(
    document: Document, points: Sequence[Place], axle: str = "", name: str = ""
) -> Document:
    """A rim by points along it."""
    return _added(document, ROUND, Round(tuple(points), axle, name))


def add_row(document: Document, points: Sequence[Place], family: str) -> Document:
    """Places along one straight line of the thing."""
    return _added(document, ROW, Row(tuple(points), family))


def add_spot(document: Document, place: Place) -> Document:
    """A place of the picture."""
    return _added(document, SPOT, Spot(place))


def _added(document: Document, kind: str, mark: Any) -> Document:
    held = HELD_IN[kind]

    def change(picture: SheetPicture) -> SheetPicture:
        added: dict[str, Any] = {held: (*getattr(picture, held), mark)}
        return replace(picture, **added)

    return change_picture(document, change)


def change_marks(document: Document, marks: Iterable[Mark], **changes: Any) -> Document:
    """Fields of some marks changed; those that a kind does not have are left alone."""
    wanted = list(marks)

    def change(picture: SheetPicture) -> SheetPicture:
        held: dict[str, list[Any]] = {}
        for mark in wanted:
            every = held.setdefault(HELD_IN[mark.kind], list(getattr(picture, HELD_IN[mark.kind])))
            one = every[mark.number]
            own = {name: value for name, value in changes.items() if hasattr(one, name)}
            every[mark.number] = replace(one, **own)
        parts: dict[str, Any] = {name: tuple(every) for name, every in held.items()}
        return replace(picture, **parts)

    return change_picture(document, change)


def take_or_leave(document: Document, marks: Iterable[Mark]) -> Document:
    """Marks left out of the reading, or taken in again: all alike, as the first is not. A line of
    no family is taken with the one it runs nearest to, which `family` says."""
    wanted = list(marks)
    first = mark_of(in_work(document), wanted[0])
    return change_marks(document, wanted, left=not first.left)


def leave_family(document: Document, family: str, left: bool) -> Document:
    """A whole family of edges left out, or taken in."""
    edges = in_work(document).edges
    marks = [Mark(EDGE, i) for i, edge in enumerate(edges) if edge.family == family]
    return change_marks(document, marks, left=left)


def set_family(document: Document, marks: Iterable[Mark], family: str) -> Document:
    """Edges and rows that run with another family, rims whose axle does; a stray line is taken in
    with it, a corner's edge is one no more."""

    def change(picture: SheetPicture) -> SheetPicture:
        edges, rounds, rows = list(picture.edges), list(picture.rounds), list(picture.rows)
        for mark in wanted:
            if mark.kind == EDGE:
                one = edges[mark.number]
                edges[mark.number] = replace(one, family=family, left=False, corners=None)
            elif mark.kind == ROUND:
                rounds[mark.number] = replace(rounds[mark.number], axle=family)
            elif mark.kind == ROW:
                rows[mark.number] = replace(rows[mark.number], family=family)
        known = tuple(k for k in picture.known if all(_sided(edges, i) for i in k.edges))
        return replace(
            picture, edges=tuple(edges), rounds=tuple(rounds), rows=tuple(rows), known=known
        )

    wanted = list(marks)
    return change_picture(document, change)


def _sided(edges: list[Edge], number: int) -> bool:
    return edges[number].corners is not None


def name_mark(document: Document, mark: Mark, name: str) -> Document:
    """A mark called by a name."""
    return change_marks(document, [mark], name=name)


def weigh_less(document: Document, marks: Iterable[Mark], less: bool) -> Document:
    """Marks that count less than the others, or as much again."""
    return change_marks(document, marks, weight=LESS if less else 1.0)


def tick_off(document: Document, mark: Mark, mended: bool) -> Document:
    """What is off in a mark has been mended on paper, or not yet."""
    return change_marks(document, [mark], mended=mended)


def take_away(document: Document, marks: Iterable[Mark]) -> Document:
    """Marks taken away, with what is known of them."""
    gone = set(marks)

    def change(picture: SheetPicture) -> SheetPicture:
        kept = {
            held: [
                (number, one)
                for number, one in enumerate(getattr(picture, held))
                if Mark(kind, number) not in gone
            ]
            for kind, held in HELD_IN.items()
        }
        now = {number: place for place, (number, _one) in enumerate(kept["edges"])}
        known = tuple(
            replace(one, edges=tuple(now[number] for number in one.edges))
            for one in picture.known
            if all(number in now for number in one.edges)
        )
        parts: dict[str, Any] = {
            held: tuple(one for _number, one in some) for held, some in kept.items()
        }
        return replace(picture, known=known, **parts)

    return change_picture(document, change)


def move_end(document: Document, mark: Mark, end: int, place: Place) -> Document:
    """A place of a mark moved: an end of an edge (0 or 1), a point of a rim or row, a place."""
    one = mark_of(in_work(document), mark)
    if mark.kind == EDGE:
        return change_marks(document, [mark], **{("start", "end")[end]: place}, found=False)
    if mark.kind == SPOT:
        return change_marks(document, [mark], place=place)
    points = list(one.points)
    points[end] = place
    return change_marks(document, [mark], points=tuple(points))


def move_marks(document: Document, marks: Iterable[Mark], right: float, up: float) -> Document:
    """Marks moved as they are, px."""
    for mark in list(marks):
        one = mark_of(in_work(document), mark)
        for end, (x, y) in enumerate(places_of(one)):
            document = move_end(document, mark, end, (x + right, y + up))
    return document


def places_of(one: Any) -> tuple[Place, ...]:
    """The places of an Edge, Round, Row or Spot."""
    if isinstance(one, Edge):
        return one.start, one.end
    return (one.place,) if isinstance(one, Spot) else tuple(one.points)


def add_corner(
    document: Document, corner: int, at: Place, ends: Sequence[tuple[str, Place]]
) -> Document:
    """A marked corner: edges of a box that meet, its first box corner `corner` (bits as in the
    report), each with its family and far end. Edges marked between the same corners before are
    replaced."""

    def change(picture: SheetPicture) -> SheetPicture:
        edges = list(picture.edges)
        for family, end in ends:
            both = (corner, corner ^ 1 << FAMILIES.index(family))
            new = Edge(at, end, family, both)
            same = [i for i, e in enumerate(edges) if e.corners and set(e.corners) == set(both)]
            if same:
                edges[same[0]] = new
            else:
                edges.append(new)
        return replace(picture, edges=tuple(edges))

    return change_picture(document, change)


def say_known(
    document: Document, kind: str, edges: Sequence[int], value: float | None = None
) -> Document:
    """What is known of edges; what was known of the same ones in the same way before is replaced.
    Raises MarksError for what makes no sense."""
    new = Known(kind, tuple(edges), value)

    def change(picture: SheetPicture) -> SheetPicture:
        ratio = {"ratio", "equal", "square"}

        def replaced(one: Known) -> bool:
            alike = one.kind == kind or {one.kind, kind} <= ratio
            return alike and (kind == "length" or set(one.edges) == set(edges))

        kept = tuple(one for one in picture.known if not replaced(one))
        return replace(picture, known=(*kept, new))

    return change_picture(document, change)


def forget_known(document: Document, number: int) -> Document:
    """Something known no more."""
    return change_picture(
        document,
        lambda picture: replace(
            picture, known=tuple(one for i, one in enumerate(picture.known) if i != number)
        ),
    )


def mirror_pair(document: Document, one: int, two: int, family: str) -> Document:
    """Two edges said to be symmetrical: the lines between their like ends run with the family
    across the middle, and become marks of their own."""
    first, second = (in_work(document).edges[number] for number in (one, two))
    straight = math.dist(first.start, second.start) + math.dist(first.end, second.end)
    crossed = math.dist(first.start, second.end) + math.dist(first.end, second.start)
    ends = (second.start, second.end) if straight <= crossed else (second.end, second.start)
    for start, end in zip((first.start, first.end), ends, strict=True):
        if start != end:
            document = add_edge(document, start, end, family)
    return document
