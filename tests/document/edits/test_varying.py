"""Variants: nothing of one leaks into another; differences are those of a plain comparison."""

import random
from dataclasses import replace

import numpy as np
import pypdf
import pytest

from isometron.document.document import Document
from isometron.document.edits import choosing, varying, volume_edits
from isometron.document.edits.starters import SEAT, STARTERS, VEHICLE, with_starter
from isometron.document.edits.starters.again import begin_again, open_again
from isometron.document.errors import ChoiceError
from isometron.document.variants import FIELDS
from isometron.drawing.layers import BENEATH, Given
from isometron.drawing.scene import scene_of
from isometron.files.report import report_of
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.files.variants_page import variants_page, variants_pdf
from isometron.framework.intentions.intention import TRUE_MM
from isometron.pages.page import Lines, Words
from isometron.perspective.errors import IsometronError, VolumeError
from tests.document.edits.test_meaning import any_edit


def begun(starter=VEHICLE):
    return with_starter(Document(), starter, starter.proposal)


def answered(document, what, value):
    starter = next(one for one in STARTERS if one.name == document.begun[0].starter)
    opened = open_again(document, document.begun[0], starter)
    return begin_again(document, opened.begun, starter, {**opened.answers, what: value})


def framework(document):
    return tuple(getattr(document, name) for name in FIELDS)


def test_a_variant_begins_as_the_one_in_hand_and_each_keeps_its_own():
    a = begun()
    b = varying.new_variant(a)
    assert [one.name for one in b.variants] == ["A", "B"] and b.variant == 1
    assert framework(a) == framework(b)
    longer = answered(b, "wheelbase", 3.6)
    back = varying.next_variant(longer)
    assert framework(back) == framework(a) and back.eye == longer.eye
    assert framework(varying.take_variant(back, 1)) == framework(longer)
    third = varying.new_variant(back)
    assert [one.name for one in third.variants] == ["A", "B", "C"] and third.variant == 2
    one = varying.drop_variant(varying.drop_variant(third))
    assert one.variants == () and framework(one) == framework(a)
    named = varying.rename_variant(longer, "Long")
    assert named.variants[1].name == "Long"
    with pytest.raises(ChoiceError, match="one name"):
        varying.rename_variant(longer, "A")
    for alone in (varying.next_variant, varying.drop_variant):
        with pytest.raises(VolumeError, match="make a variant"):
            alone(a)


def test_whatever_is_edited_in_one_the_others_stay_and_all_come_back_from_the_file(many):
    chance = random.Random(99)
    for number in range(many(4, 84)):
        document = varying.new_variant(varying.new_variant(begun(STARTERS[number % len(STARTERS)])))
        known = {at: framework(varying.take_variant(document, at)) for at in range(3)}
        for _step in range(6):
            at = chance.randrange(3)
            document = varying.take_variant(document, at)
            try:
                if document.volumes:
                    document = any_edit(document, chance)
            except IsometronError:
                continue
            known[at] = framework(document)
            for other in range(3):
                assert framework(varying.take_variant(document, other)) == known[other]
        assert sheet_from_text(sheet_as_text(document).encode(), "it") == document


def test_a_part_is_taken_over_with_its_ties_or_refused_and_nothing_else_changes():
    document = answered(varying.new_variant(begun()), "height", 2.9)
    taller = next(v for v in document.volumes if v.name == "Cabin")
    first = varying.next_variant(document)
    offered = dict(varying.parts_elsewhere(first))
    done = varying.take_part(first, offered["Cabin of B"])
    cabin = next(v for v in done.volumes if v.name == "Cabin")
    assert cabin.height_mm == pytest.approx(taller.height_mm)
    same = [v for v in done.volumes if v.name != "Cabin"]
    assert same == [v for v in first.volumes if v.name != "Cabin"]
    assert all(one.miss_mm(done.parts) <= TRUE_MM for one in done.intentions)
    gone = choosing.remove_chosen(choosing.select(first, 3))
    back = varying.take_part(gone, dict(varying.parts_elsewhere(gone))["Rear wheel of B"])
    assert sorted(v.key for v in back.volumes) == sorted(
        {v.key for v in gone.volumes} | {first.volumes[3].key}
    )
    with pytest.raises(VolumeError, match="not there any more"):
        varying.take_part(first, 700)


def test_differences_are_those_of_a_plain_comparison():
    a = begun()
    b = answered(varying.new_variant(a), "wheelbase", 3.4)
    assert varying.differences(a, b) == ["wheelbase 3 w → 3.4 w"]
    assert varying.differences(a, a) == []
    seat = begun(SEAT)
    lower = answered(varying.new_variant(seat), "seat height", 400.0)
    assert varying.differences(seat, lower)[0] == "seat height 44 cm → 40 cm"
    plain = choosing.with_new(Document(), [replace(a.volumes[2], counts=(None,) * 3, on=None)])
    other = volume_edits.set_side(choosing.select(plain, 0), 0, 700.0)
    told = varying.differences(plain, other)
    assert "width 62 cm → 70 cm" in told[0]
    x, y, z = plain.volumes[0].place
    moved = volume_edits.move_volume(choosing.select(plain, 0), (x + 30, y - 40, z))
    assert varying.differences(plain, moved) == [f"{plain.volumes[0].name} moved by 5 cm"]
    assert varying.differences(plain, Document()) == [f"without {plain.volumes[0].name}"]


def test_the_others_lie_pale_beneath_as_they_are_seen_alone():
    document = varying.new_variant(begun())
    longer = varying.lay_beneath(answered(document, "wheelbase", 3.6), on=True)
    alone = scene_of(varying.take_variant(longer, 0))
    given = Given(longer, scene_of(longer), scene_of(longer).pictures, longer.sheet.paper)
    lines, _arcs = BENEATH.draws(given)
    wanted = np.concatenate([picture.seen_lines for picture in alone.pictures])
    assert np.array_equal(np.sort(lines, axis=0), np.sort(wanted, axis=0)) and len(lines)
    hidden = varying.lay_beneath(longer, on=False)
    assert not len(BENEATH.draws(given._replace(document=hidden))[0])


def test_side_by_side_each_is_drawn_at_one_scale_with_what_differs_and_the_report_tells_it(
    tmp_path,
):
    document = answered(varying.new_variant(begun()), "wheelbase", 3.6)
    page = variants_page(document)
    words = [[w.text for w in one.items if isinstance(w, Words)] for one in page.items]
    assert words == [["A"], ["B", "wheelbase 3 w → 3.6 w"]]
    sizes = []
    for number, layer in enumerate(page.items):
        ends = np.concatenate([i.ends for i in layer.items if isinstance(i, Lines)]).reshape(-1, 2)
        assert (ends > 0).all() and (ends < page.size_mm).all()
        pictures = scene_of(varying.take_variant(document, number)).pictures
        true = np.concatenate([lines for p in pictures for lines in (p.seen_lines, p.hidden_lines)])
        sizes.append(np.ptp(ends, axis=0) / np.ptp(true.reshape(-1, 2), axis=0))
    assert np.ravel(sizes) == pytest.approx([sizes[0][0]] * 4) and sizes[0][0] > 0.3
    (tmp_path / "it.pdf").write_bytes(variants_pdf(document))
    text = pypdf.PdfReader(tmp_path / "it.pdf").pages[0].extract_text()
    assert "wheelbase 3 w → 3.6 w" in text
    told = report_of(document)["variants"]
    assert [(one["name"], one["in_hand"]) for one in told] == [("A", False), ("B", True)]
    assert told[0]["differences"] == ["wheelbase 3.6 w → 3 w"]
    assert [one.name for one in variants_page(begun()).items] == ["as it is"]
