"""The sheet file as a table: every field, its bounds, and the value it holds (docs/file-format.md).

What is written, what is read and the published schema come from here. Names of fields are kept for
ever; a field that is added gets a default, so that what was written before keeps opening.
"""

from typing import Any

from isometron.document.begun import MOST_BEGUN, Answer, Begun, Called, Part
from isometron.document.building import (
    LONGEST_KEY,
    METHODS,
    MOST_KEYS,
    REACHES,
    SEEN,
    Building,
)
from isometron.document.document import (
    MOST_DIMENSIONS,
    MOST_INTENTIONS,
    MOST_VIEWS,
    MOST_VOLUMES,
    UNITS,
    Choices,
    Document,
)
from isometron.document.finish import (
    BY_LIGHT,
    MARGIN_RANGE_MM,
    SURROUNDINGS,
    WEIGHT_RANGE_MM,
    Finish,
)
from isometron.document.kit import MOST_GUIDES, Hand, Kit
from isometron.document.light import (
    FEWEST_STEPS,
    FLAT,
    MOST_STEPS,
    USUAL_STEPS,
    WAYS,
    Shading,
)
from isometron.document.light import Light as AnyLight
from isometron.document.lights.table import LIGHTS
from isometron.document.own_bands import MOST_BANDS, OwnBand
from isometron.document.picture import MOST_PICTURES
from isometron.document.variants import MOST_VARIANTS, Variant
from isometron.document.view import Frame, View
from isometron.files.codec import (
    Definitions,
    Entry,
    Fields,
    Flag,
    Form,
    Many,
    Maybe,
    Number,
    PerName,
    Record,
    Text,
    Told,
    Whole,
    Word,
    record_of,
    row,
)
from isometron.files.picture_form import picture_form
from isometron.files.volume_form import (
    AID,
    AXIS,
    KEY,
    KEYS,
    MODULE,
    PLACE,
    PLACE_3,
    TURN,
    VOLUMES,
)
from isometron.framework.dimensions import Dimension, Held
from isometron.framework.intentions.registry import INTENTIONS
from isometron.framework.volume import LONGEST_NAME
from isometron.perspective.eye import SCALE_RANGE, Eye
from isometron.perspective.sheet import Sheet

VERSION = 4
"""Version 1 knew upright boxes only, version 2 flat volumes, version 3 one eye and a ruler among
the choices; `raised` turns any of them into version 4."""

EYE = Record(
    Eye,
    (
        *(Entry(name, PLACE) for name in ("x_mm", "y_mm", "height_mm")),
        Entry("heading_deg", TURN),
        Entry("tilt_deg", Number(-90, 90)),
        Entry("station_distance_mm", Number(1, 1e6)),
        Entry("centre_of_vision_mm", row(PLACE, 2)),
        Entry("parallel", Number(*SCALE_RANGE), default=None),
        Entry("projection", Word({"flat": False, "curved": True}), "curved", default=False),
    ),
)

_ON_PAPER = Number(-5000, 5000)
_LONG = Number(1, 5000)
FRAME = Record(
    Frame,
    (
        Entry("left_mm", _ON_PAPER),
        Entry("bottom_mm", _ON_PAPER),
        Entry("width_mm", _LONG),
        Entry("height_mm", _LONG),
    ),
)
VIEW = Record(
    View,
    (
        Entry("name", Text(LONGEST_NAME, 0)),
        Entry("eye", EYE),
        Entry("frame", Maybe(FRAME), default=None, when=lambda view: True),
        Entry("before", EYE, default=None),
    ),
)

_ERROR = Number(0, 10)
HAND = Record(
    Hand,
    tuple(
        Entry(name, _ERROR, default=getattr(Hand(), name), when=lambda hand: True)
        for name in ("mark_mm", "line_mm", "carry_mm", "square_deg")
    ),
)
_USUAL = Kit()


def _in_kit(name: str, form: Form) -> Entry:
    return Entry(name, form, default=getattr(_USUAL, name), when=lambda kit: True)


KIT = Record(
    Kit,
    (
        _in_kit("ruler_mm", Number(50, 5000)),
        _in_kit("ruler_step_mm", Number(0.1, 10)),
        _in_kit("guide_degrees", Many(Number(1, 90), MOST_GUIDES)),
        _in_kit("guide_sizes_mm", Many(Number(1, 2000), MOST_GUIDES)),
        _in_kit("compass_mm", Number(0, 2000)),
        _in_kit("set_square", Flag()),
        _in_kit("spare_paper_mm", Number(0, 5000)),
        _in_kit("hand", HAND),
    ),
)

CHOICES = Record(
    Choices,
    (
        Entry("unit", Text(options=UNITS)),
        Entry("cone_deg", Number(10, 120)),
        Entry("see_through", Flag()),
        Entry("fans", Flag()),
        Entry("ellipse_aids", Flag(), default=True, when=lambda choices: True),
        Entry("diagonal_point", Flag(), default=False),
    ),
)

BUILDING = Record(
    Building,
    (
        Entry("method", Text(options=METHODS)),
        Entry("points_first", Flag()),
        Entry("done", KEYS),
        Entry("hidden", KEYS),
        Entry("chapters", Many(Text(LONGEST_KEY), MOST_KEYS)),
        Entry("reach", Text(options=REACHES), default=SEEN),
    ),
)

_HELD = Record(Held, (Entry("key", KEY), Entry("shares", row(Number(-1e5, 1e5), 3))))
DIMENSION = Record(
    Dimension, (Entry("one", _HELD), Entry("two", _HELD), Entry("off_mm", Number(-1000, 1000)))
)


_OF_INTENTIONS: dict[str, Form] = {
    **dict.fromkeys(("wheel", "body", "inner", "outer", "part", "on", "other", "of"), KEY),
    **dict.fromkeys(("axis", "side"), AXIS),
    **dict.fromkeys(("at", "start"), Whole(0, 2)),
    "share": Number(0, 1),
    "times": Number(-1e6, 1e6),
    "mm": PLACE,
    "arch": Whole(0, 400),
    "clearance": Number(0, 10),
    "margin_mm": PLACE,
}
INTENTION = Told(
    "kind",
    {word: (kind, record_of(kind, _OF_INTENTIONS)) for word, kind in INTENTIONS.items()},
)
MEANT = Many(INTENTION, MOST_INTENTIONS)
_ANSWER = Record(Answer, (Entry("question", Text(80)), Entry("value", Number(-1e9, 1e9))))
_PART = Record(Part, (Entry("part", KEY), Entry("key", KEY)))
_CALLED = Record(Called, (Entry("module", Text(80)), Entry("name", Text(80))))
BEGUN = Record(
    Begun,
    (
        Entry("starter", Text(80)),
        Entry("answers", Many(_ANSWER, 100)),
        Entry("parts", Many(_PART, MOST_VOLUMES)),
        Entry("modules", Many(_CALLED, 50), default=()),
    ),
)


BAND = Record(
    OwnBand,
    (
        Entry("of", Text(80)),
        Entry("what", Text(80)),
        Entry("low", Number(-1e9, 1e9)),
        Entry("high", Number(-1e9, 1e9)),
    ),
)


VARIANT = Record(
    Variant,
    (
        Entry("name", Text(40)),
        Entry("volumes", VOLUMES, default=()),
        Entry("modules", Many(MODULE, 50), default=()),
        Entry("dimensions", Many(DIMENSION, MOST_DIMENSIONS), default=()),
        Entry("intentions", MEANT, default=()),
        Entry("begun", Many(BEGUN, MOST_BEGUN), default=()),
    ),
)


def _form_of(light: type[AnyLight]) -> Record:
    """What a file holds of a kind of light."""
    entries = []
    for name, (low, high, count) in light.fields.items():
        number = Number(low, high)
        entries.append(Entry(name, PLACE_3 if count == 3 else number))
    return Record(light, tuple(entries))


LIGHT = Told(
    "kind",
    {word: (light, _form_of(light)) for word, light in LIGHTS.items()},
)
SHADING = Record(
    Shading,
    (
        Entry("way", Text(options=WAYS), default=FLAT),
        Entry("steps", Whole(FEWEST_STEPS, MOST_STEPS), default=USUAL_STEPS),
        Entry("shadows", Flag(), default=True),
        Entry("by_hand", Many(row(Whole(0, 1_000_000_000), 3), 2000), default=()),
    ),
)
_WEIGHT = Number(*WEIGHT_RANGE_MM)
FINISH = Record(
    Finish,
    (
        Entry("weighted", Flag(), default=False),
        *(
            Entry(name, _WEIGHT, default=getattr(Finish(), name))
            for name in ("outline_mm", "edge_mm", "fine_mm")
        ),
        *(Entry(name, Flag(), default=False) for name in ("nearer", "surroundings")),
        Entry("steps", PerName(SURROUNDINGS, Whole(0, MOST_STEPS - 1)), default=BY_LIGHT),
        *(Entry(name, Flag(), default=False) for name in ("mirror", "thirds", "middle")),
        Entry("margin_mm", Number(*MARGIN_RANGE_MM), default=None),
        Entry("crop", FRAME, default=None),
    ),
)
PICTURES = Many(picture_form(EYE), MOST_PICTURES)
MOST_ASIDE = 500
_SHEET_SIDE = Number(20, 5000)
_NUMBERS = Many(Whole(0, MOST_VOLUMES), MOST_VOLUMES, make=frozenset)
SHEET = Record(
    Document,
    (
        Entry(
            "sheet",
            Record(Sheet, (Entry("width_mm", _SHEET_SIDE), Entry("height_mm", _SHEET_SIDE))),
        ),
        Entry("views", Many(VIEW, MOST_VIEWS, 1)),
        Entry("view", Whole(0, MOST_VIEWS - 1), default=0, when=lambda document: True),
        Entry("origin_mm", PLACE_3, default=(0.0, 0.0, 0.0), when=lambda document: True),
        Entry("lie_deg", TURN, "yaw_deg"),
        Entry("volumes", VOLUMES),
        Entry("selected", Maybe(Whole(0, MOST_VOLUMES))),
        Entry("choices", CHOICES),
        Entry("kit", KIT, default=_USUAL, when=lambda document: True),
        Entry("light", Maybe(LIGHT), default=None, when=lambda document: True),
        Entry("shading", SHADING, default=Shading()),
        Entry("finish", FINISH, default=Finish()),
        Entry("pictures", PICTURES, default=(), when=lambda d: True),
        Entry("picture", Whole(0, MOST_PICTURES - 1), default=0),
        Entry("modules", Many(MODULE, 50), default=()),
        Entry("aids", Many(AID, 50), default=()),
        Entry("also", _NUMBERS, default=frozenset()),
        Entry("building", BUILDING, default=Building()),
        Entry("circle", Whole(0, 100_000), default=None),
        Entry("dimensions", Many(DIMENSION, MOST_DIMENSIONS), default=()),
        Entry("intentions", MEANT, default=()),
        Entry("begun", Many(BEGUN, MOST_BEGUN), default=()),
        Entry("bands", Many(BAND, MOST_BANDS), default=()),
        Entry("variants", Many(VARIANT, MOST_VARIANTS), default=()),
        Entry("variant", Whole(0, MOST_VARIANTS), default=0),
        Entry("beneath", Flag(), default=False),
        Entry("aside", Many(Text(80), MOST_ASIDE, make=frozenset), default=frozenset()),
    ),
)


def schema() -> Fields:
    """The published schema of the sheet file."""
    known: Definitions = {}
    body = SHEET.schema(known)
    body["properties"] = {"isometron": {"const": VERSION}, **body["properties"]}
    body["required"] = ["isometron", *body["required"]]
    return {
        "$schema": "http://json-schema.org/draft-07/schema#",
        "title": f"Isometron sheet, version {VERSION}",
        "description": "One sheet, seen from one or more eyes. Lengths in millimetres, angles in "
        "degrees; frames as in docs/file-format.md. Sheets of versions 1 to 3 are read as this "
        "one.",
        **body,
        "definitions": known,
    }


_MOVED = ("ruler_mm", "guide_degrees", "guide_sizes_mm")


def raised(data: Fields) -> Fields:
    """The content of a sheet of any version as one of this version. What is damaged stays as it is,
    for the schema to find."""
    data = data | {"volumes": _numbered(data["volumes"])} if "volumes" in data else data
    if data.get("isometron") not in (1, 2, 3) or isinstance(data["isometron"], bool):
        return data
    new = {key: value for key, value in data.items() if key != "eye"} | {"isometron": VERSION}
    if "eye" in data:
        new["views"] = [{"name": "", "eye": data["eye"], "frame": None}]
    choices = data.get("choices")
    if isinstance(choices, dict):
        new["choices"] = {key: value for key, value in choices.items() if key not in _MOVED}
        new["kit"] = {key: choices[key] for key in _MOVED if key in choices}
    return new


def _numbered(volumes: Any) -> Any:
    """Volumes with a key each: in version 1 they had none."""
    if not isinstance(volumes, list):
        return volumes
    return [
        {"key": number, **one} if isinstance(one, dict) else one
        for number, one in enumerate(volumes)
    ]
