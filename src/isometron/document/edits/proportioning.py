"""Edits of proportion: sides counted in modules, the modules themselves, the bounding volume."""

import math
import re
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import chosen_volumes, in_work
from isometron.document.edits.volume_edits import set_side
from isometron.framework.bounding import bounding_volume, scaled_with
from isometron.framework.box import AXES
from isometron.framework.modules import Count, Module, read_dimension, write_count
from isometron.framework.placing import Anchor, Follow, Stepped, Swung
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import read_length, write_length
from isometron.words import _

_PER_CENT = re.compile(r"\s*(\d{1,4}(?:[.,]\d{1,6})?)\s*%\s*")
_NEW_NAME = re.compile(r"[^\W\d_][\w\- ]*")


def countable(document: Document) -> list[str]:
    """Everything a dimension of the volume in work may be counted in."""
    names = [module.name for module in document.modules]
    others = [v.name for i, v in enumerate(document.volumes) if i != document.selected]
    return [*names, *AXES, *(f"{name}.{axis}" for name in others for axis in AXES)]


def known_lengths(document: Document, axis: int = 0) -> dict[str, float]:
    """Every length that can be spoken of where a length is typed, mm by name: modules, the sides of
    the volume in work, those of all others ("Bench.depth"; their name alone is their side along the
    same axis), and the sheet's."""
    sheet = document.sheet
    known = {"sheet width": sheet.width_mm, "sheet height": sheet.height_mm}
    known["sheet"] = sheet.height_mm if axis == 2 else sheet.width_mm
    for volume in document.volumes:
        known[volume.name] = volume.sides[axis]
        known |= {f"{volume.name}.{AXES[i]}": mm for i, mm in enumerate(volume.sides)}
    if document.volume is not None:
        known |= dict(zip(AXES, document.volume.sides, strict=True))
    return known | {module.name: module.mm for module in document.modules}


def read_side(document: Document, axis: int, text: str, *, nothing: bool = False) -> float | Count:
    """What was typed for a side (0 width, 1 depth, 2 height): mm, or what it is counted in. Another
    volume's name alone is its side along the same axis, so many per cent are counted in itself.
    nothing: whether 0 will do. Raises LengthError."""
    alone = {v.name for i, v in enumerate(document.volumes) if i != document.selected}
    share = read_share_of(text)
    if share is not None:
        return Count(share, AXES[axis])
    lengths = {"sheet": known_lengths(document, axis)["sheet"]}
    names = [*countable(document), *alone, *lengths]
    found = read_dimension(text, document.choices.unit, names, nothing=nothing)
    if not isinstance(found, Count):
        return found
    if "sheet" in found.names:
        return read_length(text, document.choices.unit, known_lengths(document, axis))
    countables = set(countable(document))
    return found.called_anew(
        lambda name: name if name in countables or name not in alone else f"{name}.{AXES[axis]}"
    )


def read_share_of(text: str) -> float | None:
    """So many per cent of what there is, as “90 %”; None for anything else."""
    found = _PER_CENT.fullmatch(text)
    share = 0.0 if found is None else float(found[1].replace(",", ".")) / 100
    return share if share > 0 else None


def type_new_module(document: Document, axis: int, text: str) -> Document | None:
    """A module made where a side is typed, as ``w = 62 cm``: the side becomes one of it. None for a
    text that says nothing of the kind. Raises IsometronError."""
    name, equals, _length = text.partition("=")
    known = {one.casefold() for one in countable(document)}
    if not equals or not _NEW_NAME.fullmatch(name.strip()) or name.strip().casefold() in known:
        return None
    return type_side(type_module(document, text), axis, Count(1.0, name.strip()))


def type_side(document: Document, axis: int, value: float | Count) -> Document:
    """A side typed as mm or as a count in modules or other sides; the near corner stays. What is
    counted in itself alone is so many times as long as it was, and stays counted as it was.

    Raises VolumeError for a count that refers to itself in another way.
    """
    index, volume = in_work(document)
    counts = list(volume.counts)
    if isinstance(value, Count) and value.names == (AXES[axis],):
        return set_side(document, axis, value.length({AXES[axis]: volume.sides[axis]}))
    if isinstance(value, Count):
        counts[axis] = value
        counted = replace(volume, counts=(counts[0], counts[1], counts[2]))
        mm = document.settled(_swapped(document, index, counted)).volumes[index].sides[axis]
        sized = set_side(document, axis, mm).volumes[index]
        return document.with_volume(index, replace(sized, counts=counted.counts))
    counts[axis] = None
    plain = document.with_volume(index, replace(volume, counts=(counts[0], counts[1], counts[2])))
    return set_side(plain, axis, value)


def _swapped(document: Document, index: int, volume: Volume) -> Sequence[Volume]:
    return [*document.volumes[:index], volume, *document.volumes[index + 1 :]]


def set_module(document: Document, name: str, value: float | Count) -> Document:
    """A module given a length, or counted in another; what hangs on it changes with it."""
    others = [module for module in document.modules if module.name != name]
    if isinstance(value, Count):
        was = next((m.mm for m in document.modules if m.name == name), 1.0)
        module = Module(name, was, value)
    else:
        module = Module(name, value)
    position = next((i for i, m in enumerate(document.modules) if m.name == name), len(others))
    modules = (*others[:position], module, *others[position:])
    return document.settled(document.volumes, modules)


def _freed(anchor: Anchor | None, name: str) -> Anchor | None:
    """An anchor that counts in a module no more; its offsets stay as long as they are."""
    if anchor is None:
        return None
    x, y, z = (None if c is not None and name in c.names else c for c in anchor.counts)
    return replace(anchor, counts=(x, y, z))


def type_module(document: Document, text: str) -> Document:
    """A module typed as ``w = 620 mm`` or ``track = 2.1 w``. Raises IsometronError."""
    name, equals, length = text.partition("=")
    if not equals:
        raise VolumeError(_("Type a module as its name and its length, such as w = 620 mm."))
    names = [module.name for module in document.modules]
    return set_module(document, name.strip(), read_dimension(length, document.choices.unit, names))


def remove_module(document: Document, name: str) -> Document:
    """The sheet without a module; what was counted in it keeps its present length."""
    kept = tuple(
        replace(m, count=None) if m.count is not None and name in m.count.names else m
        for m in document.modules
        if m.name != name
    )
    volumes = []
    for volume in document.volumes:
        width, depth, height = (
            None if count is not None and name in count.names else count for count in volume.counts
        )
        on = _freed(volume.on, name)
        volumes.append(replace(volume, counts=(width, depth, height), on=on))
    return document.settled(volumes, kept)


def modules_in_words(document: Document) -> str:
    """Every module with its length, one to a line."""
    if not document.modules:
        return _("None yet. Set one to count sides in it.")
    unit = document.choices.unit
    lines = []
    for module in document.modules:
        count = f" = {write_count(module.count)}" if module.count else ""
        lines.append(f"{module.name} = {write_length(module.mm, unit)}{count}")
    return "\n".join(lines)


def ratio_in_words(document: Document, bounds: Volume) -> str:
    """Length : width : height of a bounding volume in the first module of the sheet."""
    if not document.modules:
        return ""
    module = document.modules[0]
    return " : ".join(f"{side / module.mm:.3g}" for side in bounds.sides) + f"  in {module.name}"


def bounds_of_chosen(document: Document) -> Volume:
    """The bounding volume of the chosen volumes, upright and along the turn of the one in work."""
    volumes = chosen_volumes(document)
    lead = document.volume
    return bounding_volume(volumes, document.yaw_deg if lead is None else lead.yaw_deg)


def stretch_bounds(document: Document, axis: int, mm: float, *, keep_ratio: bool) -> Document:
    """The bounding volume of the chosen volumes made `mm` long along its width, depth or height;
    everything inside is scaled with it (evenly when the ratio is kept). Its corner 0 stays."""
    bounds = bounds_of_chosen(document)
    if not (math.isfinite(mm) and mm > 0):
        raise VolumeError(_("A bounding volume needs some length: type more than nothing."))
    factor = mm / bounds.sides[axis]
    factors = [factor if keep_ratio or i == axis else 1.0 for i in range(3)]
    return _stretched(document, bounds, (factors[0], factors[1], factors[2]))


def make_bounds_ratio(document: Document, ratio: tuple[float, float, float]) -> Document:
    """Length : width : height of the bounding volume of the chosen volumes; its height stays."""
    bounds = bounds_of_chosen(document)
    unit = bounds.height_mm / ratio[2]
    width, depth, _unused = bounds.sides
    return _stretched(document, bounds, (ratio[0] * unit / width, ratio[1] * unit / depth, 1.0))


def _stretched(document: Document, bounds: Volume, factors: tuple[float, float, float]) -> Document:
    own = [i for i in document.chosen if document.volumes[i].like is None]
    scaled = scaled_with([document.volumes[i] for i in own], bounds, factors)
    changed = dict(zip(own, scaled, strict=True))
    keys = {document.volumes[i].key for i in own}
    for i in set(document.chosen) - set(own):
        copy = document.volumes[i]
        if copy.like is not None and copy.like.source in keys:
            changed[i] = replace(copy, like=_follow_scaled(copy.like, bounds, factors))
    return document.with_each(changed)


def _follow_scaled(like: Follow, bounds: Volume, factors: tuple[float, float, float]) -> Follow:
    """A copy's rule with its step, or the line it turns about, scaled with a bounding volume."""
    place, axes = bounds.pose
    if isinstance(like, Stepped):
        x, y, z = (float(v) for v in (axes @ np.array(like.step_mm) * factors) @ axes)
        return replace(like, step_mm=(x, y, z))
    if isinstance(like, Swung):
        own = axes @ (np.array(like.about_mm) - place) * factors
        x, y, z = (float(v) for v in place + own @ axes)
        return replace(like, about_mm=(x, y, z))
    return like
