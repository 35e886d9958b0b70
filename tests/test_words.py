"""Every word a person reads goes through one door, and the catalogue for translators is whole."""

import ast
import json
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "isometron"
WORDY = re.compile(r"[a-z“”’]{2,}[,;:.]? +[“A-Za-z(]{2,}.*[.…:]$|^[A-Z][^.]* [a-z]+ .*[.…]$")
"""A literal that reads like a sentence."""

DOORS = ("_", "many", "said")
NO_WORDS = {
    "cli.py",  # the parser's own usage line
    "files/codec.py",  # slips of whoever writes a form, never of a person
    "files/sheet_form.py",  # the published schema is in one language
    "ui/parts/theme.py",  # a style sheet
    "ui/board/frame.py",  # the same
    "ui/cards/building/follow_page.py",  # the same
}


def literals(tree):
    """Text and line of every literal that is neither a docstring nor inside a door."""
    left = [tree]
    while left:
        node = left.pop()
        if isinstance(node, ast.JoinedStr):
            parts = (getattr(one, "value", "x") for one in node.values)
            yield node.lineno, "".join(one if isinstance(one, str) else "x" for one in parts)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield node.lineno, node.value
        if isinstance(node, ast.Expr):
            continue
        door = isinstance(node, ast.Call) and getattr(node.func, "id", "") in DOORS
        left += node.keywords if door else ast.iter_child_nodes(node)


def test_no_sentence_stands_outside_the_door():
    found = [
        f"{path.relative_to(SOURCE)}:{line} {text}"
        for path in SOURCE.rglob("*.py")
        if str(path.relative_to(SOURCE)) not in NO_WORDS
        for line, text in literals(ast.parse(path.read_text()))
        if WORDY.search(text)
    ]
    assert found == []


def test_in_another_language_nothing_is_left_to_read(tmp_path, many):
    """Windows, tips, readings, remarks, steps and help in a made-up language: every word comes from
    the catalogue, and what is kept in files stays as it is."""
    done = subprocess.run(
        [sys.executable, ROOT / "tests/in_another_language.py", tmp_path, *many([], ["--full"])],
        capture_output=True, text=True, timeout=300, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    told = json.loads(done.stdout)
    assert told["readable"] == {} and told["unknown"] == []


def test_the_catalogue_is_written_for_translators(tmp_path):
    out = tmp_path / "isometron.pot"
    subprocess.run([sys.executable, ROOT / "tools" / "words.py", out], check=True)
    text = out.read_text()
    assert 'msgid "Lay down near edges"' in text and "msgid_plural" in text
    assert text.count("msgid ") > 800
