"""A measure pinned to the sheet."""

from dataclasses import dataclass
from typing import ClassVar

from isometron.document.document import Document
from isometron.drawing.dimension_marks import ends_of
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe, in_modules
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.words import _


@dataclass(frozen=True)
class DimensionPick(Pick):
    """A dimension mark, by its number among the sheet's; `volume` is the first it hangs on."""

    of_volume: ClassVar[bool] = False

    def count(self, picture: VolumePicture) -> int | None:
        return None

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        if self.index >= len(document.dimensions):
            return None
        dimension = document.dimensions[self.index]
        ends = ends_of(document, dimension)
        names = [volume.name for key in dimension.keys if (volume := document.by_key(key))]
        if ends is None or len(names) < 2:
            return None
        title = _("Measure on {one}") if names[0] == names[1] else _("Measure, {one} to {two}")
        rows = [in_modules(document, _("true length"), ends[1])]
        rows.append(Row(_("Delete"), _("takes it off the sheet"), Quantity.TEXT))
        return Reading(title.format(one=names[0], two=names[1]), tuple(rows))

    def swipe(self, scene: Scene) -> Swipe:
        return Swipe()
