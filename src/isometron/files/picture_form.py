"""Pictures in sheet files: encoded, with their marks and how they lie under the sheet."""

import base64
import binascii
from typing import Any, NamedTuple

from isometron.document.marks import Edge, Known, Lens, Round, Row
from isometron.document.picture import (
    DOUBTS,
    LONGEST_NAME,
    MOST_BYTES,
    Laid,
    PictureFile,
    SheetPicture,
    Spot,
)
from isometron.files.codec import (
    Complaints,
    Definitions,
    Entry,
    Fields,
    Flag,
    Form,
    Many,
    Maybe,
    Number,
    Record,
    Text,
    Whole,
    row,
)
from isometron.perspective.errors import FileError
from isometron.words import _

MOST_EDGES, MOST_ROUNDS, MOST_POINTS = 2000, 200, 2000
LONGEST_BASE64 = (MOST_BYTES + 2) // 3 * 4
BEGINS = (b"\x89PNG", b"\xff\xd8\xff")
"""How the pictures of a sheet begin: PNG or JPEG."""


class Base64(NamedTuple):
    """An encoded picture as text, or what stands for it where it is kept elsewhere."""

    def write(self, value: Any) -> str:
        """In base64."""
        return value.stand_in or base64.b64encode(value.content).decode()

    def check(self, data: Any, where: str) -> Complaints:
        """Text as long as pictures are."""
        return Text(LONGEST_BASE64, 4).check(data, where)

    def read(self, data: Any) -> PictureFile:
        """The picture's bytes. Raises FileError for what is no picture."""
        try:
            content = base64.b64decode(data, validate=True)
        except (binascii.Error, ValueError) as error:
            raise FileError(_("a picture is damaged: use an earlier copy")) from error
        if not content.startswith(BEGINS):
            raise FileError(_("a picture is neither PNG nor JPEG: use an earlier copy"))
        return PictureFile(content)

    def schema(self, known: Definitions) -> Fields:
        """Text in base64."""
        return {"type": "string", "minLength": 4, "maxLength": LONGEST_BASE64}


_PX = Number(-1e6, 1e6)
_PLACE = row(_PX, 2)
_NAME = Text(LONGEST_NAME, 0)
_FAMILY = Text(60)
_WEIGHT = Entry("weight", Number(0.001, 1), default=1.0)
_LEFT = Entry("left", Flag(), default=False)
_MENDED = Entry("mended", Flag(), default=False)
_EDGE = Record(
    Edge,
    (
        Entry("from", _PLACE, "start"),
        Entry("to", _PLACE, "end"),
        Entry("family", _FAMILY),
        Entry("corners", Maybe(row(Whole(0, 7), 2)), default=None),
        Entry("open_ends", Flag(), default=False),
        _WEIGHT,
        _LEFT,
        Entry("name", _NAME, default=""),
        Entry("found", Flag(), default=False),
        _MENDED,
    ),
)
_RIM = Record(
    Round,
    (
        Entry("points", Many(_PLACE, MOST_POINTS)),
        Entry("axle", Text(60, 0), default=""),
        Entry("name", _NAME, default=""),
        _WEIGHT,
        _LEFT,
        _MENDED,
    ),
)
_ROW = Record(
    Row,
    (
        Entry("points", Many(_PLACE, MOST_POINTS, 3)),
        Entry("family", _FAMILY),
        Entry("name", _NAME, default=""),
        _MENDED,
    ),
)
_KNOWN = Record(
    Known,
    (
        Entry("kind", Text(options=("length", "ratio", "equal", "square"))),
        Entry("edges", Many(Whole(0, MOST_EDGES), 2, 1)),
        Entry("value", Maybe(Number(1e-6, 1e7)), default=None),
    ),
)
_LENS = Record(
    Lens,
    (
        Entry("station_distance", Number(1e-3, 1e7)),
        Entry("standard_error", Number(1e-6, 1e7)),
    ),
)


def picture_form(eye: Form) -> Record:
    """The form of a picture; `eye` is that of an eye."""
    laid = Record(
        Laid,
        (
            Entry("centre_px", _PLACE),
            Entry("at_mm", row(Number(-1e6, 1e6), 2)),
            Entry("mm_per_px", Number(1e-6, 1e4)),
            Entry("turn_deg", Number(-180, 180)),
            Entry("eye", eye),
            Entry("strength", Number(0, 1)),
            Entry("shown", Flag(), default=True),
            Entry("sent", Flag(), default=False),
            Entry("ghost", Flag(), default=True),
        ),
    )
    side = Whole(1, 60_000)
    return Record(
        SheetPicture,
        (
            Entry("name", _NAME),
            Entry("base64", Base64(), "file"),
            Entry("width", side),
            Entry("height", side),
            Entry("smaller", Number(1e-3, 1e3), default=1.0),
            Entry("cropped", Flag(), default=False),
            Entry("doubt", Text(options=DOUBTS), default=""),
            Entry("lens", Maybe(_LENS), default=None),
            Entry("lens_used", Flag(), default=True),
            Entry("bend", Number(-10, 10), default=0.0),
            Entry("bend_error", Number(0, 1e6), default=0.0),
            Entry("long_lines", Whole(-1, MOST_EDGES), default=-1),
            Entry("noise", Maybe(Number(1e-6, 1e5)), default=None),
            Entry("edges", Many(_EDGE, MOST_EDGES), default=()),
            Entry("rounds", Many(_RIM, MOST_ROUNDS), default=()),
            Entry("rows", Many(_ROW, MOST_ROUNDS), default=()),
            Entry(
                "spots",
                Many(Record(Spot, (Entry("place", _PLACE), Entry("name", _NAME, default=""))), 500),
                default=(),
            ),
            Entry("known", Many(_KNOWN, 200), default=()),
            Entry("laid", Maybe(laid), default=None),
            Entry("paper_mm", Maybe(row(Number(20, 5000), 2)), default=None),
            Entry("corners", Many(_PLACE, 4), default=()),
            Entry("centre", Maybe(_PLACE), default=None),
            Entry("dpi", Maybe(Number(1, 20_000)), default=None),
        ),
        name="picture",
    )
