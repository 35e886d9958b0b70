"""Volumes, modules and drawing aids as a table: every field, its bounds, and the value it holds.

A part of the table of the sheet file (`files.sheet_form`); clipboard and report take it too.
"""

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from isometron.document.building import LONGEST_KEY, MOST_KEYS
from isometron.document.document import MOST_VOLUMES
from isometron.files.codec import (
    Complaints,
    Definitions,
    Entry,
    Fields,
    Flag,
    Form,
    Many,
    Number,
    PerName,
    Record,
    Spread,
    Text,
    Told,
    Whole,
    record_of,
    row,
)
from isometron.framework import aids
from isometron.framework.bodies.cuts import Cut
from isometron.framework.bodies.edging import Edging
from isometron.framework.box import AXES
from isometron.framework.circles import FaceCircle
from isometron.framework.face_rings import FaceRing
from isometron.framework.kinds.bar import Bar
from isometron.framework.kinds.block import BLOCK, Block
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.loop import Loop
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.registry import KINDS
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import JOINS, Turned
from isometron.framework.marks import Mark
from isometron.framework.modules import LONGEST_NAME as LONGEST_MODULE
from isometron.framework.modules import MOST_ADDED, Added, Count, Module
from isometron.framework.outlines import Knot
from isometron.framework.placing import UNCOUNTED, Anchor, Mirrored, Stepped, Swung
from isometron.framework.skins import PATTERNS, Skin
from isometron.framework.volume import LONGEST_NAME, Volume

PLACE = Number(-1e6, 1e6, "place")
TURN = Number(-36000, 36000, "turn")
SIDE = Number(0.01, 1e6, "side")
SHARE = Number(-1000, 1000, "share")
UNIT_SHARE = Number(0, 1)
SWEEP = Number(-360, 360)
PAIR = row(SHARE, 2, "pair")
RADII = Many(UNIT_SHARE, 24, 1, name="radii")
PLACE_3 = row(PLACE, 3)
SHARE_3 = row(SHARE, 3)
TURN_3 = row(TURN, 3)
AXIS = Whole(options=(0, 1, 2))
KEY = Whole(0, 1_000_000_000)
NAME = Text(LONGEST_NAME)
KEYS = Many(Text(LONGEST_KEY), MOST_KEYS, make=frozenset)
ADDED = Record(Added, (Entry("number", Number(-1e300, 1e300)), Entry("of", Text(80))))
COUNT = Record(
    Count,
    (
        Entry("number", Number(0, 1e300)),
        Entry("of", Text(80)),
        Entry("plus", Many(ADDED, MOST_ADDED), default=()),
        Entry("plus_mm", PLACE, default=0.0),
    ),
    name="count",
)


KNOT = Record(
    Knot,
    (
        Entry("at", PAIR, ("x", "y")),
        Entry("bulge", Number(-1000, 1000), default=0.0),
        Entry("smooth", Flag(), default=False),
    ),
)

FORMS: dict[type[Kind], tuple[str, Form]] = {
    Taper: (
        "lean_mm",
        Record(
            Taper,
            tuple(Entry(side, PLACE, f"{side}_mm") for side in ("front", "back", "left", "right")),
        ),
    ),
    Plan: (
        "plan",
        Record(
            Plan,
            (
                Entry("outline", Many(PAIR, 64, 3), "corners"),
                Entry("corner_mm", Number(0, 1e6)),
                Entry("rounded", Flag()),
            ),
        ),
    ),
    Turned: (
        "turned",
        Record(
            Turned,
            (
                Entry("stations", Many(PAIR, 120, 2)),
                Entry("join", Text(options=JOINS)),
                Entry("axis", AXIS),
                Entry("name", NAME),
                # Before there was this field a wheel was told by its name.
                Entry("wheel", Flag(), default=lambda fields: fields["name"] == "wheel"),
                Entry("bore", UNIT_SHARE, default=0.0),
                Entry("rings", Many(PAIR, 60), default=()),
            ),
        ),
    ),
    Extruded: (
        "extruded",
        Record(
            Extruded,
            (
                Entry("rings", Many(Many(KNOT, 400, 2), 40, 1)),
                Entry("axis", AXIS),
                Entry("name", NAME),
                Entry("slant", PAIR, default=(0.0, 0.0)),
                Entry("widths", Many(PAIR, 24), default=()),
                Entry("at", UNIT_SHARE, default=0.0),
            ),
        ),
    ),
    Bar: (
        "bar",
        Record(
            Bar,
            (
                Entry("points", Many(SHARE_3, 60, 2)),
                Entry("thick_mm", SIDE),
                Entry("wide_mm", SIDE),
                Entry("bend_mm", Number(0, 1e6), default=0.0),
                Entry("round", Flag(), default=True),
                Entry("across", AXIS, default=1),
            ),
        ),
    ),
    Loop: (
        "loop",
        Record(
            Loop,
            (
                Entry("axis", AXIS),
                Entry("start_deg", TURN),
                Entry("sweep_deg", SWEEP),
                Entry("shares", RADII),
            ),
        ),
    ),
}
"""The field of each kind of volume, and its form. A kind that is not here has its own fields under
their own names, in a field called like the kind."""


def forms_of_kinds() -> Mapping[type, tuple[str, Form]]:
    """The field and the form of every kind there is, but the plain box, which has none."""
    return {kind: _form_of(kind) for kind in KINDS.values() if kind is not Block}


@lru_cache(maxsize=256)
def _form_of(kind: type[Kind]) -> tuple[str, Form]:
    return FORMS.get(kind) or (kind.word.replace(" ", "_"), record_of(kind))


def _forms_of_cuts() -> Mapping[type, tuple[str, Form]]:
    """What may fill a cut: flat kinds."""
    return {kind: FORMS[kind] for kind in (Taper, Plan)}


CUT = Record(
    Cut,
    (
        Entry("low", SHARE_3),
        Entry("high", SHARE_3),
        *(Entry(turn, TURN, default=0.0) for turn in ("yaw_deg", "pitch_deg", "roll_deg")),
        Entry("shape", Spread(_forms_of_cuts, BLOCK)),
    ),
)

EDGING = Record(
    Edging,
    (
        Entry("edge", Whole(0, 100_000)),
        Entry("mm", SIDE),
        Entry("other_mm", SIDE),
        Entry("rounded", Flag(), default=False),
    ),
)

MARK = Record(
    Mark,
    (
        Entry("kind", Text(options=("edge", "face", "section"))),
        Entry("index", Whole(0, 100_000)),
        Entry("axis", AXIS),
        Entry("shares", Many(UNIT_SHARE, 59, 1)),
    ),
)


def _part_of_a_circle(circle: FaceCircle) -> bool:
    return circle.sweep_deg != 360 or circle.start_deg != 0


CIRCLE = Record(
    FaceCircle,
    (
        Entry("face", Whole(0, 100_000)),
        Entry("middle", PAIR),
        Entry("radius_mm", SIDE, default=None),
        Entry("shares", RADII, default=(1.0,)),
        Entry("start_deg", TURN, default=0.0, when=_part_of_a_circle),
        Entry("sweep_deg", SWEEP, default=360.0, when=_part_of_a_circle),
        Entry("through", Flag(), default=False),
    ),
)

FACE_RING = Record(
    FaceRing,
    (
        Entry("face", Whole(-1000, 100_000)),
        Entry("ring", Many(KNOT, 400, 2)),
        Entry("deep_mm", Number(0, 1e6), default=0.0),
        Entry("through", Flag(), default=False),
        Entry("twin", Whole(options=(0, 1)), default=None),
    ),
)

SKIN = Record(
    Skin,
    (
        Entry("surface", Whole(-1000, 100_000)),
        Entry("pattern", Text(options=PATTERNS)),
        Entry("high_mm", SIDE),
        Entry("long_mm", SIDE),
        Entry("joint_mm", Number(0, 1e6), default=0.0),
        Entry("upright", Flag(), default=False),
        Entry("object_lines", Flag(), default=False),
    ),
)

ANCHOR = Record(
    Anchor,
    (
        Entry("parent", KEY),
        Entry("shares", SHARE_3),
        Entry("offsets_mm", PLACE_3),
        Entry("turns_deg", TURN_3),
        Entry("own", SHARE_3, default=(0.0, 0.0, 0.0)),
        Entry("counts", PerName(AXES, COUNT), default=UNCOUNTED),
        Entry("of_extent", Flag(), default=False),
    ),
)

_STEPS = (Entry("source", KEY), Entry("count", Whole(1, MOST_VOLUMES)))
FOLLOW = Told(
    "how",
    {
        "mirrored": (
            Mirrored,
            Record(Mirrored, (Entry("source", KEY), Entry("about", KEY), Entry("axis", AXIS))),
        ),
        "stepped": (Stepped, Record(Stepped, (*_STEPS, Entry("step_mm", PLACE_3)))),
        "swung": (
            Swung,
            Record(
                Swung,
                (
                    *_STEPS,
                    Entry("about_mm", PLACE_3),
                    Entry("axis", AXIS),
                    Entry("angle_deg", TURN),
                ),
            ),
        ),
    },
)


class _Word(Text):
    """The word of a kind: written for people; the field of the kind tells which it is."""

    def write(self, value: Any) -> str:
        """Its word."""
        return str(value.word)

    def check(self, data: Any, where: str) -> Complaints:
        """One of the words there are."""
        return Text(options=tuple(KINDS)).check(data, where)

    def schema(self, known: Definitions) -> Fields:
        """One of the words there are."""
        return {"enum": list(KINDS)}


def _tipped(volume: Volume) -> bool:
    return volume.tipped


VOLUME = Record(
    Volume,
    (
        Entry("kind", _Word(), "shape"),
        Entry("name", NAME),
        *(Entry(f"{axis}_mm", SIDE) for axis in AXES),
        Entry("place_mm", PLACE_3, ("x_mm", "y_mm", "z_mm")),
        Entry("yaw_deg", TURN),
        Entry("pitch_deg", TURN, default=0.0, when=_tipped),
        Entry("roll_deg", TURN, default=0.0, when=_tipped),
        Entry("shape", Spread(forms_of_kinds, BLOCK)),
        Entry("cuts", Many(CUT, 50), default=()),
        Entry("edgings", Many(EDGING, 60), default=()),
        Entry("marks", Many(MARK, 200), default=()),
        Entry("circles", Many(CIRCLE, 60), default=()),
        Entry("face_rings", Many(FACE_RING, 60), default=()),
        Entry("skins", Many(SKIN, 60), default=()),
        Entry("counts", PerName(AXES, COUNT), default=UNCOUNTED),
        Entry("on", ANCHOR, default=None),
        Entry("like", FOLLOW, default=None),
        Entry("key", KEY),
        Entry("group", Text(60, 0), default=""),
        Entry("shown", Flag(), default=True),
        Entry("ghost", Flag(), default=False),
        Entry("locked", Flag(), default=False),
        Entry("see_through", Flag(), default=None),
        Entry("role", Text(80), default=""),
    ),
)
VOLUMES = Many(VOLUME, MOST_VOLUMES)

MODULE = Record(
    Module,
    (
        Entry("name", Text(LONGEST_MODULE)),
        Entry("mm", Number(0, 1e6)),
        Entry("count", COUNT, default=None),
    ),
)

AID = Record(
    aids.Aid,
    (
        Entry("kind", Text(options=aids.KINDS)),
        Entry("place_mm", row(PLACE, 2)),
        Entry("yaw_deg", TURN),
        Entry("height_mm", PLACE),
        Entry("wide_mm", Number(0, 1e6)),
        Entry("squares", Whole(0, aids.MOST_SQUARES), default=0),
        Entry("high_mm", PLACE, default=0.0),
        Entry("from_mm", row(PLACE, 2), default=(0.0, 0.0)),
    ),
)


def carried_fields() -> tuple[str, ...]:
    """The fields of a volume that a report carries over as they stand in the sheet file."""
    names = (
        "key",
        "group",
        "counts",
        "on",
        "like",
        "cuts",
        "edgings",
        "marks",
        "circles",
        "face_rings",
        "skins",
    )
    return (*names, *(name for name, _ in forms_of_kinds().values()))


def with_carried_fields(report: Fields) -> Fields:
    """The schema of the report with what it takes from the sheet file put in anew: the fields of a
    volume, and the words of its kinds."""
    known: Definitions = {}
    mine = VOLUME.schema(known)["properties"]
    volume = report["properties"]["volumes"]["items"]["properties"]
    volume |= {name: mine[name] for name in carried_fields()}
    whole = list(KINDS)
    volume["kind"] = {"enum": [*whole, *(f"cut {word}" for word in whole)]}
    own = {"point", "space", "point_or_null", "number_or_null", "lines", "arcs", "outline"}
    kept = {name: what for name, what in report["definitions"].items() if name in own}
    return report | {"definitions": kept | known}
