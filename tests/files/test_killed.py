"""Writers killed in the middle: nothing torn, and nothing missing that was told to be kept."""

import json
import subprocess
import sys

KILLER = """
import json, os, random, signal, sys, time
from dataclasses import replace
from pathlib import Path
from isometron.files.disk import write_whole
from isometron.files.journal import Journal, LeftBehind
from isometron.files.sheet_file import read_sheet, sample_sheet, write_sheet

what, folder, times = sys.argv[1], Path(sys.argv[2]), int(sys.argv[3])
seeded, sheet = random.Random(what), sample_sheet("observing chair")
file = folder / "chair.isometron"

def steps():
    for number in range(1, 10**9):
        volume = replace(sheet.volumes[0], name=f"Seat {number}")
        yield number, sheet.with_volume(0, volume)

def work(told):
    journal = Journal(folder / "journal")
    for number, document in steps():
        if what == "journal":
            journal.write(document, "Chair", file)
        elif what == "save":
            write_sheet(document, file)
        else:
            write_whole(file, b"%d " % number * 200_000)
        os.write(told, b"%d\\n" % number)

def found():
    if what == "bytes":
        (number,), count = set(file.read_bytes().split()), len(file.read_bytes().split())
        return int(number), count == 200_000
    if what == "save":
        document = read_sheet(file)
    else:
        behind = LeftBehind(folder / "journal")
        (one,) = behind.found
        document = one.document
        behind.drop(one)
    name = document.volumes[0].name
    return int(name.split()[1]), document == sheet.with_volume(
        0, replace(sheet.volumes[0], name=name)
    )

kept = []
for _time in range(times):
    read, told = os.pipe()
    child = os.fork()
    if not child:
        work(told)
    os.close(told)
    first = os.read(read, 1000)
    time.sleep(seeded.uniform(0, 0.03))
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    lines = (first + os.read(read, 10**6)).split()
    os.close(read)
    number, whole = found()
    kept.append([int(lines[-1]), number, whole])
print(json.dumps(kept))
"""


def test_nothing_that_was_written_is_missing_or_torn_after_a_kill(tmp_path, many):
    for what in ("journal", "save", "bytes"):
        folder = tmp_path / what
        folder.mkdir()
        times = many(8, 500)
        ended = subprocess.run(
            [sys.executable, "-c", KILLER, what, str(folder), str(times)],
            capture_output=True,
            text=True,
            check=True,
        )
        kept = json.loads(ended.stdout)
        assert len(kept) == times and all(whole for _told, _found, whole in kept)
        assert all(found in (told, told + 1) for told, found, _whole in kept), what
