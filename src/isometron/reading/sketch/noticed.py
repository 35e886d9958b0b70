"""What is off in a sketch as remarks of the second look, beside its other rules."""

import contextlib

from isometron.document.document import Document
from isometron.document.picture import SheetPicture
from isometron.perspective.errors import IsometronError
from isometron.perspective.places import Place
from isometron.remarks.remark import Look, Remark, Severity, rule

MOST, SERIOUS_MM = 6, 4.0


@rule
def sketch(look: Look) -> list[Remark]:
    """The worst faults of the sketch in work that has been read, those ticked off left out."""
    picture = look.document.photograph
    if picture is None or picture.paper_mm is None:
        return []
    from isometron.reading.of_picture import reading_kept

    if reading_kept(picture) is None:
        return []  # it is being read beside the window, and looked at once that is done
    return remarks_of_sketch(look.document, picture, look)


def sketch_read(document: Document) -> Document:
    """The document, once the sketch in work on it has been read, so that its rule finds it so."""
    picture = document.photograph
    if picture is not None and picture.paper_mm is not None:
        from isometron.reading.of_picture import reading_of

        with contextlib.suppress(IsometronError):
            reading_of(picture)
    return document


def remarks_of_sketch(document: Document, picture: SheetPicture, look: Look) -> list[Remark]:
    """The faults of a sketch as remarks."""
    from isometron.reading.sketch.judging import faults_in

    try:
        faults = faults_in(document, look.scene)
    except IsometronError:
        return []
    return [
        Remark(
            Severity.SERIOUS if fault.by_mm >= SERIOUS_MM else Severity.DOUBTFUL,
            fault.title,
            fault.text,
            fault.by_mm,
            "mm",
            _on_sheet(picture, fault.at),
            None,
            fault.by_mm / SERIOUS_MM,
            rule=f"sketch, {fault.mark.kind} {fault.mark.number}: {fault.rule}",
        )
        for fault in faults
        if not fault.mended
    ][:MOST]


def _on_sheet(picture: SheetPicture, at: Place) -> Place:
    """Where a place of the sketch (px) lies on the sheet, mm."""
    if picture.laid is not None:
        return picture.laid.on_sheet(at)
    assert picture.paper_mm is not None
    scale = picture.paper_mm[0] / picture.width
    return at[0] * scale, at[1] * scale
