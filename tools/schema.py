"""Make the published schemas and the checker of sheet files anew, after a field has changed.

.venv/bin/python tools/schema.py
"""

import json
from pathlib import Path

import fastjsonschema

from isometron.files.sheet_form import schema
from isometron.files.volume_form import with_carried_fields
from isometron.framework.kinds.registry import KINDS

FOLDER = Path(__file__).parents[1] / "src" / "isometron" / "files"


def as_text(content: dict) -> str:
    return json.dumps(content, indent=1, ensure_ascii=False) + "\n"


def checker() -> str:
    """The checker as Python, and the kinds of volume it knows."""
    code = fastjsonschema.compile_to_code(schema())
    kinds = ", ".join(json.dumps(word) for word in KINDS)
    return (
        '"""Checks the content of a sheet file: made by tools/schema.py, not by hand."""\n'
        "# ruff: noqa\n# mypy: ignore-errors\n"
        f"KINDS = ({kinds})\n{code}"
    )


def files() -> dict[str, str]:
    """What is made, by the name of its file."""
    report = json.loads((FOLDER / "report.schema.json").read_text())
    return {
        "sheet.schema.json": as_text(schema()),
        "report.schema.json": as_text(with_carried_fields(report)),
        "sheet_checker.py": checker(),
    }


if __name__ == "__main__":
    for name, content in files().items():
        (FOLDER / name).write_text(content)
