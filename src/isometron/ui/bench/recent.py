"""Sheets of late: their paths, newest first, and a small drawing of each as it was left."""

import contextlib
from hashlib import sha256
from pathlib import Path
from threading import Thread

from PyQt6.QtCore import QSettings, QSize

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.files.disk import write_whole
from isometron.files.own_starters import folder as own_folder
from isometron.own_places import (
    full_path,
    is_there,
    private_folder,
    state_folder,
)
from isometron.perspective.errors import FileError

RECENT = 8
SIZE, WEIGHT = QSize(128, 90), 0.9
"""Of a drawing: its size, px, and px per mm of its lines."""


class Recent:
    """The list, kept in the settings; its drawings lie in the program's own place."""

    def __init__(self, settings: QSettings) -> None:
        self._settings = settings

    def paths(self) -> list[Path]:
        """Sheets opened or saved of late that still exist."""
        kept = self._settings.value("recent", [])
        every = kept if isinstance(kept, list) else [kept]
        paths = [Path(one) for one in every if isinstance(one, str) and one]
        return [path for path in paths if is_there(path) and path.is_file()][:RECENT]

    def remember(self, path: Path) -> None:
        """Put a path on top."""
        full = full_path(path)
        paths = [full, *(p for p in self.paths() if p != full)][:RECENT]
        self._settings.setValue("recent", [str(p) for p in paths])

    def draw(self, path: Path, document: Document, scene: Scene) -> Thread:
        """Draw a sheet small, beside the window."""
        place = drawing_of(full_path(path))
        kept = {place, *map(drawing_of, self.paths())}
        with contextlib.suppress(OSError):
            for other in place.parent.glob("*.png"):
                if other not in kept:  # of a sheet that is no longer listed
                    other.unlink()
        return draw_small(path, document, scene)


def draw_small(path: Path, document: Document, scene: Scene) -> Thread:
    """Draw a sheet small, beside the window, as `drawing_of` its path."""
    place = drawing_of(full_path(path))
    work = Thread(target=_draw, args=(place, document, scene), daemon=True)
    work.start()
    return work


def _draw(place: Path, document: Document, scene: Scene) -> None:
    """Write the drawing of a sheet."""
    from isometron.drawing.small import small_of
    from isometron.render.small import small_png

    png = small_png(small_of(document, scene), SIZE, WEIGHT)
    with contextlib.suppress(OSError, FileError):
        private_folder(place.parent)
        if png:
            write_whole(place, png, private=True)


def drawing_of(path: Path) -> Path:
    """Where the small drawing of a sheet lies, if it has been drawn."""
    name = sha256(str(path).encode("utf-8", "surrogateescape")).hexdigest()[:32]
    kept = "starters" if path.parent == full_path(own_folder()) else "recent"
    return state_folder() / kept / f"{name}.png"
