"""The Place page: what a volume stands on, and how it is turned in space."""

from functools import partial

from isometron.document.document import Document
from isometron.document.edits import choosing
from isometron.document.edits.places import standing
from isometron.document.edits.places.origin import set_origin
from isometron.document.edits.places.saying_places import (
    CENTRES,
    centre_on,
    centre_on_sheet,
    said_place,
    say_place,
)
from isometron.drawing.measures import sloping_points
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.places import off_paper
from isometron.drawing.stands import stands
from isometron.framework.box import FACE_OF, SIDES
from isometron.perspective.errors import VolumeError
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import AngleField, LengthField, ShareField
from isometron.ui.parts.page import Page
from isometron.ui.parts.rows import (
    Button,
    Choosing,
    Entry,
    Heading,
    Items,
    Measure,
    Rest,
    Row,
    Said,
    Told,
    Words,
)
from isometron.ui.parts.wishes import Edit
from isometron.words import _, said

MOST_SLOPES = 3
"""Of more vanishing points of sloping edges than this the page says nothing."""

EDGE_OF_SIDE = {"front": 2, "back": 3, "left": 6, "right": 7, "top": 2, "base": 0}
"""The near edge of a side, by its number in a box."""


def _others(shown: Shown) -> Items:
    document = shown.document
    others = [(v.name, i) for i, v in enumerate(document.volumes) if i != document.selected]
    return [(_("the ground"), None), *others]


def _parent(page: Page) -> int:
    number = page.choice("what it stands on").currentData()
    if number is None:
        raise VolumeError(_("Choose another volume for it to stand on."))
    return int(number)


def _side(page: Page) -> str:
    return SIDES[page.chosen("side")]


def _stand(page: Page) -> Edit:
    if page.choice("what it stands on").currentData() is None:
        return standing.stand_on_ground
    parent = _parent(page)
    return lambda d: standing.stand_on(d, parent)


def _against(page: Page) -> Edit:
    parent, face = _parent(page), FACE_OF[_side(page)]
    return lambda d: standing.set_against(d, parent, face)


def _centre(page: Page) -> Edit:
    what = page.chosen("centred on what")
    if what == len(CENTRES):
        return centre_on_sheet
    parent, face = _parent(page), FACE_OF[_side(page)]
    return lambda d: centre_on(d, parent, CENTRES[what], face)


def _along(page: Page) -> Edit:
    parent, share = _parent(page), page.number("fraction along")
    edge = EDGE_OF_SIDE[_side(page)]
    return lambda d: standing.set_along_edge(d, parent, edge, share)


def _round_edge(page: Page) -> Edit:
    pick = page.picked(EdgePick, _("No edge is picked: click the edge to turn it round."))
    angle = page.number("turn by")
    return lambda d: standing.turn_round_edge(d, pick.index, angle)


def _in_round(page: Page) -> Edit:
    angle = page.number("turn by")
    return lambda d: standing.same_again_in_round(d, angle)


def _again(page: Page) -> Edit:
    angle = page.number("turn by")

    def again(document: Document) -> Document:
        _number, volume = choosing.in_work(document)
        return standing.same_again_turned(document, volume.yaw_deg + angle)

    return again


TURNS = (said("yaw"), said("pitch"), said("roll"))


def _turned(document: Document) -> tuple[float, float, float] | None:
    volume = document.volume
    return None if volume is None else (volume.yaw_deg, volume.pitch_deg, volume.roll_deg)


class Turn(Entry):
    """One of the three turns, about what is chosen on the page."""

    def done(self, page: Page, document: Document, value: float) -> Document:
        _number, volume = choosing.in_work(document)
        turns = [volume.yaw_deg, volume.pitch_deg, volume.roll_deg]
        turns[TURNS.index(self.key)] = value
        edge = page.pick.index if isinstance(page.pick, EdgePick) else None
        about = list(standing.TURNING_POINTS)[page.chosen("turned about")]
        point = standing.turning_point(document, about, edge)
        return standing.turn_about(document, (turns[0], turns[1], turns[2]), point)


def _turn(number: int, tip: str) -> Row:
    def shown(document: Document) -> float | None:
        turns = _turned(document)
        return None if turns is None else turns[number]

    name = TURNS[number]
    return Row(_(name), Turn(name, tip, AngleField, shown, lambda document, degrees: document))


def _said(shown: Shown) -> str | None:
    document = shown.document
    return None if document.selected is None else said_place(document, document.selected)


def _origin(name: str, axis: int, tip: str) -> Entry:
    return Entry(
        name,
        tip,
        LengthField,
        lambda d: d.origin_mm[axis],
        lambda d, mm: set_origin(d, axis, mm),
    )


def _words(shown: Shown) -> str:
    document, volume = shown.document, shown.document.volume
    parent = document.by_key(volume.on.parent) if volume and volume.on else None
    words = "" if document.selected is None else stands(document, shown.scene, document.selected)
    if parent is not None:
        words += " " + _("It follows {name}.").format(name=parent.name)
    if volume is not None and volume.like is not None:
        source = document.by_key(volume.like.source)
        words += " " + _("It is a copy of {name}.").format(name=source.name if source else "?")
    chosen = None if document.selected is None else shown.scene.pictures[document.selected]
    slopes = sloping_points(document.eye, chosen) if chosen else ()
    if 0 < len(slopes) <= MOST_SLOPES:
        unit = document.choices.unit
        places = "; ".join(off_paper(document.sheet, p.sheet_mm, unit) for p in slopes)
        words += " " + _("Sloping edges vanish {places}.").format(places=places)
    return words


class PlacePage(Page):
    """What the volume stands on, and how it is turned in space."""

    ROWS = (
        Row("", Told(_words, "told")),
        Row(
            _("place"),
            Words(
                said("place in words"),
                _("Such as: 1.3 w behind Front axle, on the centre plane; 5 cm above ground."),
                _said,
                _("say its place"),
                lambda page, text: partial(say_place, text=text),
            ),
        ),
        Row(
            _("with"),
            Choosing(said("what it stands on"), _("What it stands on or against."), _others),
        ),
        Row(
            "",
            Button(
                _("Set on top"),
                _("Set it down on this; it follows from now on."),
                _("stand on"),
                _stand,
            ),
            Button(
                _("Stand free"),
                _("Follow nothing from now on."),
                _("stand free"),
                lambda page: standing.let_stand_free,
            ),
        ),
        Row(
            "",
            Choosing(said("side"), _("The side it is set against."), [_(side) for side in SIDES]),
            Button(
                _("Set against"),
                _("Push it square against this side; it follows."),
                _("set against"),
                _against,
            ),
        ),
        Row(
            "",
            Measure(
                said("fraction along"),
                _("How far along the edge, as a fraction."),
                ShareField,
                0.5,
            ),
            Button(
                _("Set along its edge"),
                _("Set its first corner at this fraction along that side's near edge."),
                _("set along the edge"),
                _along,
            ),
        ),
        Row(
            "",
            Choosing(
                said("centred on what"),
                _("What of it the volume is centred on."),
                [
                    *(_("its middle"), _("its width"), _("its depth"), _("its axle")),
                    *(_("that side"), _("that side’s edge"), _("the sheet")),
                ],
            ),
            Button(
                _("Centre it"),
                _("Centre it on this; it follows, but on the sheet."),
                _("centre"),
                _centre,
            ),
        ),
        Heading(_("Turned")),
        _turn(0, _("Turn on the ground, counter-clockwise from above.")),
        _turn(1, _("Tip about its own width: positive lifts its back.")),
        _turn(2, _("Tip about its own depth: positive lowers its right side.")),
        Row(
            _("about"),
            Choosing(
                said("turned about"),
                _("What stays while it turns."),
                [_(point) for point in standing.TURNING_POINTS],
            ),
        ),
        Row(
            "",
            Measure(said("turn by"), _("By how much to turn."), AngleField, 30.0),
            Button(
                _("Round the edge"),
                _("Turn it round the edge that is picked."),
                _("turn round an edge"),
                _round_edge,
            ),
        ),
        Row(
            "",
            Button(
                _("The same again, turned"),
                _("A copy turned on the same ground; the old one stays as a ghost."),
                _("the same again, turned"),
                _again,
            ),
        ),
        Row(
            "",
            Button(
                _("Turned in its ellipse"),
                _("The same square again, turned within the ellipse of its base and its top."),
                _("turned in its ellipse"),
                _in_round,
            ),
        ),
        Heading(_("Ground origin")),
        Row(
            _("right"),
            _origin(_("origin right"), 0, _("Where typed places are counted from, across.")),
            Said(_("away")),
            _origin(_("origin away"), 1, _("Where typed places are counted from, away.")),
        ),
        Rest(),
    )
