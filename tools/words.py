"""Writes every message of the program to a catalogue for translators (gettext's .pot form).

.venv/bin/python tools/words.py [OUT.pot]
"""

import ast
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1] / "src" / "isometron"
DOORS = {"_": 1, "said": 1, "many": 2}
"""Functions a message goes through, with how many of its arguments are messages."""


def messages() -> dict[tuple[str, ...], list[str]]:
    """Every message (singular and plural, where there are two) with the places it stands."""
    found: dict[tuple[str, ...], list[str]] = {}
    for path in sorted(ROOT.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name)):
                continue
            given = node.args[: DOORS.get(node.func.id, 0)]
            words = [arg.value for arg in given if isinstance(arg, ast.Constant)]
            if words and len(words) == len(given):
                place = f"{path.relative_to(ROOT)}:{node.lineno}"
                found.setdefault(tuple(words), []).append(place)
    return found


def quoted(text: str) -> str:
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\n") + '"'


def catalogue() -> str:
    parts = ['msgid ""\nmsgstr "Content-Type: text/plain; charset=UTF-8\\n"\n']
    for words, places in messages().items():
        lines = [f"#: {place}" for place in places] + [f"msgid {quoted(words[0])}"]
        if len(words) > 1:
            lines += [f"msgid_plural {quoted(words[1])}", 'msgstr[0] ""', 'msgstr[1] ""']
        else:
            lines.append('msgstr ""')
        parts.append("\n".join(lines) + "\n")
    return "\n".join(parts)


if __name__ == "__main__":
    text = catalogue()
    if len(sys.argv) > 1:
        Path(sys.argv[1]).write_text(text)
    else:
        sys.stdout.write(text)
