"""What files need painted: Qt is loaded when the first picture is asked for."""

import os
from typing import TYPE_CHECKING

from isometron.document.document import Document

if TYPE_CHECKING:
    from isometron.construction.stages import Stage

_started: list[object] = []
"""The application that pictures are painted in when there is no window."""


def _start_qt() -> None:
    """Qt sets no word without an application: from the command line there is none yet."""
    from PyQt6.QtGui import QGuiApplication

    if QGuiApplication.instance() is None:
        platform = os.environ.get("QT_QPA_PLATFORM")
        os.environ["QT_QPA_PLATFORM"] = "offscreen"  # a picture needs no display
        _started.append(QGuiApplication([]))
        if platform is None:
            del os.environ["QT_QPA_PLATFORM"]
        else:
            os.environ["QT_QPA_PLATFORM"] = platform


class QtPainting:
    """Pictures of sheets and stages."""

    def sheet(self, document: Document, *, dpi: float, paper: bool) -> bytes:
        """The sheet as PNG. Raises FileError."""
        from isometron.render.picture import png_of

        _start_qt()
        return png_of(document, dpi=dpi, paper=paper)

    def layers(self, document: Document, *, dpi: float) -> list[tuple[str, bytes]]:
        """The sheet as named layers, each a PNG without paper. Raises FileError."""
        from isometron.render.picture import layers_of

        _start_qt()
        return layers_of(document, dpi=dpi)

    def stage(self, document: Document, stage: "Stage") -> bytes:
        """The lines of a stage of the build order as PNG, without paper."""
        from isometron.render.stage import stage_png

        _start_qt()
        return stage_png(document, stage)
