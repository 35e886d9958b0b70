"""Bands of proportion that a person keeps for all new sheets, in the program's own place."""

import contextlib
import json
from pathlib import Path

from isometron.document.errors import ChoiceError
from isometron.document.own_bands import OwnBand, fair_bands
from isometron.files.disk import write_whole
from isometron.own_places import config_folder, private_folder

LARGEST = 200_000
"""A longer file is none of ours, bytes."""


def place() -> Path:
    """Where they are kept."""
    return config_folder() / "bands.json"


def kept_bands() -> tuple[OwnBand, ...]:
    """The bands a person keeps; none where the file is not there, or is damaged."""
    with contextlib.suppress(
        OSError, LookupError, ValueError, TypeError, ChoiceError, RecursionError
    ):
        with place().open("rb") as file:
            data = json.loads(file.read(LARGEST))
        found = tuple(
            OwnBand(str(one["of"]), str(one["what"]), float(one["low"]), float(one["high"]))
            for one in data["bands"]
        )
        fair_bands(found)
        return found
    return ()


def keep_bands(bands: tuple[OwnBand, ...]) -> None:
    """Keep bands for new sheets; none: as usual again. Raises FileError."""
    with contextlib.suppress(OSError):  # what is written into it says why it cannot be
        private_folder(place().parent)
    told = {"bands": [one._asdict() for one in bands]}
    write_whole(place(), (json.dumps(told, indent=1) + "\n").encode(), private=True)
