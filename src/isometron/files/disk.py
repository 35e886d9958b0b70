"""The disk: files read up to a limit, and written whole or not at all.

Only regular files are read; nothing a file system says of their size is believed. A device or a
pipe that is written to stays one.
"""

import contextlib
import os
import stat
import sys
import time
from pathlib import Path

from isometron.own_places import PRIVATE, is_there
from isometron.perspective.errors import FileError
from isometron.words import _

STANDARD_INPUT = "-"
NEIGHBOUR, PART = ".isometron-", ".part"
"""How the files are called that hold what is being written, beside their target."""

ABANDONED_AFTER_S = 24 * 3600.0
"""A neighbour this old belongs to a program that is gone."""

LAST_BYTES = 16
LONGEST_FILE_NAME = 255
"""Bytes."""

_CHUNK = 1 << 20


def read_bytes(path: str | Path, most: int, what: str) -> bytes:
    """All bytes of a regular file, or of standard input for “-”.

    most: how many there may be. what: what the file should be, to end a sentence (“a sheet”).
    Raises FileError with the sentence to show for anything else, and for more than that.
    """
    if str(path) == STANDARD_INPUT:
        content = sys.stdin.buffer.read(most + 1)
        source = _("Standard input")
    else:
        content = _read_regular(path, most)
        source = f"“{path}”"
    if len(content) > most:
        raise FileError(
            _("{source} is far too large for {what}: choose another file.").format(
                source=source, what=what
            )
        )
    return content


def read_start(path: Path, most: int, what: str) -> tuple[bytes, bytes]:
    """The first so many bytes of a regular file, and its last few. Raises FileError."""
    start = _read_regular(path, most)
    try:
        with open(path, "rb", opener=_unwaiting) as file:
            file.seek(max(os.fstat(file.fileno()).st_size - LAST_BYTES, 0))
            return start, file.read(LAST_BYTES)
    except OSError as error:
        raise FileError(
            _("“{path}” cannot be read as {what}: {why}.").format(
                path=path, what=what, why=reason(error)
            )
        ) from error


def _read_regular(path: str | Path, most: int) -> bytes:
    try:
        with open(path, "rb", opener=_unwaiting) as file:
            mode = os.fstat(file.fileno()).st_mode
            if not stat.S_ISREG(mode):
                raise FileError(
                    _("“{path}” is a device or a pipe: choose a file.").format(path=path)
                )
            parts, left = [], most + 1
            while left > 0 and (part := file.read(min(left, _CHUNK))):
                parts.append(part)
                left -= len(part)
            return b"".join(parts)
    except FileNotFoundError as error:
        raise FileError(
            _("There is no file “{path}”: check its name and folder.").format(path=path)
        ) from error
    except IsADirectoryError as error:
        raise FileError(
            _("“{path}” is a folder: choose a file in it.").format(path=path)
        ) from error
    except (OSError, ValueError) as error:
        why = reason(error) if isinstance(error, OSError) else _("its name is not a file name")
        raise FileError(_("“{path}” cannot be read: {why}.").format(path=path, why=why)) from error


def _unwaiting(path: str, flags: int) -> int:
    """Opens a file; a pipe is not waited for, and a terminal not taken over."""
    return os.open(path, flags | os.O_NONBLOCK | os.O_NOCTTY)


def beside(path: Path) -> Path:
    """A name beside a file that no file has yet, no longer than a folder takes."""
    number = 2
    while True:
        tail = f" {number}{path.suffix}"
        room = LONGEST_FILE_NAME - len(os.fsencode(tail))
        stem = os.fsencode(path.stem)[:room].decode(errors="ignore")
        other = path.with_name(stem + tail)
        if not is_there(other):
            return other
        number += 1


def write_whole(path: Path, content: bytes, *, private: bool = False) -> None:
    """Write a file so that its old content stays until the new one lies complete on the disk.

    The new content goes to a neighbour of the target first and takes its name at the end. A
    symbolic link stays one; rights, extended attributes and, where the system lets us, owner and
    group of an existing file stay. Another hard link to it keeps the old content. A device or a
    pipe is written to as it is. private: a file of the program's own, that nobody else reads.
    Raises FileError with the sentence to show.
    """
    try:
        target = Path(os.path.realpath(path))
        mode = _mode(target)
        if mode is not None and stat.S_ISDIR(mode):
            raise FileError(
                _("“{path}” is a folder: give the name of a file in it.").format(path=path)
            )
        if mode is not None and not stat.S_ISREG(mode):
            _write_into(target, content)
        else:
            _write_beside(target, content, exists=mode is not None, private=private)
    except (OSError, ValueError) as error:
        why = reason(error) if isinstance(error, OSError) else _("its name is not a file name")
        raise FileError(
            _("“{path}” cannot be written: {error}.").format(path=path, error=why)
        ) from error


def _mode(target: Path) -> int | None:
    try:
        return target.stat().st_mode
    except FileNotFoundError:
        return None


def _write_into(target: Path, content: bytes) -> None:
    # Without a reader a pipe would be waited for: that is an error instead.
    handle = os.open(target, os.O_WRONLY | os.O_NONBLOCK | os.O_NOCTTY | os.O_CLOEXEC)
    os.set_blocking(handle, True)
    with os.fdopen(handle, "wb") as file:
        file.write(content)


def _write_beside(target: Path, content: bytes, *, exists: bool, private: bool) -> None:
    if exists and not os.access(target, os.W_OK):
        raise PermissionError(13, "Permission denied")
    neighbour = target.parent / f"{NEIGHBOUR}{os.urandom(8).hex()}{PART}"
    try:
        # rights are taken before the first byte: a sheet kept from others is kept so meanwhile
        rights = PRIVATE if exists or private else 0o666
        handle = os.open(neighbour, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, rights)
        with os.fdopen(handle, "wb") as file:
            file.write(content)
            file.flush()
            if exists and not private:
                _take_after(target, handle)
            os.fsync(handle)
        os.replace(neighbour, target)  # noqa: PTH105
    except BaseException:
        with contextlib.suppress(OSError):
            neighbour.unlink()
        raise
    with contextlib.suppress(OSError):
        folder = os.open(target.parent, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)
    sweep(target.parent)


def _take_after(target: Path, handle: int) -> None:
    """Give an open file the owner, group, extended attributes and rights of another one."""
    old = target.stat()
    for owner, group in ((old.st_uid, -1), (-1, old.st_gid)):
        with contextlib.suppress(OSError):
            os.fchown(handle, owner, group)
    with contextlib.suppress(OSError):
        for name in os.listxattr(target):
            with contextlib.suppress(OSError):
                os.setxattr(handle, name, os.getxattr(target, name))
    os.fchmod(handle, stat.S_IMODE(old.st_mode))


def sweep(folder: Path) -> None:
    """Take away what a program that was killed while writing left in a folder: our own neighbour
    files that nobody has touched for a day."""
    before = time.time() - ABANDONED_AFTER_S
    with contextlib.suppress(OSError), os.scandir(folder) as found:
        for one in found:
            if not (one.name.startswith(NEIGHBOUR) and one.name.endswith(PART)):
                continue
            with contextlib.suppress(OSError):
                kept = one.stat(follow_symlinks=False)
                ours = stat.S_ISREG(kept.st_mode) and kept.st_uid == os.getuid()
                if ours and kept.st_mtime < before:
                    os.unlink(one.path)  # noqa: PTH108


def reason(error: OSError) -> str:
    """Why the system refused, in a few words for a sentence, with what to change."""
    known = {
        2: _("its folder does not exist; choose another one"),
        6: _("nobody reads at its other end"),
        13: _("you have no right to; choose another place"),
        20: _("a part of its path is not a folder; choose another place"),
        28: _("the disk is full; make room or choose another disk"),
        30: _("the disk is read-only; choose another one"),
        36: _("its name is too long; shorten it"),
        40: _("its links go round in a circle; choose another place"),
    }
    return known.get(error.errno or 0, (error.strerror or str(error)).lower())
