"""Work that was not saved is found again, however the program ended; files others change are not
overwritten unasked."""

import signal
import subprocess
import sys
import time

import pytest

from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.files.formats import DRAWING, ORDER, SHEET
from isometron.files.journal import Journal, LeftBehind, Stamp, read_head
from isometron.files.sheet_file import read_sheet, sample_sheet, write_sheet
from isometron.perspective.errors import FileError
from isometron.ui.bench.asking import Conflict, with_ending
from isometron.ui.bench.found import FoundDialog

PERSON = """
import sys
from PyQt6.QtCore import QTimer
from isometron.document.edits import choosing
from isometron.ui.bench import app

made = app.fill

def fill(*given):
    bench = made(*given)
    def work(number=1):
        bench.session.edit("name it", lambda d: choosing.rename_volume(d, f"Case {number}"))
        print(number, flush=True)
        if number < int(sys.argv[1]):
            QTimer.singleShot(30, lambda: work(number + 1))
    QTimer.singleShot(0, work)
    return bench

app.fill = fill
raise SystemExit(app.run_bench(app.Sheet(sys.argv[2] or None, sample=not sys.argv[2])))
"""


def end_by(number, *, steps=1, wait=0.0, file=""):
    """What a person's program had done when a signal ended it, and its exit code."""
    person = subprocess.Popen(
        [sys.executable, "-c", PERSON, str(steps), str(file)], stdout=subprocess.PIPE, text=True
    )
    done = [person.stdout.readline() for _step in range(steps)]
    time.sleep(wait)
    person.send_signal(number)
    person.communicate(timeout=30)
    return f"Case {done[-1].strip()}", person.returncode


def found_names():
    behind = LeftBehind()
    names = [one.document.volumes[0].name for one in behind.found]
    behind.let_go()
    return names


@pytest.mark.sample(1)
@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP, signal.SIGINT])
def test_a_signal_ends_the_program_with_every_step_in_the_journal(number):
    name, code = end_by(number, steps=3)
    assert code == 128 + number
    assert found_names() == [name]


def test_after_a_kill_every_step_older_than_two_seconds_is_found(tmp_path, many):
    file = tmp_path / "case.isometron"
    write_sheet(sample_sheet(), file)
    names = [end_by(signal.SIGKILL, wait=2.0, file=file)[0] for _time in range(many(1, 20))]
    behind = LeftBehind()
    assert [one.document.volumes[0].name for one in behind.found] == names
    assert {(one.path, one.name) for one in behind.found} == {(file, "case")}
    assert LeftBehind().found == [], "no other window offers them meanwhile"
    behind.let_go()
    assert read_sheet(file) == sample_sheet()


def left_behind(document, name="Summit store", path=None):
    stamp = None if path is None else Stamp.at(path)
    journal = Journal()
    journal.write(document, name, path, stamp)
    journal.let_go()
    return journal.path


def test_what_is_found_is_offered_beside_its_file_and_neither_is_lost(desk, tmp_path):
    file = tmp_path / "case.isometron"
    write_sheet(sample_sheet(), file)
    newer = choosing.rename_volume(sample_sheet(), "Newer case")
    store = choosing.rename_volume(sample_sheet("supply crawler"), "Store")
    mine, other = left_behind(newer, "case", file), left_behind(store)
    torn = other.with_name("torn.journal")
    torn.write_bytes(other.read_bytes()[:-200])
    at = desk(read_sheet(file), file)
    at.bench.session.stamp = Stamp.at(file)
    at.bench.keep_journal()
    at.settle()
    strip = at.bench.found_strip
    for words in ("newer work on “case”", "“Summit store” was not saved", "set aside"):
        assert words in strip.words.text()
    assert torn.with_suffix(".damaged").exists()
    assert strip.isVisible() and at.document == sample_sheet()
    finding = at.bench.finding
    dialog = FoundDialog(at.bench, finding)
    dialog.show()
    dialog.grab()
    one = next(one for one in finding.behind.found if one.path == file)
    assert finding.open(one)
    assert at.document == newer and at.bench.session.unsaved and at.bench.session.path == file
    assert not mine.exists() and len(list(mine.parent.glob("*.journal"))) == 2
    at.answers.throws_away = False
    assert not finding.throw_away(finding.behind.found[0]) and other.exists()
    at.answers.throws_away = True
    assert finding.throw_away(finding.behind.found[0]) and not other.exists()
    finding.show()
    assert at.bench.keeping.save() and read_sheet(file) == newer
    at.bench.journalling.write_now()
    assert list(mine.parent.glob("*.journal")) == [], "what is saved is not found again"
    at.run("Make it a cube")
    at.bench.journalling.write_now()
    at.answers.unsaved = at.answers.unsaved.DISCARD
    assert at.bench.close() and list(mine.parent.iterdir()) == [torn.with_suffix(".damaged")]
    dialog.reject()
    dialog.deleteLater()


def test_where_nothing_can_be_kept_it_is_said_once_and_work_goes_on(desk, tmp_path):
    at = desk()
    (tmp_path / "no folder").write_text("")
    journalling = at.bench.keep_journal(tmp_path / "no folder" / "journal")
    said = []
    journalling.failed.connect(said.append)
    for name in ("One", "Two", "Three"):
        at.bench.session.edit("name it", lambda d, name=name: choosing.rename_volume(d, name))
        assert not journalling.write_now()
    assert len(said) == 1 and "save often" in said[0]
    assert not journalling.write_now(), "what could not be kept is not taken for kept"
    (tmp_path / "no folder").unlink()
    assert journalling.write_now()
    (kept,) = (tmp_path / "no folder" / "journal").glob("*.journal")
    assert read_head(kept).document == at.document


def opened(desk, tmp_path):
    file = tmp_path / "case.isometron"
    write_sheet(sample_sheet(), file)
    at = desk()
    at.bench.keeping.open_path(file)
    at.bench.session.edit("name it", lambda d: choosing.rename_volume(d, "Mine"))
    return at, file


@pytest.mark.parametrize("answer", list(Conflict))
def test_a_file_that_others_changed_is_not_overwritten_unasked(desk, tmp_path, answer):
    at, file = opened(desk, tmp_path)
    mine, theirs = at.document, choosing.rename_volume(sample_sheet(), "Theirs")
    write_sheet(theirs, file)
    at.bench.keeping.look_at_file()
    assert "changed on the disk" in at.bench.state.text() or not at.bench.settled
    at.answers.conflict = answer
    saved = at.bench.keeping.save()
    assert at.answers.told == ["“Mine” changed"]
    beside = tmp_path / "case 2.isometron"
    here = {Conflict.OVERWRITE: mine}.get(answer, theirs)
    assert read_sheet(file) == here and saved == (answer in (Conflict.OVERWRITE, Conflict.BESIDE))
    if answer in (Conflict.BESIDE, Conflict.THEIRS):
        assert read_sheet(beside) == mine
    else:
        assert not beside.exists()
    assert at.document == (theirs if answer is Conflict.THEIRS else mine)


def test_the_second_of_two_windows_on_one_file_is_asked_before_it_saves(desk, tmp_path):
    one, file = opened(desk, tmp_path)
    other = desk()
    other.bench.keeping.open_path(file)
    other.run("Make it a cube")
    assert one.bench.keeping.save() and not one.answers.told
    assert not other.bench.keeping.save() and len(other.answers.told) == 1
    assert read_sheet(file) == one.document and other.bench.session.unsaved
    other.answers.conflict = Conflict.BESIDE
    assert other.bench.keeping.save() and read_sheet(file) == one.document
    assert read_sheet(tmp_path / "case 2.isometron") == other.document


def test_a_sheet_whose_file_is_gone_is_not_called_saved(desk, tmp_path):
    at, file = opened(desk, tmp_path)
    assert at.bench.keeping.save() and not at.bench.session.unsaved
    file.unlink()
    at.bench.keeping.look_at_file()
    at.settle()
    assert at.bench.session.unsaved and "gone" in at.bench.state.text()
    assert at.bench.keeping.save() and not at.bench.session.unsaved and file.exists()


def test_a_file_that_cannot_be_opened_leaves_the_open_sheet_its_path_and_its_steps(
    desk, tmp_path, monkeypatch
):
    at, file = opened(desk, tmp_path)
    mine = at.document
    bad = tmp_path / "bad.isometron"
    write_sheet(Document(), bad)

    def fails(*_given):
        raise FileError("This cannot be drawn.")

    at.answers.unsaved = at.answers.unsaved.DISCARD
    monkeypatch.setattr("isometron.ui.bench.keeping.scene_of", fails)
    at.bench.keeping.open_path(bad)
    monkeypatch.undo()
    session = at.bench.session
    assert (session.document, session.path, session.undo_name) == (mine, file, "name it")


@pytest.mark.parametrize(
    ("name", "table", "whole"),
    [("Chair v1.2", [SHEET], "Chair v1.2.isometron"), ("case.isometron", [SHEET], "case.isometron"),
     ("case", [SHEET], "case.isometron"), ("case.svg", DRAWING.formats, "case.svg"),
     ("case.1", ORDER.formats, f"case.1{ORDER.formats[0].ending}"),
     ("CASE.PDF", DRAWING.formats, "CASE.PDF"), (".", [SHEET], "..isometron")],
)  # fmt: skip
def test_a_name_is_given_the_ending_it_lacks(name, table, whole, tmp_path):
    from pathlib import Path

    if name != ".":
        assert with_ending(tmp_path / name, table, table[0]) == tmp_path / whole
    else:
        assert with_ending(Path("/a/b."), table, table[0]).name == "b..isometron"
