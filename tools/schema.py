"""Make the published schemas anew, after a field has changed.

.venv/bin/python tools/schema.py
"""

import json
from pathlib import Path

from isometron.files.sheet_form import schema
from isometron.files.volume_form import with_carried_fields

FOLDER = Path(__file__).parents[1] / "src" / "isometron" / "files"


def as_text(content: dict) -> str:
    return json.dumps(content, indent=1, ensure_ascii=False) + "\n"


def files() -> dict[str, str]:
    """What is made, by the name of its file."""
    report = json.loads((FOLDER / "report.schema.json").read_text())
    return {
        "sheet.schema.json": as_text(schema()),
        "report.schema.json": as_text(with_carried_fields(report)),
    }


if __name__ == "__main__":
    for name, content in files().items():
        (FOLDER / name).write_text(content)
