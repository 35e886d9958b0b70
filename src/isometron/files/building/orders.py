"""Build orders out: as text, as a printable booklet, as SVG layers, as layers for painting
programs, and as JSON."""

import json
from collections.abc import Callable

from isometron.construction.stages import Stage, Stages
from isometron.construction.strokes import DASHED, FINISHED, KEPT, NEW, OLD
from isometron.construction.telling import Teller
from isometron.construction.trust import OFTEN
from isometron.document.document import Document
from isometron.drawing.pencils import Pencil
from isometron.files.building.order_words import (
    CAUTION,
    LOOKS,
    built,
    heading_of,
    paper_of,
    words_of,
)
from isometron.files.building.stage_items import Look, strokes_of
from isometron.files.open_raster import open_raster
from isometron.pages.page import Item, Layer, Page
from isometron.pages.svg import svg_of
from isometron.perspective.watching import part_of_whole, tick
from isometron.words import _

ORDER_VERSION = 1
DASH_MM = (1.6, 1.2)
TRUE_SIZE = Look(1.0, (0.0, 0.0))


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
    stages, sheet = Stages(built(document), document.sheet), document.sheet
    layers = tuple(_layer(stages, number, document) for number in range(len(stages.steps)))
    return svg_of(Page((sheet.width_mm, sheet.height_mm), layers), _("Isometron build order"))


def _layer(stages: Stages, number: int, document: Document) -> Layer:
    """What one step draws."""
    items: list[Item] = []
    for stroke in stages.after(number, paper_of(document)).strokes:
        age = stroke.age
        if age == NEW:
            age = KEPT if stroke.name in stages.kept else OLD
        elif age not in FINISHED or number != stages.inked:
            continue
        pencil = Pencil(*LOOKS[age], DASH_MM if age == DASHED else ())
        items += strokes_of([stroke], pencil, TRUE_SIZE)
    title = f"{number + 1}. {words_of(stages.steps[number])}"
    return Layer(title, tuple(items), f"step-{number + 1:03d}")


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
