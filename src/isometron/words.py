"""The one door for every word a person reads, from the core and from the interface.

`_("…")` gives a sentence in the person's language, `many("…", "…", n)` the one that suits a
number; parts that change are named: `_("{name} floats").format(name=…)`. `said("…")` marks words
that are kept as data, in sheet files say, and go through `_` where they are shown.
"""

import gettext
from pathlib import Path

DOMAIN = "isometron"
FOLDER = Path(__file__).with_name("translations")

LONGEST_QUOTED = 60
"""More of what was typed is not quoted back."""

_known = gettext.translation(DOMAIN, FOLDER, fallback=True)

_ = _known.gettext
many = _known.ngettext


def said(words: str) -> str:
    """Words as they are, marked so that they are translated where they are shown."""
    return words


def quoted(text: str) -> str:
    """What somebody typed or a file holds, short enough to be quoted in a sentence."""
    plain = " ".join(text.split())
    return plain if len(plain) <= LONGEST_QUOTED else plain[: LONGEST_QUOTED - 1] + "…"
