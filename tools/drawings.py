"""Writes the small drawings of deeds and starters anew, from the real things.

python tools/drawings.py
"""

import json

from isometron.deeds.drawing import FILE, as_data, drawn, keys

FILE.write_text(
    "{\n"
    + ",\n".join(
        f"{json.dumps(key)}: {json.dumps(as_data(drawn(key)), separators=(',', ':'))}"
        for key in keys()
    )
    + "\n}\n"
)
