"""What every form of a build order says: its heading, its steps, its looks."""

from isometron.construction.order import order_of
from isometron.construction.steps import Order, Step, arranged
from isometron.construction.strokes import (
    DASHED,
    KEPT,
    LAID,
    NEW,
    OBJECT,
    OLD,
    PAST,
    RUB,
    THIN,
)
from isometron.construction.trust import OFTEN
from isometron.document.document import Document
from isometron.perspective.lengths import write_length
from isometron.words import _

LOOKS = {
    NEW: ("#176b78", 0.5),
    LAID: ("#176b78", 0.18),
    OLD: ("#8f8670", 0.18),
    PAST: ("#d3ccb9", 0.15),
    KEPT: ("#5b5a52", 0.25),
    RUB: ("#c06c34", 0.15),
    THIN: ("#7d8283", 0.18),
    DASHED: ("#7d8283", 0.22),
    OBJECT: ("#23282b", 0.45),
}
"""Colour and width in mm of the lines of a stage, by age."""


CAUTION = _(
    "Sketching proportions; not engineering, safety or ergonomic data: follow "
    "local codes and a licensed professional for what is built."
)


def built(document: Document) -> Order:
    """The order of a document as the person has arranged it, without the steps they hide.

    Steps are hidden from reading only: what they make is kept, so that nothing later hangs in the
    air. Raises OrderError.
    """
    order = order_of(document)
    keys = document.building.chapters
    return arranged(order, keys) if keys else order


def heading_of(document: Document, order: Order) -> str:
    """What an order is and how exact, in a sentence."""
    unit = document.choices.unit
    way = (
        _("vanishing points first") if document.building.points_first else _("station point first")
    )
    by = _(order.method)
    if document.eye.curved:
        by, way = _("by marks"), _("edges as curves")
    return _(
        "Build order {by}, {way}: {steps} steps, {lines_drawn} lines. "
        "Measured to {step}, {worst} lies within {worst2}. {hand}"
    ).format(
        by=by if by.startswith(_("by ")) else _("by {method}").format(method=by),
        way=way,
        steps=len(order.steps),
        lines_drawn=order.lines_drawn,
        step=write_length(order.step_mm, unit),
        worst=order.worst,
        worst2=write_length(order.worst_mm, unit),
        hand=hand_words(order, unit),
    )


def hand_words(order: Order, unit: str) -> str:
    """What to expect of a hand, in a sentence."""
    return _("Drawn by hand, each corner comes within {length} in {count} of 100 drawings.").format(
        count=round(100 * OFTEN), length=write_length(order.by_hand_mm, unit)
    )


def words_of(step: Step) -> str:
    """The sentence of a step, and what it borrows."""
    if not step.borrowed:
        return step.text
    return _("{step} (Borrowed: {what}.)").format(step=step.text, what=_(step.borrowed))


def paper_of(document: Document) -> tuple[float, float, float, float]:
    """The paper as a rectangle of the sheet, mm."""
    return (0.0, 0.0, document.sheet.width_mm, document.sheet.height_mm)
