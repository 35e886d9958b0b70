"""Everything runs without a display, and leaves the person's own settings alone."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from hypothesis import settings

settings.register_profile("isometron", deadline=None, max_examples=60, derandomize=True)
settings.load_profile("isometron")
