"""A corner of a volume."""

from dataclasses import dataclass

import numpy as np

from isometron.document.document import Document
from isometron.drawing.picks.edge import off_centre
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe, in_shares, place_row
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Array
from isometron.words import _


@dataclass(frozen=True)
class CornerPick(Pick):
    """A corner, by its number in the body."""

    def count(self, picture: VolumePicture) -> int | None:
        return len(picture.world)

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        picture = scene.pictures[self.volume]
        rows = [Row(_("off the eye's plane"), float(picture.depth[self.index]), Quantity.MM)]
        rows += place_row(_("on the paper"), picture, self.index)
        rows += off_centre(document.eye, picture, [self.index])
        return Reading(_("Corner of {name}").format(name=picture.volume.name), tuple(rows))

    def place(self, picture: VolumePicture, number: int) -> Array | None:
        return in_shares(picture, picture.body.vertices[number])

    def swipe(self, scene: Scene) -> Swipe:
        places = scene.pictures[self.volume].sheet[[self.index]]
        return Swipe(places=places) if np.isfinite(places).all() else Swipe()
