"""What is kept from one call to the next is listed, and nothing of it grows without end."""

import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]


def test_the_list_of_what_is_kept_is_whole_and_all_of_it_has_an_end():
    done = subprocess.run(
        [sys.executable, "-c", "import caches; print(caches.page(), end='')"],
        env={**os.environ, "PYTHONPATH": str(ROOT / "tools")},
        capture_output=True,
        text=True,
        check=True,
    )
    assert done.stdout == (ROOT / "docs" / "caches.md").read_text()
    rows = [line.split(" | ") for line in done.stdout.splitlines() if line.startswith("| `")]
    assert len(rows) > 50
    for name, on, most in rows:
        assert most != "all there are |" or on in ("nothing", "count"), name
