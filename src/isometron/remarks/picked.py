"""A remark that is picked."""

from dataclasses import dataclass
from typing import ClassVar

from isometron.document.document import Document
from isometron.drawing.picks.of_sheet import SheetPick
from isometron.drawing.picks.pick import Reading
from isometron.drawing.scene import Scene
from isometron.remarks.remark import Remark, Remedy


@dataclass(frozen=True)
class RemarkPick(SheetPick):
    """A remark of the second look: what it is set aside by, and its remedy, if any. It lives no
    longer than the drawing that it is about."""

    of_volume: ClassVar[bool] = False

    remark: Remark | None = None
    key: str = ""
    remedy: Remedy | None = None

    def carried(self, before: Scene, after: Scene) -> None:
        """Nothing: another drawing is looked at anew."""
        return

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        """Its title; its words are more than a row holds."""
        remark = self.remark
        return None if remark is None else Reading(remark.title, ())
