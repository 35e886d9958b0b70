"""A volume taken by its body, and a picked face that slides: held, but without a mark of their
own."""

from dataclasses import dataclass

from isometron.document.document import Document
from isometron.document.edits.places import sliding
from isometron.document.near_edge import drawn_place, near_edge, near_edge_world
from isometron.drawing.picks.corner import CornerPick
from isometron.drawing.picks.face import FacePick
from isometron.drawing.places import near_corner_in_words
from isometron.drawing.scene import Scene
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import write_length
from isometron.perspective.places import Place
from isometron.ui.board.handles.handle import Handle
from isometron.ui.board.handles.table import handles
from isometron.words import _


@dataclass(frozen=True, eq=False)
class Body(Handle):
    """Taken hold of where the pointer is."""


@handles(
    20, _("A volume's body"), _("the eye stays; it slides over its level, with Shift up and down")
)
def bodies(document: Document, scene: Scene) -> list[Handle]:
    """None that stand on the board: a body is held when it is pressed (`volume_handle`)."""
    return []


@handles(
    21, _("A picked face"), _("the opposite side stays; the true side changes; Alt holds off snaps")
)
def faces(document: Document, scene: Scene) -> list[Handle]:
    """None that stand on the board: a face is held when it is pressed (`face_handle`)."""
    return []


@handles(
    22, _("A picked edge"), _("it slides with the face that the drag leads, as that face does")
)
def edges(document: Document, scene: Scene) -> list[Handle]:
    """None that stand on the board: an edge is held when it is pressed (`face_handle`)."""
    return []


@handles(
    23, _("A picked corner of a free box"), _("width and depth follow; the opposite corner stays")
)
def corners(document: Document, scene: Scene) -> list[Handle]:
    """None that stand on the board: a corner is held when it is pressed (`corner_handle`)."""
    return []


def volume_handle(document: Document) -> Handle | None:
    """The chosen volumes taken by the body of the one in work: they slide over their own level,
    with Shift straight up and down; the eye stays."""
    edge, box = near_edge(document), document.volume
    if edge is None or box is None:
        return None
    foot = near_edge_world(document.eye, box)[0]
    return Body(
        "volume",
        box.name,
        edge.corner_mm,
        lambda document, to: sliding.slide_over_ground(document, foot, to, snap=False).document,
        _("the eye stays; with Shift it goes up and down; Alt holds off snaps"),
        lambda document, scene: near_corner_in_words(document),
        slides=lambda document, to, snap: sliding.slide_over_ground(document, foot, to, snap=snap),
        shift_slides=lambda document, to, snap: sliding.lift(document, foot, to, snap=snap),
    )


def corner_handle(document: Document, pick: CornerPick) -> Handle | None:
    """A picked corner of a free box: pulled level, width and depth follow, the opposite corner
    stays."""
    volume = document.volumes[pick.volume]
    if not volume.bare.boxed or volume.on is not None or volume.like is not None:
        return None
    try:
        place = drawn_place(document.eye, volume.corners()[pick.index])
    except IsometronError:
        return None
    return Body(
        "corner",
        _("Corner of {name}").format(name=volume.name),
        place,
        lambda document, to: sliding.pull_corner(document, pick.volume, pick.index, to),
        _("the opposite corner and the height stay"),
        lambda document, scene: _two_sides(document, pick.volume),
        pick=pick,
    )


def _two_sides(document: Document, index: int) -> str:
    width, depth, _height = document.volumes[index].sides
    unit = document.choices.unit
    return f"{write_length(width, unit)} × {write_length(depth, unit)}"


def face_handle(document: Document, pick: FacePick, at_mm: Place) -> Handle | None:
    """A picked face taken hold of: it slides along its own direction, the opposite side stays."""
    try:
        grip = sliding.grip_face(document, pick.volume, pick.index, at_mm)
    except IsometronError:
        return None

    def number(document: Document, scene: Scene) -> str:
        return write_length(sliding.gripped_mm(document, grip), document.choices.unit)

    return Body(
        "face",
        _("Face of {name}").format(name=document.volumes[pick.volume].name),
        at_mm,
        lambda document, to: sliding.slide_face(document, grip, to, snap=False).document,
        _("the opposite side stays; Alt holds off snaps"),
        number,
        pick=pick,
        typed="push to",
        slides=lambda document, to, snap: sliding.slide_face(document, grip, to, snap=snap),
    )
