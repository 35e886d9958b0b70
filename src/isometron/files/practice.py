"""Pages of exercises as files, at true size."""

from collections.abc import Sequence

from isometron.pages import pdf, svg
from isometron.pages.page import Pages
from isometron.perspective.errors import FileError
from isometron.practice.drill import Exercise
from isometron.practice.paper.layout import ON_PAGE, pages_of
from isometron.words import _


def exercises_svg(exercises: Sequence[Exercise], *, answers: bool = False) -> bytes:
    """One page of exercises as SVG in true millimetres. Raises FileError for more of them, or
    none."""
    _some(exercises)
    if len(exercises) > ON_PAGE:
        raise FileError(_("An SVG holds one page of two exercises: write more to a PDF."))
    (page,) = pages_of(exercises, answers=answers)
    return svg.svg_of(page, _title(exercises))


def exercises_pdf(exercises: Sequence[Exercise], *, answers: bool = False) -> bytes:
    """Exercises as PDF at 1 : 1, two on a page of A4. Raises FileError for none."""
    _some(exercises)
    return pdf.pdf_of(Pages(_title(exercises), pages_of(exercises, answers=answers)))


def _some(exercises: Sequence[Exercise]) -> None:
    if not exercises:
        raise FileError(_("There is no exercise to write: ask for one at least."))


def _title(exercises: Sequence[Exercise]) -> str:
    return " ".join(f"{one.drill} {one.seed}" for one in exercises)
