"""The pencils: colour, width and dash of lines, in millimetres on the paper."""

from typing import NamedTuple


class Pencil(NamedTuple):
    """A pencil: colour as #rrggbb, line width in mm, dash and gap in mm (empty for a full line),
    and how DXF calls such a line."""

    colour: str
    width_mm: float
    dash_mm: tuple[float, ...] = ()
    dxf_linetype: str = ""


GRAPHITE, PALE_GRAPHITE = "#23282b", "#7d8283"
RUST, TEAL, PLUM, OXBLOOD = "#b0571c", "#176b78", "#7a4a86", "#8f2b39"
MOSS = "#5b6b1f"
