"""What is picked that belongs to no volume: the eye level, the light, a picture."""

from dataclasses import dataclass
from typing import ClassVar, Self

from isometron.document.document import Document
from isometron.drawing.picks.pick import Pick, Quantity, Reading, Row, Swipe
from isometron.drawing.scene import Scene
from isometron.drawing.shading.light_points import VanishingPoint, ray_point, shadow_point
from isometron.drawing.volume_picture import VolumePicture
from isometron.perspective.eye import Eye, eye_level
from isometron.perspective.lengths import write_percent
from isometron.words import _, many

MOST_NAMES = 2
"""More names than this do not fit a line."""

LEVEL_DEG = 1e-9


@dataclass(frozen=True)
class SheetPick(Pick):
    """Something of the sheet itself: it is there whatever volumes there are."""

    of_volume: ClassVar[bool] = False

    volume: int = -1

    def is_there(self, scene: Scene) -> bool:
        return True

    def carried(self, before: Scene, after: Scene) -> Self | None:
        return self

    def count(self, picture: VolumePicture) -> int | None:
        return None

    def swipe(self, scene: Scene) -> Swipe:
        return Swipe()


@dataclass(frozen=True)
class EyeLevelPick(SheetPick):
    """The eye level."""

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        eye, height = document.eye, eye_level(document.eye)
        rows = [Row(_("eye height"), eye.height_mm, Quantity.MM)]
        if height is not None:
            rows.append(Row(_("up the paper"), height, Quantity.MM))
        if abs(eye.tilt_deg) > LEVEL_DEG:
            rows.append(Row(_("we look down by"), -eye.tilt_deg, Quantity.DEG))
        rows.append(Row(_("cuts through"), _cut(document, eye), Quantity.TEXT))
        return Reading(_("Eye level"), tuple(rows))


def _cut(document: Document, eye: Eye) -> str:
    """The names of what is lower than the eye at its foot and higher at its top."""
    names = []
    for volume in document.volumes:
        heights = [height for _x, _y, height in volume.world().tolist()]
        if volume.shown and heights and min(heights) < eye.height_mm < max(heights):
            names.append(volume.name)
    if len(names) > MOST_NAMES:
        return many("{n} volume", "{n} volumes", len(names)).format(n=len(names))
    return ", ".join(names) or _("nothing")


@dataclass(frozen=True)
class LightPick(SheetPick):
    """The light of the sheet."""

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        light = document.light
        if light is None:
            off = Row(_("light"), _("none is on"), Quantity.TEXT)
            return Reading(_("Light"), (off,))
        eye = document.eye
        rows = (
            *(
                Row(one.words, one.value(light), Quantity.DEG if one.angle else Quantity.MM)
                for one in light.numbers
            ),
            _point(_("shadows run to"), shadow_point(eye, light)),
            _point(_("rays run to"), ray_point(eye, light)),
        )
        return Reading(light.called.capitalize(), rows)


def _point(label: str, point: VanishingPoint | None) -> Row:
    if point is None:
        return Row(label, _("their feet"), Quantity.TEXT)
    if point.sheet_mm is None:
        return Row(label, _("no point"), Quantity.TEXT)
    return Row(label, point.sheet_mm, Quantity.PLACE)


@dataclass(frozen=True)
class PicturePick(SheetPick):
    """The picture in work."""

    def reading(self, document: Document, scene: Scene) -> Reading | None:
        picture = document.photograph
        if picture is None:
            return None
        count = len(picture.edges) + len(picture.rounds)
        size = f"{picture.width} × {picture.height} px"
        rows = [
            Row(_("size"), size, Quantity.TEXT),
            Row(_("marks"), str(count), Quantity.TEXT),
            Row(_("under the sheet"), _lies(document), Quantity.TEXT),
        ]
        return Reading(_("Picture"), tuple(rows))


def _lies(document: Document) -> str:
    picture = document.photograph
    laid = None if picture is None else picture.laid
    if laid is None:
        return _("not laid there")
    if not laid.shown:
        return _("put away")
    if laid.seen_from(document.eye) is None:
        return _("seen from elsewhere")
    return write_percent(100 * laid.strength)
