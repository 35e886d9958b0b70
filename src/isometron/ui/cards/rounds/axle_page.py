"""The Axle page: what is turned about an axle, wheels, and wheels that belong together."""

import math
from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication

from isometron.document.document import Document
from isometron.document.edits import rounding
from isometron.drawing.scene import Scene
from isometron.framework.box import AXES
from isometron.perspective.errors import LengthError
from isometron.perspective.lengths import read_length, write_length
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.form import Entry
from isometron.ui.parts.page import Edit, Page
from isometron.ui.parts.theme import Room


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("AxlePage", text)


def _axle(document: Document) -> int | None:
    volume = document.volume
    return None if volume is None else volume.shape.axle


def _diameter(document: Document) -> float | None:
    axle, volume = _axle(document), document.volume
    return None if axle is None or volume is None else 2 * rounding.radius_of(volume)


def _length(document: Document) -> float | None:
    axle, volume = _axle(document), document.volume
    return None if axle is None or volume is None else volume.sides[axle]


def _set_length(document: Document, mm: float) -> Document:
    from isometron.document.edits.volume_edits import set_side

    axle = _axle(document)
    return document if axle is None else set_side(document, axle, mm)


def _bore(document: Document) -> float | None:
    shape, volume = rounding.turned_of(document.volume), document.volume
    if shape is None or volume is None:
        return None
    return 2 * shape.bore * rounding.radius_of(volume)


def _times(text: str) -> float:
    """How many modules a person typed. Raises LengthError with the sentence to show."""
    try:
        number = float(text)
    except ValueError:
        number = math.nan
    if not math.isfinite(number):
        raise LengthError(f"“{text}” is no number of modules: type, say, 3.2 w.")
    return number


class AxlePage(Page):
    """Diameter, width along the axle, bore; rims and hubs; pairs and axles."""

    def __init__(self) -> None:
        super().__init__()
        self._unit = "mm"
        self.form.row(
            tr("diameter"),
            Entry(
                "diameter",
                tr("The largest diameter; the foot stays on the ground."),
                "length",
                _diameter,
                rounding.set_diameter,
            ),
        )
        self.form.row(
            tr("along the axle"),
            Entry(
                "length along the axle",
                tr("Width of a wheel, height of what stands upright."),
                "length",
                _length,
                _set_length,
            ),
        )
        self.form.row(
            tr("bore"),
            Entry(
                "bore",
                tr("Diameter of a hole along the axle; 0 fills it."),
                "length",
                _bore,
                rounding.set_bore,
            ),
        )
        self.column.addLayout(self.form.grid)
        self.axis = self.choice(
            tr("axle runs along"), tr("The own direction the axle runs along."), list(AXES)
        )
        self.axis.activated.connect(
            lambda axis: self.wanted.emit("lay the axle", lambda d: rounding.turn_axle(d, axis))
        )
        self.row(tr("axle along"), self.axis)
        self.slide = self.measure(
            "length", "slide along the axle", tr("How far it slides along its axle."), 50.0
        )
        self.row(
            "",
            self.slide,
            self.act(
                tr("Slide it"),
                tr("Slide it along its own axle."),
                "slide along the axle",
                self._slide,
            ),
        )
        self.heading(tr("Rim and hub"))
        self.rings = TextField(
            tr("inner circles"), tr("Diameters of circles on both ends, such as 38, 12.")
        )
        self.rings.typed.connect(lambda text: self._do("rim and hub", lambda: self._rings(text)))
        self.needs_volume.append(self.rings)
        self.row(tr("diameters"), self.rings)
        self.heading(tr("Wheels that belong together"))
        self.track = self.measure(
            "length",
            "track",
            tr("From the middle of one wheel to the middle of the other."),
            1200.0,
        )
        self.row(
            tr("track"),
            self.track,
            self.act(
                tr("Pair it"),
                tr("Set the other wheel of this axle; it follows."),
                "pair the wheel",
                self._pair,
            ),
        )
        self.bases = TextField(
            tr("further axles"),
            tr("Where further axles lie, as lengths or modules: 1.9 m, or 3 w, 4.2 w."),
        )
        self.needs_volume.append(self.bases)
        self.row(
            tr("axles at"),
            self.bases,
            self.act(
                tr("Set them"),
                tr("Set wheels on further axles; they keep the wheelbase."),
                "set further axles",
                self._axles,
            ),
        )
        self._names: dict[str, float] = {}
        self.column.addStretch(1)

    def _slide(self) -> Callable[[Document], Document]:
        mm = self.slide.number
        return lambda d: rounding.slide_along_axle(d, mm)

    def _lengths(self, text: str) -> list[float]:
        found = []
        for word in text.replace(";", ",").split(","):
            number, _, name = word.strip().partition(" ")
            if name.strip() in self._names:
                found.append(_times(number) * self._names[name.strip()])
            elif word.strip():
                found.append(read_length(word, self._unit))
        return found

    def _rings(self, text: str) -> Edit:
        diameters = self._lengths(text)
        return lambda d: rounding.set_rings(d, diameters)

    def _pair(self) -> Callable[[Document], Document]:
        track = self.track.number
        return lambda d: rounding.pair_wheel(d, track)

    def _axles(self) -> Callable[[Document], Document]:
        offsets = self._lengths(self.bases.text())
        return lambda d: rounding.add_axles(d, offsets)

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        super().show_document(document, scene, families, room)
        self._unit = document.choices.unit
        self._names = {module.name: module.mm for module in document.modules}
        axle, volume = _axle(document), document.volume
        shape = rounding.turned_of(volume)
        self.axis.setEnabled(axle is not None)
        if axle is not None:
            self.axis.setCurrentIndex(axle)
        rings = ""
        if shape is not None and volume is not None:
            radius = rounding.radius_of(volume)
            sizes = sorted({round(2 * r * radius, 6) for _, r in shape.rings}, reverse=True)
            rings = ", ".join(write_length(d, self._unit, with_unit=False) for d in sizes)
        self.rings.show_text(rings if shape is not None else None)
