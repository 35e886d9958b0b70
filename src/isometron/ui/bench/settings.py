"""Where what a person chose is kept."""

import contextlib
import os
import stat
from pathlib import Path

from PyQt6.QtCore import QSettings

from isometron.own_places import config_folder, private_file, private_folder

FILES = ("isometron.ini", "isometron-2.ini")
"""The file, and the one taken where the first is none: a pipe or a device would never be read."""

LARGEST = 1_000_000


def settings_of_person() -> QSettings:
    """What a person chose, in a file of their own."""
    folder = config_folder()
    with contextlib.suppress(OSError):
        private_folder(folder)
    file = next((folder / name for name in FILES if _fit(folder / name)), Path(os.devnull))
    with contextlib.suppress(OSError):
        if file.parent == folder:
            private_file(file)
    return QSettings(str(file), QSettings.Format.IniFormat)


def _fit(path: Path) -> bool:
    """Whether a path is, or can become, a file of settings."""
    try:
        found = path.stat()
    except FileNotFoundError:
        return True
    except OSError:
        return False
    return stat.S_ISREG(found.st_mode) and found.st_size <= LARGEST
