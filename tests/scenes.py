"""Small factories of the scenes that tests share."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import strategies as st

from isometron.document.document import Document
from isometron.document.view import View
from isometron.framework.volume import Volume
from isometron.perspective.eye import Eye


def crossed(ones, others):
    """Every one with one of the others, these in turn; all pairs with --full."""
    others = list(others)
    return [
        pytest.param(one, other, marks=[] if m == n % len(others) else pytest.mark.full)
        for n, one in enumerate(ones)
        for m, other in enumerate(others)
    ]


def eye(**changes):
    """A level eye 1.5 m up looking along +Y at an A3 sheet."""
    usual = Eye(0.0, 0.0, 1500.0, 0.0, 0.0, 600.0, (210.0, 180.0))
    return replace(usual, **changes)


def seeds(usually, in_full):
    """Seeds of a test: the first few, and the others with --full."""
    return some(range(in_full), usually)


def some(values, usually):
    """What a test is asked for, a tuple where it is asked for several: the first few, and the
    others with --full."""
    return [
        pytest.param(
            *(value if isinstance(value, tuple) else [value]),
            marks=[] if n < usually else pytest.mark.full,
        )
        for n, value in enumerate(values)
    ]


def seen_by(by):
    """The one view of a sheet, seen by an eye."""
    return (View(eye=by),)


def case(**changes):
    """A Brackenmoor eyepiece case two metres ahead, turned 30°, its corner 0 nearest."""
    usual = Volume("Eyepiece case", 360.0, 240.0, 180.0, 0.0, 2000.0, 1000.0, 30.0)
    return replace(usual, **changes)


def sheet(*boxes, by=None, **changes):
    """A document with boxes (the case if none), the first in work."""
    volumes = boxes or (case(),)
    return Document(views=seen_by(by or eye()), volumes=volumes, selected=0, **changes)


def bare(by=None):
    """A document without volumes."""
    return Document(views=seen_by(by or eye()))


def crowd(count, seed=1):
    """Boxes standing and floating about, many hiding each other."""
    rng = np.random.default_rng(seed)
    return tuple(
        Volume(
            f"Case {i}",
            *rng.uniform(80, 400, 3).tolist(),
            *rng.uniform((-1200, 1500), (1200, 4200)).tolist(),
            float(rng.choice([0.0, 600.0, 900.0])),
            float(rng.uniform(-90, 90)),
        )
        for i in range(count)
    )


def floats(low, high):
    return st.floats(low, high, allow_nan=False, allow_infinity=False)


@st.composite
def eyes(draw, reach=1e6, tilt=90.0):
    """Any legal eye."""
    return Eye(
        draw(floats(-reach, reach)),
        draw(floats(-reach, reach)),
        draw(floats(-reach, reach)),
        draw(floats(-180, 180)),
        draw(floats(-tilt, tilt)),
        draw(floats(50, 5000)),
        (draw(floats(-500, 900)), draw(floats(-500, 900))),
    )


@st.composite
def boxes(draw):
    """Any box within reach."""
    return Volume(
        draw(st.text("Case tin 1", min_size=1, max_size=9)),
        *(draw(floats(0.01, 1e5)) for _ in range(3)),
        *(draw(floats(-1e5, 1e5)) for _ in range(3)),
        draw(floats(-180, 180)),
    )
