"""The table of docs/starters.md, written between its head and its foot."""

from pathlib import Path

from isometron.document.edits.starters import STARTERS

PAGE = Path(__file__).parents[1] / "docs" / "starters.md"
BEGIN, END = "<!-- starters -->\n", "<!-- end of starters -->\n"


def told(kind: str, value: float) -> str:
    """What is proposed, in words."""
    if kind == "length":
        return f"{value / 10:g} cm"
    if kind == "angle":
        return f"{value:g}°"
    return ("yes" if value else "no") if kind == "yes" else f"{value:g}"


def table() -> str:
    """Every starter: what it asks, what is proposed, and what is read back from the framework."""
    rows = []
    for starter in STARTERS:
        rows.append(
            f"\n### {starter.name}\n\n| asks for | proposed | | read back |\n|---|---|---|---|\n"
        )
        for one in starter.questions:
            words = one.tip or " / ".join(one.choices)
            back = "yes" if one.measure else ""
            rows.append(f"| {one.name} | {told(one.kind, one.proposed)} | {words} | {back} |\n")
    return "".join(rows) + "\n"


if __name__ == "__main__":
    head, _old, rest = PAGE.read_text().partition(BEGIN)
    foot = rest.partition(END)[2]
    PAGE.write_text(f"{head}{BEGIN}{table()}{END}{foot}")
