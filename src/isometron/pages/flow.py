"""A flow of words and items down pages: margins, leading, page numbers, titles by which a place is
found, pages that begin where something does not fit. Nothing is cut off: words too long for a page
go on overleaf."""

from collections.abc import Sequence

from isometron.pages.page import (
    END,
    Bookmark,
    Box,
    Item,
    Link,
    Page,
    Words,
)
from isometron.perspective.places import Place

MARGIN_MM, GAP_MM = 15.0, 5.0
MM_PER_POINT = 25.4 / 72.0
WORDS_MM, NUMBER_MM = 10.0 * MM_PER_POINT, 8.0 * MM_PER_POINT
LEADING = 1.4

A4_MM, LETTER_MM = (210.0, 297.0), (215.9, 279.4)


def paper_of_unit(unit: str) -> Place:
    """The paper that who works in a unit has at hand: A4 upright, or letter."""
    return LETTER_MM if unit == "in" else A4_MM


def wide_of(text: str, size_mm: float, *, bold: bool = False) -> float:
    """How wide words stand, mm."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    return float(stringWidth(text, _face(bold), size_mm))


def broken(text: str, wide_mm: float, size_mm: float, *, bold: bool = False) -> list[str]:
    """Words in lines no wider than that."""
    from reportlab.lib.utils import simpleSplit

    found: list[str] = simpleSplit(text, _face(bold), size_mm, wide_mm)
    return found


def _face(bold: bool) -> str:
    from isometron.pages.type_family import register

    register()
    return "B612-Bold" if bold else "B612"


class Flow:
    """Pages under way; `y` is how far down the page is used, mm from its lower edge."""

    def __init__(self, size_mm: Place) -> None:
        self.wide, self.high = size_mm
        self.left, self.right = MARGIN_MM, self.wide - MARGIN_MM
        self.y = self.high - MARGIN_MM
        self._items: list[Item] = []
        self._marks: list[Bookmark] = []
        self._pages: list[Page] = []

    def pages(self) -> tuple[Page, ...]:
        """All pages, each with its number at its foot."""
        self.over()
        count = len(self._pages)
        return tuple(
            page._replace(items=(*page.items, self._number(number, count)))
            for number, page in enumerate(self._pages, start=1)
        )

    def _number(self, number: int, count: int) -> Words:
        place = (self.right, MARGIN_MM / 2)
        return Words(f"{number} / {count}", place, NUMBER_MM, stands=END)

    def over(self) -> None:
        """Begin another page."""
        self._pages.append(Page((self.wide, self.high), tuple(self._items), tuple(self._marks)))
        self._items, self._marks = [], []
        self.y = self.high - MARGIN_MM

    def needs(self, high: float) -> bool:
        """Begin another page if less than so much is left of this one; whether it did."""
        if self.y - high >= MARGIN_MM:
            return False
        self.over()
        return True

    def add(self, items: Sequence[Item]) -> None:
        """Items at their own places of this page."""
        self._items += items

    def gap(self, high: float = GAP_MM) -> None:
        """A little room."""
        self.y -= high

    def mark(self, key: str, title: str) -> None:
        """What comes next is found by a title."""
        self._marks.append(Bookmark(key, title, self.y))

    def words(
        self, text: str, size: float = WORDS_MM, *, bold: bool = False, leads_to: str = ""
    ) -> None:
        """A paragraph right across, going on overleaf where the page ends; it may lead to what is
        marked with a key."""
        for line in broken(text, self.right - self.left, size, bold=bold):
            self.needs(size)
            self.y -= LEADING * size
            self.add([Words(line, (self.left, self.y), size, bold=bold)])
            if leads_to:
                box: Box = (self.left, self.y - 0.3 * size, self.right - self.left, 1.3 * size)
                self.add([Link(box, leads_to)])


def lines_of(
    lines: Sequence[str], left: float, top: float, size: float, *, bold: bool = False
) -> list[Item]:
    """Lines of words one under the other, the first one's foot a line below the top."""
    return [
        Words(line, (left, top - LEADING * size * (n + 1)), size, bold=bold)
        for n, line in enumerate(lines)
    ]
