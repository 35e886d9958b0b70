"""Where the program keeps what is its own (XDG base directories), for the person alone."""

import contextlib
import errno
import os
import stat
from pathlib import Path

PRIVATE, PRIVATE_FOLDER = 0o600, 0o700
"""Rights of files and folders that are the program's own."""


def state_folder() -> Path:
    """Where the program keeps what it must not forget."""
    return _place("XDG_STATE_HOME", ".local", "state")


def data_folder() -> Path:
    """Where the program keeps what the person has made with it over time."""
    return _place("XDG_DATA_HOME", ".local", "share")


def config_folder() -> Path:
    """Where the program keeps what the person has chosen."""
    return _place("XDG_CONFIG_HOME", ".config")


def _place(variable: str, *usual: str) -> Path:
    given = os.environ.get(variable, "")
    return (Path(given) if given.startswith("/") else Path.home().joinpath(*usual)) / "isometron"


def private_folder(folder: Path) -> None:
    """Make a folder of the program's own, or take the rights of others away. Raises OSError."""
    for one in reversed((folder, *folder.parents)):
        if one.name == "isometron" or one == folder:
            one.mkdir(parents=True, exist_ok=True, mode=PRIVATE_FOLDER)
            keep_private(one, PRIVATE_FOLDER)


def private_file(path: Path) -> None:
    """Make a file of the program's own, empty where there is none, before anything is written to
    it; take the rights of others away. Raises OSError."""
    handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_CLOEXEC | os.O_NONBLOCK, PRIVATE)
    try:
        if not stat.S_ISREG(os.fstat(handle).st_mode):
            raise OSError(errno.EINVAL, "it is a device or a pipe")
    finally:
        os.close(handle)
    keep_private(path, PRIVATE)


def keep_private(path: Path, rights: int) -> None:
    """Take the rights of others away, where we may."""
    with contextlib.suppress(OSError):
        found = path.lstat()
        ours = found.st_uid == os.getuid() and not stat.S_ISLNK(found.st_mode)
        if ours and stat.S_IMODE(found.st_mode) & ~PRIVATE_FOLDER:
            path.chmod(rights)


def is_there(path: Path) -> bool:
    """Whether something lies at a path that we can reach."""
    try:
        return path.exists()
    except (OSError, ValueError):
        return False


def full_path(path: Path) -> Path:
    """A path from the root, without links where they can be followed."""
    try:
        return path.resolve()
    except (OSError, ValueError, RuntimeError):  # a loop of links, a folder that is gone
        return path
