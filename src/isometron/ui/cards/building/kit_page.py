"""The Kit page of the Build order tab: what lies on the table, and how steady the hand is."""

from collections.abc import Callable
from dataclasses import replace

from isometron.document.document import Document
from isometron.document.edits import building_edits
from isometron.document.kit import Hand
from isometron.ui.parts.fields import AngleField, FineField, LengthField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import Always, Entry, Heading, Rest, Row, Switch
from isometron.words import _, said


def _kit(name: str) -> Callable[[Document, float], Document]:
    """The edit that gives the kit one of its lengths."""
    return lambda document, mm: building_edits.set_kit(document, **{name: mm})


def _hand(name: str) -> Callable[[Document, float], Document]:
    """The edit that gives the hand one of its errors."""
    return lambda document, value: building_edits.set_kit(
        document, hand=replace(document.kit.hand, **{name: value})
    )


ROWS = (
    Heading(_("On the table")),
    Row(
        _("ruler"),
        Entry(
            said("ruler"),
            _("How long your ruler is: longer lines get a third mark on the way."),
            LengthField,
            lambda d: d.kit.ruler_mm,
            _kit("ruler_mm"),
        ),
    ),
    Row(
        _("division"),
        Entry(
            said("division"),
            _("The smallest division of your ruler; it is read to half of it."),
            LengthField,
            lambda d: d.kit.ruler_step_mm,
            _kit("ruler_step_mm"),
        ),
    ),
    Row(
        _("spare paper"),
        Entry(
            said("spare paper"),
            _("How far beside the sheet you can tape paper on; 0 when you have none."),
            LengthField,
            lambda d: d.kit.spare_paper_mm,
            _kit("spare_paper_mm"),
        ),
    ),
    Row(
        "",
        Switch(
            _("Set square"),
            _("Whether you have a set square for uprights, level lines and parallels."),
            _("set square"),
            lambda d: d.kit.set_square,
            lambda d, on: building_edits.set_kit(d, set_square=on),
        ),
    ),
    Heading(_("How steady the hand is"), above=10),
    Row(
        _("a mark errs"),
        Entry(
            said("a mark errs"),
            _("How far your marks lie off, as a rule, either way."),
            FineField,
            lambda d: d.kit.hand.mark_mm,
            _hand("mark_mm"),
        ),
    ),
    Row(
        _("a line errs"),
        Entry(
            said("a line errs"),
            _("How far your ruled lines pass beside their points, as a rule."),
            FineField,
            lambda d: d.kit.hand.line_mm,
            _hand("line_mm"),
        ),
    ),
    Row(
        _("a length errs"),
        Entry(
            said("a length errs"),
            _("How far off a length is that you carry with compass or strip, as a rule."),
            FineField,
            lambda d: d.kit.hand.carry_mm,
            _hand("carry_mm"),
        ),
    ),
    Row(
        _("set square errs"),
        Entry(
            said("set square errs"),
            _("How far off your set square stands, as a rule."),
            AngleField,
            lambda d: d.kit.hand.square_deg,
            _hand("square_deg"),
        ),
    ),
    Row(
        "",
        Always(
            _("A usual hand"),
            _("Marks 0.3 mm off, lines 0.2 mm, lengths 0.3 mm, a set square 0.2°."),
            _("usual hand"),
            lambda _page: lambda d: building_edits.set_kit(d, hand=Hand()),
        ),
    ),
    Rest(),
)


class KitPage(Page):
    """What lies on the table."""

    ROWS = ROWS
