"""Texts in the cells of a table (CSV) that no spreadsheet takes for formulas."""

RUNS, GUARD = tuple("=+-@\t\r\n'"), "'"
"""A spreadsheet takes a text that begins with one of these for a formula, unless it is guarded."""


def guarded(text: str) -> str:
    """A text as a cell that no spreadsheet runs: guarded by an apostrophe where it must be."""
    return GUARD + text if text.startswith(RUNS) else text


def meant(cell: str) -> str:
    """The text of a cell, without its guard."""
    return cell[1:] if cell.startswith(GUARD) and cell[1:].startswith(RUNS) else cell
