"""A page as SVG: one user unit is one millimetre, y downward from its top."""

import base64
import math
from collections.abc import Sequence
from functools import singledispatchmethod
from typing import Any
from xml.etree import ElementTree as ET

import numpy as np

from isometron.drawing.curves import ArcForm, chained, cubics, form_of
from isometron.drawing.pencils import Pencil
from isometron.pages.page import (
    Arcs,
    Area,
    Boxes,
    Cubics,
    Disc,
    Item,
    Kept,
    Layer,
    Lines,
    Link,
    Page,
    Picture,
    Placed,
    Words,
)
from isometron.perspective.eye import Array

SVG_NAMESPACE = "http://www.w3.org/2000/svg"
FAMILY = "B612, sans-serif"
DIGITS = 6
"""Digits behind the point: a nanometre."""

HYPERBOLA_MM = 1e-5
"""How far a cubic may miss an arc of a hyperbola, which SVG has no word for."""


def svg_of(page: Page, title: str) -> bytes:
    """A page as SVG, its layers named groups. Links lead nowhere here and are left out."""
    wide, high = (_number(mm) for mm in page.size_mm)
    size = {"width": f"{wide}mm", "height": f"{high}mm", "viewBox": f"0 0 {wide} {high}"}
    root = ET.Element("svg", {"xmlns": SVG_NAMESPACE, **size})
    ET.SubElement(root, "title").text = title
    _Hand(page.size_mm[1]).all(root, page.items)
    ET.indent(root, " ")
    content: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=True)
    return content


class _Hand:
    """Adds items to groups; `held` is the look that the group gives its lines."""

    def __init__(self, high: float) -> None:
        self._left, self._high = 0.0, high
        self._held: dict[str, str] = {}
        self._boxes = 0

    def all(self, group: ET.Element, items: Sequence[Item]) -> None:
        """Items into a group."""
        for item in items:
            self._draw(item, group)

    @singledispatchmethod
    def _draw(self, item: Item, group: ET.Element) -> None:
        raise TypeError(f"SVG does not know {type(item).__name__}")

    @_draw.register
    def _(self, item: Lines, group: ET.Element) -> None:
        look = self._own(item.pencil)
        if look and len(item.ends) > 1:
            group, look = ET.SubElement(group, "g", look), {}
        for x0, y0, x1, y1 in item.ends.tolist():
            ends = self._at("x1", x0, "y1", y0) | self._at("x2", x1, "y2", y1)
            ET.SubElement(group, "line", ends | look)

    @_draw.register
    def _(self, item: Arcs, group: ET.Element) -> None:
        for run in chained(item.arcs):
            ET.SubElement(group, "path", {"d": self._path(run), **self._own(item.pencil)})

    @_draw.register
    def _(self, item: Cubics, group: ET.Element) -> None:
        if not len(item.cubics):
            return
        first, *others = item.cubics[0, 0], *item.cubics[:, 1:].reshape(-1, 2)
        curve = " ".join(map(self._place, others))
        path = {"d": f"M {self._place(first)} C {curve}", **self._own(item.pencil)}
        ET.SubElement(group, "path", path)

    @_draw.register
    def _(self, item: Area, group: ET.Element) -> None:
        rings = " ".join(f"{self._path(ring)} Z" for ring in item.rings())
        look = {"fill": item.colour, "fill-rule": "evenodd"}
        own = {key: value for key, value in look.items() if self._held.get(key) != value}
        cover = {"fill-opacity": _number(item.cover), "d": rings}
        ET.SubElement(group, "path", cover | own)

    @_draw.register
    def _(self, item: Boxes, group: ET.Element) -> None:
        look = {"fill": item.colour, "stroke": "none"}
        if len(item.boxes) > 1:
            group, look = ET.SubElement(group, "g", look), {}
        for x, y, wide, high in item.boxes.tolist():
            size = {"width": _number(wide), "height": _number(high)}
            ET.SubElement(group, "rect", self._at("x", x, "y", y + high) | size | look)

    @_draw.register
    def _(self, item: Disc, group: ET.Element) -> None:
        place = self._at("cx", item.place[0], "cy", item.place[1])
        look = {"r": _number(item.radius_mm), "fill": item.colour, "stroke": "none"}
        ET.SubElement(group, "circle", place | look)

    @_draw.register
    def _(self, item: Words, group: ET.Element) -> None:
        look = self._at("x", item.place[0], "y", item.place[1])
        if item.angle_deg or item.label is not None:
            turn = _number(-item.angle_deg)
            look["transform"] = f"rotate({turn} {look['x']} {look['y']})"
        look |= {
            "text-anchor": item.stands,
            "font-family": FAMILY,
            "font-size": _number(item.size_mm),
            "fill": item.colour,
            "stroke": "none",
        }
        if item.bold:
            look["font-weight"] = "bold"
        ET.SubElement(group, "text", look).text = item.text

    @_draw.register
    def _(self, item: Picture, group: ET.Element) -> None:
        kind = "png" if item.content.startswith(b"\x89PNG") else "jpeg"
        (x, y), (wide, high) = item.corner, item.size
        c, s = math.cos(math.radians(item.turn_deg)), math.sin(math.radians(item.turn_deg))
        top = x - high * s, y + high * c
        way = (wide * c, -wide * s, high * s, high * c, self._left + top[0], self._high - top[1])
        look = {
            "width": "1",
            "height": "1",
            "preserveAspectRatio": "none",
            "transform": f"matrix({' '.join(map(_number, way))})",
            "href": f"data:image/{kind};base64,{base64.b64encode(item.content).decode()}",
        }
        if item.strength < 1:
            look["opacity"] = _number(item.strength)
        ET.SubElement(group, "image", look)

    @_draw.register
    def _(self, item: Link, group: ET.Element) -> None:
        pass

    @_draw.register
    def _(self, item: Layer, group: ET.Element) -> None:
        outer, self._held = self._held, _shared(item.items)
        key = item.key or item.name.replace(" ", "-")
        layer = ET.SubElement(group, "g", {"id": key, **self._held})
        ET.SubElement(layer, "title").text = item.name
        self.all(layer, item.items)
        self._held = outer

    @_draw.register
    def _(self, item: Placed, group: ET.Element) -> None:
        if item.box is not None:
            self._boxes += 1
            clip = ET.SubElement(group, "clipPath", {"id": f"box-{self._boxes}"})
            self._draw(Boxes("#000000", np.array([item.box])), clip)
            look = {"clip-path": f"url(#box-{self._boxes})"}
            group = ET.SubElement(group, "g", look)
        outer = self._left, self._high
        self._left, self._high = self._left + item.by[0], self._high - item.by[1]
        self.all(group, item.items)
        self._left, self._high = outer

    @_draw.register
    def _(self, item: Kept, group: ET.Element) -> None:
        self.all(group, item.items())

    def _own(self, pencil: Pencil) -> dict[str, str]:
        """What a line must say of its look, beyond what its group says."""
        look = {"fill": "none", **_look(pencil)}
        return {key: value for key, value in look.items() if self._held.get(key) != value}

    def _place(self, at: Any) -> str:
        return f"{_number(self._left + at[0])} {_number(self._high - at[1])}"

    def _at(self, across: str, x: float, down: str, y: float) -> dict[str, str]:
        """A place of the page by the names that an element has for it."""
        return {across: _number(self._left + x), down: _number(self._high - y)}

    def _path(self, run: Array) -> str:
        """A run of arcs as path data: ellipses as true elliptical arcs, parabolas as quadratic
        curves, hyperbolas as cubics within HYPERBOLA_MM."""
        words: list[str] = []
        for arc in run:
            form = form_of(arc)
            if not words:
                words.append(f"M {self._place(form.start)}")
            if form.kind == "line":
                words.append(f"L {self._place(form.end)}")
            elif form.kind == "parabola":
                words.append(f"Q {self._place(form.control)} {self._place(form.end)}")
            elif form.kind == "hyperbola":
                for one in cubics(arc[None], HYPERBOLA_MM)[0][:, 1:].tolist():
                    words.append(f"C {' '.join(map(self._place, one))}")
            else:
                turning = 0 if form.left_turning else 1
                words.append(f"A {_radii(form)} 0 {turning} {self._place(form.end)}")
        return " ".join(words)


def _shared(items: Sequence[Item]) -> dict[str, str]:
    """The look that a layer's first line or area has; those with another say it themselves."""
    for item in items:
        if isinstance(item, Lines | Arcs | Cubics):
            return {"fill": "none", **_look(item.pencil)}
        if isinstance(item, Area):
            return {"fill": item.colour, "fill-rule": "evenodd"}
    return {}


def _look(pencil: Pencil) -> dict[str, str]:
    look = {
        "stroke": pencil.colour,
        "stroke-width": str(pencil.width_mm),
        "stroke-linecap": "butt" if pencil.dash_mm else "round",
    }
    if pencil.dash_mm:
        look["stroke-dasharray"] = " ".join(str(mm) for mm in pencil.dash_mm)
    return look


def _radii(form: ArcForm) -> str:
    (ax, ay), (bx, by) = form.long, form.short
    tilt = math.degrees(math.atan2(-ay, ax))
    return f"{_number(math.hypot(ax, ay))} {_number(math.hypot(bx, by))} {tilt:.9g}"


def _number(mm: float) -> str:
    text = f"{mm:.{DIGITS}f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text
