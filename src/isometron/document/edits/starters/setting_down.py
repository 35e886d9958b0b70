"""Setting a starter down on a sheet."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import with_new
from isometron.document.edits.stances import stance_of, take_stance
from isometron.document.edits.starters.starter import Starter, Values
from isometron.framework.modules import Module
from isometron.framework.placing import Counts
from isometron.framework.settling import settle
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _


def with_starter(document: Document, starter: Starter, values: Values) -> Document:
    """The sheet with a starter's volumes on the ground, beside what is there and chosen, the
    largest of them in work.

    On an empty sheet the eye steps back before it, in the kind of view it had (`stance_of`). Raises
    VolumeError for answers that give no framework.
    """
    for question in starter.questions:
        value = values[question.name]
        least = value < 0 if question.none else value <= 0
        if not math.isfinite(value) or (question.kind != "angle" and least):
            raise VolumeError(
                _("“{name}” must be more than nothing: type another number.").format(
                    name=question.name
                )
            )
    modules, volumes = _called_apart(document, *starter.make(values))
    settled, _unused = settle(volumes, modules)
    known = {module.name for module in modules}
    kept = tuple(module for module in document.modules if module.name not in known)
    roomy = document.settled(document.volumes, (*modules, *kept))
    free = [i for i, volume in enumerate(settled) if volume.on is None and volume.like is None]
    shift = _beside(document, settled)
    moved = list(settled)
    for i in free:
        moved[i] = replace(moved[i], x_mm=moved[i].x_mm + shift)
    done = with_new(roomy, [replace(v, name=_own_name(document, v.name)) for v in moved])
    fresh = range(len(document.volumes), len(done.volumes))
    own = [i for i in fresh if done.volumes[i].like is None]
    largest = max(own, key=lambda i: math.prod(done.volumes[i].sides))
    done = replace(done, selected=largest)
    return done if document.volumes else take_stance(done, stance_of(document))


def _called_apart(
    document: Document, modules: Sequence[Module], volumes: Sequence[Volume]
) -> tuple[tuple[Module, ...], list[Volume]]:
    """A starter's modules and volumes, a module that would change one of the sheet under a name of
    its own: w 2 beside another w."""
    there = {module.name: module.mm for module in document.modules}
    called: dict[str, str] = {}
    for module in modules:
        name, number = module.name, 2
        while there.get(name, module.mm) != module.mm:
            name, number = f"{module.name} {number}", number + 1
        called[module.name] = name

    def anew(counts: Counts) -> Counts:
        one, two, three = (
            count and count.called_anew(lambda name: called.get(name, name)) for count in counts
        )
        return one, two, three

    kept = tuple(replace(module, name=called[module.name]) for module in modules)
    made = [
        replace(
            volume,
            counts=anew(volume.counts),
            on=volume.on and replace(volume.on, counts=anew(volume.on.counts)),
        )
        for volume in volumes
    ]
    return kept, made


def _own_name(document: Document, name: str) -> str:
    taken = {volume.name for volume in document.volumes}
    number = 2
    given = name
    while given in taken:
        given, number = f"{name} {number}", number + 1
    return given


def _beside(document: Document, volumes: tuple[Volume, ...]) -> float:
    """How far to move new volumes along X so that they stand clear of what is there."""
    if not document.volumes:
        return 0.0
    there = np.concatenate([volume.enclosing() for volume in document.volumes])
    new = np.concatenate([volume.enclosing() for volume in volumes])
    gap = 0.25 * float(np.ptp(new[:, 0]))
    return float(there[:, 0].max() - new[:, 0].min()) + gap
