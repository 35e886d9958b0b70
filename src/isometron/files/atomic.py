"""Files written whole or not at all."""

import contextlib
import os
from pathlib import Path

from isometron.perspective.errors import FileError
from isometron.words import _


def write_whole(path: Path, content: bytes) -> None:
    """Write a file so that its old content stays until the new one lies complete on the disk.

    The new content goes to a neighbour of the target first and takes its name at the end; rights
    and links of an existing file stay. Raises FileError with the sentence to show.
    """
    import tempfile

    target = Path(os.path.realpath(path))
    if target.is_dir():
        raise FileError(_("“{path}” is a folder: give the name of a file in it.").format(path=path))
    neighbour: str | None = None
    try:
        if target.exists() and not os.access(target, os.W_OK):
            raise PermissionError(13, "Permission denied")
        handle, neighbour = tempfile.mkstemp(
            prefix=_(".{name}.").format(name=target.name), dir=target.parent
        )
        with os.fdopen(handle, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(neighbour, _rights(target))  # noqa: PTH101
        os.replace(neighbour, target)  # noqa: PTH105
    except OSError as error:
        if neighbour is not None:
            with contextlib.suppress(OSError):
                Path(neighbour).unlink()
        raise FileError(
            _("“{path}” cannot be written: {error}.").format(path=path, error=reason(error))
        ) from error


def _rights(target: Path) -> int:
    if target.exists():
        return target.stat().st_mode & 0o7777
    mask = os.umask(0)
    os.umask(mask)
    return 0o666 & ~mask


def reason(error: OSError) -> str:
    """Why the system refused, in a few words for a sentence, with what to change."""
    known = {
        2: _("its folder does not exist; choose another one"),
        13: _("you have no right to; choose another place"),
        20: _("a part of its path is not a folder; choose another place"),
        28: _("the disk is full; make room or choose another disk"),
        30: _("the disk is read-only; choose another one"),
        36: _("its name is too long; shorten it"),
    }
    return known.get(error.errno or 0, (error.strerror or str(error)).lower())
