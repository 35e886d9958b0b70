"""The program's own places: whatever lies there, the bench starts; what it makes is for the person
alone; what is long, hangs or is stopped leaves work and window whole."""

import errno
import json
import os
import signal
import stat
import subprocess
import sys
import threading
from pathlib import Path

import pytest

from isometron.document.edits import choosing
from isometron.files import disk
from isometron.files.formats import DRAWING, Asked
from isometron.files.journal import MOST_OFFERED, Journal, LeftBehind
from isometron.files.sheet_file import sample_sheet, write_sheet
from isometron.perspective.errors import FileError, StoppedError
from isometron.perspective.watching import last_tick
from isometron.practice.log import Log, LogError, log_place
from isometron.ui.bench import app
from isometron.ui.bench.ending import ENDING
from isometron.ui.bench.found import AT_ONCE, FoundDialog
from isometron.ui.bench.found_reading import FoundReading
from isometron.ui.bench.rescue import Rescue
from isometron.ui.bench.waiting import Waiting, patiently

JSONS = ("null", "true", "-1e400", "[[]]", "{}", '"word"', "[" * 20_000, "1" * 5000)


def _text(words):
    return lambda path: path.write_text(words)


def _link(to):
    return lambda path: path.symlink_to(to)


SPOILS = {
    "noise": lambda path: path.write_bytes(bytes(range(256)) * 40),
    "empty": _text(""),
    "folder": lambda path: path.mkdir(),
    "pipe": os.mkfifo,
    "endless": _link("/dev/zero"),
    "lost": _link("nowhere"),
    "loop": lambda path: path.symlink_to(path.name),
    **{f"json {words[:6]}": _text(words) for words in JSONS},
}
NAMES = (
    "state", "state/journal", "state/reports", "state/journal/one.journal",
    "state/journal/one.lock", f"state/journal/one.{'0' * 64}.picture",
    "state/journal/one.damaged", "data", "data/log.sqlite", "config", "config/isometron.ini",
)  # fmt: skip


@pytest.fixture
def places(tmp_path, monkeypatch):
    """Where state, data and settings of a person lie."""
    found = {}
    for name in ("state", "data", "config"):
        home = {"config": "XDG_CONFIG_HOME"}.get(name, f"XDG_{name.upper()}_HOME")
        monkeypatch.setenv(home, str(tmp_path / name))
        found[name] = tmp_path / name / "isometron"
    return found


def spoil(places, name, how):
    place = places[name.partition("/")[0]].joinpath(*name.split("/")[1:])
    place.parent.mkdir(parents=True, exist_ok=True)
    SPOILS[how](place)


def cases():
    for how in SPOILS:
        for name in NAMES:
            often = (how, name) in (("noise", "data/log.sqlite"), ("loop", "state"))
            yield pytest.param(how, name, marks=() if often else pytest.mark.full)


@pytest.mark.parametrize(("how", "name"), list(cases()))
def test_nothing_in_the_own_places_keeps_the_bench_from_starting(how, name, places, desk):
    spoil(places, name, how)
    starts(desk)


@pytest.mark.sample(4)
@pytest.mark.parametrize("how", SPOILS)
def test_all_of_the_own_places_spoilt_in_one_way_do_not_either(how, places, desk):
    for name in NAMES[3:7] + NAMES[8:9] + NAMES[10:]:
        spoil(places, name, how)
    starts(desk)


def starts(desk):
    """The bench as a person starts it: what was left is offered or set aside, work is kept or it is
    said that it cannot be, and the log is read or says why not."""
    at = desk()
    journalling, told = at.bench.keep_journal(), []
    journalling.failed.connect(told.append)
    app.settings_of_person().value("room")
    at.bench.session.edit("name it", lambda d: choosing.rename_volume(d, "Kept"))
    assert journalling.write_now() or told
    for opened in (lambda: at.bench.open_place("practice"), at.bench.open_log):
        opened()
        at.settle()
    try:
        Log().entries()
    except LogError as error:
        assert "\n" not in str(error)
    assert at.bench.keeping.recent() is not None and at.document.volumes[0].name == "Kept"
    at.bench.end()


def head(**changes):
    usual = {"isometron journal": 1, "name": "Store", "file": None, "stamp": None,
             "written": "2026-03-01T10:00:00"}  # fmt: skip
    return {name: value for name, value in {**usual, **changes}.items() if value != "gone"}


ODD = {
    "stamp": ([], [1e308 * 10, "x"], [-1, ""], "x", {"a": 1}, [10**400, "y"]),
    "written": ("2026-03-01T10:00:00+02:00", "0001-01-01T00:00:00+14:00", 5, "", None,
                "9999-12-31T23:59:59-12:00", "gone"),
    "file": ("zz", "00", 7, ["a"], "gone"),
    "name": ("", "x" * 9000, "<b>\n", None, 5, "gone"),
    "isometron journal": (0, -1, True, None, "1", 2, 10**30, 1.5),
}  # fmt: skip
HEADS = [head(**{name: odd}) for name, several in ODD.items() for odd in several]


def test_an_odd_head_of_a_journal_hides_no_other_journal(places):
    journal = Journal()
    journal.write(sample_sheet(), "Mine", None)
    journal.let_go()
    folder, sheet = journal.path.parent, journal.path.read_bytes().partition(b"\n")[2]
    for number, one in enumerate(HEADS):
        (folder / f"{number}.journal").write_bytes(json.dumps(one).encode() + b"\n" + sheet)
    behind = LeftBehind()
    offered = {one.journal.stem: one for one in behind.found}
    assert journal.path.stem in offered
    newer = [one for one in behind.found if one.newer]
    assert len(newer) == 2 and all(one.journal.exists() for one in newer)
    for one in newer:
        with pytest.raises(FileError, match="newer Isometron"):
            one.document  # noqa: B018
    for number, one in enumerate(HEADS):
        kept = folder / f"{number}.journal"
        assert (str(number) in offered) == kept.exists() != kept.with_suffix(".damaged").exists()
        if "stamp" in one and one["stamp"] is not None:
            assert offered[str(number)].stamp is None
    behind.let_go()
    assert {one.journal for one in LeftBehind().found} == {one.journal for one in behind.found}


def test_of_thousands_of_journals_some_are_offered_at_once_and_none_is_lost(places, desk, many):
    count = MOST_OFFERED + many(50, 2800)
    journal = Journal()
    journal.write(sample_sheet(), "Mine", None)
    journal.let_go()
    content = journal.path.read_bytes()
    for number in range(count - 1):
        journal.path.with_name(f"{number}.journal").write_bytes(content)
    at = desk()
    before = len(list(Path("/proc/self/fd").iterdir()))
    at.bench.keep_journal()
    behind = at.bench.finding.behind
    assert len(behind.found) == MOST_OFFERED and behind.waiting == count - MOST_OFFERED
    assert len(list(Path("/proc/self/fd").iterdir())) - before <= MOST_OFFERED + 20
    assert str(behind.waiting) in at.bench.found_strip.words.text()
    dialog = FoundDialog(at.bench, at.bench.finding)
    assert len(dialog.rows) == AT_ONCE
    dialog.more.click()
    assert len(dialog.rows) == 2 * AT_ONCE
    dialog.reject()
    behind.let_go()
    assert len(list(journal.path.parent.glob("*.journal"))) == count


def test_a_row_that_hangs_or_ends_is_said_in_its_own_row(places, qtbot, monkeypatch, tmp_path):
    for name in ("One", "Two"):
        journal = Journal()
        journal.write(sample_sheet(), name, None)
        journal.let_go()
    rows = LeftBehind().found
    hangs = tmp_path / "hangs"
    hangs.write_text(f"#!{sys.executable}\nimport time\ntime.sleep(600)\n")
    hangs.chmod(0o755)

    def told_within(limit_ms, wait_ms):
        told, reading = {}, FoundReading(None, limit_ms=limit_ms)
        reading.told.connect(lambda one, what: told.update({one.name: what}))
        for one in rows:
            reading.ask(one)
        qtbot.waitUntil(lambda: len(told) == 2, timeout=wait_ms)
        reading.stop()
        return told.values()

    with monkeypatch.context() as other:
        for program, words in ((str(hangs), "takes long"), ("/bin/false", "cannot be read")):
            other.setattr(sys, "executable", program)
            assert all(words in what["error"] for what in told_within(300, 20_000))
    assert all(what["found"] for what in told_within(60_000, 60_000))


# Rights


def test_every_own_file_is_for_the_person_alone_from_its_first_byte(places, desk, monkeypatch):
    before = os.umask(0o022)
    opened, plain = [], os.open

    def watched(path, flags, mode=0o777, **more):
        handle = plain(path, flags, mode, **more)
        if flags & os.O_CREAT and os.fstat(handle).st_size == 0:
            opened.append((str(path), stat.S_IMODE(os.fstat(handle).st_mode)))
        return handle

    monkeypatch.setattr(os, "open", watched)
    try:
        at = desk(sample_sheet("supply crawler"))
        at.bench.keep_journal()
        at.bench.keeping.bring_sample_picture("red lamp")
        at.bench.journalling.write_now()
        Log().allow(True)
        file = places["state"].parent / "kept.isometron"
        write_sheet(sample_sheet(), file)
        assert stat.S_IMODE(file.stat().st_mode) == 0o644
        file.chmod(0o600)
        opened.clear()
        at.answers.unsaved = at.answers.unsaved.DISCARD
        at.bench.keeping.open_path(file)
        at.bench.session.edit("name it", lambda d: choosing.rename_volume(d, "Kept"))
        assert at.bench.keeping.save()
        at.bench.keeping.finish()
        assert opened and all(mode & 0o077 == 0 for _path, mode in opened), opened
        assert stat.S_IMODE(file.stat().st_mode) == 0o600
        at.bench.session.edit("name it", lambda d: choosing.rename_volume(d, "Kept again"))
        at.bench.journalling.write_now()
        settings = app.settings_of_person()
        settings.setValue("room", "dark")
        settings.sync()
        Rescue(at.bench.session, at.bench.journalling)(*fails())
        found = [one for place in places.values() for one in (place, *place.rglob("*"))]
        assert len(found) >= 7 and log_place() in found
        for one in found:
            wanted = 0o700 if one.is_dir() else 0o600
            assert stat.S_IMODE(one.stat().st_mode) & ~wanted == 0, one
        at.bench.end()
    finally:
        os.umask(before)


def fails():
    try:
        raise ZeroDivisionError
    except ZeroDivisionError:
        return sys.exc_info()


def test_work_is_kept_where_no_name_is_short_enough_or_no_folder_takes_it(desk, tmp_path):
    longest = tmp_path / ("ä" * 121 + ".isometron")
    write_sheet(sample_sheet(), longest)
    other = disk.beside(longest)
    assert len(os.fsencode(other.name)) <= 255 and other.suffix == ".isometron"
    write_sheet(sample_sheet(), other)
    assert disk.beside(longest) not in (longest, other)
    at = desk()
    at.bench.keeping.open_path(longest)
    at.bench.session.edit("name it", lambda d: choosing.rename_volume(d, "Mine"))
    write_sheet(sample_sheet("red lamp"), longest)
    at.answers.conflict = type(at.answers.conflict).BESIDE
    assert at.bench.keeping.save() and at.bench.session.path != longest
    for path in (tmp_path / "case" / "deep.isometron", longest / "in.isometron"):
        at.bench.session.edit("name it", lambda d: choosing.rename_volume(d, "Again"))
        at.answers.saves = path
        at.answers.told.clear()
        assert not at.bench.keeping.save_as() and len(at.answers.told) == 1
        assert at.bench.session.unsaved and at.document.volumes[0].name == "Again"
        at.bench.session.edit("name it", lambda d: choosing.rename_volume(d, "Mine"))


@pytest.mark.parametrize("wrong", [errno.ENOSPC, errno.EROFS, errno.EDQUOT, errno.EIO])
def test_a_disk_that_takes_nothing_leaves_every_old_file_and_no_new_one(
    wrong, places, tmp_path, monkeypatch
):
    document, journal = sample_sheet(), Journal()
    file, drawn = tmp_path / "case.isometron", tmp_path / "case.svg"
    writers = {
        file: lambda: write_sheet(document, file),
        drawn: lambda: DRAWING.write(document, drawn, Asked()),
        journal.path: lambda: journal.write(document, "case", None),
    }
    for write in writers.values():
        write()
    old = {path: path.read_bytes() for path in writers}
    document = choosing.rename_volume(document, "Another")

    def full(_handle):
        raise OSError(wrong, os.strerror(wrong))

    monkeypatch.setattr(os, "fsync", full)
    for path, write in writers.items():
        with pytest.raises(FileError) as told:
            write()
        assert "\n" not in str(told.value)
        assert path.read_bytes() == old[path]
        assert not list(path.parent.glob(".isometron-*"))
    journal.let_go()


# Stop and signals


def test_work_that_never_ticks_is_given_up_and_does_not_come_to_its_end(qapp, monkeypatch):
    going, goes_on, came = threading.Event(), threading.Event(), []

    def work():
        going.set()
        goes_on.wait(30)
        last_tick()
        came.append("written")

    threading.Thread(target=lambda: (going.wait(), stop(qapp)), daemon=True).start()
    with pytest.raises(StoppedError, match="nothing has changed"):
        patiently(work, "Writing…")
    qapp.setProperty(ENDING, False)
    goes_on.set()
    for thread in threading.enumerate():
        if thread.daemon and thread.name.startswith("Thread-") and "_do" in thread.name:
            thread.join(10)
    assert came == []


def stop(app):
    app.setProperty(ENDING, True)


def test_once_work_comes_to_its_last_act_it_is_not_stopped(qapp):
    dialog = Waiting(None, "Writing…")
    dialog.finish()
    dialog.give_up()
    assert not dialog.stopped
    other = Waiting(None, "Writing…")
    other.give_up()
    for told in (other.finish, lambda: other.tell(0.5)):
        with pytest.raises(StoppedError):
            told()


PERSON = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from isometron.ui.bench import app, waiting

made, out = app.fill, Path(sys.argv[1])
waiting.SHOWN_AFTER_MS = 0

def fill(*given):
    bench = made(*given)
    def work():
        from isometron.files.formats import ORDER
        class Where:
            def where(self, *_given):
                return out
            def tell(self, *_given):
                pass
        bench.keeping.asking = Where()
        print("begun", flush=True)
        bench.keeping.send(ORDER, ORDER.errands[0])
        print("done", flush=True)
    QTimer.singleShot(0, work)
    return bench

app.fill = fill
raise SystemExit(app.run_bench(app.Sheet(sys.argv[2], sample=False)))
"""


@pytest.mark.parametrize(
    "number", [signal.SIGTERM, pytest.param(signal.SIGINT, marks=pytest.mark.full)]
)
def test_a_signal_ends_the_program_in_the_middle_of_long_work(number, tmp_path, places):
    from tests.scenes import crowd, sheet

    file, out = tmp_path / "crowd.isometron", tmp_path / "order.pdf"
    write_sheet(sheet(*crowd(150)), file)
    person = subprocess.Popen(
        [sys.executable, "-c", PERSON, str(out), str(file)], stdout=subprocess.PIPE, text=True
    )
    assert person.stdout.readline() == "begun\n"
    person.send_signal(number)
    rest, _none = person.communicate(timeout=20)
    assert person.returncode == 128 + number and not out.exists()
    assert not list(Path(tmp_path).glob(".isometron-*")), rest
