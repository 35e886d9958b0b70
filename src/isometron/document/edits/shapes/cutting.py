"""Edits of what is cut out of a volume: shapes by fractions, openings, another volume."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.places.places_along import places_in
from isometron.framework.bodies.cuts import Cut
from isometron.framework.turning import turns_of
from isometron.framework.volume import Volume
from isometron.perspective.errors import LengthError, VolumeError
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length, write_percent, write_share
from isometron.words import _, quoted

NOTCHES = {
    "L": (Cut((0.5, 0.0, 0.5), (1.0, 1.0, 1.0)),),
    "T": (Cut((0.0, 0.0, 0.0), (0.35, 1.0, 0.6)), Cut((0.65, 0.0, 0.0), (1.0, 1.0, 0.6))),
    "U": (Cut((0.3, 0.0, 0.3), (0.7, 1.0, 1.0)),),
    "notch": (Cut((0.35, 0.0, 0.75), (0.65, 1.0, 1.0)),),
}
"""Cuts by fractions of the full box."""


def cut_by_fractions(document: Document, cuts: tuple[Cut, ...]) -> Document:
    """More cuts taken out of the volume in work, given as shares of its sides."""
    index, volume = in_work(document)
    if volume.shape.faceted(volume.sides) is None:
        raise VolumeError(
            _("{name} is round and takes no cut: drill a round hole instead.").format(
                name=volume.name
            )
        )
    return document.with_volume(index, replace(volume, cuts=(*volume.cuts, *cuts)))


def pierce_opening(document: Document, axis: int, wall_mm: float) -> Document:
    """An opening right through the volume in work along its width (0), depth (1) or height (2),
    however far it leans that way, leaving a wall of a thickness on the four sides. Raises
    VolumeError when the walls leave no opening."""
    _unused, volume = in_work(document)
    low, high = [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]
    least, most = volume.bare.reach_along(np.eye(3)[axis])
    low[axis] = min(least / volume.sides[axis], 0.0)
    high[axis] = max(most / volume.sides[axis], 1.0)
    for other in {0, 1, 2} - {axis}:
        share = wall_mm / volume.sides[other]
        if not 0 < share < 0.5:
            raise VolumeError(_("Walls that thick leave no opening: type a thinner one."))
        low[other], high[other] = share, 1.0 - share
    cut = Cut((low[0], low[1], low[2]), (high[0], high[1], high[2]))
    return cut_by_fractions(document, (cut,))


def cut_out(document: Document, tool: int, *, keep_tool: bool = False) -> Document:
    """Volume number `tool` cut out of the volume in work; the tool leaves the sheet unless kept.

    Raises VolumeError for a tool that is itself cut, or that takes everything.
    """
    index, volume = in_work(document)
    if tool == index:
        raise VolumeError(_("A volume cannot be cut out of itself: choose the other one too."))
    cutter = document.volumes[tool]
    if cutter.cuts:
        raise VolumeError(
            _("{name} is itself cut: cut with whole volumes only.").format(name=cutter.name)
        )
    for one, verb in ((cutter, _("cuts nothing out")), (volume, _("takes no cut"))):
        if one.shape.faceted(one.sides) is None:
            raise VolumeError(
                _("{name} is round and {verb}: drill a round hole instead.").format(
                    name=one.name, verb=verb
                )
            )
    cut = _as_cut(volume, cutter)
    done = document.with_volume(index, replace(volume, cuts=(*volume.cuts, cut)))
    if keep_tool:
        return done
    left = [other for i, other in enumerate(done.volumes) if i != tool]
    bare = replace(done, volumes=(), selected=None, also=frozenset()).settled(left)
    return replace(bare, selected=index - (tool < index))


def _as_cut(volume: Volume, cutter: Volume) -> Cut:
    place, axes = volume.pose
    own = axes @ (np.array(cutter.place) - place)
    low = own / np.array(volume.sides)
    high = low + np.array(cutter.sides) / np.array(volume.sides)
    yaw, pitch, roll = turns_of(cutter.pose[1] @ axes.T)
    (x0, y0, z0), (x1, y1, z1) = ([float(v) for v in corner] for corner in (low, high))
    return Cut((x0, y0, z0), (x1, y1, z1), yaw, pitch, roll, cutter.shape)


def fill_cuts(document: Document) -> Document:
    """The volume in work without its cuts."""
    index, volume = in_work(document)
    return document.with_volume(index, replace(volume, cuts=()))


EDGES_CUT = ("front", "back", "left", "right")
"""The sides of a volume a step may run along."""


def step_cut(document: Document, side: str, *, upper: bool, inward: float, deep: float) -> Document:
    """A step cut along an edge of the volume in work: the upper or lower edge of its front, back,
    left or right side. inward: how far from that side, and deep: how far from the top or base, both
    as shares. Raises VolumeError for shares that leave no step."""
    if not (0 < inward < 1 and 0 < deep < 1):
        raise VolumeError(_("A step leaves something: type shares between 0 and 1, such as 1/3."))
    axis = 1 if side in ("front", "back") else 0
    low, high = [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]
    if side in ("front", "left"):
        high[axis] = inward
    else:
        low[axis] = 1.0 - inward
    if upper:
        low[2] = 1.0 - deep
    else:
        high[2] = deep
    return cut_by_fractions(document, (Cut(_three(low), _three(high)),))


def _three(values: list[float]) -> tuple[float, float, float]:
    return values[0], values[1], values[2]


ALIGNED = 1 - 1e-9
"""The least cosine of a face that a square piece can be cut into: it looks along a side."""

SAME = 1e-9
"""Share of a side within which a cut comes to the skin."""


def piece_of(volume: Volume, face: int, ends: Array, deep_mm: float | None) -> Cut:
    """The square piece that is cut into a face between two places of it (2, 3), own mm, so deep;
    None, or deeper than it is: through all behind it. Raises VolumeError for a face that slopes."""
    normal = volume.unopened.normals[face]
    axis = int(np.abs(normal).argmax())
    if abs(normal[axis]) < ALIGNED:
        raise VolumeError(_("That face slopes: say the cut in numbers (Cut a piece out)."))
    sides = np.array(volume.sides)
    low, high = ends.min(axis=0), ends.max(axis=0)
    least, most = volume.bare.reach_along(np.eye(3)[axis])
    if normal[axis] > 0:
        low[axis] = least if deep_mm is None else max(high[axis] - deep_mm, least)
    else:
        high[axis] = most if deep_mm is None else min(low[axis] + deep_mm, most)
    shares = np.array([low, high]) / sides
    for skin in (0.0, 1.0):
        shares[np.abs(shares - skin) < SAME] = skin
    first, last = shares.tolist()
    return Cut(_three(first), _three(last))


def read_span(
    text: str, whole_mm: float, unit: str, past: tuple[float, float] = (0.0, 1.0)
) -> tuple[float, float]:
    """From where to where a cut goes along a side, as shares of it, from what a person typed:
    ``1/3 to 2/3``, ``10% 60%``, ``3 to 8`` (in the sheet's unit), ``3cm to 8cm``, ``2/3 to end``;
    ``all``, or nothing, goes through (`past`). Raises VolumeError."""
    words = _ends_typed(text)
    if not words or (len(words) == 1 and words[0].casefold() in (_("all"), "all")):
        return past
    why = _("type from and to, such as 1/3 to 2/3, or all")
    try:
        places = places_in(words, whole_mm, unit)
    except LengthError as error:
        places, why = [], str(error).rstrip(".")
    if len(places) != 2 or places[0] >= places[1]:
        raise VolumeError(_("“{text}” is no part of it: {why}.").format(text=quoted(text), why=why))
    return places[0], places[1]


def _ends_typed(text: str) -> list[str]:
    """The two ends of a span as they were typed: with a word between them each may hold blanks."""
    for word in (f" {_('to')} ", " to ", "–", ";", ", "):
        if word in text:
            return [part.strip() for part in text.split(word)]
    return text.split()


def write_span(low: float, high: float, whole_mm: float, unit: str) -> str:
    """From where to where a cut goes along a side, as it could be typed: in simple fractions, else
    in lengths with the shares beside them in words (`span_in_words`)."""
    if low <= 0 and high >= 1:
        return _("all")
    shares = [max(min(share, 1.0), 0.0) for share in (low, high)]
    told = [write_share(share) for share in shares]
    if any("." in one for one in told):
        told = [write_length(share * whole_mm, unit) for share in shares]
    last = _("end") if shares[1] == 1 else told[1]
    return _("{low} to {high}").format(low=told[0], high=last)


def span_in_words(low: float, high: float, whole_mm: float, unit: str) -> str:
    """What was understood of a span: as lengths and as shares of the side."""
    if low <= 0 and high >= 1:
        return _("right through")
    ends = (write_length(max(min(share, 1.0), 0.0) * whole_mm, unit) for share in (low, high))
    return _("{low} to {high}, {share} of the side").format(
        low=next(ends), high=next(ends), share=write_percent(100 * (min(high, 1.0) - max(low, 0.0)))
    )


def cut_span(document: Document, spans: tuple[str, str, str]) -> Document:
    """A cut out of the volume in work from what was typed for width, depth and height. Raises
    VolumeError for one that takes everything."""
    _index, volume = in_work(document)
    unit = document.choices.unit
    read = [read_span(text, side, unit) for text, side in zip(spans, volume.sides, strict=True)]
    if all(low <= 0 and high >= 1 for low, high in read):
        raise VolumeError(_("That takes the whole volume: type where the cut begins and ends."))
    (x0, x1), (y0, y1), (z0, z1) = read
    return cut_by_fractions(document, (Cut((x0, y0, z0), (x1, y1, z1)),))


def change_cut(document: Document, number: int, axis: int, text: str) -> Document:
    """One of the cuts of the volume in work going from and to other places along its width (0),
    depth (1) or height (2)."""
    index, volume = in_work(document)
    cut = _cut_of(volume, number)
    past = (min(cut.low[axis], 0.0), max(cut.high[axis], 1.0))
    span = read_span(text, volume.sides[axis], document.choices.unit, past)
    low, high = list(cut.low), list(cut.high)
    low[axis], high[axis] = span
    changed = replace(cut, low=_three(low), high=_three(high))
    cuts = (*volume.cuts[:number], changed, *volume.cuts[number + 1 :])
    return document.with_volume(index, replace(volume, cuts=cuts))


def fill_cut(document: Document, number: int) -> Document:
    """The volume in work without one of its cuts."""
    index, volume = in_work(document)
    _cut_of(volume, number)
    cuts = volume.cuts[:number] + volume.cuts[number + 1 :]
    return document.with_volume(index, replace(volume, cuts=cuts))


def _cut_of(volume: Volume, number: int) -> Cut:
    if not 0 <= number < len(volume.cuts):
        raise VolumeError(_("That cut is gone: choose one that is there."))
    return volume.cuts[number]


def cuts_in_words(volume: Volume, unit: str) -> list[str]:
    """Every cut of a volume in few words: its number, and where it goes along width, depth and
    height."""
    told = []
    for number, cut in enumerate(volume.cuts, start=1):
        spans = (
            write_span(cut.low[axis], cut.high[axis], volume.sides[axis], unit) for axis in range(3)
        )
        told.append(f"{number}: " + " · ".join(spans))
    return told
