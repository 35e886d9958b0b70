"""Setting a starter down on a sheet."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from isometron.document.begun import Answer, Begun, Called, Part
from isometron.document.document import Document
from isometron.document.edits.choosing import own_name, with_new
from isometron.document.edits.sheet_edits import change_sheet
from isometron.document.edits.stances import STANCES, stance_of, take_stance
from isometron.document.edits.starters.starter import Made, Starter, Values
from isometron.document.edits.viewing import frame_of
from isometron.framework.modules import Module
from isometron.framework.placing import Counts
from isometron.framework.settling import settle
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.projection import project
from isometron.words import _

STEPS_BACK = 400
"""Distances from the eye that are tried, each a fiftieth more than the last."""

SAME_MM = 1e-6
"""Centres of vision nearer to each other, mm on the paper, are one."""

RIM = 0.04
"""The share of the page that stays free round what a starter sets down."""


def with_starter(document: Document, starter: Starter, values: Values) -> Document:
    """The sheet with a starter's volumes on the ground, beside what is there and chosen, the
    largest of them in work.

    On an empty sheet whose eye nobody has set, the eye steps back before it, in the kind of view it
    had (`stance_of`); an eye that was set stays, and the framework stands where it sees all of it.
    Raises VolumeError for answers that give no framework.
    """
    tried_answers(starter, values)
    made = starter.make(values)
    called = _called(document, made.modules)
    modules, volumes = called_on_sheet(made, called)
    settled, _unused = settle(volumes, modules)
    known = {module.name for module in modules}
    kept = tuple(module for module in document.modules if module.name not in known)
    roomy = document.settled(document.volumes, (*modules, *kept))
    shift = _beside(document, settled)
    set_by_hand = not document.volumes and _eye_set(document)
    by = before_the_eye(document, settled) if set_by_hand else None
    moved = moved_free(settled, by or (shift, 0.0))
    done = with_new(roomy, [replace(v, name=own_name(document, v.name)) for v in moved])
    fresh = range(len(document.volumes), len(done.volumes))
    own = [i for i in fresh if done.volumes[i].like is None]
    largest = max(own, key=lambda i: math.prod(done.volumes[i].sides))
    pairs = zip(made.volumes, (done.volumes[i] for i in fresh), strict=True)
    keys = {mine.key: volume.key for mine, volume in pairs}
    begun = Begun(
        starter.name,
        tuple(Answer(*one) for one in values.items()),
        tuple(Part(*one) for one in keys.items()),
        tuple(Called(*one) for one in called.items()),
    )
    done = replace(
        done,
        selected=largest,
        also=frozenset(fresh),
        intentions=(*done.intentions, *(one.rekeyed(keys) for one in made.meant)),
        begun=(*done.begun, begun),
    )
    if document.volumes or set_by_hand:
        return done
    return take_stance(done, stance_of(document))


def tried_answers(starter: Starter, values: Values) -> None:
    """Raise VolumeError for an answer that must be more than nothing, naming it."""
    for question in starter.questions:
        value = values[question.name]
        least = value < 0 if question.none else value <= 0
        if not math.isfinite(value) or (question.kind != "angle" and least):
            raise VolumeError(
                _("“{name}” must be more than nothing: type another number.").format(
                    name=question.name
                )
            )


def _eye_set(document: Document) -> bool:
    """Whether somebody has set the eye of an empty sheet by hand; a stance tells only the kind of
    view."""
    blank = replace(change_sheet(Document(), document.sheet), yaw_deg=document.yaw_deg)
    eyes = [blank.eye, *(take_stance(blank, stance).eye for stance in STANCES)]
    own = document.eye
    cv = np.array(own.centre_of_vision_mm)
    return not any(
        float(np.abs(cv - one.centre_of_vision_mm).max()) < SAME_MM
        and replace(one, centre_of_vision_mm=own.centre_of_vision_mm) == own
        for one in eyes
    )


def moved_free(volumes: Sequence[Volume], by_mm: Sequence[float]) -> list[Volume]:
    """Volumes with those that hang on nothing moved over the ground, mm."""
    x, y = by_mm
    return [
        replace(one, x_mm=one.x_mm + x, y_mm=one.y_mm + y)
        if one.on is None and one.like is None
        else one
        for one in volumes
    ]


def before_the_eye(document: Document, volumes: Sequence[Volume]) -> tuple[float, float]:
    """How far over the ground, mm, volumes are moved to stand before the eye of an empty sheet, as
    near as all of it is on the page, with a rim; where it never is, as near as most of it is."""
    held = np.concatenate([volume.enclosing() for volume in volumes])
    middle = (held[:, :2].min(axis=0) + held[:, :2].max(axis=0)) / 2
    eye, reach = document.eye, float(np.ptp(held, axis=0).max())
    heading = math.radians(eye.heading_deg)
    ahead = np.array([math.sin(heading), math.cos(heading)])
    frame = frame_of(document, document.view)
    corner = np.array([frame.left_mm, frame.bottom_mm])
    size = np.array([frame.width_mm, frame.height_mm])
    best, most = (0.0, 0.0), -1.0
    for back in np.geomspace(0.6 * reach, 400.0 * reach, STEPS_BACK):
        by = np.array([eye.x_mm, eye.y_mm]) + back * ahead - middle
        picture = project(eye, held + np.append(by, 0.0))
        places = (picture.sheet - corner) / size
        on_page = picture.seen & ((places > RIM) & (places < 1.0 - RIM)).all(axis=1)
        if on_page.mean() > most:
            best, most = (float(by[0]), float(by[1])), float(on_page.mean())
        if most == 1.0:
            break
    return best


def _called(document: Document, modules: Sequence[Module]) -> dict[str, str]:
    """What a starter's modules are called on a sheet: one that would change one of the sheet has a
    name of its own, w 2 beside another w."""
    there = {module.name: module.mm for module in document.modules}
    called: dict[str, str] = {}
    for module in modules:
        name, number = module.name, 2
        while there.get(name, module.mm) != module.mm:
            name, number = f"{module.name} {number}", number + 1
        called[module.name] = name
    return called


def called_on_sheet(
    made: Made, called: Mapping[str, str]
) -> tuple[tuple[Module, ...], list[Volume]]:
    """A starter's modules and volumes with the modules called as on a sheet."""

    def anew(counts: Counts) -> Counts:
        one, two, three = (
            count and count.called_anew(lambda name: called.get(name, name)) for count in counts
        )
        return one, two, three

    return tuple(replace(one, name=called.get(one.name, one.name)) for one in made.modules), [
        replace(
            volume,
            counts=anew(volume.counts),
            on=volume.on and replace(volume.on, counts=anew(volume.on.counts)),
        )
        for volume in made.volumes
    ]


def _beside(document: Document, volumes: tuple[Volume, ...]) -> float:
    """How far to move new volumes along X so that they stand clear of what is there."""
    if not document.volumes:
        return 0.0
    there = np.concatenate([volume.enclosing() for volume in document.volumes])
    new = np.concatenate([volume.enclosing() for volume in volumes])
    gap = 0.25 * float(np.ptp(new[:, 0]))
    return float(there[:, 0].max() - new[:, 0].min()) + gap
