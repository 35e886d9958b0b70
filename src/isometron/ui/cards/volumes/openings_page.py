"""The Openings page: outlines on a face, drawn or cut in, each to be changed and taken away."""

from collections.abc import Callable
from functools import partial

from isometron.document.edits.faces import on_faces
from isometron.drawing.picks.face import FacePick
from isometron.drawing.picks.surface import SurfacePick
from isometron.framework.box import FACE_OF, SIDES
from isometron.framework.face_rings import OPENINGS
from isometron.framework.volume import Volume
from isometron.perspective.errors import IsometronError, VolumeError
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import CountField, LengthField, TextField
from isometron.ui.parts.page import Page, not_yet
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Heading,
    Items,
    Measure,
    Rest,
    Row,
    Told,
    Wish,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

WHICH, NEW = said("which opening"), _("a new opening")
TWINS = (
    said("this one only"),
    said("mirrored across the width"),
    said("mirrored across the depth"),
)
EACH = said("all together or each")
POINTS = said("points of the outline")
SIDE, SHAPE, TWIN = said("side of the opening"), said("shape of the opening"), said("mirrored")
FIELDS = {
    "left": (said("from left"), said("From the left edge of the face: 20cm, 1/4 or middle.")),
    "up": (said("up"), said("From its lower edge: 20cm, 1/4 or middle.")),
    "wide": (said("opening wide"), said("A length, or a share of the face: 30cm, 1/3.")),
    "high": (said("opening high"), said("A length, or a share of the face: 30cm, 1/3.")),
    "deep": (said("opening deep"), said("through, drawn, or how deep: 4cm.")),
}
AT_FIRST = {"left": "middle", "up": "middle", "wide": "1/3", "high": "1/3", "deep": "through"}


def _every(shown: Shown) -> Items:
    volume, unit = shown.document.volume, shown.document.choices.unit
    told = [] if volume is None else on_faces.rings_in_words(volume, unit)
    return [(NEW, None), *((words, number) for number, words in enumerate(told))]


class Typed(Words):
    """Place, size or depth of the chosen opening; of a new one what is typed for it."""

    def show(self, widget: TextField, shown: Shown, page: Page) -> None:
        volume, number = shown.document.volume, page.choice(WHICH).currentData()
        widget.setEnabled(volume is not None)
        if volume is None or number is None or number >= len(volume.face_rings):
            return
        field = next(name for name, (key, _tip) in FIELDS.items() if key == self.key)
        told = on_faces.typed_of(volume, number, shown.document.choices.unit)
        widget.show_text(told[field])


def _change(page: Page, text: str, field: str) -> Edit:
    number = page.choice(WHICH).currentData()
    if number is None:
        return not_yet  # a new one is put when all of it is typed
    return lambda d: on_faces.change_ring(d, number, field, text)


def _typed(field: str) -> Typed:
    key, tip = FIELDS[field]
    act = partial(_change, field=field)
    return Typed(key, _(tip), None, _("change the opening"), act, AT_FIRST[field])


def _face(page: Page) -> Callable[[Volume], int]:
    """The face that is meant: the one named on the page, or the picked one."""
    side = page.chosen(SIDE)
    if side:
        named = FACE_OF[SIDES[side - 1]]
        return lambda volume: on_faces.face_to(volume, named)
    if isinstance(page.pick, SurfacePick):
        surface = page.pick.index
        return lambda volume: on_faces.bent_side(volume, surface)
    if not isinstance(page.pick, FacePick):
        return on_faces.front_or_side
    face = page.pick.index
    return lambda volume: on_faces.whole_face(volume, face)


def _twin_of(page: Page) -> int | None:
    return (None, 0, 1)[page.chosen(TWIN)]


def _wanted(page: Page) -> on_faces.Wanted:
    typed = {field: page.text(key) for field, (key, _tip) in FIELDS.items()}
    return on_faces.Wanted(
        OPENINGS[page.chosen(SHAPE)],
        **typed,
        across=round(page.number("across")),
        upward=round(page.number("upward")),
        gap_mm=page.number("gap"),
        twin=_twin_of(page),
        each=page.chosen(EACH) == 1,
    )


def _put(page: Page) -> Edit:
    face, wanted = _face(page), _wanted(page)
    return lambda d: on_faces.put_on(d, face, wanted)


def _understood(page: Page) -> str:
    """What is understood of what is typed for this face, in lengths."""
    volume = page.shown.document.volume if page.shown else None
    if volume is None:
        return ""
    try:
        return on_faces.wanted_in_words(volume, _face(page)(volume), _wanted(page), page.unit)
    except IsometronError as error:
        return str(error)


def _outline(page: Page, *, smooth: bool) -> Edit:
    face, points, deep = _face(page), page.text(POINTS), page.text(FIELDS["deep"][0])
    twin = _twin_of(page)
    return lambda d: on_faces.outline_on(d, face, points, deep, smooth=smooth, twin=twin)


class Points(Words):
    """The points of the chosen outline, when it is a free one."""

    def show(self, widget: TextField, shown: Shown, page: Page) -> None:
        volume, number = shown.document.volume, page.choice(WHICH).currentData()
        widget.setEnabled(volume is not None)
        if volume is not None and number is not None and number < len(volume.face_rings):
            widget.show_text(on_faces.points_of(volume, number, shown.document.choices.unit))


def _change_points(page: Page, text: str) -> Edit:
    number = page.choice(WHICH).currentData()
    if number is None or not text.strip():
        return not_yet
    return lambda d: on_faces.change_points(d, number, text)


def _take(page: Page) -> Edit:
    number = page.choice(WHICH).currentData()
    if number is None:
        raise VolumeError(_("Choose the opening to take away first."))
    return lambda d: on_faces.take_ring(d, number)


def _twin(page: Page) -> Edit:
    number, twin = page.choice(WHICH).currentData(), _twin_of(page)
    if number is None:
        raise VolumeError(_("Choose the opening that is mirrored first."))
    return lambda d: on_faces.twin_ring(d, number, twin)


class OpeningsPage(Page):
    """Every outline on the faces of the volume, and new ones."""

    ROWS = (
        Row("", Choosing(WHICH, _("The opening that is shown, changed or taken away."), _every)),
        Row(
            _("on"),
            Choosing(
                SIDE,
                _("The side; or pick a face on the board."),
                [_("picked face, or front"), *(_(side) for side in SIDES)],
            ),
        ),
        Row(
            _("shape, deep"),
            Choosing(
                SHAPE,
                _("Square, ending in a half circle, or round."),
                [_(on_faces.SHAPE_WORDS[shape]) for shape in OPENINGS],
            ),
            _typed("deep"),
        ),
        Row(_("from left, up"), _typed("left"), _typed("up")),
        Row(_("wide, high"), _typed("wide"), _typed("high")),
        Row(
            "",
            Choosing(
                TWIN,
                _("Whether the same lies on the other side of a centre plane."),
                [_(words) for words in TWINS],
            ),
        ),
        Row(
            "",
            Button(_("Put it on"), _("Put this on the face."), _("opening"), _put),
            Button(
                _("Fill it"), _("Take the chosen one away again."), _("fill the opening"), _take
            ),
            Button(
                _("Mirror"),
                _("Mirror the chosen one, or no longer, as said above."),
                _("mirror the opening"),
                _twin,
            ),
        ),
        Row("", Told(of_page=_understood)),
        Heading(_("Several alike")),
        Row(
            _("across, up, gap"),
            Measure(said("across"), _("How many side by side."), CountField, 1),
            Measure(said("upward"), _("How many one above the other."), CountField, 1),
            Measure(said("gap"), _("What is left between two of them."), LengthField, 20.0),
        ),
        Row(
            "",
            Choosing(
                EACH,
                _("Whether the width and height above are those of all together, or of each."),
                [_("all together so wide and high"), _("each so wide and high")],
            ),
        ),
        Heading(_("A free outline")),
        Row(
            _("points"),
            Points(
                POINTS,
                _("From the lower left of the face, in order round: 0 0, 60 0, 60 40."),
                None,
                _("change the points"),
                _change_points,
            ),
        ),
        Row(
            "",
            Button(
                _("Straight"),
                _("Straight between these points."),
                _("outline"),
                partial(_outline, smooth=False),
            ),
            Button(
                _("Curve"),
                _("A free curve through these points."),
                _("outline"),
                partial(_outline, smooth=True),
            ),
            Wish(
                _("By hand"),
                _("Draw it right round on a face (Ctrl+U)."),
                lambda page: page.wishes.do("draw outline"),
            ),
        ),
        Rest(),
    )
