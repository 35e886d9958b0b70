"""The closed paths of an SVG drawing, read within bounds: so large, so deep, so many elements.

Paths are read by fontTools; shapes, transforms, units and `use` here. Styles are not looked at.
"""

import cmath
import math
import re
import xml.etree.ElementTree as ET
from collections.abc import Callable
from typing import Any, NamedTuple

import numpy as np

from isometron.nearness import NEAR, SAME
from isometron.perspective.errors import FileError
from isometron.perspective.eye import Array
from isometron.words import _

DEEPEST, MOST_ELEMENTS, MOST_SEGMENTS, LONGEST_PATH = 64, 20_000, 20_000, 1_000_000
MM = {"": 1.0, "px": 1.0, "mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6}
"""mm of a unit; what has no unit is taken in mm."""

LARGEST = 1e7
BEYOND = 1e15
"""Numbers larger than this, and what they make, cannot be told apart any more."""

_NUMBER = re.compile(r"[-+]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][-+]?[0-9]{1,3})?")
_TRANSFORM = re.compile(r"([a-zA-Z]+)\s*\(([^()]*)\)")
_UNSEEN = {"defs", "clipPath", "mask", "pattern", "marker", "symbol", "linearGradient", "metadata"}


class Segment(NamedTuple):
    """A piece of a path, mm, y up: its ends (2,), the turn of an arc of a circle in radians (0 for
    a straight line, None for another curve), and its points for a share of its way."""

    start: Array
    end: Array
    turn: float | None
    point: Callable[[float], Array]


Subpath = list[Segment]


def closed_paths(content: bytes) -> list[Subpath]:
    """Every path of a drawing, mm, y up; open ones are closed by a line. Raises FileError for what
    is no SVG drawing or is larger than one."""
    root = _parsed(content)
    if _tag(root) != "svg":
        raise FileError(_("it is no SVG drawing."))
    reader = _Reader(root)
    reader.walk(root, np.diag([1.0, -1.0, 1.0]), 0)
    return reader.paths


def _parsed(content: bytes) -> ET.Element:
    if b"<!ENTITY" in content:
        raise FileError(_("it defines entities; save it as plain SVG."))
    parser: Any = ET.XMLPullParser(("start", "end"))
    depth = count = 0
    root: ET.Element | None = None
    try:
        for at in range(0, len(content), 1 << 16):
            parser.feed(content[at : at + (1 << 16)])
            for event, element in parser.read_events():
                root = element if root is None else root
                depth += 1 if event == "start" else -1
                count += event == "start"
                if depth > DEEPEST or count > MOST_ELEMENTS:
                    raise FileError(_("it has too many elements; bring in a simpler drawing."))
        parser.close()
    except (ET.ParseError, ValueError, LookupError) as error:
        raise FileError(_("it is no SVG drawing.")) from error
    if root is None:
        raise FileError(_("it is no SVG drawing."))
    return root


def _tag(element: ET.Element) -> str:
    return str(element.tag).rpartition("}")[2]


class _Reader:
    """Walks a drawing and keeps its paths."""

    def __init__(self, root: ET.Element) -> None:
        self.paths: list[Subpath] = []
        self._seen = self._segments = 0
        self._by_name = {name: one for one in root.iter() if (name := one.get("id"))}

    def walk(self, element: ET.Element, matrix: Array, depth: int) -> None:
        """Keep what an element and those in it draw."""
        self._seen += 1
        if depth > DEEPEST or self._seen > MOST_ELEMENTS:
            raise FileError(_("it repeats itself too often; bring in a simpler drawing."))
        matrix = _within(matrix @ _transform(element.get("transform", "")))
        tag = _tag(element)
        if tag == "svg":
            matrix = _within(matrix @ _viewport(element, outermost=depth == 0))
        if tag == "use":
            href = element.get("href") or element.get("{http://www.w3.org/1999/xlink}href") or ""
            used = self._by_name.get(href.removeprefix("#"))
            if used is not None:
                self._inside(used, _within(matrix @ _moved(element)), depth)
            return
        self._shape(tag, element, matrix)
        for one in element:
            if _tag(one) not in _UNSEEN:
                self.walk(one, matrix, depth + 1)

    def _inside(self, used: ET.Element, matrix: Array, depth: int) -> None:
        if _tag(used) in ("symbol", "svg"):
            for one in used:
                self.walk(one, matrix, depth + 1)
        else:
            self.walk(used, matrix, depth + 1)

    def _shape(self, tag: str, element: ET.Element, matrix: Array) -> None:
        pen = _Pen(matrix)
        try:
            _draw(tag, element, pen)
        except FileError:
            raise
        except Exception as error:  # the path reader raises whatever it stumbles over
            raise FileError(_("one of its paths is damaged; draw it anew.")) from error
        for path in pen.finished():
            self._segments += len(path)
            if self._segments > MOST_SEGMENTS:
                raise FileError(_("its paths have too many pieces; bring in a simpler drawing."))
            self.paths.append(path)


def _draw(tag: str, element: ET.Element, pen: "_Pen") -> None:
    if tag == "path":
        from fontTools.svgLib.path.parser import parse_path

        words = element.get("d", "")
        if len(words) > LONGEST_PATH:
            raise FileError(_("one of its paths is too long; bring in a simpler drawing."))
        parse_path(words, pen)
    elif tag in ("polygon", "polyline"):
        places = _numbers(element.get("points", ""))
        for i in range(0, len(places) - 1, 2):
            (pen.lineTo if i else pen.moveTo)((places[i], places[i + 1]))
        pen.closePath()
    elif tag == "rect":
        _rectangle(element, pen)
    elif tag in ("circle", "ellipse"):
        round_one = tag == "circle"
        rx = _length(element, "r" if round_one else "rx")
        ry = rx if round_one else _length(element, "ry")
        cx, cy = _length(element, "cx"), _length(element, "cy")
        if rx > 0 and ry > 0:
            pen.moveTo((cx + rx, cy))
            for x in (cx - rx, cx + rx):
                pen.arcTo(rx, ry, 0.0, False, True, (x, cy))
            pen.closePath()


def _rectangle(element: ET.Element, pen: "_Pen") -> None:
    x, y, w, h = (_length(element, name) for name in ("x", "y", "width", "height"))
    if w <= 0 or h <= 0:
        return
    given = [_length(element, name) if element.get(name) else None for name in ("rx", "ry")]
    rx = min(next((v for v in given if v is not None), 0.0), w / 2)
    ry = min(next((v for v in reversed(given) if v is not None), 0.0), h / 2)
    pen.moveTo((x + rx, y))
    corners = [(x + w, y), (x + w, y + h), (x, y + h), (x, y)]
    ways = [(1, 0), (0, 1), (-1, 0), (0, -1)]
    for (cx, cy), (dx, dy), (ex, ey) in zip(corners, ways, ways[1:] + ways[:1], strict=True):
        pen.lineTo((cx - dx * rx, cy - dy * ry))
        if rx > 0 and ry > 0:
            pen.arcTo(rx, ry, 0.0, False, True, (cx + ex * rx, cy + ey * ry))
    pen.closePath()


class _Pen:
    """Takes the moves of a path (the pen protocol of fontTools, with arcs)."""

    def __init__(self, matrix: Array) -> None:
        self._matrix = matrix
        self._paths: list[Subpath] = []
        self._path: Subpath = []
        self._at = self._start = (0.0, 0.0)

    def _place(self, place: tuple[float, float]) -> Array:
        found = self._matrix @ np.array([float(place[0]), float(place[1]), 1.0])
        if not np.abs(found).max() < LARGEST:  # also for what is no number
            raise FileError(_("it is larger than ten kilometres; give it a size in mm."))
        return np.asarray(found[:2])

    def moveTo(self, place: tuple[float, float]) -> None:  # noqa: N802
        """Begin a path."""
        self.endPath()
        self._at = self._start = place

    def lineTo(self, place: tuple[float, float]) -> None:  # noqa: N802
        """A straight line."""
        start, end = self._place(self._at), self._place(place)
        self._at = place
        self._path.append(Segment(start, end, 0.0, lambda t: start + t * (end - start)))

    def curveTo(self, *places: tuple[float, float]) -> None:  # noqa: N802
        """A cubic curve."""
        a, b, c, d = (self._place(one) for one in (self._at, *places))
        self._at = places[-1]

        def point(t: float) -> Array:
            u = 1.0 - t
            return np.asarray(u**3 * a + 3 * u * u * t * b + 3 * u * t * t * c + t**3 * d)

        self._path.append(Segment(a, d, None, point))

    def qCurveTo(self, *places: tuple[float, float]) -> None:  # noqa: N802
        """A square curve, as the cubic that it is."""
        (ax, ay), (bx, by), (cx, cy) = self._at, places[0], places[-1]
        first = (ax + 2 * (bx - ax) / 3, ay + 2 * (by - ay) / 3)
        self.curveTo(first, (cx + 2 * (bx - cx) / 3, cy + 2 * (by - cy) / 3), (cx, cy))

    def arcTo(  # noqa: N802
        self, rx: float, ry: float, tilt: float, large: bool, sweep: bool, to: tuple[float, float]
    ) -> None:
        """An arc of an ellipse, by its ends (SVG 1.1, F.6.5)."""
        start, end = complex(*self._at), complex(*to)
        rx, ry = abs(rx), abs(ry)
        if start == end:
            return
        if rx == 0 or ry == 0:
            self.lineTo(to)
            return
        lean = cmath.rect(1.0, math.radians(tilt))
        half = (start - end) / 2 / lean
        unit = complex(half.real / rx, half.imag / ry)
        grown = max(abs(unit), 1.0)
        rx, ry, unit = rx * grown, ry * grown, unit / grown
        away = math.sqrt(max(1.0 / abs(unit) ** 2 - 1.0, 0.0)) * (-1 if large == sweep else 1)
        middle = unit * complex(0, -1) * away
        first, last = cmath.phase(unit - middle), cmath.phase(-unit - middle)
        turn = last - first
        if sweep and turn < 0:
            turn += 2 * math.pi
        elif not sweep and turn > 0:
            turn -= 2 * math.pi
        centre = (start + end) / 2 + complex(middle.real * rx, middle.imag * ry) * lean

        def point(t: float) -> Array:
            angle = first + t * turn
            place = centre + complex(rx * math.cos(angle), ry * math.sin(angle)) * lean
            return self._place((place.real, place.imag))

        linear = self._matrix[:2, :2]
        (a, b), (c, d) = linear
        size = abs(linear).max() ** 2
        skew = max(abs(a * a + c * c - b * b - d * d), abs(a * b + c * d))
        circular = abs(rx - ry) <= NEAR * rx and skew <= SAME * size
        on_paper = math.copysign(turn, turn * (a * d - b * c)) if circular else None
        self._path.append(Segment(self._place(self._at), self._place(to), on_paper, point))
        self._at = to

    def closePath(self) -> None:  # noqa: N802
        """Close the path."""
        self.endPath()
        self._at = self._start

    def endPath(self) -> None:  # noqa: N802
        """End the path; what follows without a move begins where it began."""
        if not self._path:
            return
        if math.dist(self._path[-1].end, self._path[0].start) > NEAR:
            self.lineTo(self._start)
        self._paths.append(self._path)
        self._path = []

    def finished(self) -> list[Subpath]:
        """Every path that was drawn."""
        self.endPath()
        return self._paths


def _numbers(text: str) -> list[float]:
    return [_number(one) for one in _NUMBER.findall(text[:LONGEST_PATH])]


def _number(text: str) -> float:
    value = float(text)
    if abs(value) > BEYOND:
        raise FileError(_("a number in it is beyond all measure; draw it anew."))
    return value


def _length(element: ET.Element, name: str) -> float:
    words = element.get(name, "").strip()
    match = _NUMBER.match(words)
    if match is None:
        return 0.0
    return _number(match[0]) * MM.get(words[match.end() :].strip(), 1.0)


def _moved(element: ET.Element) -> Array:
    return _affine(1, 0, 0, 1, _length(element, "x"), _length(element, "y"))


def _affine(a: float, b: float, c: float, d: float, e: float, f: float) -> Array:
    return _within(np.array([[a, c, e], [b, d, f], [0.0, 0.0, 1.0]]))


def _within(matrix: Array) -> Array:
    """A matrix whose numbers can be told apart. Raises FileError for another one."""
    if not np.abs(matrix).max() <= BEYOND:
        raise FileError(_("one of its transforms is beyond all measure; draw it anew."))
    return matrix


def _viewport(element: ET.Element, *, outermost: bool) -> Array:
    """From the units of a drawing to mm."""
    box = _numbers(element.get("viewBox", ""))
    place = np.eye(3) if outermost else _moved(element)
    if len(box) != 4 or box[2] <= 0 or box[3] <= 0:
        return place
    sizes = [_size(element, name, side) for name, side in (("width", box[2]), ("height", box[3]))]
    known = next((one for one in sizes if one), 1.0)
    x, y = (one or known for one in sizes)
    fit = element.get("preserveAspectRatio", "").strip() or "xMidYMid"
    left, top = 0.0, 0.0
    if fit != "none":
        wide, high = x * box[2], y * box[3]
        x = y = max(x, y) if fit.endswith("slice") else min(x, y)
        left = _share(fit, "x") * (wide - x * box[2])
        top = _share(fit, "Y") * (high - y * box[3])
    return np.asarray(place @ _affine(x, 0, 0, y, left - box[0] * x, top - box[1] * y))


def _size(element: ET.Element, name: str, side: float) -> float | None:
    """mm for a unit of a view box whose side is so long; None for a size that is not known."""
    words = element.get(name, "").strip()
    match = _NUMBER.match(words)
    if match is None or words[match.end() :].strip() not in MM:
        return None
    return _length(element, name) / side


def _share(fit: str, axis: str) -> float:
    return 0.0 if f"{axis}Min" in fit else 1.0 if f"{axis}Max" in fit else 0.5


def _transform(words: str) -> Array:
    found: Array = np.eye(3)
    for name, inside in _TRANSFORM.findall(words[:10_000]):
        found = _within(found @ _one_transform(name, _numbers(inside)))
    return found


def _one_transform(name: str, given: list[float]) -> Array:
    value: Callable[[int, float], float] = lambda i, usual: given[i] if i < len(given) else usual  # noqa: E731
    first = value(0, 0.0)
    angle = math.radians(first)
    if name == "matrix" and len(given) == 6:
        return _affine(*given)
    if name == "translate":
        return _affine(1, 0, 0, 1, first, value(1, 0.0))
    if name == "scale":
        return _affine(value(0, 1.0), 0, 0, value(1, value(0, 1.0)), 0, 0)
    if name == "rotate":
        c, s = math.cos(angle), math.sin(angle)
        x, y = value(1, 0.0), value(2, 0.0)
        return _affine(c, s, -s, c, x - c * x + s * y, y - s * x - c * y)
    if name == "skewX":
        return _affine(1, 0, math.tan(angle), 1, 0, 0)
    if name == "skewY":
        return _affine(1, math.tan(angle), 0, 1, 0, 0)
    raise FileError(_("one of its transforms is damaged; draw it anew."))
