"""Marks on a picture, and what a picture costs the history."""

import os
from dataclasses import replace

import pytest

from isometron.document.document import Document
from isometron.document.edits.pictures import bringing, marking
from isometron.document.edits.pictures.marking import mark_of
from isometron.document.errors import ChoiceError
from isometron.document.history import History, own_bytes
from isometron.document.marks import Edge, Known, MarksError
from isometron.document.picture import (
    EDGE,
    MOST_BYTES,
    MOST_PICTURES,
    ROUND,
    ROW,
    SPOT,
    Mark,
    PictureFile,
    SheetPicture,
)

EDGES = tuple(
    Edge((10.0 * i, 5.0), (90.0, 50.0 + i), name, corners)
    for i, (name, corners) in enumerate(
        [("width", (0, 1)), ("depth", (0, 2)), ("height", (0, 4)), ("width", None)]
    )
)
PICTURE = SheetPicture("thing", PictureFile(b"\xff\xd8\xff thing"), 100, 80, edges=EDGES)
MARKED = bringing.bring_picture(Document(), PICTURE)


def test_taking_a_mark_away_keeps_what_is_known_of_the_others():
    known = marking.say_known(MARKED, "ratio", [1, 2], 2.0)
    known = marking.say_known(known, "length", [0], 620.0)
    left = marking.take_away(known, [Mark(EDGE, 0)]).photograph
    assert left.edges == EDGES[1:] and left.known == (Known("ratio", (0, 1), 2.0),)
    for number, count in ((1, 1), (3, 2)):
        other = marking.take_away(known, [Mark(EDGE, number)]).photograph
        assert len(other.known) == count
        for one in other.known:
            assert {other.edges[i].family for i in one.edges} <= {"width", "depth", "height"}


def test_what_is_said_again_replaces_what_was_said():
    said = marking.say_known(MARKED, "ratio", [1, 2], 2.0)
    said = marking.say_known(said, "square", [2, 1])
    assert said.photograph.known == (Known("square", (2, 1)),)
    said = marking.say_known(marking.say_known(said, "length", [0], 5.0), "length", [1], 7.0)
    assert [k.value for k in said.photograph.known] == [None, 7.0], "one length tells the size"
    with pytest.raises(MarksError, match="above 0"):
        marking.say_known(said, "length", [0], -3.0)
    assert marking.forget_known(said, 0).photograph.known == (Known("length", (1,), 7.0),)


def test_lines_found_anew_leave_alone_what_a_hand_has_touched():
    found = [Edge((1, 1), (9, 9), "width", found=True) for _unused in range(3)]
    document = bringing.put_lines(MARKED, found, 0.1, 0.01, 7)
    named = marking.name_mark(document, Mark(EDGE, 4), "sill")
    moved = marking.move_end(named, Mark(EDGE, 5), 1, (8.0, 9.5))
    again = bringing.put_lines(moved, [Edge((2, 2), (7, 7), "depth", found=True)], 0.0, 0.0, 0)
    edges = again.photograph.edges
    assert edges[:4] == EDGES and [e.name for e in edges] == ["", "", "", "", "sill", "", ""]
    assert edges[5].end == (8.0, 9.5) and not edges[5].found and edges[6].start == (2, 2)
    assert (again.photograph.bend, again.photograph.long_lines) == (0.0, 0)


def test_every_kind_of_mark_is_named_weighed_left_moved_and_taken_away():
    document = marking.add_round(MARKED, [(10.0, 10.0)] * 6, "height")
    document = marking.add_row(document, [(1.0, 1.0), (2.0, 2.0), (4.0, 4.0)], "width")
    document = marking.add_spot(document, (50.0, 40.0))
    marks = [Mark(EDGE, 1), Mark(ROUND, 0), Mark(ROW, 0), Mark(SPOT, 0)]
    for mark in marks:
        named = marking.name_mark(document, mark, "sill")
        assert mark_of(named.photograph, mark).name == "sill"
        moved = marking.move_marks(document, [mark], 2.0, -1.0)
        for before, after in zip(
            marking.places_of(mark_of(document.photograph, mark)),
            marking.places_of(mark_of(moved.photograph, mark)),
            strict=True,
        ):
            assert after == (before[0] + 2.0, before[1] - 1.0)
        gone = marking.take_away(document, [mark])
        every, left = (len(marking.every_mark(d.photograph)) for d in (document, gone))
        assert left == every - 1
    less = marking.weigh_less(document, marks, True).photograph
    assert less.edges[1].weight == less.rounds[0].weight == marking.LESS
    out = marking.take_or_leave(document, marks[:2]).photograph
    assert out.edges[1].left and out.rounds[0].left and not out.edges[0].left
    pair = marking.mirror_pair(document, 0, 3, "depth").photograph.edges[-2:]
    assert [e.family for e in pair] == ["depth", "depth"] and pair[0].start == EDGES[0].start


def test_a_picture_is_held_once_however_many_steps_know_it():
    content = b"\xff\xd8\xff" + os.urandom(12_000_000)
    document = bringing.bring_picture(Document(), replace(PICTURE, file=PictureFile(content)))
    history = History(Document())
    history.take("pin", document)
    for step in range(60):
        document = marking.add_spot(document, (float(step), 1.0))
        history.take("mark", document)
    assert history.lost == 0 and own_bytes(document, history.document) < 20_000
    for _step in range(60):
        history.undo()
    assert (
        history.document.photograph.file.content is content
        and not history.document.photograph.spots
    )


def test_too_many_and_too_large_pictures_are_refused():
    document = MARKED
    for _number in range(MOST_PICTURES - 1):
        document = bringing.bring_picture(document, PICTURE)
    with pytest.raises(ChoiceError, match="carries 6 pictures"):
        bringing.bring_picture(document, PICTURE)
    for _number in range(MOST_PICTURES):
        document = bringing.take_picture_away(document)
    with pytest.raises(ChoiceError, match="No picture"):
        bringing.take_picture_away(document)
    with pytest.raises(ChoiceError, match="make it smaller"):
        PictureFile(b" " * (MOST_BYTES + 1))
    with pytest.raises(ChoiceError, match="lay one over it"):
        bringing.set_strength(MARKED, 0.3)
