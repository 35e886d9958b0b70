"""What is read and written where files are not plain files, and when the writer is killed."""

import os
import stat
import threading
import time
from pathlib import Path

import pytest

from isometron.files.disk import ABANDONED_AFTER_S, write_whole
from isometron.files.journal import read_head
from isometron.files.outline import read_outline_file
from isometron.files.sheet_file import read_sheet
from isometron.files.table import read_table
from isometron.perspective.errors import FileError


def strange(place):
    """One of everything that is no file to read."""
    os.mkfifo(place / "pipe")
    (place / "loop").symlink_to("loop")
    (place / "lost").symlink_to("nowhere")
    names = ("pipe", "loop", "lost", ".", "absent", "x" * 300, "no\0name", "half\udcffname")
    return [*(place / name for name in names), "/dev/zero", "/dev/tty", "/proc/self/pagemap"]


READERS = [read_sheet, read_table, read_outline_file, read_head]


@pytest.mark.parametrize("read", READERS)
def test_only_files_are_read_and_everything_else_is_refused_in_one_sentence(read, tmp_path):
    for path in map(Path, strange(tmp_path)):
        with pytest.raises(FileError) as told:
            read(path)
        assert str(told.value).count(".") >= 1 and "\n" not in str(told.value)


def test_a_pipe_and_a_device_that_are_written_to_stay_what_they_are(tmp_path):
    pipe, heard = tmp_path / "pipe", []
    os.mkfifo(pipe)
    with pytest.raises(FileError, match="nobody reads"):
        write_whole(pipe, b"unheard")
    reader = threading.Thread(target=lambda: heard.append(pipe.read_bytes()))
    reader.start()
    until = time.monotonic() + 10
    while not heard and time.monotonic() < until:
        try:
            write_whole(pipe, b"x" * 300_000)
        except FileError:  # the reader is not there yet
            continue
        reader.join()
    assert heard == [b"x" * 300_000] and stat.S_ISFIFO(pipe.stat().st_mode)
    null = tmp_path / "null"
    null.symlink_to("/dev/null")
    write_whole(null, b"gone")
    assert null.is_symlink() and stat.S_ISCHR(null.stat().st_mode)
    full = tmp_path / "full"
    full.symlink_to("/dev/full")
    with pytest.raises(FileError, match="the disk is full"):
        write_whole(full, b"too much")


def test_what_a_file_has_besides_its_content_stays_and_our_own_leavings_go(tmp_path):
    file = tmp_path / ("a" * 250)
    file.write_bytes(b"old")
    file.chmod(0o640)
    try:
        os.setxattr(file, "user.note", b"mine")
    except OSError:
        pytest.skip("no extended attributes here")
    if os.getuid() == 0:
        os.chown(file, 12345, 54321)
    link = tmp_path / "link"
    link.symlink_to(file)
    ours, young, other = (tmp_path / f".isometron-{n}.part" for n in ("0", "1", "2"))
    foreign = tmp_path / ".note.part"
    for left in (ours, young, other, foreign):
        left.write_bytes(b"half")
    ago = time.time() - ABANDONED_AFTER_S - 60
    for left in (ours, other, foreign):
        os.utime(left, (ago, ago))
    if os.getuid() == 0:
        os.chown(other, 12345, 54321)
    write_whole(link, b"new")
    found = file.stat()
    assert link.is_symlink() and file.read_bytes() == b"new"
    assert stat.S_IMODE(found.st_mode) == 0o640 and os.getxattr(file, "user.note") == b"mine"
    assert not ours.exists() and young.exists() and foreign.exists()
    if os.getuid() == 0:
        assert (found.st_uid, found.st_gid) == (12345, 54321) and other.exists()
