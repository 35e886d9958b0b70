"""What is kept from one call to the next is listed, and nothing of it grows without end."""

import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]


def printed(tool):
    """The page a tool of tools/ writes."""
    return subprocess.run(
        [sys.executable, "-c", f"import {tool}; print({tool}.page(), end='')"],
        env={**os.environ, "PYTHONPATH": str(ROOT / "tools")},
        capture_output=True,
        text=True,
        check=True,
    ).stdout


def test_the_page_of_deeds_is_the_table():
    assert printed("deeds") == (ROOT / "docs" / "deeds.md").read_text()


def test_the_list_of_what_is_kept_is_whole_and_all_of_it_has_an_end():
    page = printed("caches")
    assert page == (ROOT / "docs" / "caches.md").read_text()
    rows = [line.split(" | ") for line in page.splitlines() if line.startswith("| `")]
    assert len(rows) > 50
    for name, on, most in rows:
        assert most != "all there are |" or on in ("nothing", "count"), name
