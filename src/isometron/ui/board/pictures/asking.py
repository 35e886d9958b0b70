"""Going through the unsure strokes of a sketch in one pass, by keys."""

from PyQt6.QtCore import Qt

from isometron.document.document import Document
from isometron.document.edits.pictures import marking
from isometron.document.marks import FAMILIES
from isometron.document.picture import EDGE, Mark, SheetPicture
from isometron.reading.of_picture import STRAY
from isometron.words import _

ANSWERS = {Qt.Key.Key_1: "width", Qt.Key.Key_2: "depth", Qt.Key.Key_3: "height", Qt.Key.Key_0: ""}
"""What a key says of the stroke in work: its family, or that it is no line."""


def unsure(picture: SheetPicture) -> list[int]:
    """Numbers of the found strokes that belong to no family."""
    return [
        number
        for number, edge in enumerate(picture.edges)
        if edge.found and edge.left and edge.family == STRAY
    ]


class Pass:
    """One pass through the unsure strokes: those not looked at yet, the first of them in work."""

    def __init__(self, picture: SheetPicture) -> None:
        self.left = unsure(picture)
        self.count = len(self.left)

    @property
    def mark(self) -> Mark | None:
        """The stroke in question."""
        return Mark(EDGE, self.left[0]) if self.left else None

    @property
    def words(self) -> str:
        """What is asked."""
        if not self.left:
            return _("All strokes have been looked at.")
        at = self.count - len(self.left) + 1
        names = [f"{n} {_(family)}" for n, family in enumerate(FAMILIES, start=1)]
        return _("Stroke {at} of {count}: {names}, 0 no line, Space next, Esc ends.").format(
            at=at, count=self.count, names=", ".join(names)
        )

    def answered(self, document: Document, key: int) -> Document:
        """The document with the stroke in question told by a key."""
        mark = self.mark
        assert mark is not None
        family = ANSWERS[Qt.Key(key)]
        if not family:
            return marking.take_away(document, [mark])
        return marking.change_marks(document, [mark], family=family, left=False)

    def go_on(self, *, taken_away: bool) -> None:
        """The next stroke; numbers move down when one has been taken away."""
        number, *rest = self.left
        self.left = [n - 1 if taken_away and n > number else n for n in rest]
