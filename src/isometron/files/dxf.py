"""DXF: the sheet in true millimetres, one layer per role of line."""

import io

from isometron.document.document import Document
from isometron.drawing.pencils import PENCILS
from isometron.drawing.scene import Scene, scene_of
from isometron.drawing.strokes import Role, sheet_strokes

BROKEN = {Role.HIDDEN}
"""Roles drawn in dashes."""


def dxf_of(document: Document, scene: Scene | None = None) -> bytes:
    """The sheet as a DXF drawing (R2010): millimetres, origin at the paper's bottom-left corner."""
    from ezdxf.document import Drawing
    from ezdxf.tools.standards import setup_linetypes
    from ezdxf.units import MM

    drawing = Drawing.new("R2010")
    setup_linetypes(drawing)
    drawing.units = MM
    space = drawing.modelspace()
    for strokes in sheet_strokes(document, scene or scene_of(document)):
        layer = drawing.layers.add(strokes.role.value)
        colour = PENCILS[strokes.role].colour.lstrip("#")
        layer.rgb = (int(colour[0:2], 16), int(colour[2:4], 16), int(colour[4:6], 16))
        if strokes.role in BROKEN:
            layer.dxf.linetype = "DASHED"
        for x0, y0, x1, y1 in strokes.lines.tolist():
            space.add_line((x0, y0), (x1, y1), dxfattribs={"layer": strokes.role.value})
    drawing.header["$EXTMIN"] = (0.0, 0.0, 0.0)
    drawing.header["$EXTMAX"] = (document.sheet.width_mm, document.sheet.height_mm, 0.0)
    text = io.StringIO()
    drawing.write(text)
    return text.getvalue().encode()
