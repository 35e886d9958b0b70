"""Exercises on paper: at true size, with seed and corner marks; their answers as an overlay."""

import io
from collections.abc import Sequence
from typing import Any
from xml.etree import ElementTree as ET

import numpy as np

from isometron.drawing.pencils import GRAPHITE, TEAL
from isometron.files.pdf import POINTS_PER_MM
from isometron.files.svg import SVG_NAMESPACE
from isometron.perspective.errors import FileError
from isometron.perspective.eye import Array
from isometron.practice.drill import HIGH_MM, WIDE_MM, Exercise, Held
from isometron.words import _

PALE_BLUE = "#8fb6d9"
"""Printed lines are pale blue: what is drawn over them is told apart by its colour."""

PAGE_MM = (210.0, 297.0)
HEAD_MM, MARK_MM = 11.0, 5.0
LEFT_MM = (PAGE_MM[0] - WIDE_MM) / 2
DIGITS = 6


def _shown(exercise: Exercise, *, answers: bool) -> list[tuple[str, float, Array]]:
    """What is drawn of an exercise: colour, width in mm, lines (n, 4)."""
    corners = np.array([[0.0, 0.0], [WIDE_MM, 0.0], [WIDE_MM, HIGH_MM], [0.0, HIGH_MM]])
    inward = np.array([[1, 1], [-1, 1], [-1, -1], [1, -1]]) * MARK_MM
    marks = [
        [*corner, *(corner + step * np.array(way))]
        for corner, step in zip(corners, inward, strict=True)
        for way in ((1, 0), (0, 1))
    ]
    found = [(GRAPHITE, 0.2, np.array(marks))]
    if not answers:
        return [*found, (PALE_BLUE, 0.25, exercise.lines), (PALE_BLUE, 0.3, _ways(exercise.held))]
    places = np.array(exercise.truth.places).reshape(-1, 2)
    crosses = [
        [*(place - step), *(place + step)]
        for place in places
        for step in (np.array([2.0, 0.0]), np.array([0.0, 2.0]))
    ]
    return [
        *found,
        (TEAL, 0.35, exercise.drawn),
        (TEAL, 0.35, np.array(crosses, dtype=float).reshape(-1, 4)),
    ]


def _ways(held: Sequence[Held]) -> Array:
    """Short strokes where a held point may slide."""
    lines = []
    for one in held:
        if one.along is not None:
            (x, y), way = one.start, np.array(one.along[1])
            lines.append([*(np.array([x, y]) - 3 * way), *(np.array([x, y]) + 3 * way)])
    return np.array(lines, dtype=float).reshape(-1, 4)


def _words(exercise: Exercise, number: int, *, answers: bool) -> str:
    """The head of an exercise: its number, task, drill and seed; of an answer what it is."""
    head = f"{number + 1}  {exercise.task}"
    if not answers:
        return head
    truth = exercise.truth
    if truth.choice is not None:
        return f"{head}  → {exercise.choices[truth.choice]}"
    if truth.number is not None:
        return f"{head}  → {truth.number:.4g}{exercise.asked.unit if exercise.asked else ''}"
    return head


def exercises_svg(exercises: Sequence[Exercise], *, answers: bool = False) -> bytes:
    """One exercise as SVG in true millimetres. Raises FileError for several."""
    if len(exercises) != 1:
        raise FileError(_("An SVG holds one exercise: write several to a PDF."))
    exercise = exercises[0]
    high = HIGH_MM + HEAD_MM
    root = ET.Element(
        "svg",
        {
            "xmlns": SVG_NAMESPACE,
            "width": f"{WIDE_MM:g}mm",
            "height": f"{high:g}mm",
            "viewBox": f"0 0 {WIDE_MM:g} {high:g}",
        },
    )
    ET.SubElement(root, "title").text = f"{exercise.drill} {exercise.seed}"
    for colour, width, lines in _shown(exercise, answers=answers):
        group = ET.SubElement(root, "g", {"stroke": colour, "stroke-width": str(width)})
        for x0, y0, x1, y1 in lines.tolist():
            ends = {"x1": x0, "y1": high - y0, "x2": x1, "y2": high - y1}
            ET.SubElement(group, "line", {k: f"{v:.{DIGITS}f}" for k, v in ends.items()})
    text = ET.SubElement(
        root, "text", {"x": "2", "y": "7", "font-size": "4", "font-family": "B612, sans-serif"}
    )
    text.text = _words(exercise, 0, answers=answers)
    ET.indent(root, " ")
    content: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=True)
    return content


def exercises_pdf(exercises: Sequence[Exercise], *, answers: bool = False) -> bytes:
    """Exercises as PDF at 1 : 1, one below the other, on pages of A4."""
    from reportlab.pdfgen.canvas import Canvas

    from isometron.files.type_family import register

    register()
    content = io.BytesIO()
    size = (PAGE_MM[0] * POINTS_PER_MM, PAGE_MM[1] * POINTS_PER_MM)
    canvas = Canvas(content, pagesize=size, invariant=1, pageCompression=1)
    canvas.setViewerPreference("PrintScaling", "None")
    room = (PAGE_MM[1] - 2 * HEAD_MM) / 2
    for number, exercise in enumerate(exercises):
        place = number % 2
        if number and place == 0:
            canvas.showPage()
        bottom = PAGE_MM[1] - (place + 1) * (room + HEAD_MM) + room - HIGH_MM
        _on_page(canvas, exercise, number, bottom, answers=answers)
    canvas.showPage()
    canvas.save()
    return content.getvalue()


def _on_page(
    canvas: Any, exercise: Exercise, number: int, bottom_mm: float, *, answers: bool
) -> None:
    from reportlab.lib.colors import HexColor

    shift = np.array([LEFT_MM, bottom_mm, LEFT_MM, bottom_mm])
    for colour, width, lines in _shown(exercise, answers=answers):
        canvas.setStrokeColor(HexColor(colour))
        canvas.setLineWidth(width * POINTS_PER_MM)
        canvas.lines(((lines + shift) * POINTS_PER_MM).tolist())
    canvas.setFillColor(HexColor(GRAPHITE))
    canvas.setFont("B612", 9)
    top = (bottom_mm + HIGH_MM + 3.0) * POINTS_PER_MM
    canvas.drawString(LEFT_MM * POINTS_PER_MM, top, _words(exercise, number, answers=answers))
    canvas.setFont("B612", 7)
    seed = f"{exercise.drill} · {exercise.seed} · {exercise.difficulty:g}"
    canvas.drawRightString((LEFT_MM + WIDE_MM) * POINTS_PER_MM, top - 14, seed)
