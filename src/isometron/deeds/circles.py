"""Deeds of what is round on a face: circles, holes, arches, round ends, lids and knobs."""

from dataclasses import replace

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Given,
    Matter,
    Measured,
    Parameter,
    choice,
    length,
    plain,
    words,
)
from isometron.deeds.example import Example, box, front_face
from isometron.deeds.openings import PICKED
from isometron.document.document import Document
from isometron.document.edits import choosing, meaning
from isometron.document.edits.shapes import arches, ellipses, rounding
from isometron.drawing.picks.face import FacePick
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.box import FACE_OF, SIDES
from isometron.framework.circles import FaceCircle
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

MATTER = Matter.CIRCLES

FACE = choice(
    said("face"), _("The side; or pick a face on the board."), (PICKED, *SIDES), label=_("on")
)
MIDDLE_ACROSS = Parameter(
    said("middle across"), _("Middle across, a share."), Measured.SHARE, 0.5, label=_("across")
)
MIDDLE_UP = Parameter(
    said("middle up"), _("Middle up the face, a share."), Measured.SHARE, 0.5, label=_("up")
)
RADIUS = length(said("radius"), _("The radius; 0 takes the largest circle that fits."))
CONCENTRIC = words(
    said("concentric"), _("Circles about the same middle, as shares: 100%, 60%, 25%."), "100%"
)
ARC_FROM = Parameter(
    said("arc from"), _("Where an arc begins."), Measured.ANGLE, 0.0, label=_("arc from")
)
ARC_TURNS = Parameter(
    said("arc turns"),
    _("How far it turns; 360° is whole."),
    Measured.ANGLE,
    360.0,
    label=_("turns"),
)
ARCH_MIDDLE = length(said("arch middle"), _("Middle of the arch."), 100.0, label=_("middle"))
ARCH_WIDTH = length(said("arch width"), _("Width or diameter."), 80.0, label=_("wide"))
STRAIGHT = length(
    said("straight sides"),
    _("Height of the straight sides below the bow."),
    40.0,
    label=_("straight"),
)
WHAT = choice(said("what"), _("What is set on the face."), tuple(arches.LIDS))
LID_DIAMETER = length(said("its diameter"), _("Its diameter."), 40.0, label=_("diameter"))
LID_HEIGHT = length(said("its height"), _("How far it stands out."), 15.0, label=_("height"))


def chosen_face(given: Given) -> int:
    """The face of the box (x=0, x=1, y=0, y=1, base, top) that is meant: the one named, else the
    picked one, else the front."""
    side = given.whole(FACE)
    if side:
        return FACE_OF[SIDES[side - 1]]
    return given.pick.index if isinstance(given.pick, FacePick) else FACE_OF["front"]


def _circle(document: Document, given: Given, *, through: bool) -> Document:
    face, volume = chosen_face(given), document.volume
    if volume is not None:
        picked = given.whole(FACE) == 0 and isinstance(given.pick, FacePick)
        face = (rounding.face_picked if picked else rounding.face_named)(volume, face)
    middle, radius = (given[MIDDLE_ACROSS], given[MIDDLE_UP]), given[RADIUS] or None
    if through:
        circle = FaceCircle(face, middle, radius, through=True)
    else:
        typed = ellipses.read_list(given.text(CONCENTRIC).replace("%", ""))
        shares = tuple(share / 100 for share in typed)[::-1] or (1.0,)
        circle = FaceCircle(face, middle, radius, shares, given[ARC_FROM], given[ARC_TURNS])
    return rounding.add_circle(document, circle)


def _arch(document: Document, given: Given) -> Document:
    axis = chosen_face(given) // 2
    if axis == 2:
        raise VolumeError(_("An arch goes through an upright side: choose the front or the left."))
    return arches.cut_arch(document, axis, given[ARCH_MIDDLE], given[ARCH_WIDTH], given[STRAIGHT])


def _wheel_arch(document: Document, given: Given) -> Document:
    """A guard arc in the volume in work over the other chosen wheel."""
    axis, body = chosen_face(given) // 2, document.volume
    wheels = [
        document.volumes[i]
        for i in document.chosen
        if i != document.selected and rounding.turned_of(document.volumes[i]) is not None
    ]
    if body is None or not wheels:
        raise VolumeError(_("Choose the wheel first, then with Ctrl the body to cut."))
    cut = arches.arch_over(document, wheels[0], axis, CROSS[axis])
    wheel = next(i for i, one in enumerate(cut.volumes) if one.key == wheels[0].key)
    kept = meaning.keep_in_arch(choosing.select(cut, wheel), document.selected or 0)
    return replace(kept, selected=document.selected, also=document.also)


def _round_end(document: Document, given: Given) -> Document:
    face = chosen_face(given)
    if face >= FACE_OF["base"]:
        raise VolumeError(_("A round end is the left, right, front or back: choose one of them."))
    axis = 1 if face // 2 == 0 else 0
    return arches.round_end(document, axis, face % 2 == 1)


def _set_on(document: Document, given: Given) -> Document:
    what, face = given.chosen(WHAT), chosen_face(given)
    place = given[MIDDLE_ACROSS], given[MIDDLE_UP]
    return arches.set_on_face(document, what, face, place, (given[LID_DIAMETER], given[LID_HEIGHT]))


def _with_circle() -> Example:
    return Example(
        rounding.add_circle(box().document, FaceCircle(FACE_OF["front"], (0.5, 0.5), None))
    )


def _wheel_and_body() -> Example:
    """A body with a wheel standing in its side, both chosen, the body last."""
    document = rounding.set_diameter(rounding.add_round(box().document, "wheel"), 30.0)
    body, wheel = document.volumes
    place, axes = body.pose
    x, y, _z = (place + 15.0 * axes[0] - 2.0 * axes[1]).tolist()
    placed = document.with_volume(1, replace(wheel, x_mm=x, y_mm=y, yaw_deg=body.yaw_deg))
    return Example(choosing.choose_also(choosing.select(placed, 1), 0))


ON_FACE = (ActsOn.FACE, ActsOn.VOLUME)

DEEDS = (
    Deed(
        "draw circle",
        _("Circle on it"),
        _("Draw a circle or an arc on the face."),
        _("draw a circle"),
        lambda document, given: _circle(document, given, through=False),
        (RADIUS, MIDDLE_ACROSS, MIDDLE_UP, FACE, CONCENTRIC, ARC_FROM, ARC_TURNS),
        ON_FACE,
        shows=front_face,
        finds=_("ellipse ring dial arc"),
    ),
    Deed(
        "round hole",
        _("Round hole"),
        _("Bore a round hole right through the volume."),
        _("round hole"),
        lambda document, given: _circle(document, given, through=True),
        (RADIUS, MIDDLE_ACROSS, MIDDLE_UP, FACE),
        ON_FACE,
        shows=front_face,
        finds=_("bore drill"),
    ),
    Deed(
        "set on face",
        _("Knob or lid"),
        _("Set a lid, a knob or a boss on the face; it follows."),
        _("set on the face"),
        _set_on,
        (WHAT, LID_DIAMETER, LID_HEIGHT, MIDDLE_ACROSS, MIDDLE_UP, FACE),
        ON_FACE,
        shows=front_face,
        finds=_("handle button cap"),
    ),
    Deed(
        "cut arch",
        _("Arch"),
        _("An opening from the base with half a circle on top."),
        _("cut an arch"),
        _arch,
        (ARCH_MIDDLE, ARCH_WIDTH, STRAIGHT, FACE),
        shows=lambda: Example(
            box().document,
            None,
            {ARCH_MIDDLE.key: 50.0, ARCH_WIDTH.key: 40.0, STRAIGHT.key: 30.0},
        ),
    ),
    Deed(
        "wheel arch",
        _("Wheel arch"),
        _("A guard arc over the chosen wheel, a tenth wider than it."),
        _("wheel arch"),
        _wheel_arch,
        (FACE,),
        (ActsOn.VOLUMES,),
        shows=_wheel_and_body,
    ),
    Deed(
        "round end",
        _("Round end"),
        _("Half a circle at that end of the volume, seen from the front."),
        _("round end"),
        _round_end,
        (FACE,),
        shows=lambda: Example(box().document, None, {FACE.key: 1 + SIDES.index("left")}),
    ),
    Deed(
        "clear circles",
        _("Clear circles"),
        _("Take circles and holes away."),
        _("clear circles"),
        plain(rounding.clear_circles),
        shows=_with_circle,
    ),
)
