"""The log: allowed once, killed in the middle, locked, damaged, newer, erased."""

import contextlib
import csv
import io
import json
import math
import sqlite3
import subprocess
import sys
import time

import pytest

from isometron.cli import main
from isometron.perspective.errors import IsometronError
from isometron.practice.asks import Answer, Choice
from isometron.practice.drill import drill_of, drills
from isometron.practice.log import STEPS, Entry, Log, LogError, as_csv, as_json, now
from isometron.practice.pages import curves_of, journal_of, lines_of, wrongs_of
from isometron.practice.planning import plan_of
from isometron.practice.series import Done, Person, Series, again, entry_of, person_of


def answered(person, key, wrong):
    exercise = drill_of(key).exercise(3, 0.3)
    answer = exercise.truth
    if isinstance(exercise.asks, Choice):
        answer = Answer(choice=(exercise.truth.choice + wrong) % len(exercise.asks.choices))
    elif wrong:
        answer = exercise.first_answer()
    series = Series(person, 3, key)
    done = series.answer(exercise, answer)
    return series, entry_of(done, person)._replace(at="2026-03-01T10:00:00")


def test_what_stands_in_the_log_was_tried_and_its_worst_answer_is_named():
    """Drills of choices and drills answered once count, in the plan and in what is wrong."""
    entries, person = [], Person()
    for key in drills():
        _series, entry = answered(person, key, key in ("which", "level"))
        entries.append(entry)
    known = person_of(entries)
    assert known.wrong == person.wrong and not any(
        one.why == "not tried yet" for one in plan_of(known)
    )
    assert [one.key for one in plan_of(known)][:2] in (["which", "level"], ["level", "which"])
    told = wrongs_of(entries)
    assert "Which point: wrong 1 time of 1." in told
    (worst,) = [words for words in told if words.startswith("Find the eye level")]
    assert "Farthest off on 2026-03-01: " in worst and "mm too low." in worst
    assert len(plan_of(Person())) == 4 and plan_of(Person())[0].why == "not tried yet"


def test_a_series_ends_with_what_it_says_and_skips_learn_nothing():
    series, _entry = answered(Person(), "level", True)
    series.skip()
    first, second, third = series.summary()
    assert first == (
        "0 of 1 answer within what a practised hand and eye make of themselves. 1 skipped."
    )
    assert second.startswith("Farthest off: Find the eye level, “") and "habit" in third
    assert series.number == 2 and not series.over and len(series.person.wrong["level"]) == 1
    given = Series(Person(), 0, given=[drill_of("cube").exercise(n) for n in (1, 2)])
    assert given.exercise().seed == 1
    given.skip()
    assert given.exercise().seed == 2
    given.skip()
    assert given.over and not given.person.wrong


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


KILLER = """
import os, random, signal, sys, time
from isometron.practice.log import Entry, Log, Path, now
place, kills = Path(sys.argv[1]), int(sys.argv[2])
rng, said = random.Random(4), -1
for kill in range(kills):
    seen, tells = os.pipe()
    child = os.fork()
    if child == 0:
        log = Log(place)
        for n in range(said + 1, said + 100000):
            log.add(Entry(now(), "note", str(n), {}), b"picture" * 400)
            os.write(tells, b"%d\\n" % n)
    os.close(tells)
    first = os.read(seen, 1)
    time.sleep(rng.uniform(0, 0.02))
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    told = [int(line) for line in (first + os.read(seen, 1 << 20)).split()]
    kept = [one for one in Log(place).entries()]
    assert [int(one.about) for one in kept] == list(range(len(kept))), "no gap"
    assert len(kept) - 1 >= max(told), "what was said to be kept is kept"
    assert len(kept) - 1 <= max(told) + 1, "and one more at most"
    assert all(len(Log(place).picture(one.number)) == 2800 for one in kept[-2:])
    said = len(kept) - 1
print(said)
"""


@pytest.mark.parametrize("kills", [20, pytest.param(200, marks=pytest.mark.full)])
def test_a_log_killed_while_it_writes_loses_the_entry_in_hand_at_most(tmp_path, kills):
    place = tmp_path / "log.sqlite"
    Log(place).allow(True)
    command = [sys.executable, "-c", KILLER, str(place), str(kills)]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
    assert int(done.stdout) >= kills


FULL = """
import resource, sys
from isometron.practice.log import Entry, Log, LogError, Path, now
log = Log(Path(sys.argv[1]))
resource.setrlimit(resource.RLIMIT_FSIZE, (40_000, resource.RLIM_INFINITY))
said = 0
for n in range(200):
    try:
        log.add(Entry(now(), "note", "x" * 2000, {}))
    except LogError as error:
        assert "work goes on" in str(error), error
        said += 1
resource.setrlimit(resource.RLIMIT_FSIZE, (resource.RLIM_INFINITY, resource.RLIM_INFINITY))
log.add(Entry(now(), "note", "room again", {}))
print(said, log.count, log.entries()[-1].about)
"""


def test_a_full_disk_is_said_and_harms_nothing(tmp_path):
    place = tmp_path / "log.sqlite"
    Log(place).allow(True)
    command = [sys.executable, "-c", FULL, str(place)]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
    said, count, *last = done.stdout.split()
    assert int(said) > 100 and int(said) + int(count) == 201 and last == ["room", "again"]


@pytest.mark.parametrize("kept", ["", "no json", "[1, 2]", "7", '{"misses": [{"unit": "mm"}]}'])
def test_an_entry_that_another_hand_has_spoilt_is_shown_without_what_it_kept(tmp_path, kept):
    log = Log(tmp_path / "log.sqlite")
    log.allow(True)
    log.add(Entry("2026-03-01T10:00:00", "drill", "cube", {"seed": 1}))
    with sqlite3.connect(log.place) as base:
        base.execute("UPDATE entries SET kept = ?", (kept,))
    (entry,) = log.entries()
    assert not entry.kept.get("misses")
    assert lines_of([entry])[0].what == "Close the cube" and curves_of([entry]) == []
    assert not person_of([entry]).errors and wrongs_of([entry]) == []


def test_a_log_of_the_first_version_is_brought_up_with_all_it_holds(tmp_path):
    place = tmp_path / "log.sqlite"
    with sqlite3.connect(place) as base:
        for order in STEPS[0]:
            base.execute(order)
        base.execute("INSERT INTO settings VALUES ('allowed', 'yes')")
        base.execute(
            "INSERT INTO entries VALUES (7, '2026-01-02T03:04:05', 'note', 'old', '{}', '')"
        )
        base.execute("PRAGMA user_version = 1")
    log = Log(place)
    assert log.entries() == [Entry("2026-01-02T03:04:05", "note", "old", {}, "", 7)]
    assert log.add(note("new"), b"png") and log.picture(8) == b"png" and log.picture(7) == b""
    assert log.days("2026-01-01") == {"2026-01-02": {"note": 1}, "2026-03-01": {"note": 1}}
    assert [one.about for one in log.of_day("2026-01-02")] == ["old"]
    log.erase()
    assert log.picture(8) == b"" and log.days() == {}


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


ODD = (None, 5, 2.5e300, b"\xff\x00", "", "x" * 70_000, "2026-02-31T10:00:00", "9999-99-99")
KEPT = (
    "NaN", "[" * 9000, '{"seconds": NaN, "misses": [{"measure": 1}]}', "1" * 4500,
    '{"misses": [{"measure": "m", "error": 1e999, "unit": "mm", "hand": 1, "words": "w"}]}',
    '{"misses": [{"measure": "m", "error": true, "unit": "mm", "hand": null, "words": 3}]}',
    '{"misses": {"a": 1}, "seconds": "long", "helped": [], "path": 5, "words": {}}',
    '{"seed": 1e308, "difficulty": NaN, "answer": {"places": [[1e999, 2]], "stroke": []}}',
    '{"seed": 1, "difficulty": 0.3, "answer": {"places": 3, "stroke": null}}',
)  # fmt: skip


def test_rows_of_another_hand_are_left_aside_and_everything_else_goes_on(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    log = Log()
    log.allow(True)
    whole = Entry(now(), "drill", "cube", {"words": "=2+2", "misses": []}, "")
    assert log.add(whole) and log.add(note("\tidea"))
    order = "INSERT INTO entries (at, kind, about, kept, tag) VALUES (?, ?, ?, ?, ?)"
    rows = [(odd, "note", "about", "{}", "") for odd in ODD]
    rows += [(now(), odd, "about", "{}", None) for odd in (5, b"\xff", 1.5)]
    rows += [(now(), "sheet", odd, "{}", b"tag") for odd in (7, b"\xfe")]
    rows += [(now(), kind, "cube", kept, "") for kept in KEPT for kind in ("drill", "sheet")]
    rows += [(now(), "drill", "cube", odd, "") for odd in (3, b"\xff{")]
    taken = 0
    with sqlite3.connect(log.place) as base:
        for row in rows:
            try:
                base.execute(order, row)
                taken += 1
            except sqlite3.IntegrityError:  # the table takes no nothing
                continue
        base.execute("INSERT INTO pictures VALUES (1, 'no picture')")
    entries = log.entries()
    assert log.odd == taken + 2 - len(entries) >= 8 and str(log.odd) in log.told_of_odd
    assert {one.about for one in entries} >= {"cube", "\tidea"} and log.picture(1) == b""
    json.loads(as_json(entries), parse_constant=lambda word: 1 / 0)
    table = list(csv.reader(io.StringIO(as_csv(entries))))
    assert all(not cell.startswith(tuple("=+-@\t\r\n")) for row in table for cell in row)
    assert all(cell != "'" for row in table for cell in row), "an empty cell is empty"
    lines_of(entries), wrongs_of(entries), person_of(entries)
    for curve in curves_of(entries):
        assert math.isfinite(float(curve.errors.sum()))
    for day in journal_of(log.days(), entries):
        assert all(math.isfinite(hands) for hands, _chosen in day.ticks) and day.words is not None
    for one in entries:
        with contextlib.suppress(IsometronError, TypeError, ValueError, KeyError, OverflowError):
            again(one)
    assert log.latest(5) and log.count == taken + 2 and log.of_day("2026-03-01")
