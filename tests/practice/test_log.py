"""The log: allowed once, killed in the middle, locked, damaged, newer, erased."""

import os
import signal
import sqlite3
import subprocess
import sys
import time

import pytest

from isometron.cli import main
from isometron.practice.drill import drill_of
from isometron.practice.log import Entry, Log, LogError, as_csv
from isometron.practice.series import Done, Person, entry_of, person_of


def note(words, at="2026-03-01T10:00:00"):
    return Entry(at, "note", words, {}, "idea")


def test_nothing_is_kept_before_it_is_allowed_and_everything_can_be_erased(tmp_path):
    log = Log(tmp_path / "deep" / "log.sqlite")
    assert log.allowed is None and log.entries() == [] and not log.place.exists()
    assert not log.add(note("before")) and not log.place.exists()
    log.allow(True)
    assert log.add(note("one")) and log.add(note("=SUM(A1)", "2026-04-01T10:00:00"))
    assert [one.about for one in log.entries()] == ["one", "=SUM(A1)"]
    assert [one.about for one in log.entries(since="2026-03-15")] == ["=SUM(A1)"]
    assert "\n2026-04-01T10:00:00,note,'=SUM(A1)" in as_csv(log.entries())
    log.allow(False)
    assert not log.add(note("no more")) and len(log.entries()) == 2
    log.erase()
    assert log.entries() == [] and log.allowed is None


def test_a_log_killed_while_it_writes_loses_the_entry_in_hand_at_most(tmp_path):
    place = tmp_path / "log.sqlite"
    Log(place).allow(True)
    code = (
        "import sys; from isometron.practice.log import *; log = Log(Path(sys.argv[1]))\n"
        "for n in range(100000):\n"
        "    log.add(Entry(now(), 'note', str(n), {}));  print(n, flush=True)\n"
    )
    last = -1
    for kill in range(3):
        child = subprocess.Popen(
            [sys.executable, "-c", code, str(place)],
            stdout=subprocess.PIPE,
            text=True,
            env=os.environ,
        )
        done = [int(child.stdout.readline()) for _n in range(3 + kill)][-1]
        time.sleep(0.003 * kill)
        child.send_signal(signal.SIGKILL)
        told = [int(line) for line in child.communicate()[0].split()] or [done]
        kept = [int(one.about) for one in Log(place).entries()][last + 1 :]
        assert max(kept) >= max(told) and kept == list(range(len(kept)))
        last += len(kept)


def test_a_damaged_locked_newer_or_impossible_log_is_said_and_work_goes_on(tmp_path):
    place = tmp_path / "log.sqlite"
    place.write_bytes(b"not a database at all, but long enough to look like one" * 100)
    log = Log(place)
    assert log.entries() == [] and "set aside" in log.said
    assert len(list(tmp_path.glob("*.damaged-*"))) == 1
    log.allow(True)
    holder = sqlite3.connect(place)
    holder.execute("BEGIN EXCLUSIVE")
    started = time.monotonic()
    with pytest.raises(LogError, match="Another window"):
        log.add(note("waits"))
    assert time.monotonic() - started < 20
    holder.close()
    assert log.add(note("goes on"))
    with sqlite3.connect(place) as base:
        base.execute("PRAGMA user_version = 99")
    with pytest.raises(LogError, match="newer Isometron"):
        log.entries()
    (tmp_path / "file").write_text("")
    with pytest.raises(LogError, match="cannot be"):
        Log(tmp_path / "file" / "log.sqlite").allow(True)


def test_a_person_is_known_again_from_the_log_and_the_command_prints_it(
    tmp_path, monkeypatch, capsys
):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    log, person = Log(), Person()
    log.allow(True)
    for seed in range(4):
        exercise = drill_of("cube").exercise(seed, 0.4)
        verdict = exercise.told(exercise.first_answer())
        person.takes(exercise, verdict)
        done = Done(exercise, exercise.first_answer(), verdict, 3.14)
        assert log.add(entry_of(done, person))
    again = person_of(log.entries())
    assert again.difficulty == pytest.approx(person.difficulty)
    assert dict(again.errors) == dict(person.errors)
    assert main(["log", "--json"]) == 0 and main(["log", "--since", "2200-01-01"]) == 0
    out = capsys.readouterr().out
    assert out.count('"kind": "drill"') == 4 and out.endswith("at,kind,about,tag,kept\n")
    assert main(["log", "--since", "yesterday"]) == 2
    assert "no date" in capsys.readouterr().err
