"""Edits of bent bars: handles, crooks, drawbars, waved slats, and lines of one's own."""

from dataclasses import replace
from typing import NamedTuple

import numpy as np

from isometron.document.document import Document
from isometron.document.edits.choosing import in_work
from isometron.document.edits.places.places_along import read_pairs
from isometron.framework.bodies.bent import lengthened
from isometron.framework.kinds.bar import MOST_POINTS, Bar
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import read_length, write_length
from isometron.perspective.places import WorldPlace
from isometron.words import _, said

SHAPES = ("handle", "crook", "drawbar", "wave")
SHAPE_WORDS = {
    "handle": said("handle"),
    "crook": said("crook"),
    "drawbar": said("drawbar"),
    "wave": said("wave"),
}


class Section(NamedTuple):
    """The section of a bar: round, or thick and broad, mm; radius of its bends."""

    thick_mm: float
    wide_mm: float
    bend_mm: float
    round: bool


def line_of(shape: str, waves: int) -> tuple[WorldPlace, ...]:
    """The line of one of SHAPES through a box, upright along its width."""
    if shape == "handle":
        plan = [(0.0, 0.0), (0.0, 1.0), (1.0, 1.0), (1.0, 0.0)]
    elif shape == "crook":
        plan = [(0.0, 0.0), (0.0, 1.0), (1.0, 1.0)]
    elif shape == "drawbar":
        plan = [(0.0, 0.0), (0.4, 0.0), (0.6, 1.0), (1.0, 1.0)]
    else:
        if not 1 <= waves <= (MOST_POINTS - 1) // 2:
            raise VolumeError(
                _("A wave goes up and down 1 to {most} times: type another number.").format(
                    most=(MOST_POINTS - 1) // 2
                )
            )
        plan = [(n / (2 * waves), float(n % 2)) for n in range(2 * waves + 1)]
    return tuple((x, 0.5, z) for x, z in plan)


def make_bar(document: Document, shape: str, section: Section, waves: int) -> Document:
    """The volume in work as a bent bar of one of SHAPES in its box. Raises VolumeError for a bar
    thicker than its box, and bends wider than their legs."""
    index, volume = in_work(document)
    bar = Bar(line_of(shape, waves), *section)
    return document.with_volume(index, _bare(volume, bar))


def _bare(volume: Volume, bar: Bar) -> Volume:
    done = replace(
        volume, shape=bar, cuts=(), circles=(), marks=(), face_rings=(), skins=(), edgings=()
    )
    _unused = done.body
    return done


def bar_through(document: Document, text: str, section: Section) -> Document:
    """The volume in work as a bar along a line through points typed in the sheet's unit, across,
    away and up: ``0 0 0, 30 0 0, 30 0 20``. Its box becomes theirs and the section's; a bar keeps
    its own section. Raises VolumeError for what is no line."""
    index, volume = in_work(document)
    own = bar_of(volume)
    if own is not None:
        section = Section(own.thick_mm, own.wide_mm, own.bend_mm, own.round)
    triples = read_pairs(text)
    if any(len(one) != 3 for one in triples) or len(triples) < 2:
        raise VolumeError(_("Type points across, away and up, such as 0 0 0, 30 0 0, 30 0 20."))
    unit = document.choices.unit
    points = np.array([[read_length(word, unit) for word in one] for one in triples])
    across = 1 if section.round else int(np.ptp(points, axis=0).argmin())
    if own is not None:
        across = own.across
    inset = np.full(3, section.thick_mm / 2)
    if not section.round:
        inset[across] = section.wide_mm / 2
    points = lengthened(points, inset, -1.0)
    low, extent = points.min(axis=0), np.ptp(points, axis=0)
    room = np.where(extent > 0, extent, 1.0)
    shares = (points - low) / room
    line = tuple((float(x), float(y), float(z)) for x, y, z in shares)
    width, depth, height = (float(v) for v in extent + 2 * inset)
    sized = volume.with_sides((width, depth, height))
    bar = Bar(line, *section, across=across)
    free = replace(sized, counts=(None, None, None))
    return document.with_volume(index, _bare(free, bar))


def change_section(document: Document, section: Section) -> Document:
    """The bar in work with another section, along the same line in the same box. Raises VolumeError
    where it has no room, and for a volume that is no bar."""
    index, volume = in_work(document)
    bar = bar_of(volume)
    if bar is None:
        raise VolumeError(_("Only a bent bar has a section: bend one first."))
    thick, wide, bend, is_round = section
    changed = replace(bar, thick_mm=thick, wide_mm=wide, bend_mm=bend, round=is_round)
    return document.with_volume(index, _bare(volume, changed))


def bar_of(volume: Volume) -> Bar | None:
    """The bar that a volume is, None of another one."""
    return volume.shape if isinstance(volume.shape, Bar) else None


def points_in_words(volume: Volume, unit: str) -> str:
    """The points of a bar as they could be typed; "" of another volume."""
    shape = bar_of(volume)
    if shape is None:
        return ""
    places = shape.places(volume.sides)
    places = places - places.min(axis=0)
    return ", ".join(
        " ".join(write_length(float(mm), unit, with_unit=False) for mm in place) for place in places
    )
