"""Writing the sheet out: which kinds there are, and the one way to write each."""

from collections.abc import Callable
from pathlib import Path

from isometron.document.document import Document
from isometron.files.atomic import write_whole
from isometron.files.dxf import dxf_of
from isometron.files.pdf import pdf_of
from isometron.files.svg import svg_of
from isometron.perspective.errors import FileError

KINDS = (".svg", ".pdf", ".png", ".dxf")
"""Kinds of file a sheet can be drawn to."""


def draw_to(document: Document, path: Path, png: Callable[[Document], bytes]) -> None:
    """Draw the sheet to a file whose ending says the kind; `png` makes pictures (it needs Qt).

    Raises FileError; a file is written whole or not at all.
    """
    makers: dict[str, Callable[[Document], bytes]] = {
        ".svg": svg_of,
        ".pdf": pdf_of,
        ".png": png,
        ".dxf": dxf_of,
    }
    maker = makers.get(path.suffix.lower())
    if maker is None:
        raise FileError(
            f"“{path.name}” does not say what to draw: end its name in {', '.join(KINDS)}."
        )
    write_whole(path, maker(document))
