"""Bands of proportion that a person has set for a sheet."""

import math
from typing import NamedTuple

from isometron.document.errors import ChoiceError
from isometron.words import _

MOST_BANDS = 500


class OwnBand(NamedTuple):
    """Between which values of a measure, in its own unit, a thing of a kind looks right to the
    person."""

    of: str
    what: str
    low: float
    high: float

    @property
    def key(self) -> tuple[str, str]:
        """What it is known by."""
        return self.of, self.what


def fair_bands(bands: tuple[OwnBand, ...]) -> None:
    """Raise ChoiceError for too many, or one with no room in it."""
    if len(bands) > MOST_BANDS:
        raise ChoiceError(_("A sheet has {most} bands of its own.").format(most=MOST_BANDS))
    if not all(math.isfinite(b.low) and math.isfinite(b.high) and b.low <= b.high for b in bands):
        raise ChoiceError(_("A band goes from less to more: type, say, 2.2 and 4."))
