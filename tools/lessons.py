"""Draw the finished sheets of the first lessons into docs/lessons/. Run from anywhere.

.venv/bin/python tools/lessons.py
"""

import os
import sys
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.ui.desk import Desk, Unsaved  # noqa: E402
from tests.ui.lessons import LESSONS, Hands  # noqa: E402

from isometron.document.document import Document  # noqa: E402
from isometron.files.sheet_page import svg_of  # noqa: E402
from isometron.ui.bench.app import application  # noqa: E402

OUT = ROOT / "docs" / "lessons"


def main() -> None:
    """Work through every lesson by hand and draw its sheet."""
    OUT.mkdir(exist_ok=True)
    app = application()
    for name, (lesson, most) in LESSONS.items():
        with tempfile.TemporaryDirectory() as folder:
            hands = Hands(Desk(Path(folder), Document()))
            lesson(hands)
            hands.print_to(Path(folder) / "page.pdf")
            path = OUT / f"{name.replace(' ', '-')}.svg"
            path.write_bytes(svg_of(hands.at.document))
            sys.stdout.write(f"{path.name}: {hands.actions} actions, at most {most}\n")
            hands.at.answers.unsaved = Unsaved.DISCARD
            hands.at.bench.close()
    app.processEvents()


if __name__ == "__main__":
    main()
