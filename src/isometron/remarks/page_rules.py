"""The rules of the second look about the page: frames that overlap."""

import itertools

from isometron.document.edits.viewing import share_page
from isometron.drawing.page import part_of
from isometron.remarks.remark import Look, Remark, Remedy, Severity, rule_called
from isometron.words import _

LEAST_MM = 0.5
"""Frames that overlap by less touch."""


@rule_called("views overlap")
def views_overlap(look: Look) -> list[Remark]:
    """Two views are drawn over each other."""
    document = look.document
    parts = [part_of(document, view) for view in document.views]
    drawn = [n for n, view in enumerate(document.views) if n == document.view or view.frame]
    found = []
    for one, two in itertools.combinations(drawn, 2):
        wide = min(parts[one][2], parts[two][2]) - max(parts[one][0], parts[two][0])
        high = min(parts[one][3], parts[two][3]) - max(parts[one][1], parts[two][1])
        if min(wide, high) <= LEAST_MM:
            continue
        x = max(parts[one][0], parts[two][0]) + wide / 2
        y = max(parts[one][1], parts[two][1]) + high / 2
        names = [document.views[n].name or str(n + 1) for n in (one, two)]
        found.append(
            Remark(
                Severity.DOUBTFUL,
                _("{one} and {two} are drawn over each other").format(one=names[0], two=names[1]),
                _("Their frames overlap: move one, or let all views share the page."),
                float(min(wide, high)),
                "mm",
                (x, y),
                None,
                1.0,
                lambda: Remedy(_("Share the page"), share_page),
            )
        )
    return found[:1]
