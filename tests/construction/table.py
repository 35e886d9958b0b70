"""A person at the table, to try orders with: what a ruler can read, and what lies on the table."""

import math

import numpy as np

from isometron.construction.economy import MOST_MOVES, told_count
from isometron.construction.machine import Machine, execute
from isometron.construction.moves import Join, Level, Mark, Parallel, StepOff, Upright


def on_the_ruler(moves, step_mm):
    """The sheet drawn with every measured place and length rounded to the ruler; two points that
    fall together on it are joined in the direction they truly have."""
    machine = Machine(1, lambda _unused, values: np.rint(values[:, None] / step_mm) * step_mm)
    machine.known = execute(moves)
    return machine.run(moves)


def beyond_kit(steps, drawn, sheet, kit):
    """Keys of the steps that a kit does not allow: too many moves, off the spare paper, beyond
    three goes of the ruler from the edges, a line longer than it, a square where there is none."""
    size, hair = (sheet.width_mm, sheet.height_mm), 1e-6
    found = []
    for step in steps:
        wrong = told_count(step.moves) > MOST_MOVES
        for move in step.moves:
            place = move.place if isinstance(move, Mark) else getattr(move, "by", None)
            if place is not None:
                off = [max(-v, v - most, 0.0) for v, most in zip(place, size, strict=True)]
                edge = [min(abs(v), abs(v - most)) for v, most in zip(place, size, strict=True)]
                wrong |= math.hypot(*off) > kit.spare_paper_mm + hair
                wrong |= max(edge) > 3 * kit.ruler_mm + hair
            wrong |= isinstance(move, Upright | Level | Parallel) and not kit.set_square
            laid = abs(move.mm) if isinstance(move, StepOff) else 0.0
            if isinstance(move, Join):
                laid = math.dist(drawn.place(move.first), move.by or drawn.place(move.second))
            wrong |= laid > kit.ruler_mm + hair
        if wrong:
            found.append(step.key)
    return found
