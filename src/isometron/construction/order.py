"""The build order of a whole sheet, in one of the methods."""

from dataclasses import replace

from isometron.construction.bowing import lay_curves
from isometron.construction.draft import Draft
from isometron.construction.economy import in_parts, lay_rulers
from isometron.construction.finishing import finish, finished_strokes
from isometron.construction.grid import Grid
from isometron.construction.machine import MoveError
from isometron.construction.moves import Move
from isometron.construction.opening import lay_eye_level, lay_points
from isometron.construction.reach import Wanted
from isometron.construction.rounds import (
    carry_openings,
    carry_profile,
    draw_circles,
    draw_outlines,
    lay_skins,
)
from isometron.construction.shadows import lay_shadows
from isometron.construction.steps import Chapter, Order, OrderError, Step
from isometron.construction.table import remedy_words
from isometron.construction.targets import Targets
from isometron.construction.trust import by_hand, expected, rounding_bounds
from isometron.construction.volumes import (
    Site,
    before_us,
    check_box,
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
from isometron.perspective.watching import part_of_whole, ticking
from isometron.words import _

METRIC_DIVISION = 1.0
INCH_DIVISION = 25.4 / 16
"""A sheet in inches that has a metric ruler is read on the usual one."""

SHORT = 60
"""Names of volumes in titles are cut after so many letters."""

DRAFTED, BOUNDED, TRIED = (0.0, 0.6), (0.6, 0.9), (0.9, 1.0)
"""Which parts of the whole work the drafting, the bounds and the trials by hand are, about."""


def ruler_step(document: Document) -> float:
    """What the person's ruler is read to, mm: half its division, in inches the division itself."""
    division = document.kit.ruler_step_mm
    if document.choices.unit != "in":
        return division / 2
    return INCH_DIVISION if division == METRIC_DIVISION else division


def order_of(document: Document, scene: Scene | None = None) -> Order:
    """The build order of a document, by the method its sheet is built by. What reaches beside or
    behind us is left out, and said.

    Raises OrderError when there is nothing to draw, all of it reaches behind us, or two lines that
    should cross fall together.
    """
    scene, building = scene or scene_of(document), document.building
    shown, aside = _before_us(document, scene)
    step = ruler_step(document)
    draft = Draft(document, step)
    targets = Targets(draft)
    with part_of_whole(*DRAFTED):
        if document.eye.curved:
            _leave_out(draft, document, aside)
            _curved(draft, scene, shown)
        else:
            lay_eye_level(draft, targets, scene, shown)
            _leave_out(draft, document, aside)
            _ruled(draft, targets, scene, shown)
    draft.chapters = lay_rulers(draft.chapters, draft.drawn)
    finish(draft, targets, document, scene)
    draft.chapters = in_parts(draft.chapters, {landing.name for landing in draft.landings})
    if not draft.landings:
        raise OrderError(_("From here nothing shows that could be built: move the eye."))
    chapters = _with_remedy(draft, document)
    groups = [[move for s in chapter.steps for move in s.moves] for chapter in chapters]
    with part_of_whole(*BOUNDED):
        bounds = rounding_bounds(groups, step)
    worst = max(draft.landings, key=lambda landing: bounds[landing.name])
    drawn = draft.machine.drawn
    with part_of_whole(*TRIED):
        trials = by_hand([move for group in groups for move in group], document.kit.hand, step)
    hand = expected(trials, drawn, [landing.name for landing in draft.landings])
    farthest = max(draft.landings, key=lambda landing: hand[landing.name])
    return Order(
        building.method,
        chapters,
        tuple(draft.landings),
        dict(draft.ellipses),
        bounds[worst.name],
        worst.what,
        step,
        _all_labels(draft, groups),
        bounds,
        drawn,
        hand,
        farthest.what,
        draft.closings,
        finished_strokes(document, scene),
        (document.sheet.width_mm, document.sheet.height_mm),
        document.kit.ruler_mm,
    )


def _leave_out(draft: Draft, document: Document, aside: list[int]) -> None:
    """What reaches beside or behind us is not built, and that is said."""
    if not aside:
        return
    draft.step(
        "sheet.left-out",
        _(
            "Left out: {names}, part of which lies beside or behind us. Step back to build it."
        ).format(names=", ".join(document.volumes[i].name for i in aside)),
    )
    draft.chapter("left-out", _("Left out"))


def _ruled(draft: Draft, targets: Targets, scene: Scene, shown: list[int]) -> None:
    """A flat sheet: points, volume after volume, and the shadows they throw."""
    lay_points(draft, targets, scene, shown)
    grids: list[Grid] = []
    for i in ticking(shown, len(shown)):
        try:
            _volume(draft, targets, scene, i, grids)
        except MoveError as error:
            raise OrderError(
                _(
                    "Seen from here two lines of {name} fall together, and no ruler tells them "
                    "apart: move the eye or the volume a little."
                ).format(name=draft.document.volumes[i].name)
            ) from error
    lay_shadows(draft, targets, draft.document, scene, shown)


def _curved(draft: Draft, scene: Scene, shown: list[int]) -> None:
    """A curved sheet has no ruler construction: corners are marked, edges drawn as curves."""
    draft.step(
        "sheet.curved",
        _(
            "The sheet is curved: corners are marked where they are measured, edges are curves "
            "through their deepest place. Circles are laid in from the sheet."
        ),
    )
    draft.chapter("curved", _("A curved sheet"))
    for i in ticking(shown, len(shown)):
        lay_curves(draft, scene, i)


def _all_labels(draft: Draft, groups: list[list[Move]]) -> dict[str, str]:
    """The labels of all points: those that have none are counted in the order they are made."""
    labels, number = dict(draft.labels), 0
    for move in (move for group in groups for move in group):
        if move.name in draft.machine.drawn.points and move.name not in labels:
            number += 1
            labels[move.name] = str(number)
    return labels


def _with_remedy(draft: Draft, document: Document) -> tuple[Chapter, ...]:
    """The chapters; at their head what to change, when they ask for more than the kit."""
    first, *rest = draft.chapters
    steps = [step for chapter in draft.chapters for step in chapter.steps]
    drawn, unit = draft.machine.drawn, document.choices.unit
    words = remedy_words(steps, drawn, document.sheet, document.kit, unit)
    if words:
        first = replace(first, steps=(Step("sheet.beyond-kit", words), *first.steps))
    return first, *rest


def _before_us(document: Document, scene: Scene) -> tuple[list[int], list[int]]:
    """The volumes that are built, and those left out because part of them lies beside or behind us.
    Raises OrderError when none can be."""
    shown = [i for i, v in enumerate(document.volumes) if v.shown and not v.ghost]
    if not shown:
        raise OrderError(_("There is nothing to build yet: lay down a near edge first."))
    aside = [i for i in shown if not before_us(scene.pictures[i])]
    if len(aside) == len(shown):
        raise OrderError(
            _("Part of {name} lies beside or behind us: step back first.").format(
                name=document.volumes[aside[0]].name
            )
        )
    return [i for i in shown if i not in aside], aside


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
            check_box(draft, site, key)
    if not wanted.framework_only:
        _details(draft, site, scene, index, key, wanted)
    targets.locate_first(key)
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
