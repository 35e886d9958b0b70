"""The build order of a whole sheet, in one of the methods."""

import numpy as np

from isometron.construction.draft import Draft
from isometron.construction.grid import Grid
from isometron.construction.machine import MoveError, rounding_bounds
from isometron.construction.moves import LINES
from isometron.construction.opening import lay_eye_level, lay_points
from isometron.construction.reach import Wanted
from isometron.construction.rounds import (
    carry_openings,
    carry_profile,
    draw_circles,
    draw_outlines,
    lay_skins,
)
from isometron.construction.steps import Order, OrderError
from isometron.construction.targets import Targets
from isometron.construction.volumes import (
    Site,
    before_us,
    check_squareness,
    close_volume,
    complete_box,
    divide_volume,
    grid_for,
    lay_near_edge,
    shape_volume,
)
from isometron.document.document import Document
from isometron.document.edits.shapes.rounding import turned_of
from isometron.drawing.scene import Scene, scene_of
from isometron.words import _

MM_STEP = 0.5
INCH_STEP = 25.4 / 16

SHORT = 60
"""Names of volumes in titles are cut after so many letters."""


def ruler_step(unit: str) -> float:
    """What a ruler of a unit is read to: 0.5 mm or 1/16 in."""
    return INCH_STEP if unit == "in" else MM_STEP


def order_of(document: Document, scene: Scene | None = None) -> Order:
    """The build order of a document, by the method its sheet is built by.

    Raises OrderError when there is nothing to draw, part of it lies behind us, or two lines that
    should cross fall together.
    """
    scene, building = scene or scene_of(document), document.building
    shown = [i for i, v in enumerate(document.volumes) if v.shown and not v.ghost]
    if not shown:
        raise OrderError(_("There is nothing to build yet: lay down a near edge first."))
    for i in shown:
        if not before_us(scene.pictures[i]):
            raise OrderError(
                _("Part of {name} lies beside or behind us: step back first.").format(
                    name=document.volumes[i].name
                )
            )
    step = ruler_step(document.choices.unit)
    draft = Draft(document, step)
    targets = Targets(draft)
    lay_eye_level(draft, targets, scene, shown)
    lay_points(draft, targets, scene, shown)
    grids: list[Grid] = []
    for i in shown:
        try:
            _volume(draft, targets, scene, i, grids)
        except MoveError as error:
            raise OrderError(
                _(
                    "Seen from here two lines of {name} fall together, and no ruler tells them "
                    "apart: move the eye or the volume a little."
                ).format(name=document.volumes[i].name)
            ) from error
    _finish(draft, document, scene)
    chapters = tuple(draft.chapters)
    moves = [move for chapter in chapters for s in chapter.steps for move in s.moves]
    bounds = rounding_bounds(moves, step)
    worst = max(draft.landings, key=lambda landing: bounds[landing.name])
    return Order(
        building.method,
        chapters,
        tuple(draft.landings),
        dict(draft.ellipses),
        bounds[worst.name],
        worst.what,
        step,
        dict(draft.labels),
        bounds,
        draft.machine.drawn,
    )


def _volume(draft: Draft, targets: Targets, scene: Scene, index: int, grids: list[Grid]) -> None:
    """One volume: its box, its shape, its circles."""
    picture = scene.pictures[index]
    volume, wanted = picture.volume, Wanted(draft.document, picture)
    if not wanted.at_all:
        return
    key = f"v{volume.key}"
    first = not grids
    site = grid_for(draft, targets, picture, draft.document.building.method, grids)
    if site.fresh:
        lay_near_edge(draft, site, key)
    if picture.body.faces or picture.body.surfaces is not None:  # a line in space has no box
        close_volume(draft, site, key)
        if volume.unopened.boxed or wanted.everything:
            complete_box(draft, site, key, wanted)
        if volume.unopened.boxed and not volume.unopened.bent:
            check_squareness(draft, site, key)
    if not wanted.framework_only:
        _details(draft, site, scene, index, key, wanted)
    kind = _("Turned form") if turned_of(volume) is not None else _("Volume")
    draft.chapter(key, f"{kind if first else _('Next')}: {volume.name[:SHORT]}")


def _details(draft: Draft, site: Site, scene: Scene, index: int, key: str, wanted: Wanted) -> None:
    """What is made inside the box of a volume: its shape, profile, openings, circles, outlines."""
    body = site.picture.body
    if body.faces or body.surfaces is not None:
        shape_volume(draft, site, key, wanted)
        divide_volume(draft, site, key)
        carry_profile(draft, site, key, wanted)
        carry_openings(draft, site, key, wanted)
        lay_skins(draft, site, key)
    draw_circles(draft, site, scene, index, key, wanted)
    draw_outlines(draft, site, key, wanted)


def _finish(draft: Draft, document: Document, scene: Scene) -> None:
    """Rubbing out, object lines, weights, and where the thing stands."""
    steps = [s for chapter in draft.chapters for s in chapter.steps]
    kept = {name for s in steps for name in s.objects}
    light = tuple(
        move.name
        for s in steps
        for move in s.moves
        if isinstance(move, LINES) and move.name not in kept
    )
    draft.step(
        "finish.rub",
        _(
            "Rub out the construction, {light} light lines: fans, measuring lines, "
            "diagonals; and the eye level where it would run through something solid."
        ).format(light=len(light)),
        rubs=light,
    )
    hidden = _("in short dashes") if document.choices.see_through else _("not at all")
    draft.step(
        "finish.object",
        _("Go over the object lines where they are seen; what is hidden is drawn {hidden}.").format(
            hidden=hidden
        ),
    )
    draft.step(
        "finish.weights",
        _("Give the outline and what lies nearest the heaviest line, edges inside a lighter one."),
    )
    standing_by = scene.lines_of_aids(light=False)
    if len(standing_by):
        a = np.asarray(standing_by[0])
        draft.keep(draft.join(draft.mark((a[0], a[1])), draft.mark((a[2], a[3]))))
        draft.step(
            "finish.floor", _("Draw the line it stands by, and where it meets the paper's edges.")
        )
    draft.chapter("finish", _("Finish"))
