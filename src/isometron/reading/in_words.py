"""A reading of a picture in words, each number with how sure it is."""

import math
from typing import NamedTuple

from isometron.document.edits.pictures.marking import every_mark, places_of
from isometron.document.marks import FAMILIES
from isometron.document.picture import SheetPicture
from isometron.perspective.lengths import write_length, write_number
from isometron.perspective.places import Place
from isometron.reading.of_picture import STRAY, PictureReading, straight
from isometron.reading.results import Quantity, Reading, Sides
from isometron.words import _, many, said

BESIDE = 0.03
"""A mark within this share of the picture's height lies at the eye level."""

WIDE_DEG, NARROW_DEG = 62.0, 22.0
"""A picture that takes in more shows strong convergence, one that takes in less a weak one."""

TITLES = {
    "eye_level": said("eye level"),
    "view": said("where we stood"),
    "station_distance": said("distance"),
    "centre_of_vision": said("centre of vision"),
    "sides.depth": said("depth"),
    "sides.height": said("height"),
}
"""What is refused, in a few words."""


class Line(NamedTuple):
    """One line of the slip: its title, its words, and whether it says what is not told."""

    title: str
    words: str
    refused: bool = False


def slip_of(picture: SheetPicture, read: PictureReading, unit: str = "cm") -> list[Line]:
    """Everything a reading says, line by line; what is refused last."""
    reading = read.reading
    lines = [
        *_eye_level(picture, reading),
        *_standing(picture, reading),
        *_sides(reading.sides, unit),
        *_vanishing(picture, reading),
        *_lens(picture),
        *_rims(picture, reading),
        *_rows(reading),
        *_heights(reading),
        *_accord(reading),
    ]
    lines += [
        Line(_refused_title(one.what), f"{one.why} {one.would_help}", refused=True)
        for one in reading.refused
    ]
    if 0 <= picture.long_lines < 5 and reading.vanishing:
        lines.append(
            Line(
                _("lens"),
                _("A lens may bend the result: fewer than five long lines would show it."),
                refused=True,
            )
        )
    return lines


def _refused_title(what: str) -> str:
    if what in TITLES:
        return _(TITLES[what])
    return _counted(what.partition(".")[2]) or what


def level_at(reading: Reading, picture: SheetPicture, x: float) -> tuple[float, float] | None:
    """The height of the eye level at a place across the picture and its standard error, px."""
    if reading.eye_level is None:
        return None
    left, right = reading.eye_level
    share = x / picture.width
    error = math.hypot(left.standard_error * (1 - share), right.standard_error * share)
    return left.value + (right.value - left.value) * share, error


def _eye_level(picture: SheetPicture, reading: Reading) -> list[Line]:
    told = level_at(reading, picture, picture.width / 2)
    if told is None:
        return []
    high, error = told
    share, sure = 100 * high / picture.height, 100 * error / picture.height
    words = _("{share} % ± {error} of the way up").format(
        share=_short(share, sure), error=_error(sure)
    )
    if not 0 <= share <= 100:
        side = _("above the picture") if share > 100 else _("below the picture")
        off = share - 100 if share > 100 else -share
        words = _("{share} % ± {error} of its height {side}").format(
            share=_short(off, sure), error=_error(sure), side=side
        )
    near = named_at_level(picture, reading)
    if near:
        words += _(": about the height of {name}").format(name=near)
    lines = [Line(_("eye level"), words)]
    roll = reading.view.roll_deg if reading.view is not None else None
    if roll is not None and abs(roll.value) > 2 * roll.standard_error and abs(roll.value) > 0.05:
        side = _("right") if roll.value > 0 else _("left")
        lines.append(
            Line(
                _("roll"),
                _("{angle}, its {side} end lies higher").format(
                    angle=_angle(Quantity(abs(roll.value), roll.standard_error)), side=side
                ),
            )
        )
    return lines


def named_at_level(picture: SheetPicture, reading: Reading) -> str:
    """The named mark that lies nearest to the eye level, when one does."""
    best, name = BESIDE * picture.height, ""
    for _mark, one in every_mark(picture):
        places = places_of(one)
        if not one.name or not places:
            continue
        x, y = (sum(p[i] for p in places) / len(places) for i in (0, 1))
        told = level_at(reading, picture, x)
        if told is not None and abs(told[0] - y) < best:
            best, name = abs(told[0] - y), one.name
    return name


def _standing(picture: SheetPicture, reading: Reading) -> list[Line]:
    view = reading.view
    if view is None:
        return []
    lines = []
    distance = view.station_distance
    if distance is not None:
        wide = Quantity(distance.value / picture.width, distance.standard_error / picture.width)
        field = math.degrees(2 * math.atan2(picture.width / 2, distance.value))
        strong = _("usual convergence")
        if field > WIDE_DEG:
            strong = _("strong convergence: close by, or a wide lens")
        elif field < NARROW_DEG:
            strong = _("weak convergence: far away, or a long lens")
        lines.append(
            Line(
                _("distance"),
                _("{wide} picture widths; it takes in {field}°: {strong}").format(
                    wide=_both(wide), field=f"{field:.0f}", strong=strong
                ),
            )
        )
        reach = _reach(picture, distance.value)
        if reach is not None:
            lines.append(
                Line(
                    _("off the centre"),
                    _("what is marked reaches {angle}° off the centre of vision").format(
                        angle=f"{reach:.0f}"
                    ),
                )
            )
    if view.tilt_deg is not None:
        tilt = view.tilt_deg
        way = _("looks up") if tilt.value > 0 else _("looks down")
        level = abs(tilt.value) < 2 * tilt.standard_error or abs(tilt.value) < 0.05
        words = (
            _("level")
            if level
            else f"{way} {_angle(Quantity(abs(tilt.value), tilt.standard_error))}"
        )
        lines.append(Line(_("tilt"), words))
    if view.heading_deg is not None:
        heading = view.heading_deg
        angle = _angle(Quantity(abs(heading.value), heading.standard_error))
        lines.append(Line(_("width lies"), _("{angle} off square to us").format(angle=angle)))
    return lines


def _reach(picture: SheetPicture, distance: float) -> float | None:
    """How far what is read reaches off the centre of vision, degrees; None for a crop, whose centre
    lies elsewhere."""
    places = [p for _m, one in every_mark(picture) for p in places_of(one) if not _left(one)]
    if picture.cropped or not places:
        return None
    far = max(math.dist(straight(picture, place), picture.looked_at) for place in places)
    return math.degrees(math.atan2(far, distance))


def _left(one: object) -> bool:
    return bool(getattr(one, "left", False))


def _lens(picture: SheetPicture) -> list[Line]:
    """How the lens bends straight lines, when that is clear."""
    if not picture.bend:
        return []
    share = 100 * picture.bend * math.hypot(*picture.size) ** 2 / (2 * max(picture.size)) ** 2
    error = abs(share / picture.bend) * picture.bend_error
    return [
        Line(
            _("lens"),
            _("draws the corners {share} % ± {error} {side}; that is taken out").format(
                share=_short(abs(share), error),
                error=_error(error),
                side=_("too near the middle") if picture.bend > 0 else _("too far out"),
            ),
        )
    ]


def _sides(sides: Sides | None, unit: str) -> list[Line]:
    if sides is None or (sides.depth is None and sides.height is None):
        return []
    told = {"width": Quantity(1.0, 0.0), "depth": sides.depth, "height": sides.height}
    words = " : ".join(_("?") if one is None else _both(one) for one in told.values())
    lines = [Line(_("width : depth : height"), words)]
    if sides.height is not None:
        high = sides.height
        relative = high.standard_error / high.value
        first = Quantity(1 / high.value, relative / high.value)
        parts = [_("{count} wide").format(count=_both(first))]
        if sides.depth is not None:
            deep = sides.depth.value / high.value
            error = deep * math.hypot(relative, sides.depth.standard_error / sides.depth.value)
            parts.append(_("{count} deep").format(count=_both(Quantity(deep, error))))
        lines.append(Line(_("in heights"), ", ".join(parts)))
    if sides.true:
        lengths = [_length(sides.true[name], unit) for name in FAMILIES if name in sides.true]
        lines.append(Line(_("true size"), " × ".join(lengths)))
    return lines


def _vanishing(picture: SheetPicture, reading: Reading) -> list[Line]:
    lines = []
    for one in reading.vanishing:
        if one.family == STRAY:
            continue
        where = _("no point: parallel lines") if one.at is None else _where(picture, one.at)
        lines.append(
            Line(
                _("{family} runs to").format(family=_(one.family)),
                _("{where}, ± {error}°").format(where=where, error=_error(one.standard_error_deg)),
            )
        )
    return lines


def _where(picture: SheetPicture, at: Place) -> str:
    """Where a point lies, counted from the picture in its own widths and heights."""
    (x, y), (wide, high) = at, picture.size
    across = (x - wide) / wide if x > wide else (-x / wide if x < 0 else 0.0)
    along = (y - high) / high if y > high else (-y / high if y < 0 else 0.0)
    if max(across, along) > 50:
        return _("nearly parallel lines")
    parts = []
    if across:
        side = _("right of it") if x > 0 else _("left of it")
        parts.append(_("{count} widths {side}").format(count=f"{across:.2f}", side=side))
    if along:
        side = _("above it") if y > 0 else _("below it")
        parts.append(_("{count} heights {side}").format(count=f"{along:.2f}", side=side))
    return ", ".join(parts) or _("a point in the picture")


def _rims(picture: SheetPicture, reading: Reading) -> list[Line]:
    return [
        Line(
            _("rim {name}").format(name=_counted(one.name)),
            _("degree {degree}, short axis {tilt} to level").format(
                degree=_angle(one.degree_deg), tilt=f"{_upright(one.major_axis_deg.value):.0f}°"
            ),
        )
        for one in reading.rims
    ]


def _counted(name: str) -> str:
    """A name; what has none but its number is counted from 1."""
    return str(int(name) + 1) if name.isdecimal() and len(name) < 10 else name


def _upright(major_deg: float) -> float:
    """The tilt of the short axis, -90° to 90°."""
    return (major_deg + 180.0) % 180.0 - 90.0


def _rows(reading: Reading) -> list[Line]:
    return [
        Line(
            _("along {name}").format(name=_counted(one.name)),
            " : ".join("1" if i == 0 else _both(part) for i, part in enumerate(one.lengths)),
        )
        for one in reading.rows
    ]


def _heights(reading: Reading) -> list[Line]:
    return [
        Line(
            _("height of {name}").format(name=one.name),
            _("{count} eye heights, when it stands on the ground").format(
                count=_both(one.eye_heights)
            ),
        )
        for one in reading.heights
    ]


def _accord(reading: Reading) -> list[Line]:
    lines = []
    if reading.noise.value > 0:
        lines.append(
            Line(
                _("marks lie within"),
                _("{noise} px of where they should").format(noise=f"{reading.noise.value:.2g}"),
            )
        )
    count = len(reading.set_aside)
    if count:
        lines.append(
            Line(
                _("disagree"),
                many(
                    "{n} line misses its family and does not count",
                    "{n} lines miss their family and do not count",
                    count,
                ).format(n=count),
            )
        )
    return lines


def spoken(picture: SheetPicture, read: PictureReading | None) -> str:
    """The picture and what it tells, for those who do not see it."""
    taken = sum(not edge.left for edge in picture.edges)
    words = [
        _("{name}, {width} by {height} px.").format(
            name=picture.name, width=picture.width, height=picture.height
        ),
        many("{n} edge is read.", "{n} edges are read.", taken).format(n=taken),
    ]
    if read is not None:
        words += [f"{one.title}: {one.words}." for one in slip_of(picture, read)]
    return " ".join(words)


def _length(one: Quantity, unit: str) -> str:
    length = write_length(one.value, unit)
    error = write_length(one.standard_error, unit, with_unit=False)
    return f"{length} ± {error}" if one.standard_error else length


def _both(one: Quantity) -> str:
    if one.standard_error == 0:
        return write_number(one.value)
    return f"{_short(one.value, one.standard_error)} ± {_error(one.standard_error)}"


def _angle(one: Quantity) -> str:
    return f"{_short(one.value, one.standard_error)}° ± {_error(one.standard_error)}"


def _short(value: float, error: float) -> str:
    """A number with the digits that its error leaves it."""
    digits = 2 if error <= 0 else max(0, min(2, -math.floor(math.log10(error))))
    return f"{value:.{digits}f}"


def _error(error: float) -> str:
    if error <= 0:
        return "0"
    digits = max(0, min(2, -math.floor(math.log10(error))))
    return f"{max(error, 10.0**-digits / 2):.{digits}f}"
