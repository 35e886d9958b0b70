"""The shipped type family, used before the first paint: nothing but Qt is loaded here."""

from functools import cache
from pathlib import Path

from PyQt6.QtGui import QFontDatabase

FAMILY = "B612"
FONTS = Path(__file__).parents[1] / "fonts"


@cache
def load_fonts() -> None:
    """Make the shipped type family known to Qt."""
    for face in ("Regular", "Bold", "Italic"):
        QFontDatabase.addApplicationFont(str(FONTS / f"B612-{face}.otf"))
