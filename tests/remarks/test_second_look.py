"""The second look that is kept from move to move says what a fresh one says."""

import random

import pytest

from isometron.document.edits import choosing, eye_edits, sheet_edits, volume_edits
from isometron.drawing.scene import scene_of
from isometron.files.report import report_of
from isometron.files.sheet_file import SAMPLES, sample_sheet
from isometron.perspective.errors import IsometronError
from isometron.remarks import remark
from isometron.remarks.remark import Remark, Severity, rule, rules
from isometron.remarks.second_look import (
    SecondLook,
    gathered,
    remark_key,
    second_look,
    set_aside,
)
from tests.scenes import case, sheet

EDITS = (
    lambda d, r: choosing.select(d, r.randrange(len(d.volumes))),
    lambda d, r: volume_edits.set_side(d, r.randrange(3), r.uniform(40, 900)),
    lambda d, r: volume_edits.turn_volume(d, r.uniform(0, 360)),
    lambda d, r: eye_edits.set_eye_height(d, r.uniform(200, 3000)),
    lambda d, r: sheet_edits.set_cone(d, r.uniform(30, 70)),
    lambda d, r: sheet_edits.set_unit(d, r.choice(["mm", "cm", "in"])),
    lambda d, r: choosing.rename_volume(d, f"Crate {r.randrange(99)}"),
    lambda d, r: choosing.group_chosen(d),
)


def told(remarks):
    return [(r.rule, r.title, r.text, r.value, r.sheet_mm, r.volume) for r in remarks]


@pytest.mark.sample(4)
@pytest.mark.parametrize("name", SAMPLES)
def test_what_is_kept_of_a_look_is_what_a_fresh_look_says(name, many):
    rng, document = random.Random(name), sample_sheet(name)
    look, scene = SecondLook(), None
    for _move in range(many(3, 60)):
        try:
            document = rng.choice(EDITS)(document, rng)
        except IsometronError:
            continue
        scene = scene_of(document, scene)
        steps = look.steps(document, scene)
        if rng.random() < 0.3:
            next(steps, None)  # the hand moves on before it comes to its end
            continue
        while look.work(steps, 0.0):
            pass
        assert told(look.remarks) == told(second_look(document, scene_of(document)))


def test_a_rule_is_one_function_and_all_who_read_the_look_hear_it(monkeypatch):
    """A throw-away rule, by its own name: second look, report, what is set aside."""

    def too_long_a_name(look):
        return [
            Remark(Severity.NOTE, "A long name", "Shorten it.", 1.0, "mm", (0.0, 0.0), i, 1.0)
            for i, picture in look.volumes()
            if len(picture.volume.name) > 9
        ]

    assert "off_the_sheet" in rules()
    monkeypatch.setattr(remark, "RULES", dict(remark.RULES))
    rule(too_long_a_name)
    document = sheet(case(name="Eyepiece case"), case(name="Tin", x_mm=900.0, key=1))
    (said,) = [
        r
        for r in second_look(document, scene_of(document))
        if r.volume is not None and r.rule == "too_long_a_name"
    ]
    assert said.title == "A long name"
    told = [one["rule"] for one in report_of(document)["remarks"]]
    assert told.count("too_long_a_name") == 1
    quiet = set_aside(document, remark_key(document, said))
    assert "too_long_a_name" not in [r.rule for r in second_look(quiet, scene_of(quiet))]


def test_what_one_rule_says_of_several_is_one_remark_set_aside_with_one_press():
    document = sheet(*(case(name=f"Post {n}", key=n, x_mm=900.0 * n) for n in range(6)))
    every = second_look(document, scene_of(document))
    told, keys = gathered(document, every)
    rules = [remark.rule for remark in told]
    assert len(set(rules)) == len(rules) < len(every)
    assert [one.title for one in told] == [
        next(one.title for one in every if one.rule == rule) for rule in rules
    ]
    quiet = document
    for key in keys:
        quiet = set_aside(quiet, key)
    assert second_look(quiet, scene_of(quiet)) == [] and len(quiet.aside) == len(every)
    assert gathered(document, []) == ([], [])
