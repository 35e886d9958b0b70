"""The table of docs/proportion.md, written between its head and its foot."""

from pathlib import Path

from isometron.document.edits.judging.bands import BANDS, Side
from isometron.document.edits.starters import STARTERS

PAGE = Path(__file__).parents[1] / "docs" / "proportion.md"
BEGIN, END = "<!-- bands -->\n", "<!-- end of bands -->\n"


def told(side: Side, unit: str) -> str:
    """An end of a band in words."""
    if side.of:
        times = "" if side.times == 1 else f"{side.times:g} × "
        plus = f" {'−' if side.plus < 0 else '+'} {abs(side.plus):g}" if side.plus else ""
        return f"{times}{side.of}{plus}"
    return f"{side.plus / 10:g} cm" if unit == "mm" else f"{side.plus:g}{unit}"


def unit_of(of: str, what: str) -> str:
    """The unit of a measure: mm, ° or a module."""
    starter = next((one for one in STARTERS if one.name == of), None)
    if starter is None:
        return " ×" if what == "slenderness" else "mm"
    kind = next(one.kind for one in starter.questions if one.name == what)
    return {"length": "mm", "angle": "°"}.get(kind, "")


def table() -> str:
    """Every band, by kind."""
    rows = ["| of | measure | from | to | because |", "|---|---|---|---|---|"]
    for band in BANDS:
        unit = unit_of(*band.key)
        ends = f"{told(band.low, unit)} | {told(band.high, unit)}"
        rows.append(f"| {band.of} | {band.what} | {ends} | {band.why} |")
    return "\n".join(rows) + "\n"


if __name__ == "__main__":
    head, _old, rest = PAGE.read_text().partition(BEGIN)
    foot = rest.partition(END)[2]
    PAGE.write_text(f"{head}{BEGIN}{table()}{END}{foot}")
