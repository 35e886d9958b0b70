"""The pencils: colour, width and dash of each role of line, in millimetres on the paper."""

from dataclasses import dataclass

from isometron.drawing.strokes import Role


@dataclass(frozen=True)
class Pencil:
    """A pencil: colour as #rrggbb, line width in mm, dash and gap in mm (empty for a full line)."""

    colour: str
    width_mm: float
    dash_mm: tuple[float, ...] = ()


GRAPHITE, PALE_GRAPHITE = "#23282b", "#7d8283"
RUST, TEAL, PLUM, OXBLOOD = "#b0571c", "#176b78", "#7a4a86", "#8f2b39"

PENCILS = {
    Role.FAN_LEFT: Pencil(RUST, 0.12),
    Role.FAN_RIGHT: Pencil(TEAL, 0.12),
    Role.FAN_CENTRE: Pencil(TEAL, 0.12),
    Role.FAN_THIRD: Pencil(PLUM, 0.12),
    Role.EYE_LEVEL: Pencil(OXBLOOD, 0.18),
    Role.CENTRE: Pencil(OXBLOOD, 0.25),
    Role.ELLIPSE_AID: Pencil("#8b7f66", 0.12),
    Role.AID: Pencil(GRAPHITE, 0.25),
    Role.GHOST: Pencil(OXBLOOD, 0.15),
    Role.DIVISION: Pencil(GRAPHITE, 0.2),
    Role.SECTION: Pencil(GRAPHITE, 0.18, dash_mm=(5.0, 1.2, 1.0, 1.2)),
    Role.HIDDEN: Pencil(PALE_GRAPHITE, 0.22, dash_mm=(1.6, 1.2)),
    Role.OBJECT: Pencil(GRAPHITE, 0.45),
}
"""Construction thin and pale, object lines dark, hidden edges in short dashes, centre lines in
long and short ones."""
