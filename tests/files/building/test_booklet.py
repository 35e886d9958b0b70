"""Build orders out: text, booklet, layers, JSON, and the command line."""

import io
import json
import re
import zipfile
from dataclasses import replace
from typing import get_args
from xml.etree import ElementTree as ET

import fastjsonschema
import numpy as np
import pytest
from pypdf import PdfReader

from isometron.cli import main
from isometron.construction import moves as all_moves
from isometron.construction.machine import Machine, exact_measures
from isometron.construction.stages import Stages
from isometron.construction.strokes import LAID, NEW, RUB
from isometron.construction.telling import Teller
from isometron.document.building import METHODS, Building
from isometron.document.document import Document
from isometron.document.edits import building_edits
from isometron.document.edits.sheet_edits import set_unit
from isometron.files.building.booklet import booklet_of
from isometron.files.building.order_words import built
from isometron.files.building.orders import json_of, ora_stages, svg_stages, text_of
from isometron.files.building.step_sheet import pictured, step_sheet_of
from isometron.files.formats import ORDER, Asked
from isometron.files.sheet_file import (
    SAMPLES,
    read_sheet,
    sample_sheet,
    sheet_as_text,
    sheet_from_text,
    write_sheet,
)
from isometron.perspective.errors import FileError, StoppedError
from isometron.perspective.lengths import read_length, write_length
from isometron.perspective.watching import watched
from isometron.render.stage import stage_png
from tests.published import checker
from tests.scenes import case, crossed, sheet, some

KINDS = {kind.__name__.lower(): kind for kind in get_args(all_moves.Move)}


def one():
    return sheet(case(), case(name="Tin", x_mm=300.0, yaw_deg=-15.0))


def test_the_text_tells_every_step_with_its_moves_and_ticks():
    document = one()
    first = built(document).steps[0].key
    text = text_of(building_edits.tick(document, first, True)).decode()
    order = built(document)
    for number, step in enumerate(order.steps, start=1):
        assert f"{number}. {step.text}" in text
    assert text.count("[x]") == 1 and text.count("[ ]") == len(order.steps) - 1
    assert "not engineering" in text
    hidden = text_of(building_edits.hide_step(document, order.steps[4].key, True)).decode()
    assert order.steps[4].text not in hidden and f"6. {order.steps[5].text}" in hidden


@pytest.mark.sample(3)
@pytest.mark.parametrize(("name", "method"), crossed(SAMPLES, METHODS))
def test_the_json_is_what_the_published_schema_says(name, method):
    told = json.loads(json_of(building_edits.build_by(sample_sheet(name), method, True)))
    checker("order")(told)
    moves = next(s["moves"] for s in told["chapters"][0]["steps"] if s["moves"])
    for wrong in ({"name": "x"}, {**moves[0], "move": "guess"}, {**moves[0], "besides": 1}):
        moves[0] = wrong
        with pytest.raises(fastjsonschema.JsonSchemaValueException):
            checker("order")(told)


def test_the_json_can_be_executed_by_anybody():
    told = json.loads(json_of(one()))
    machine = Machine(1, exact_measures)
    for chapter in told["chapters"]:
        for step in chapter["steps"]:
            for move in step["moves"]:
                made = KINDS[move.pop("move")]
                machine.make(
                    made(**{k: tuple(v) if isinstance(v, list) else v for k, v in move.items()})
                )
    for name, point in told["points"].items():
        assert machine.drawn.place(name) == pytest.approx(point["sheet_mm"], abs=1e-9)
        assert point["within_mm"] >= 0


def words_in(booklet):
    """All words of a booklet's pages, with single spaces."""
    pages = PdfReader(io.BytesIO(booklet)).pages
    return " ".join(" ".join(page.extract_text() for page in pages).split())


@pytest.mark.parametrize("name", some(("", "observing chair", "supply crawler"), 1))
def test_the_booklet_tells_every_step_and_ends_with_the_sheet_at_true_size(name):
    document = sample_sheet(name) if name else one()
    order = built(document)
    booklet = booklet_of(document)
    reader, words = PdfReader(io.BytesIO(booklet)), words_in(booklet)
    assert len(reader.pages) <= 2 + 0.6 * len(order.steps)
    width, height = (float(v) for v in reader.pages[-1].mediabox[2:])
    assert (width * 25.4 / 72, height * 25.4 / 72) == pytest.approx((420.0, 297.0), abs=1e-3)
    teller, at = Teller(order, document.choices.unit), 0
    for step in order.steps:
        for sentence in (step.text, *teller.step(step)):
            at = words.index(" ".join(sentence.split()), at)
    short = PdfReader(io.BytesIO(booklet_of(document, per_chapter=True)))
    assert len(short.pages) < len(reader.pages)
    last = order.steps[8]
    hidden = words_in(booklet_of(building_edits.hide_step(document, last.key, True)))
    assert f"9. {last.text[:20]}" in words and f"9. {last.text[:20]}" not in hidden


def test_the_booklet_takes_the_paper_of_the_unit():
    for unit, size in (("cm", (595.3, 841.9)), ("in", (612.0, 792.0))):
        document = replace(one(), choices=replace(one().choices, unit=unit))
        page = PdfReader(io.BytesIO(booklet_of(document))).pages[0]
        assert [float(v) for v in page.mediabox[2:]] == pytest.approx(size, abs=0.1)


def test_svg_layers_follow_the_steps_and_lie_on_the_moves():
    document = one()
    root = ET.fromstring(svg_stages(document))
    layers = root.findall("{http://www.w3.org/2000/svg}g")
    order = built(document)
    assert len(layers) == len(order.steps)
    stages = Stages(order, document.sheet)
    drawn = sum(len(layer) - 1 for layer in layers)  # besides its title
    new = sum(
        s.age == NEW
        for i in range(len(order.steps))
        for s in stages.after(i, (0, 0, 420, 297)).strokes
    )
    assert drawn == new + len(order.finished) > 40


def test_painting_layers_are_an_open_raster_of_the_sheet(qapp):
    document = one()
    archive = zipfile.ZipFile(io.BytesIO(ora_stages(document, stage_png)))
    assert archive.read("mimetype") == b"image/openraster"
    stack = ET.fromstring(archive.read("stack.xml"))
    names = [layer.get("name") for layer in stack.iter("layer")]
    assert names == [c.title for c in reversed(built(document).chapters)]
    for layer in stack.iter("layer"):
        assert archive.read(layer.get("src")).startswith(b"\x89PNG")


def test_a_stage_shows_new_lines_rubs_out_what_it_says_and_forgets_it():
    document = one()
    order = built(document)
    stages = Stages(order, document.sheet)
    paper = (0.0, 0.0, 420.0, 297.0)
    for number in range(len(order.steps)):
        stage = stages.after(number, paper)
        for stroke in stage.strokes:
            own = any(move.name == stroke.name for move in order.steps[number].moves)
            assert (stroke.age in (NEW, LAID)) == own, stroke.name
            assert np.isfinite(stroke.points).all()
    rub = next(i for i, step in enumerate(order.steps) if step.rubs)
    before, now, then = (stages.after(i, paper) for i in (rub - 1, rub, rub + 1))
    assert not any(s.age == RUB for s in before.strokes) and any(s.age == RUB for s in now.strokes)
    gone = {s.name for s in now.strokes if s.age == RUB}
    assert gone == set(order.steps[rub].rubs) & {s.name for s in now.strokes}
    assert not gone & {s.name for s in then.strokes}


def test_ticks_hidden_steps_and_method_are_kept_in_the_file():
    document = replace(
        one(),
        building=Building(
            "diagonal point",
            False,
            frozenset({"sheet.format"}),
            frozenset({"v0.check"}),
            ("sheet", "points"),
        ),
    )
    assert sheet_from_text(sheet_as_text(document).encode(), "it") == document
    older = replace(
        document.building, done=frozenset({"v0.close-width-360", "v0.close-depth--1.5e+06"})
    )
    assert older.done == {"v0.close-width", "v0.close-depth"} <= {s.key for s in built(one()).steps}
    broken = sheet_as_text(document).replace("diagonal point", "guess")
    with pytest.raises(FileError, match="must be"):
        sheet_from_text(broken.encode(), "it")


def test_the_command_writes_every_kind_and_refuses_others(tmp_path, capsys, qapp):
    file = tmp_path / "case.isometron"
    write_sheet(one(), file)
    assert main(["steps", str(file), "--method", "plan-projection"]) == 0
    assert "plan projection" in capsys.readouterr().out
    for kind in ("txt", "pdf", "svg", "ora", "json"):
        out = tmp_path / f"steps.{kind}"
        assert (
            main(["steps", str(file), "-o", str(out), "--per-chapter"]) == 0
            and out.stat().st_size > 900
        )
    assert main(["steps", str(file), "-o", str(tmp_path / "steps.doc")]) == 2
    assert "what order" in capsys.readouterr().err and not (tmp_path / "steps.doc").exists()
    with pytest.raises(SystemExit) as left:
        main(["steps", str(file), "--method", "guessing"])
    assert left.value.code == 2 and read_sheet(file) == one()
    empty = tmp_path / "empty.isometron"
    write_sheet(Document(), empty)
    assert main(["steps", str(empty)]) == 2
    assert "nothing to build" in capsys.readouterr().err
    with pytest.raises(FileError):
        ORDER.write(one(), tmp_path / "no" / "x.txt", Asked())


def test_every_sample_gives_a_booklet():
    assert booklet_of(sample_sheet("red lamp"), per_chapter=True).startswith(b"%PDF")


@pytest.mark.parametrize(("unit", "step_mm"), [("in", 25.4 / 16), ("cm", 0.5), ("mm", 0.5)])
def test_every_measure_of_the_moves_can_be_read_off_that_ruler(unit, step_mm):
    document = set_unit(sample_sheet("observing chair"), unit)
    told = text_of(document).decode()
    assert f"Measured to {write_length(step_mm, unit)}" in told
    measures = []
    for line in (line.strip() for line in told.splitlines() if line.startswith("      ")):
        if not line.startswith("Ellipse"):
            measures += re.findall(rf"\d[\d ./]* {unit}\b", line)
    assert len(measures) > 60 and "-" not in "".join(measures)
    for measure in measures:
        steps = read_length(measure, unit) / step_mm
        assert steps == pytest.approx(round(steps), abs=1e-6), measure


@pytest.mark.sample(2)
@pytest.mark.parametrize("name", some(SAMPLES, 4))
def test_a_step_sheet_is_one_page_of_pictures_that_ends_finished(name, tmp_path):
    document = sample_sheet(name)
    stages = Stages(built(document), document.sheet)
    ends = pictured(stages)
    assert 6 <= len(ends) <= 8 and ends == sorted(set(ends)) and ends[-1] == len(stages.steps) - 1
    assert ends[-2] == stages.rubs_from - 1, "all that is drawn is shown before the end"
    (page,) = PdfReader(io.BytesIO(step_sheet_of(document))).pages
    text = page.extract_text()
    for number in range(1, len(ends) + 1):
        assert f"{number}. " in text
    assert "Sketching proportions" in text


def test_a_booklet_tells_how_far_it_is_and_can_be_stopped():
    class Person:
        """Stops the work when it is so far."""

        def __init__(self, stops_at):
            self.told, self.stops_at = [], stops_at

        def tell(self, share):
            self.told.append(share)
            if share > self.stops_at:
                raise StoppedError("Stopped.")

    patient, other = Person(2.0), Person(0.6)
    with watched(patient):
        booklet_of(one())
    assert patient.told == sorted(patient.told) and 0.9 < patient.told[-1] <= 1
    assert len(set(patient.told)) > 30
    with watched(other), pytest.raises(StoppedError):
        booklet_of(one())
    assert other.told[-2] <= 0.6 < other.told[-1]


def test_chapters_called_alike_are_each_found_and_a_hidden_one_is_led_to_by_nothing():
    """Two legs have one title; their chapters are told apart, whatever of them is hidden."""
    leg = case(name="Leg", z_mm=0.0)
    both = sheet(leg, replace(leg, key=7, x_mm=700.0))
    titles = [chapter.title for chapter in built(both).chapters]
    last = [step.key for step in built(both).chapters[-2].steps]
    hidden = both
    for key in last:
        hidden = building_edits.hide_step(hidden, key, True)
    for document, missing in ((both, 0), (hidden, 1)):
        file = PdfReader(io.BytesIO(booklet_of(document)))
        assert len(file.outline) == len(titles) - missing
        assert len(file.pages[0]["/Annots"]) == len(titles) - missing
