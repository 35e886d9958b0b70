"""What falls outside its band on a sheet, by how much, and the least change that enters it."""

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from functools import cache
from typing import NamedTuple

from isometron.document.begun import Begun
from isometron.document.document import Document
from isometron.document.edits import volume_edits
from isometron.document.edits.choosing import in_work, select
from isometron.document.edits.judging.bands import BANDS, ROLES, Band, Side
from isometron.document.edits.starters import STARTERS
from isometron.document.edits.starters.again import begin_again, open_again
from isometron.document.edits.starters.starter import Read, Starter
from isometron.document.own_bands import OwnBand
from isometron.framework.box import AXES
from isometron.framework.volume import Volume
from isometron.nearness import CLOSE
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import write_length, write_number
from isometron.words import _

SILENT = "proportions of {kind}"
"""What a kind of thing whose proportions are not to be judged is set aside by."""


class Judged(NamedTuple):
    """One measure of one thing: its band as it holds on this sheet, its value and both ends, how
    its unit is called ("mm", "deg" or a module), mm of one of that unit, and the key of the volume
    it is told at."""

    band: Band
    value: float
    low: float
    high: float
    unit: str
    mm: float
    key: int
    begun: Begun | None = None

    @property
    def beyond(self) -> float:
        """By how much it lies outside, in its unit: below 0 under the band, 0 within it."""
        slack = CLOSE * max(abs(self.low), abs(self.high))
        if self.value < self.low - slack:
            return self.value - self.low
        return self.value - self.high if self.value > self.high + slack else 0.0


@cache
def usual() -> Mapping[tuple[str, str], Band]:
    """The bands of the table by what they are known by."""
    return {band.key: band for band in BANDS}


def bands_of(document: Document) -> dict[tuple[str, str], Band]:
    """The bands that hold on a sheet: its own before the usual ones."""
    found = dict(usual())
    for own in document.bands:
        if own.key in found:
            found[own.key] = found[own.key]._replace(low=Side(own.low), high=Side(own.high))
    return found


def judged(document: Document) -> list[Judged]:
    """Every measure of the sheet that has a band, of kinds that are judged."""
    bands = bands_of(document)
    return [
        one
        for of_thing in (_of_starters, _of_roles)
        for one in of_thing(document, bands)
        if SILENT.format(kind=one.band.of) not in document.aside
    ]


def _of_starters(document: Document, bands: Mapping[tuple[str, str], Band]) -> Iterator[Judged]:
    known = {starter.name: starter for starter in STARTERS}
    for begun in document.begun:
        starter = known.get(begun.starter)
        if starter is None:
            continue
        measures = measured(document, begun, starter)
        for question in starter.questions:
            band = bands.get((starter.name, question.name))
            if band is None or question.name not in measures:
                continue
            unit, mm = _unit(begun, starter, question.kind, measures)
            key = next(iter(begun.parts)).key
            yield from _one(band, measures, unit, mm, key, begun)


def measured(document: Document, begun: Begun, starter: Starter) -> dict[str, float]:
    """What the questions of a starter measure on the sheet as it stands, by their names; those
    whose parts are gone are left out."""
    parts = {mine: one for mine, key in begun.parts if (one := document.by_key(key)) is not None}
    if starter.frame not in parts:
        return {}
    now, told = Read(parts, starter.frame), starter.proposal | dict(begun.answers)
    found = {}
    for question in starter.questions:
        if question.measure is not None:
            try:
                value = question.measure(now, told)
            except KeyError:
                continue
            if math.isfinite(value) and not (question.none and value <= 0):
                found[question.name] = value
    return found


def _unit(
    begun: Begun, starter: Starter, kind: str, measures: Mapping[str, float]
) -> tuple[str, float]:
    if kind == "angle":
        return "deg", 1.0
    if kind != "ratio":
        return "mm", 1.0
    first = starter.questions[0]
    name = begun.modules[0].name if begun.modules else starter.module
    return name, measures.get(first.name, 1.0)


def _one(
    band: Band,
    measures: Mapping[str, float],
    unit: str,
    mm: float,
    key: int,
    begun: Begun | None = None,
) -> Iterator[Judged]:
    low, high = band.low.at(measures), band.high.at(measures)
    if low is not None and high is not None and low <= high:
        yield Judged(band, measures[band.what], low, high, unit, mm, key, begun)


ROLE_MEASURES: Mapping[str, Callable[[Volume], float]] = {
    "top": lambda volume: float(volume.corners()[:, 2].max()),
    "width": lambda volume: volume.width_mm,
    "depth": lambda volume: volume.depth_mm,
    "height": lambda volume: volume.height_mm,
    "slenderness": lambda volume: volume.height_mm / max(volume.width_mm, volume.depth_mm),
}
"""What is measured of a volume that is said to be something."""


def _of_roles(document: Document, bands: Mapping[tuple[str, str], Band]) -> Iterator[Judged]:
    for volume in document.volumes:
        if not volume.role or not volume.shown:
            continue
        for band in bands.values():
            if band.of == volume.role:
                measures = {band.what: ROLE_MEASURES[band.what](volume)}
                unit = "times" if band.what == "slenderness" else "mm"
                yield from _one(band, measures, unit, 1.0, volume.key)


def told_of_measure(one: Judged, value: float, unit: str) -> str:
    """A value of a measure in its own unit, in words; lengths in a unit of the sheet."""
    if one.unit == "mm":
        return write_length(value, unit)
    if one.unit == "deg":
        return f"{write_number(value, 1)}°"
    return f"{value:.3g} {one.unit if one.unit != 'times' else '×'}"


def brought_in(document: Document, one: Judged) -> Document:
    """The sheet with a measure brought to the nearer end of its band, and nothing else changed that
    need not be. Raises VolumeError where that gives no framework."""
    wanted = one.low if one.beyond < 0 else one.high
    if one.begun is not None:
        begun = next(two for two in document.begun if two.keys & one.begun.keys)
        starter = next(two for two in STARTERS if two.name == begun.starter)
        answers = open_again(document, begun, starter).answers
        return begin_again(document, begun, starter, {**answers, one.band.what: wanted})
    index = next(n for n, volume in enumerate(document.volumes) if volume.key == one.key)
    volume = document.volumes[index]
    there = select(document, index)
    if one.band.what == "top":
        x, y, z = volume.place
        return volume_edits.move_volume(there, (x, y, z + wanted - one.value))
    if one.band.what == "slenderness":
        return volume_edits.set_side(there, 2, wanted * max(volume.width_mm, volume.depth_mm))
    return volume_edits.set_side(there, AXES.index(one.band.what), wanted)


def say_what_it_is(document: Document, role: int) -> Document:
    """The volume in work said to be one of ROLES, counted from 1; 0: nothing that is judged."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, role=ROLES[role - 1] if role else ""))


def kinds_on(document: Document) -> list[str]:
    """The kinds of thing on a sheet that have bands."""
    known = {band.of for band in BANDS}
    found = [one.starter for one in document.begun] + [v.role for v in document.volumes]
    return [kind for kind in dict.fromkeys(found) if kind in known]


def judge(document: Document, kind: str, *, on: bool) -> Document:
    """The proportions of a kind judged from now on, or not."""
    key = SILENT.format(kind=kind)
    aside = document.aside - {key} if on else document.aside | {key}
    return replace(document, aside=aside)


def set_band(document: Document, key: tuple[str, str], low: float, high: float) -> Document:
    """A band of this sheet's own. Raises VolumeError for one with no room in it, or of nothing."""
    if key not in usual():
        raise VolumeError(_("There is no such measure to judge: choose one of the list."))
    if not (math.isfinite(low) and math.isfinite(high) and low <= high):
        raise VolumeError(_("A band goes from less to more: type, say, 2.2 and 4."))
    others = tuple(one for one in document.bands if one.key != key)
    return replace(document, bands=(*others, OwnBand(*key, low, high)))


def usual_again(document: Document) -> Document:
    """All bands of the sheet as they usually are."""
    return replace(document, bands=())
