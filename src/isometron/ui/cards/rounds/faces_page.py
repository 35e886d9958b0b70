"""The Faces page: circles, arcs and holes on a picked face, arches, round ends, lids and knobs."""

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication

from isometron.document.document import Document
from isometron.document.edits import arches, ellipses, rounding
from isometron.framework.bodies.extruded import CROSS
from isometron.framework.circles import FaceCircle
from isometron.perspective.errors import VolumeError
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.page import FACE_OF, SIDES, Page


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("FacesPage", text)


class FacesPage(Page):
    """Circles on faces and what is round in a side."""

    def __init__(self) -> None:
        super().__init__()
        self.face = self.choice(
            tr("face"),
            tr("The side; or pick a face on the board."),
            [tr("the picked face"), *SIDES],
        )
        self.row(tr("face"), self.face)
        self.heading(tr("Circle on it"))
        self.across = self.measure("share", "middle across", tr("Middle across, a share."), 0.5)
        self.along = self.measure("share", "middle up", tr("Middle up the face, a share."), 0.5)
        self.row(tr("middle"), self.across, self.along)
        self.radius = self.measure(
            "length", "radius", tr("The radius; 0 takes the largest circle that fits."), 0.0
        )
        self.row(tr("radius (0 fits)"), self.radius)
        self.shares = TextField(
            tr("concentric"), tr("Circles about the same middle, as shares: 100%, 60%, 25%.")
        )
        self.shares.setText("100%")
        self.row(tr("concentric"), self.shares)
        self.start = self.measure("angle", "arc from", tr("Where an arc begins."), 0.0)
        self.sweep = self.measure(
            "angle", "arc turns", tr("How far it turns; 360° is whole."), 360.0
        )
        self.row(tr("arc from, turns"), self.start, self.sweep)
        self.row(
            "",
            self.act(tr("Draw it"), tr("Draw it on the face."), "draw a circle", self._draw),
            self.act(
                tr("Hole"),
                tr("A round hole right through the volume."),
                "round hole",
                lambda: self._circle(through=True),
            ),
            self.act(
                tr("Clear"),
                tr("Take circles and holes away."),
                "clear circles",
                lambda: rounding.clear_circles,
            ),
        )
        self.heading(tr("Arch from the base, through that side"))
        self.middle = self.measure("length", "arch middle", tr("Middle of the arch."), 100.0)
        self.wide = self.measure("length", "arch width", tr("Width or diameter."), 80.0)
        self.row(tr("middle, width"), self.middle, self.wide)
        self.straight = self.measure(
            "length", "straight sides", tr("Height of the straight sides below the bow."), 40.0
        )
        self.row(
            tr("straight"),
            self.straight,
            self.act(
                tr("Arch"), tr("An opening with half a circle on top."), "cut an arch", self._arch
            ),
        )
        self.row(
            "",
            self.act(
                tr("Wheel arch"),
                tr("A guard arc over the chosen wheel, a tenth wider than it."),
                "wheel arch",
                self._wheel_arch,
            ),
            self.act(
                tr("Round end"),
                tr("Half a circle at that end of the volume, seen from the front."),
                "round end",
                self._round_end,
            ),
        )
        self.heading(tr("Set on it"))
        self.lid = self.choice(tr("what"), tr("What is set on the face."), list(arches.LIDS))
        self.wide_of = self.measure("length", "its diameter", tr("Its diameter."), 40.0)
        self.high = self.measure("length", "its height", tr("How far it stands out."), 15.0)
        self.row(
            "",
            self.lid,
            self.wide_of,
            self.high,
            self.act(tr("Set"), tr("Set it there; it follows."), "set on the face", self._lid),
        )
        for field in (self.across, self.along, self.wide_of, self.high, self.middle, self.wide):
            if hasattr(field, "terse"):
                field.terse = True
        self.column.addStretch(1)

    def _chosen_face(self) -> int:
        """The face of the box (x=0, x=1, y=0, y=1, base, top) that is meant."""
        if self.face.currentIndex() > 0:
            return FACE_OF[self.face.currentText()]
        if self.pick is None or self.pick.kind != "face":
            raise VolumeError("No face is picked: click one on the board, or choose a side here.")
        return self.pick.index

    def _face_for(self, document: Document) -> int:
        """The face a circle is put on: of a round volume the near or far end."""
        face = self._chosen_face()
        volume = document.volume
        if volume is None:
            return face
        picked = self.face.currentIndex() <= 0
        return (rounding.face_picked if picked else rounding.face_named)(volume, face)

    def _circle(self, *, through: bool = False) -> Callable[[Document], Document]:
        radius = self.radius.number or None
        middle = (self.across.number, self.along.number)
        face_for = self._face_for
        if through:
            return lambda d: rounding.add_circle(
                d, FaceCircle(face_for(d), middle, radius, through=True)
            )
        shares = tuple(
            share / 100 for share in ellipses.read_list(self.shares.text().replace("%", ""))
        )
        start, sweep = self.start.number, self.sweep.number
        return lambda d: rounding.add_circle(
            d, FaceCircle(face_for(d), middle, radius, shares[::-1], start, sweep)
        )

    def _draw(self) -> Callable[[Document], Document]:
        return self._circle()

    def _arch(self) -> Callable[[Document], Document]:
        axis = self._chosen_face() // 2
        middle, wide, straight = self.middle.number, self.wide.number, self.straight.number
        if axis == 2:
            raise VolumeError("An arch goes through an upright side: choose the front or the left.")
        return lambda d: arches.cut_arch(d, axis, middle, wide, straight)

    def _wheel_arch(self) -> Callable[[Document], Document]:
        axis = self._chosen_face() // 2
        return lambda d: _arch_over(d, axis)

    def _round_end(self) -> Callable[[Document], Document]:
        face = self._chosen_face()
        if face >= 4:
            raise VolumeError("A round end is the left, right, front or back: choose one of them.")
        axis = 1 if face // 2 == 0 else 0
        return lambda d: arches.round_end(d, axis, face % 2 == 1)

    def _lid(self) -> Callable[[Document], Document]:
        face, what = self._chosen_face(), self.lid.currentText()
        place = (self.across.number, self.along.number)
        size = (self.wide_of.number, self.high.number)
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
        raise VolumeError("Choose the wheel first, then with Ctrl the body to cut.")
    return arches.arch_over(document, wheels[0], axis, CROSS[axis])
