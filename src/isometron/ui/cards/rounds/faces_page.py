"""The Faces page: circles, arcs and holes on a picked face, arches, round ends, lids and knobs."""

from isometron.document.document import Document
from isometron.document.edits.shapes import arches, ellipses, rounding
from isometron.drawing.picks.face import FacePick
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.box import FACE_OF, SIDES
from isometron.framework.circles import FaceCircle
from isometron.perspective.errors import VolumeError
from isometron.ui.parts.fields import AngleField, LengthField, ShareField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import Button, Choosing, Heading, Measure, Rest, Row, Words
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said


def _named(page: Page) -> str | None:
    """The side named on the page; None for the picked face."""
    number = page.chosen("face")
    return SIDES[number - 1] if number > 0 else None


def _chosen_face(page: Page) -> int:
    """The face of the box (x=0, x=1, y=0, y=1, base, top) that is meant."""
    side = _named(page)
    if side is not None:
        return FACE_OF[side]
    otherwise = _("No face is picked: click one on the board, or choose a side here.")
    return page.picked(FacePick, otherwise).index


def _circle(page: Page, *, through: bool = False) -> Edit:
    face, picked = _chosen_face(page), _named(page) is None
    radius = page.number("radius") or None
    middle = (page.number("middle across"), page.number("middle up"))
    typed = ellipses.read_list(page.text("concentric").replace("%", "")) if not through else ()
    shares = tuple(share / 100 for share in typed)[::-1] or (1.0,)
    start, sweep = page.number("arc from"), page.number("arc turns")

    def add(document: Document) -> Document:
        which = _face_for(document, face, picked=picked)
        if through:
            circle = FaceCircle(which, middle, radius, through=True)
        else:
            circle = FaceCircle(which, middle, radius, shares, start, sweep)
        return rounding.add_circle(document, circle)

    return add


def _face_for(document: Document, face: int, *, picked: bool) -> int:
    """The face a circle is put on: of a round volume the near or far end."""
    volume = document.volume
    if volume is None:
        return face
    return (rounding.face_picked if picked else rounding.face_named)(volume, face)


def _hole(page: Page) -> Edit:
    return _circle(page, through=True)


def _arch(page: Page) -> Edit:
    axis = _chosen_face(page) // 2
    middle, wide = page.number("arch middle"), page.number("arch width")
    straight = page.number("straight sides")
    if axis == 2:
        raise VolumeError(_("An arch goes through an upright side: choose the front or the left."))
    return lambda d: arches.cut_arch(d, axis, middle, wide, straight)


def _wheel_arch(page: Page) -> Edit:
    axis = _chosen_face(page) // 2
    return lambda d: _arch_over(d, axis)


def _round_end(page: Page) -> Edit:
    face = _chosen_face(page)
    if face >= 4:
        raise VolumeError(_("A round end is the left, right, front or back: choose one of them."))
    axis = 1 if face // 2 == 0 else 0
    return lambda d: arches.round_end(d, axis, face % 2 == 1)


def _lid(page: Page) -> Edit:
    face, what = _chosen_face(page), list(arches.LIDS)[page.chosen("what")]
    place = (page.number("middle across"), page.number("middle up"))
    size = (page.number("its diameter"), page.number("its height"))
    return lambda d: arches.set_on_face(d, what, face, place, size)


def _arch_over(document: Document, axis: int) -> Document:
    """A guard arc in the volume in work over the other chosen wheel."""
    wheels = [
        document.volumes[i]
        for i in document.chosen
        if i != document.selected and rounding.turned_of(document.volumes[i]) is not None
    ]
    body = document.volume
    if body is None or not wheels:
        raise VolumeError(_("Choose the wheel first, then with Ctrl the body to cut."))
    return arches.arch_over(document, wheels[0], axis, CROSS[axis])


class FacesPage(Page):
    """Circles on faces and what is round in a side."""

    ROWS = (
        Row(
            _("face"),
            Choosing(
                said("face"),
                _("The side; or pick a face on the board."),
                [_("the picked face"), *(_(side) for side in SIDES)],
            ),
        ),
        Heading(_("Circle on it")),
        Row(
            _("middle"),
            Measure(said("middle across"), _("Middle across, a share."), ShareField, 0.5),
            Measure(said("middle up"), _("Middle up the face, a share."), ShareField, 0.5),
        ),
        Row(
            _("radius (0 fits)"),
            Measure(
                said("radius"),
                _("The radius; 0 takes the largest circle that fits."),
                LengthField,
                0.0,
            ),
        ),
        Row(
            _("concentric"),
            Words(
                said("concentric"),
                _("Circles about the same middle, as shares: 100%, 60%, 25%."),
                at_first="100%",
            ),
        ),
        Row(
            _("arc from, turns"),
            Measure(said("arc from"), _("Where an arc begins."), AngleField, 0.0),
            Measure(said("arc turns"), _("How far it turns; 360° is whole."), AngleField, 360.0),
        ),
        Row(
            "",
            Button(_("Draw it"), _("Draw it on the face."), _("draw a circle"), _circle),
            Button(_("Hole"), _("A round hole right through the volume."), _("round hole"), _hole),
            Button(
                _("Clear"),
                _("Take circles and holes away."),
                _("clear circles"),
                lambda page: rounding.clear_circles,
            ),
        ),
        Heading(_("Arch from the base, through that side")),
        Row(
            _("middle, width"),
            Measure(said("arch middle"), _("Middle of the arch."), LengthField, 100.0),
            Measure(said("arch width"), _("Width or diameter."), LengthField, 80.0),
        ),
        Row(
            _("straight"),
            Measure(
                said("straight sides"),
                _("Height of the straight sides below the bow."),
                LengthField,
                40.0,
            ),
            Button(_("Arch"), _("An opening with half a circle on top."), _("cut an arch"), _arch),
        ),
        Row(
            "",
            Button(
                _("Wheel arch"),
                _("A guard arc over the chosen wheel, a tenth wider than it."),
                _("wheel arch"),
                _wheel_arch,
            ),
            Button(
                _("Round end"),
                _("Half a circle at that end of the volume, seen from the front."),
                _("round end"),
                _round_end,
            ),
        ),
        Heading(_("Set on it")),
        Row(
            "",
            Choosing(said("what"), _("What is set on the face."), [_(lid) for lid in arches.LIDS]),
            Measure(said("its diameter"), _("Its diameter."), LengthField, 40.0),
            Measure(said("its height"), _("How far it stands out."), LengthField, 15.0),
            Button(_("Set on it"), _("Set it there; it follows."), _("set on the face"), _lid),
        ),
        Rest(),
    )
