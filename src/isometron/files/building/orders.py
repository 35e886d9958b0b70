"""Build orders out: as text, as a printable booklet, as SVG layers, as layers for painting
programs, and as JSON."""

import json
from collections.abc import Callable
from xml.etree import ElementTree as ET

from isometron.construction.stages import Stage, Stages
from isometron.construction.strokes import DASHED, FINISHED, KEPT, NEW, OLD, Stroke
from isometron.construction.telling import Teller
from isometron.construction.trust import OFTEN
from isometron.document.document import Document
from isometron.files.building.order_words import (
    CAUTION,
    LOOKS,
    built,
    heading_of,
    paper_of,
    words_of,
)
from isometron.files.open_raster import open_raster
from isometron.files.svg import SVG_NAMESPACE
from isometron.perspective.eye import Array
from isometron.perspective.sheet import Sheet
from isometron.perspective.watching import part_of_whole, tick
from isometron.words import _

ORDER_VERSION = 1


def text_of(document: Document) -> bytes:
    """The order as plain text, chapter by chapter."""
    order = built(document)
    teller = Teller(order, document.choices.unit)
    lines = [heading_of(document, order), ""]
    number = 0
    for chapter in order.chapters:
        lines.append(chapter.title.upper())
        for step in chapter.steps:
            number += 1
            if step.key in document.building.hidden:
                continue
            tick = "x" if step.key in document.building.done else " "
            lines.append(f"[{tick}] {number}. {words_of(step)}")
            lines += [f"      {told}" for told in teller.step(step)]
        lines.append("")
    lines.append(CAUTION)
    return ("\n".join(lines) + "\n").encode()


def json_of(document: Document) -> bytes:
    """The order as JSON: every step with its moves, and where every point must land."""
    order = built(document)
    drawn = order.drawn
    content = {
        "order": ORDER_VERSION,
        "method": order.method,
        "ruler_step_mm": order.step_mm,
        "lines_drawn": order.lines_drawn,
        "worst": {"what": order.worst, "within_mm": order.worst_mm},
        "by_hand": {
            "what": order.farthest,
            "within_mm": order.by_hand_mm,
            "of_100_drawings": round(100 * OFTEN),
        },
        "chapters": [
            {
                "key": chapter.key,
                "title": chapter.title,
                "steps": [
                    {
                        "key": step.key,
                        "text": step.text,
                        "borrowed": step.borrowed,
                        "done": step.key in document.building.done,
                        "moves": [
                            {"move": type(move).__name__.lower(), **vars(move)}
                            for move in step.moves
                        ],
                        "objects": list(step.objects),
                        "rubs": list(step.rubs),
                    }
                    for step in chapter.steps
                ],
            }
            for chapter in order.chapters
        ],
        "points": {
            name: {
                "sheet_mm": list(drawn.place(name)),
                "label": order.labels.get(name, ""),
                "within_mm": order.bounds[name],
                "by_hand_mm": order.hand.get(name),
            }
            for name in drawn.points
        },
    }
    return (json.dumps(content, indent=1, ensure_ascii=False, allow_nan=False) + "\n").encode()


def svg_stages(document: Document) -> bytes:
    """The order as SVG: one layer per step, in true millimetres, so that an underlay can be built
    up by showing layer after layer."""
    order = built(document)
    stages, sheet = Stages(order, document.sheet), document.sheet
    root = ET.Element(
        "svg",
        {
            "xmlns": SVG_NAMESPACE,
            "width": f"{sheet.width_mm:g}mm",
            "height": f"{sheet.height_mm:g}mm",
            "viewBox": f"0 0 {sheet.width_mm:g} {sheet.height_mm:g}",
        },
    )
    ET.SubElement(root, "title").text = _("Isometron build order")
    for number, step in enumerate(stages.steps):
        layer = ET.SubElement(
            root, "g", {"id": f"step-{number + 1:03d}", "fill": "none", "stroke-linecap": "round"}
        )
        ET.SubElement(layer, "title").text = f"{number + 1}. {words_of(step)}"
        for stroke in stages.after(number, paper_of(document)).strokes:
            if stroke.age in FINISHED and number == stages.inked:
                colour, width = LOOKS[stroke.age]
            elif stroke.age == NEW:
                colour, width = LOOKS[KEPT if stroke.name in stages.kept else OLD]
            else:
                continue
            ET.SubElement(
                layer,
                "path",
                {
                    "d": _path(stroke, sheet),
                    "stroke": colour,
                    "stroke-width": str(width),
                    **({"stroke-dasharray": "1.6 1.2"} if stroke.age == DASHED else {}),
                },
            )
    ET.indent(root, " ")
    content: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=True)
    return content


def _path(stroke: Stroke, sheet: Sheet) -> str:
    """A stroke as an SVG path, in mm down from the upper edge."""

    def told(points: Array) -> str:
        return " ".join(f"{x:.4f},{sheet.height_mm - y:.4f}" for x, y in points.tolist())

    if stroke.cubics is None:
        return f"M{told(stroke.points)}"
    return f"M{told(stroke.cubics[0, :1])} C{told(stroke.cubics[:, 1:].reshape(-1, 2))}"


Painter = Callable[[Document, Stage], bytes]
"""Paints a stage as a PNG of the sheet, without paper."""


def ora_stages(document: Document, png: Painter) -> bytes:
    """The order as an OpenRaster file: one layer per chapter, the paper below, for painting
    programs. `png` paints (it needs Qt)."""
    with part_of_whole(0.0, 0.5):
        order = built(document)
    stages = Stages(order, document.sheet)
    layers: list[tuple[str, bytes]] = []
    number = -1
    for chapter in order.chapters:
        tick(0.5 + 0.5 * (number + 1) / len(stages.steps))
        number += len(chapter.steps)
        names = {move.name for step in chapter.steps for move in step.moves}
        last = stages.after(number, paper_of(document))
        strokes = tuple(s for s in last.strokes if s.name in names or s.age in FINISHED)
        layers.append((chapter.title, png(document, Stage(strokes, ()))))
    return open_raster(layers, layers[-1][1])
