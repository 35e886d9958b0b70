"""The opening of an order: sheet and eye level, vanishing points and station point, the aids for
points off the paper."""

import math
from collections.abc import Sequence

import numpy as np

from isometron.construction.draft import Draft, Target
from isometron.construction.targets import (
    DIVISIONS,
    WORDS,
    Directions,
    Targets,
    aid_for,
    beyond,
    strip_words,
    within_reach,
)
from isometron.drawing.measures import directions_of
from isometron.drawing.scene import Scene
from isometron.nearness import ROUNDING, SAME
from isometron.perspective.eye import Array, eye_level, sight_axes
from isometron.perspective.lengths import write_number
from isometron.perspective.places import Place
from isometron.words import _, said

ARM_MM = 120.0
"""How far from the station point its right angle is marked."""


def lay_eye_level(draft: Draft, targets: Targets, scene: Scene, shown: Sequence[int]) -> None:
    """The sheet, the eye level and the centre of vision."""
    sheet = draft.sheet
    lie = _("lying") if sheet.lying else _("upright")
    extents = np.array([scene.pictures[i].extent for i in shown])
    draft.step(
        "sheet.format",
        _(
            "Take a sheet {width} by {height}, {lie}, and {kit}. Every place is measured from the "
            "paper's edges.{draft}"
        ).format(
            width=draft.length(sheet.width_mm),
            height=draft.length(sheet.height_mm),
            lie=lie,
            kit=_kit_words(draft),
            draft=_falls_off(draft, extents),
        ),
    )
    told: list[str] = []
    level = eye_level(draft.eye)
    if level is not None and within_reach(draft.document, (0.0, level)):
        left = draft.mark((0.0, level))
        targets.level_line = draft.level(left)
        off = ""
        if not 0 <= level <= sheet.height_mm:
            off = _(", on paper taped to the {edge} edge").format(
                edge=_("lower") if level < 0 else _("upper")
            )
        told.append(
            _("Draw the eye level (HL) right across, {level} up{off}.").format(
                level=draft.length(level), off=off
            )
        )
    centre = draft.eye.centre_of_vision_mm
    if within_reach(draft.document, centre):
        draft.mark(centre, "CV")
        told.append(_("Mark the centre of vision CV, {centre}.").format(centre=draft.where(centre)))
    if told:
        draft.step("sheet.eye-level", " ".join(told))
    if draft.eye.tilt_deg != 0 and draft.document.building.method == "plan projection":
        draft.step(
            "sheet.method",
            _(
                "Plan projection draws what a level eye sees. This view is tilted: lengths are "
                "carried by measuring points, the nearest school."
            ),
        )
    draft.chapter("sheet", _("Sheet and eye level"))


def _kit_words(draft: Draft) -> str:
    """What lies on the table, in words."""
    kit = draft.document.kit
    told = [_("a ruler of {length}").format(length=draft.length(kit.ruler_mm))]
    if kit.set_square:
        told.append(_("a set square"))
    if kit.spare_paper_mm:
        told.append(
            _("strips of paper to tape on, up to {length}").format(
                length=draft.length(kit.spare_paper_mm)
            )
        )
    return ", ".join(told)


def _falls_off(draft: Draft, extents: Array) -> str:
    """What to do when part of the framework lies off the paper, or ""."""
    sheet = draft.sheet
    (left, below), (right, above) = extents[:, :2].min(axis=0), extents[:, 2:].max(axis=0)
    past = {
        "left": -left,
        "lower": -below,
        "right": right - sheet.width_mm,
        "upper": above - sheet.height_mm,
    }
    edges = [
        _("{mm} past the {edge} edge").format(mm=draft.length(mm), edge=edge)
        for edge, mm in past.items()
        if mm >= 1.0
    ]
    if not edges:
        return ""
    return _(" The framework runs {edges}: tape more paper there, or step back.").format(
        edges=" and ".join(edges)
    )


def lay_points(draft: Draft, targets: Targets, scene: Scene, shown: Sequence[int]) -> None:
    """Vanishing points of all volumes, each once, with their aids."""
    points_first = draft.document.building.points_first
    done = Directions()
    first = True
    for index in shown:
        picture = scene.pictures[index]
        found = []
        for direction in directions_of(draft.eye, picture):
            along = np.array(direction.world)
            place = direction.vanishing.sheet_mm
            if place is None or done.find(along) is not None:
                continue
            done.add(along)
            word = WORDS.get(direction.family, said("its VP"))
            words, key = _(word), f"points.{word}"
            if not first:
                name = picture.volume.name
                words, key = (
                    _("{point} of {name}").format(point=words, name=name),
                    f"{key} of {name}",
                )
            found.append((along, place, words, key))
        if first and not points_first and _by_station(draft, targets, found):
            first = False
            continue
        for along, place, words, key in found:
            _lay_point(draft, targets, along, place, words, key)
        first = first and not found
    draft.chapter("points", _("Vanishing points"))


Found = tuple[Array, Place, str, str]
"""A direction, where its point lies, the words for it, and the key of its step."""


def _lay_point(
    draft: Draft, targets: Targets, along: Array, place: Place, words: str, key: str
) -> None:
    """One vanishing point, by the aid its distance asks for."""
    aid = aid_for(draft.document, place)
    label = words.replace(" of ", " ").replace(_("the VP"), "VP")
    level = eye_level(draft.eye)
    on_level = bool(targets.level_line) and level is not None and abs(place[1] - level) < SAME
    if aid in ("on the board", "strip"):
        name = draft.mark(place, label)
        targets.add(along, Target(name, place, words))
        where = (
            f"{draft.where(place)}"
            if not on_level
            else _("on the eye level, {draft}").format(draft=_across(draft, place))
        )
        strip = "" if aid == "on the board" else f" {strip_words(draft, place)}"
        told = _("Mark {point} {where}.").format(point=words, where=where)
        draft.step(key, told + strip)
        return
    targets.add(along, Target(None, place, words))
    far = draft.length(beyond(draft.document, place))
    if aid == "edge marks":
        draft.step(
            key,
            _(
                "{words} lies {far} off the paper ({place}). Rule every line to it by two "
                "marks: where it starts, and where it leaves the paper's edge, measured in "
                "its step."
            ).format(words=_capital(words), far=far, place=draft.where(place, math.inf)),
        )
        return
    _divided_edges(draft, place, words, key)


def _divided_edges(draft: Draft, place: Place, words: str, key: str) -> None:
    """Two opposite edges divided evenly so that equal numbers lie on one line to a point.

    A line through (vx, vy) meets x = 0 and x = w at heights above vy in the ratio vx : (vx − w), so
    even steps on one edge are even steps on the other.
    """
    sheet = draft.sheet
    (vx, vy), w, h = place, sheet.width_mm, sheet.height_mm
    across = abs(vx - w / 2) * h >= abs(vy - h / 2) * w
    if across:
        step = h / DIVISIONS
        ratio = (vx - w) / vx
        marks = [((0.0, vy + k * step), (w, vy + k * step * ratio)) for k in _range(vy, h, step)]
        first, second, sides = (
            step,
            step * abs(ratio),
            _("left and right edges, from the eye level"),
        )
    else:
        step = w / DIVISIONS
        ratio = (vy - h) / vy
        marks = [((vx + k * step, 0.0), (vx + k * step * ratio, h)) for k in _range(vx, w, step)]
        first, second, sides = step, step * abs(ratio), _("lower and upper edges, from below CV")
    for one, other in marks:
        if beyond(draft.document, other) > 0:
            continue  # only where both edges have the number
        draft.mark(one)
        draft.mark(other)
    draft.step(
        key,
        _(
            "{words} lies {length} off the paper, too far for a strip. Divide the "
            "{sides}: every {first} on the first, every {second} on the second. A "
            "ruler laid through equal numbers points at it."
        ).format(
            words=_capital(words),
            length=draft.length(beyond(draft.document, place)),
            sides=sides,
            first=draft.length(first),
            second=draft.length(second),
        ),
    )


def _range(zero: float, length: float, step: float) -> range:
    """Numbers of the divisions that lie on an edge when 0 lies at `zero`."""
    return range(math.ceil(-zero / step - SAME), math.floor((length - zero) / step + SAME) + 1)


def _across(draft: Draft, place: Place) -> str:
    x, width = place[0], draft.sheet.width_mm
    if x < 0:
        return _("{length} left of the paper").format(length=draft.length(-x))
    return (
        _("{length} right of the paper").format(length=draft.length(x - width))
        if x > width
        else f"{draft.length(x)} right"
    )


def _by_station(draft: Draft, targets: Targets, found: Sequence[Found]) -> bool:
    """Station point first: its right angle cuts the eye level at the two points. Only for a level
    eye with both points within reach of a strip."""
    level = [(a, p, w) for a, p, w, _key in found if abs(float(a[2])) < ROUNDING]
    reach = all(
        aid_for(draft.document, p) in ("on the board", "strip") for _family, p, _name in level
    )
    if draft.eye.tilt_deg != 0 or len(level) != 2 or not reach:
        return False
    cx, cy = draft.eye.centre_of_vision_mm
    d = draft.eye.station_distance_mm
    station = draft.mark((cx, cy - d), "SP")
    draft.step(
        "points.station",
        _("Mark the station point SP straight below CV, {d} away: {where}.").format(
            d=draft.length(d), where=draft.where((cx, cy - d))
        ),
    )
    for along, place, words in level:
        run = np.array([place[0] - cx, d])
        run = ARM_MM * run / np.hypot(*run)
        arm = draft.mark((cx + float(run[0]), cy - d + float(run[1])))
        name = draft.cross(draft.join(station, arm), targets.level_line)
        draft.call(name, words)
        targets.add(along, Target(name, place, words))
    turn = math.degrees(
        math.atan2(*(sight_axes(draft.eye)[[2, 0]].astype(float) @ level[0][0])[::-1])
    )
    draft.step(
        "points.right-angle",
        _(
            "Lay a right angle at SP, turned {value}° by two marks {arm} away, and "
            "draw its sides to the eye level: VP left and VP right."
        ).format(value=write_number(abs(90 - abs(turn)), 0), arm=draft.length(ARM_MM)),
    )
    return True


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
