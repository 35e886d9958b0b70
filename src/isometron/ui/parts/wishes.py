"""What the parts of the interface may wish for: one object, handed down from the window."""

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from isometron.document.document import Document, Edit
from isometron.drawing.picks.pick import Pick
from isometron.ui.parts.theme import Room

if TYPE_CHECKING:
    from isometron.construction.stages import Stages
    from isometron.deeds.deed import Deed, Given
    from isometron.document.picture import Mark
    from isometron.files.formats import Format
    from isometron.reading.of_picture import PictureReading
    from isometron.reading.sketch.faults import Fault

__all__ = ["Edit", "Wishes"]


class Wishes(Protocol):
    """Cards, board and plans say here what the person wants; the window sees to it."""

    @property
    def room(self) -> Room:
        """The room worked in."""

    @property
    def document(self) -> Document:
        """The document shown."""

    @property
    def dragging(self) -> bool:
        """Whether something is being dragged."""

    def edit(self, name: str, edit: Edit) -> bool:
        """One step, kept; gives whether it could be done."""

    def deed(self, deed: "Deed", given: "Given") -> bool:
        """One deed, kept as a step and remembered; gives whether it could be done."""

    def preview(self, edit: Edit) -> str:
        """Show what an edit would give; gives why it cannot be done, or nothing."""

    def back_to_board(self) -> None:
        """The keyboard to the board again."""

    def drag(self, edit: Edit) -> None:
        """Show what an edit would give."""

    def drop(self, name: str) -> None:
        """Keep what is shown as one step."""

    def let_go(self) -> None:
        """Give up the drag in progress."""

    def refuse(self, sentence: str) -> None:
        """Say why something cannot be done."""

    def tell(self, sentence: str) -> None:
        """Say what has been done."""

    def hint(self, words: str) -> None:
        """Say what is under the pointer; no words take the plate away."""

    def choose(self, volume: int, *, besides: bool = False) -> None:
        """Take a volume into work, or choose it besides the others."""

    def pick(self, pick: Pick | None, *, besides: bool = False, alone: bool = True) -> None:
        """Read something; its volume becomes the one in work, and (`alone`) the only one chosen."""

    def begin_typing(self, text: str, deed: str = "") -> bool:
        """Type into the first field of what is picked, or of a deed; gives whether there is one."""

    def measure(self, pick: Pick) -> None:
        """Measure from something, or to it when one is picked to measure from."""

    def show_place(self, sheet_mm: tuple[float, float] | None) -> None:
        """Circle a place of the sheet."""

    def show_stage(self, stages: "Stages | None", number: int) -> None:
        """Show a stage of the build order on the board; None shows the finished lines."""

    def choose_line(self, name: str) -> None:
        """Turn to the step of the build order that draws a line."""

    def do(self, command: str) -> None:
        """Run a command by its key."""

    def log(self, kind: str, about: str, words: str) -> None:
        """Keep what was done in the log of work, where there is one."""

    def which(self, title: str, formats: "Sequence[Format]") -> Path | None:
        """Ask for a file to read; None when the person thinks better of it."""

    def where(self, title: str, stem: str, formats: "Sequence[Format]") -> Path | None:
        """Ask for a file to write, of one of the formats."""

    def may_throw_away(self, what: str) -> bool:
        """Ask whether something may go for good."""

    def open_sheet(self, path: Path) -> None:
        """Open a sheet; the open one is asked about when it is unsaved."""

    @property
    def marks(self) -> "tuple[Mark, ...]":
        """The marks of the picture that are in work."""

    def choose_marks(self, marks: "tuple[Mark, ...]") -> None:
        """Put marks of the picture in work."""

    def show_reading(self, read: "PictureReading | None", instead: str) -> None:
        """Show what the marks of the picture say, or words instead."""

    def show_faults(self, faults: "list[Fault]") -> None:
        """Show on the picture what is off in a sketch."""

    def straighten(self, paper: str) -> None:
        """Straighten the sheet of paper in the picture in work to a format."""

    def bring_picture(self, path: Path) -> None:
        """Bring a picture file in."""

    def open_place(self, key: str) -> None:
        """Open one of the places of work."""

    def settle(self) -> None:
        """Bring the cards up to date now."""

    def bring_outline(self, axis: int) -> None:
        """Bring an SVG outline in as the profile, carried along an own axis."""
