"""The paper: its formats and its size."""

import math
from dataclasses import dataclass

from isometron.perspective.errors import SheetError
from isometron.perspective.lengths import write_number
from isometron.perspective.places import Rectangle
from isometron.words import _

FORMATS: dict[str, tuple[float, float]] = {
    "A5": (148.0, 210.0),
    "A4": (210.0, 297.0),
    "A3": (297.0, 420.0),
    "A2": (420.0, 594.0),
    "A1": (594.0, 841.0),
    "Letter": (215.9, 279.4),
    "Tabloid": (279.4, 431.8),
}
"""Upright width and height in millimetres."""


SMALLEST_MM, LARGEST_MM = 20.0, 5000.0
"""A sheet smaller than a stamp or longer than a wall is a slip of the keyboard."""


@dataclass(frozen=True)
class Sheet:
    """A sheet of paper, width × height in millimetres, origin at its bottom-left corner."""

    width_mm: float = 420.0
    height_mm: float = 297.0

    def __post_init__(self) -> None:
        for side in (self.width_mm, self.height_mm):
            if not (math.isfinite(side) and SMALLEST_MM <= side <= LARGEST_MM):
                raise SheetError(
                    _(
                        "A sheet side of {side} mm cannot be used: choose between {smallest} and "
                        "{largest} mm."
                    ).format(
                        side=write_number(side),
                        smallest=write_number(SMALLEST_MM),
                        largest=write_number(LARGEST_MM),
                    )
                )

    @classmethod
    def of_format(cls, name: str, *, lying: bool) -> "Sheet":
        """A named format, upright or lying. Raises SheetError for an unknown name."""
        if name not in FORMATS:
            raise SheetError(
                _("“{name}” is not a format here: use one of {formats}.").format(
                    name=name, formats=", ".join(FORMATS)
                )
            )
        short, long = FORMATS[name]
        return cls(long, short) if lying else cls(short, long)

    @property
    def lying(self) -> bool:
        """Whether the sheet is wider than high."""
        return self.width_mm > self.height_mm

    @property
    def format_name(self) -> str | None:
        """The name of the format, or None for any other size."""
        short, long = sorted((self.width_mm, self.height_mm))
        sizes = {size: name for name, size in FORMATS.items()}
        return sizes.get((short, long))

    @property
    def middle(self) -> tuple[float, float]:
        """The middle of the paper, sheet mm."""
        return self.width_mm / 2, self.height_mm / 2

    @property
    def paper(self) -> Rectangle:
        """All of the paper."""
        return 0.0, 0.0, self.width_mm, self.height_mm

    @property
    def reach_mm(self) -> float:
        """How far a line must run to leave any view of the sheet, mm."""
        return 100.0 * (self.width_mm + self.height_mm)
