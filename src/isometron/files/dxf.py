"""DXF: the sheet in true millimetres, one layer per role of line."""

import io
import math
from typing import Any

from isometron.document.document import Document
from isometron.drawing.curves import form_of
from isometron.drawing.page import page_strokes
from isometron.drawing.scene import Scene, scene_of
from isometron.perspective.eye import Array

THINNEST = 1e-6
"""DXF takes no ellipse whose short axis is a smaller share of its long one."""


def dxf_of(document: Document, scene: Scene | None = None) -> bytes:
    """The sheet as a DXF drawing (R2010): millimetres, origin at the paper's bottom-left corner."""
    from ezdxf.document import Drawing
    from ezdxf.enums import TextEntityAlignment
    from ezdxf.tools.standards import setup_linetypes
    from ezdxf.units import MM

    drawing = Drawing.new("R2010")
    setup_linetypes(drawing)
    drawing.units = MM
    space = drawing.modelspace()
    for strokes in page_strokes(document, scene or scene_of(document)):
        layer = drawing.layers.add(strokes.layer.name)
        colour = strokes.layer.pencil.colour.lstrip("#")
        layer.rgb = (int(colour[0:2], 16), int(colour[2:4], 16), int(colour[4:6], 16))
        if strokes.layer.pencil.dxf_linetype:
            layer.dxf.linetype = strokes.layer.pencil.dxf_linetype
        for x0, y0, x1, y1 in strokes.lines.tolist():
            space.add_line((x0, y0), (x1, y1), dxfattribs={"layer": strokes.layer.name})
        for arc in strokes.arcs:
            _add_arc(space, arc, {"layer": strokes.layer.name})
        for label in strokes.labels:
            words = space.add_text(
                label.words,
                height=label.size_mm,
                rotation=label.angle_deg,
                dxfattribs={"layer": strokes.layer.name},
            )
            words.set_placement(label.foot(), align=TextEntityAlignment.BOTTOM_CENTER)
    drawing.header["$EXTMIN"] = (0.0, 0.0, 0.0)
    drawing.header["$EXTMAX"] = (document.sheet.width_mm, document.sheet.height_mm, 0.0)
    text = io.StringIO()
    drawing.write(text)
    return text.getvalue().encode()


def _add_arc(space: Any, arc: Array, look: dict[str, str]) -> None:
    """An arc as a true ELLIPSE, or, for parabolas and hyperbolas, as a rational SPLINE: exact."""
    form = form_of(arc)
    long, short = math.hypot(*form.long), math.hypot(*form.short)
    if form.kind == "line" or (form.kind == "ellipse" and short < THINNEST * long):
        space.add_line(form.start, form.end, dxfattribs=look)
    elif form.kind == "ellipse":
        (ax, ay), (bx, by) = form.long, form.short
        start, end = form.turns
        if ax * by - ay * bx < 0:
            start, end = -end, -start
        space.add_ellipse(
            form.centre,
            major_axis=form.long,
            ratio=min(short / long, 1.0),
            start_param=start % (2 * math.pi),
            end_param=end % (2 * math.pi),
            dxfattribs=look,
        )
    else:
        points = [form.start, form.control, form.end]
        weights = [1.0, form.weight, 1.0]
        space.add_rational_spline(points, weights, degree=2, dxfattribs=look)
