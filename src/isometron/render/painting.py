"""What files need painted: Qt is loaded when the first picture is asked for."""

from typing import TYPE_CHECKING

from isometron.document.document import Document

if TYPE_CHECKING:
    from isometron.construction.stages import Stage


class QtPainting:
    """Pictures of sheets and stages."""

    def sheet(self, document: Document, *, dpi: float, paper: bool) -> bytes:
        """The sheet as PNG. Raises FileError."""
        from isometron.render.picture import png_of

        return png_of(document, dpi=dpi, paper=paper)

    def stage(self, document: Document, stage: "Stage") -> bytes:
        """The lines of a stage of the build order as PNG, without paper."""
        from isometron.render.stage import stage_png

        return stage_png(document, stage)
