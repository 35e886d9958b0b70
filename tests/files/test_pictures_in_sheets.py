"""Pictures travel in sheet files and lie once beside the journal."""

import json
from dataclasses import replace

import pytest

from isometron.cli import main
from isometron.document.document import Document
from isometron.document.edits.pictures import bringing, marking
from isometron.document.marks import Edge, Known, Lens
from isometron.document.picture import Laid, PictureFile, SheetPicture, Spot
from isometron.files.journal import PICTURE, Journal, LeftBehind, read_head
from isometron.files.sheet_file import (
    pictures_as_text,
    pictures_from_text,
    sample_picture,
    sheet_as_text,
    sheet_from_text,
    write_sheet,
)
from isometron.perspective.errors import FileError
from isometron.reading.of_picture import picture_in
from tests.published import checker

CONTENT = sample_picture("red lamp")
EDGES = (
    Edge((1.5, 2.0), (30.0, 44.0), "width", (0, 1), name="sill"),
    Edge((3.0, 2.0), (3.5, 90.0), "height", None, open_ends=True, weight=0.3, left=True),
    Edge((3.0, 8.0), (60.0, 1.0 / 3), "bonnet", found=True),
)
FULL = SheetPicture(
    "red lamp.jpg",
    PictureFile(CONTENT),
    1600,
    1131,
    smaller=1.25,
    cropped=True,
    lens=Lens(2000.0, 100.0),
    lens_used=False,
    bend=-0.07,
    long_lines=6,
    noise=0.4,
    edges=EDGES,
    spots=(Spot((7.0, 8.0), "knob"),),
    known=(Known("length", (0,), 620.0),),
    laid=Laid((800.0, 565.0), (210.0, 148.0), 0.26, -3.0, Document().eye, 0.3, sent=True),
)


def sheet():
    document = bringing.bring_picture(Document(), FULL)
    document = marking.add_round(document, [(float(i), float(i * i)) for i in range(7)], "height")
    return marking.add_row(document, [(0.0, 0.0), (1.0, 1.0), (3.0, 3.0)], "width")


def test_a_picture_and_its_marks_read_back_to_the_same(tmp_path):
    document = sheet()
    again = sheet_from_text(sheet_as_text(document).encode(), "a sheet")
    assert again == document and again.photograph.file.content == CONTENT
    assert pictures_from_text(pictures_as_text(document.pictures)) == list(document.pictures)
    assert pictures_from_text("a word") == pictures_from_text('{"isometron pictures": 4}') == []


def mutated(change):
    content = json.loads(sheet_as_text(sheet()))
    change(content["pictures"][0])
    return json.dumps(content).encode()


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda p: p.update(base64="AAAA"), "neither PNG nor JPEG"),
        (lambda p: p.update(base64="%%%%"), "damaged"),
        (lambda p: p.update(base64="sha256:" + "0" * 64), "damaged"),
        (lambda p: p.pop("base64"), "lacks base64"),
        (lambda p: p.update(width=0), "at least 1"),
        (lambda p: p["edges"][0].update(to=p["edges"][0]["from"]), "no length"),
        (lambda p: p["edges"][0].update(corners=[0, 7]), "no ends"),
        (lambda p: p["known"][0].update(edges=[99]), "not marked"),
        (lambda p: p["laid"].update(mm_per_px=0), "at least"),
        (lambda p: p["rows"][0].update(points=[[0, 0]] * 3), "all apart"),
    ],
)
def test_a_damaged_picture_is_refused_with_one_sentence(change, words):
    with pytest.raises(FileError, match=words) as refused:
        sheet_from_text(mutated(change), "a sheet")
    assert "\n" not in str(refused.value)


def test_the_journal_keeps_a_picture_once_and_finds_it_again(tmp_path):
    journal, document = Journal(tmp_path), sheet()
    journal.write(document, "lamp", None)
    (kept,) = tmp_path.glob(f"*{PICTURE}")
    written = kept.stat().st_mtime_ns
    for step in range(3):
        document = marking.add_spot(document, (float(step), 5.0))
        journal.write(document, "lamp", None)
    assert kept.stat().st_mtime_ns == written and journal.path.stat().st_size < 20_000
    assert read_head(journal.path).document == document
    journal.let_go()
    behind = LeftBehind(tmp_path)
    assert behind.found[0].document == document
    behind.drop(behind.found[0])
    assert not list(tmp_path.glob(f"*{PICTURE}"))


@pytest.mark.parametrize("content", [b"", b"\xff\xd8\xff another", None])
def test_a_journal_whose_picture_is_gone_or_another_says_so_when_it_is_read(tmp_path, content):
    journal = Journal(tmp_path)
    journal.write(sheet(), "lamp", None)
    journal.let_go()
    (kept,) = tmp_path.glob(f"*{PICTURE}")
    if content is None:
        kept.unlink()
    else:
        kept.write_bytes(content)
    behind = LeftBehind(tmp_path)
    (found,) = behind.found
    with pytest.raises(FileError, match=r"picture|no file"):
        found.document  # noqa: B018


def test_a_clean_leave_leaves_no_picture_and_orphans_are_swept(tmp_path):
    journal = Journal(tmp_path)
    journal.write(replace(sheet(), volumes=()), "lamp", None)
    (tmp_path / f"feed.{'0' * 64}{PICTURE}").write_bytes(b"left")
    LeftBehind(tmp_path)
    assert len(list(tmp_path.glob(f"*{PICTURE}"))) == 1, "only the one in use stays"
    journal.leave()
    assert not list(tmp_path.iterdir())


def test_readings_of_the_pictures_of_a_sheet_are_printed_by_the_schema(tmp_path, capsys):
    picture = picture_in(sample_picture("supply crawler"), "crawler.jpg")
    document = bringing.bring_picture(bringing.bring_picture(Document(), picture), picture)
    write_sheet(document, tmp_path / "crawler.isometron")
    assert main(["read", str(tmp_path / "crawler.isometron")]) == 0
    told = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [one["picture"] for one in told] == ["crawler.jpg"] * 2
    checker("reading")(told[0])
    assert told[0]["view"]["tilt_deg"]["value"] == pytest.approx(-14.44, abs=0.05)
    write_sheet(Document(), tmp_path / "bare.isometron")
    assert main(["read", str(tmp_path / "bare.isometron")]) == 2
    assert "No picture lies with" in capsys.readouterr().err
