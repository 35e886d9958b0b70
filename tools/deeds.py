"""Prints docs/deeds.md: every deed of the table, by what it is about.

python tools/deeds.py > docs/deeds.md
"""

from isometron.deeds.deed import Matter
from isometron.deeds.table import deeds, matters

HEAD = """# Deeds

What can be done with what is picked, as the slip, the menus, the finder and the keys know it: one table
(`src/isometron/deeds/`). This page is written by `tools/deeds.py`; a test holds it to the table. *In place* are
values that are typed where they are read; the others open their fields when they are pressed, show what they give on
the sheet while a field is edited, and are done by Return.
"""


def page() -> str:
    """The whole page."""
    parts = [HEAD]
    for matter in Matter:
        its = [one for key, one in deeds().items() if matters()[key] is matter]
        parts.append(
            f"\n## {matter.value}\n\n| deed | what it does | asks for | key |\n|---|---|---|---|\n"
        )
        for one in its:
            asks = "in place" if one.in_place else ", ".join(p.called for p in one.parameters)
            parts.append(f"| {one.text} | {one.tip} | {asks} | {', '.join(one.keys)} |\n")
    return "".join(parts)


if __name__ == "__main__":
    print(page(), end="")
