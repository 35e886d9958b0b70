"""The Light page of the Light tab: sun or lamp, shadows, and the values of all faces."""

from PyQt6.QtWidgets import QWidget

from isometron.deeds.deed import Given
from isometron.deeds.table import deed
from isometron.document.document import Document
from isometron.document.edits import lighting
from isometron.document.light import Light, LightNumber
from isometron.document.lights.table import LIGHTS
from isometron.drawing.picks.face import FacePick
from isometron.drawing.shading.light_points import VanishingPoint, ray_point, shadow_point
from isometron.perspective.lengths import write_length
from isometron.ui.cards.light.sun_pad import SunPad
from isometron.ui.cards.light.swatches import Swatches
from isometron.ui.parts.card import Shown
from isometron.ui.parts.fields import AngleField, Choice, LengthField
from isometron.ui.parts.page import Page, Piece
from isometron.ui.parts.rows import (
    Always,
    Choosing,
    Entry,
    Heading,
    Own,
    Rest,
    Row,
    Switch,
    Told,
)
from isometron.words import _, said


def _lit(document: Document) -> bool:
    return document.light is not None


def _where(shown: Shown) -> str:
    """The two points that a hand builds shadows with, in words."""
    document = shown.document
    if document.light is None:
        return _("No light is on. One light for the whole page: put the sun on, or a lamp.")
    rays, ground = (
        ray_point(document.eye, document.light),
        shadow_point(document.eye, document.light),
    )
    unit = document.choices.unit
    return document.light.building_in_words(_at(ground, unit), _at(rays, unit))


def _at(point: VanishingPoint | None, unit: str) -> str:
    if point is None:
        return _("their feet")
    if point.sheet_mm is None:
        return _("no point: they are drawn alike")
    across, up = (write_length(mm, unit) for mm in point.sheet_mm)
    return _("{across} across, {up} up").format(across=across, up=up)


def _picked(shown: Shown) -> FacePick | None:
    pick = shown.pick
    there = isinstance(pick, FacePick) and pick.is_there(shown.scene)
    return pick if there and _lit(shown.document) else None  # type: ignore[return-value]


def _face_steps(shown: Shown) -> list[tuple[str, int | None]]:
    """As the light tells it, then every step, the lightest first."""
    steps = range(1, shown.document.shading.steps + 1)
    return [(_("by the light"), None), *((str(step), step) for step in steps)]


def _face_step(shown: Shown) -> int | None:
    pick = _picked(shown)
    if pick is None:
        return None
    key = shown.document.volumes[pick.volume].key
    step = shown.document.shading.step_of(key, pick.index)
    return 0 if step is None else step + 1


class FaceStep(Choosing):
    """The step of the picked face, given by hand or told by the light again."""

    def make(self, page: Page) -> QWidget:
        made = Choice(self.called, self.tip, [])
        made.activated.connect(lambda n: self._give(page, n))
        return made

    def _give(self, page: Page, number: int) -> None:
        pick = None if page.shown is None else _picked(page.shown)
        if pick is not None:
            step = None if number == 0 else number - 1
            page.wishes.edit(
                self.name, lambda d: lighting.set_step(d, pick.volume, pick.index, step)
            )


def _button(key: str) -> Always:
    one = deed(key)
    return Always(one.text, one.tip, one.name, lambda page: one.with_given(Given(pick=page.pick)))


def _number(light: type[Light], number: LightNumber) -> Entry:
    one = deed(number.key).parameters[0]
    return Entry(
        number.key,
        number.tip,
        AngleField if number.angle else LengthField,
        lambda d: None if one.now is None else one.now(d, Given()),
        lambda d, typed: deed(number.key).edit(d, Given({number.key: typed})),
        caption=number.caption,
        words=number.words,
    )


def _choice(key: str) -> Choosing:
    """The choice that a deed is."""
    one = deed(key).parameters[0]
    now = one.now
    assert now is not None
    return Choosing(
        key,
        one.tip,
        [_(words) for words in one.choices],
        deed(key).name,
        lambda n: deed(key).with_given(Given({key: n})),
        now=lambda shown: now(shown.document, Given()),
    )


ROWS: tuple[Piece, ...] = (
    Row(
        "",
        *(_button(f"light {word}") for word in LIGHTS),
        _button("light off"),
    ),
    Row("", Own("sun", lambda page: SunPad(page.wishes), lambda pad, s: pad.show_document(s))),
    *(Row(light.called, *(_number(light, n) for n in light.numbers)) for light in LIGHTS.values()),
    Row("", Told(_where)),
    Heading(_("Values"), above=8),
    Row(_("shown as"), _choice("values shown as")),
    Row(_("steps of grey"), _choice("steps of grey")),
    Row("", Own("swatches", lambda page: Swatches(), lambda w, s: w.show_document(s))),
    Row(
        _("picked face"),
        FaceStep(
            said("step of the picked face"),
            _("Pick a face on the sheet: its step of grey, as the light tells it or as you want."),
            _face_steps,
            _("step of a face"),
            now=_face_step,
        ),
    ),
    Row(
        "",
        Switch(
            _("Cast shadows"),
            _("Draw what the light does not reach: on the ground and on faces."),
            _("cast shadows"),
            lambda d: d.shading.shadows if _lit(d) else None,
            lambda d, on: lighting.set_shading(d, shadows=on),
        ),
    ),
    Rest(),
)


class LightPage(Page):
    """Sun or lamp, shadows, values."""

    ROWS = ROWS
