"""Variants of the framework: kept beside each other, taken in hand, merged, compared."""

from collections.abc import Iterator
from dataclasses import replace
from string import ascii_uppercase
from typing import Any

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import free_of_lost
from isometron.document.edits.judging.judging import measured
from isometron.document.edits.starters import STARTERS
from isometron.document.variants import FIELDS, Variant
from isometron.framework.box import AXES
from isometron.framework.intentions.intention import TRUE_MM
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import write_length
from isometron.words import _

ONLY_ONE = _("There is one framework only: make a variant of it first.")


def _laid_down(document: Document) -> tuple[Variant, ...]:
    """All variants, the one in hand as the sheet holds it."""
    own = {name: getattr(document, name) for name in FIELDS}
    every = list(document.variants)
    every[document.variant] = replace(every[document.variant], **own, kept={})
    return tuple(every)


def _taken_up(document: Document, variants: tuple[Variant, ...], at: int) -> Document:
    """The sheet with one of these variants in hand."""
    own: dict[str, Any] = {name: getattr(variants[at], name) for name in FIELDS}
    lead = None if document.volume is None else document.volume.key
    keys = [volume.key for volume in own["volumes"]]
    bare: dict[str, Any] = dict.fromkeys(FIELDS, ())
    others = list(variants)
    others[at] = replace(others[at], **bare, kept={})  # what is in hand is kept once
    return replace(
        document,
        **own,
        variants=tuple(others) if len(others) > 1 else (),
        variant=at if len(others) > 1 else 0,
        selected=keys.index(lead) if lead in keys else (0 if keys else None),
        also=frozenset(),
        circle=None,
    )


def new_variant(document: Document) -> Document:
    """Another variant, made from the one in hand and taken in hand. The first time the framework as
    it is becomes A, the new one B."""
    if not document.variants:
        document = replace(document, variants=(Variant("A"), Variant("B")), variant=0)
        first, second = _laid_down(document)
        return _taken_up(document, (first, replace(first, name=second.name, kept={})), 1)
    taken = {one.name for one in document.variants}
    name = next(
        (one for one in ascii_uppercase if one not in taken), f"{len(document.variants) + 1}"
    )
    every = _laid_down(document)
    fresh = replace(every[document.variant], name=name, kept={})
    return _taken_up(document, (*every, fresh), len(every))


def take_variant(document: Document, at: int) -> Document:
    """Another variant in hand. Raises VolumeError where there is none of that number."""
    if not 0 <= at < len(document.variants):
        raise VolumeError(ONLY_ONE)
    return document if at == document.variant else _taken_up(document, _laid_down(document), at)


def next_variant(document: Document) -> Document:
    """The variant after the one in hand, or the first again. Raises VolumeError where there is one
    only."""
    if not document.variants:
        raise VolumeError(ONLY_ONE)
    return take_variant(document, (document.variant + 1) % len(document.variants))


def drop_variant(document: Document) -> Document:
    """The variant in hand dropped, the one before it in hand. Raises VolumeError where there is one
    only."""
    if not document.variants:
        raise VolumeError(ONLY_ONE)
    every = list(document.variants)
    del every[document.variant]
    return _taken_up(document, tuple(every), max(document.variant - 1, 0))


def rename_variant(document: Document, name: str) -> Document:
    """Another name for the variant in hand. Raises VolumeError where there is one only, ChoiceError
    for a name that is taken."""
    if not document.variants:
        raise VolumeError(ONLY_ONE)
    every = list(document.variants)
    every[document.variant] = replace(every[document.variant], name=name.strip())
    return replace(document, variants=tuple(every))


def lay_beneath(document: Document, *, on: bool) -> Document:
    """The other variants pale under the one in hand, or not. Raises VolumeError where there is one
    only."""
    if not document.variants:
        raise VolumeError(ONLY_ONE)
    return replace(document, beneath=on)


def _elsewhere(document: Document) -> list[tuple[Variant, Volume]]:
    """Parts of the other variants that differ from those in hand."""
    mine = document.parts
    others = [one for at, one in enumerate(document.variants) if at != document.variant]
    return [(one, part) for one in others for part in one.volumes if mine.get(part.key) != part]


def parts_elsewhere(document: Document) -> list[tuple[str, int]]:
    """Parts of the other variants that differ from those in hand, in words and numbered."""
    words = _("{part} of {variant}")
    return [
        (words.format(part=part.name, variant=variant.name), number)
        for number, (variant, part) in enumerate(_elsewhere(document))
    ]


def take_part(document: Document, which: int) -> Document:
    """A part of another variant, by its number in `parts_elsewhere`, taken over into the one in
    hand: in the place of the same part, else added. What hangs on it here follows; what it hangs on
    and is not here it is free of. Raises VolumeError where it cannot be."""
    found = _elsewhere(document)
    if not 0 <= which < len(found):
        raise VolumeError(_("That part is not there any more: choose one of the list."))
    variant, part = found[which]
    there = {volume.key for volume in document.volumes}
    known = {module.name for module in document.modules}
    fresh = [module for module in variant.modules if module.name not in known]
    part = replace(free_of_lost(part, there | {part.key}), locked=False)
    if part.key in there:
        volumes = [part if one.key == part.key else one for one in document.volumes]
    else:
        volumes = [*document.volumes, part]
    done = document.settled(volumes, (*document.modules, *fresh))
    parts = done.parts
    ties = [
        one
        for one in variant.intentions
        if part.key in one.keys
        and one not in done.intentions
        and parts.keys() >= set(one.keys)
        and one.miss_mm(parts) <= TRUE_MM
    ]
    keys = [volume.key for volume in done.volumes]
    return replace(
        done,
        intentions=(*done.intentions, *ties),
        selected=keys.index(part.key),
        also=frozenset(),
    )


def differences(one: Document, other: Document) -> list[str]:
    """In what another framework differs from one: measures of its starters first, in their modules,
    then sides and places of its parts, then what is in one of them only."""
    return [
        *_of_starters(one, other),
        *_of_parts(one, other),
        *(_("{name} only here").format(name=v.name) for v in _missing(one, other)),
        *(_("without {name}").format(name=v.name) for v in _missing(other, one)),
    ]


def _missing(one: Document, other: Document) -> list[Volume]:
    there = one.parts
    return [volume for volume in other.volumes if volume.key not in there]


def _of_starters(one: Document, other: Document) -> Iterator[str]:
    known = {starter.name: starter for starter in STARTERS}
    for now in other.begun:
        was = next((b for b in one.begun if b.keys & now.keys), None)
        starter = known.get(now.starter)
        if was is None or starter is None:
            continue
        before, after = measured(one, was, starter), measured(other, now, starter)
        for question in starter.questions:
            a, b = before.get(question.name), after.get(question.name)
            if a is None or b is None or abs(a - b) <= 1e-6 * max(abs(a), abs(b)):
                continue
            unit = now.modules[0].name if now.modules and question.kind == "ratio" else ""
            told = [
                write_length(value, other.choices.unit)
                if question.kind == "length"
                else f"{value:.3g}°"
                if question.kind == "angle"
                else f"{value:.3g} {unit}".strip()
                for value in (a, b)
            ]
            yield f"{_(question.name)} {told[0]} → {told[1]}"


def _of_parts(one: Document, other: Document) -> Iterator[str]:
    before, started = one.parts, {key for begun in other.begun for key in begun.keys}
    module = other.modules[0] if other.modules else None
    unit = other.choices.unit

    def told(mm: float) -> str:
        return f"{mm / module.mm:.3g} {module.name}" if module else write_length(mm, unit)

    for volume in other.volumes:
        was = before.get(volume.key)
        if was is None or was == volume or volume.key in started or volume.like is not None:
            continue
        for axis, (a, b) in enumerate(zip(was.sides, volume.sides, strict=True)):
            if abs(a - b) > TRUE_MM:
                yield f"{volume.name}, {_(AXES[axis])} {told(a)} → {told(b)}"
        moved = float(np.linalg.norm(np.subtract(volume.place, was.place)))
        if moved > TRUE_MM and was.sides == volume.sides:
            yield _("{name} moved by {length}").format(name=volume.name, length=told(moved))
        same = was.sides == volume.sides and moved <= TRUE_MM
        if same and was.shape != volume.shape:
            yield _("{name} of another shape").format(name=volume.name)
