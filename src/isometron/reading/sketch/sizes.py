"""How large a sheet of one's own is: by its format, by the dpi of a scan, by two known lengths."""

import itertools
import math
from collections.abc import Sequence

import numpy as np

from isometron.document.marks import MarksError
from isometron.document.picture import SheetPicture
from isometron.perspective.places import Place
from isometron.perspective.sheet import FORMATS
from isometron.reading.sketch.own_sheet import corners_of
from isometron.words import _, said

BY_DPI, BY_LENGTHS = said("a scan, by its dpi"), said("a part, by two lengths")
"""Papers that are no formats."""

LEAST_MM, MOST_MM = 20.0, 5000.0
ALIKE_SINE = 0.3
"""Two lengths tell both scales when their lines turn from each other by more, as a sine of twice
the difference of how steep they are."""

ALIKE_SHARE = 0.02
"""A scan has a format when both its sides are so near to it."""

ASIDE_SHARE = 0.008
"""A corner that lies off the crossing of the paper's sides by more, in widths of it, is doubted."""


def size_of(name: str, corners: Sequence[Place]) -> tuple[float, float]:
    """Width and height, mm, of a named format, lying as the corners do."""
    short, long = FORMATS[name]
    wide = math.dist(corners[0], corners[1]) + math.dist(corners[2], corners[3])
    high = math.dist(corners[1], corners[2]) + math.dist(corners[3], corners[0])
    return (long, short) if wide >= high else (short, long)


def format_of(picture: SheetPicture) -> str | None:
    """The named format a picture of a sheet has: as it was straightened, or by the dpi of a scan
    that shows all of it; None where neither tells one."""
    sides = picture.paper_mm
    if sides is None and picture.dpi is not None:
        sides = (25.4 * picture.width / picture.dpi, 25.4 * picture.height / picture.dpi)
    if sides is None:
        return None
    for name, (short, long) in FORMATS.items():
        if math.isclose(min(sides), short, rel_tol=ALIKE_SHARE) and math.isclose(
            max(sides), long, rel_tol=ALIKE_SHARE
        ):
            return name
    return None


def laid_out(picture: SheetPicture, paper: str) -> tuple[tuple[Place, ...], tuple[float, float]]:
    """The corners of the paper in a picture, px, and its size, mm. Raises MarksError when these are
    not told, PictureError."""
    whole = (
        (0.0, 0.0),
        (float(picture.width), 0.0),
        (float(picture.width), float(picture.height)),
        (0.0, float(picture.height)),
    )
    if paper == _(BY_DPI):
        if picture.dpi is None:
            raise MarksError(_("This picture does not say its dpi: type it beside."))
        scale = 25.4 / picture.dpi
        return whole, _fair((picture.width * scale, picture.height * scale))
    if paper == _(BY_LENGTHS):
        across, along = scales_of(picture)
        return whole, _fair((picture.width * across, picture.height * along))
    corners = picture.corners or corners_of(picture.file.content)
    return corners, size_of(paper, corners)


def _fair(size: tuple[float, float]) -> tuple[float, float]:
    if not all(LEAST_MM <= side <= MOST_MM for side in size):
        raise MarksError(
            _("A sheet of {wide} × {high} mm is none: check the dpi or the lengths.").format(
                wide=f"{size[0]:.0f}", high=f"{size[1]:.0f}"
            )
        )
    return size


def scales_of(picture: SheetPicture) -> tuple[float, float]:
    """mm per px across and along a picture taken straight from above, from the marked edges whose
    lengths are known: (sx dx)² + (sy dy)² = length², by least squares. Two that run alike tell one
    scale for both. Raises MarksError when there are fewer than two."""
    runs, lengths = [], []
    for known in picture.known:
        if known.kind == "length" and known.value is not None:
            edge = picture.edges[known.edges[0]]
            runs.append(np.subtract(edge.end, edge.start))
            lengths.append(known.value)
    if len(runs) < 2:
        raise MarksError(_("Mark two lines whose lengths you know and type both on Known."))
    square, goal = np.array(runs) ** 2, np.array(lengths) ** 2
    steep = np.arctan2(np.abs(np.array(runs))[:, 1], np.abs(np.array(runs))[:, 0])
    if float(np.ptp(steep)) < ALIKE_SINE:
        scale = math.sqrt(float((goal / square.sum(axis=1)).mean()))
        return scale, scale
    found = np.linalg.lstsq(square / goal[:, None], np.ones(len(goal)), rcond=None)[0]
    if (found <= 0).any() or not 0.2 < found[0] / found[1] < 5:
        raise MarksError(_("These two lengths contradict each other: measure them anew."))
    return math.sqrt(float(found[0])), math.sqrt(float(found[1]))


def doubted_corners(picture: SheetPicture, corners: Sequence[Place]) -> str:
    """What is said of corners of the paper that lie beside where its sides are seen to cross; ""
    where all agree or no paper shows."""
    seen = corners_of(picture.file.content)
    on_border = all(
        min(x, picture.width - x) < 1 or min(y, picture.height - y) < 1 for x, y in seen
    )
    if on_border:
        return ""
    wide = max(math.dist(one, two) for one, two in itertools.combinations(seen, 2))
    off = [math.dist(one, two) for one, two in zip(corners, seen, strict=True)]
    worst = int(np.argmax(off))
    if off[worst] < ASIDE_SHARE * wide:
        return ""
    names = (_("lower left"), _("lower right"), _("upper right"), _("upper left"))
    return _("The {name} corner lies {px} px beside the paper's: undo and drag it there.").format(
        name=names[worst], px=round(off[worst])
    )
