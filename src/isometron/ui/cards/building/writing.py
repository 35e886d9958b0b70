"""A build order written beside the window."""

from collections.abc import Callable

from PyQt6.QtCore import QObject

from isometron.construction.stages import Stages
from isometron.document.document import Document
from isometron.files.building.order_words import built
from isometron.perspective.errors import IsometronError
from isometron.ui.parts.beside import Beside

Written = Stages | IsometronError
"""A written order, or why there is none."""


def order_writing(
    parent: QObject, take: Callable[[Document, Written], None]
) -> Beside[Document, Written]:
    """Writes the order of the document it was given last."""
    return Beside(parent, "order", _written, take)


def _written(document: Document) -> Written:
    try:
        return Stages(built(document), document.sheet)
    except IsometronError as error:
        return error
