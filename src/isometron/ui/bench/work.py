"""What commands act on: the open sheet, its board and cards, and the window they lie in."""

from typing import TYPE_CHECKING, Protocol

from PyQt6.QtWidgets import QWidget

from isometron.deeds.deed import Deed
from isometron.document.picture import Mark
from isometron.ui.bench.column import Column
from isometron.ui.bench.folding import Folding
from isometron.ui.bench.keeping import SheetKeeping
from isometron.ui.bench.session import Session
from isometron.ui.board.frame import BoardFrame
from isometron.ui.board.plate import Plate
from isometron.ui.cards.second_look import SecondLookStrip
from isometron.ui.cards.slip.card import SlipCard
from isometron.ui.parts.card import EditCard
from isometron.ui.parts.theme import Room
from isometron.ui.parts.wishes import Wishes

if TYPE_CHECKING:
    from isometron.reading.of_picture import PictureReading
    from isometron.ui.board.pictures.frame import PictureFrame


class Work(Protocol):
    """One window at work."""

    session: Session
    keeping: SheetKeeping
    board: BoardFrame
    folding: Folding
    room: Room

    @property
    def wishes(self) -> Wishes:
        """What cards and board may wish for."""

    @property
    def window_itself(self) -> QWidget:
        """The window, for what is to lie over it."""

    @property
    def picture_board(self) -> "PictureFrame":
        """The picture on the felt."""

    @property
    def marks(self) -> tuple[Mark, ...]:
        """The marks of the picture that are in work."""

    @property
    def pictured(self) -> bool:
        """Whether the picture lies on the felt instead of the sheet."""

    @property
    def plate(self) -> Plate:
        """Where the board in front says what is under the pointer, refused or done."""

    def look_again(self) -> None:
        """Let the second look take up what has been read of a sketch."""

    def refuse(self, sentence: str) -> None:
        """Say on the board in front why something cannot be done."""

    def tell(self, sentence: str) -> None:
        """Say on the board in front what has been done."""

    def show_picture_reading(self, read: "PictureReading | None", instead: str) -> None:
        """Show what the marks of the picture say, or words instead."""

    @property
    def open_card(self) -> EditCard | None:
        """The card that is open."""

    def open_place(self, key: str) -> None:
        """Open one of the places of work."""

    def do_deed(self, deed: Deed) -> bool:
        """Do a deed that asks for nothing, open the fields of another, or say what is lacking."""

    def say_deed(self, deed: Deed, values: str) -> None:
        """Do a deed with what is said of it in a line, or say what is lacking."""

    def find_deed(self) -> None:
        """Find a deed by its words."""

    def open_log(self) -> None:
        """Open the log, which lies beside the drills."""

    @property
    def slip(self) -> SlipCard:
        """The slip of what is picked."""

    column: Column
    strip: SecondLookStrip

    @property
    def column_left(self) -> bool:
        """Whether the column stands at the left."""

    def stand_column(self, *, left: bool) -> None:
        """Let the column stand at the left or at the right; remembered."""

    def enter_room(self, room: Room) -> None:
        """Work in another room."""

    def settle(self) -> None:
        """Bring the cards up to date now."""

    def leave(self) -> None:
        """Close the window."""
