"""The rules of the second look about whole frameworks: how volumes stand, meet and fit the page."""

import itertools
import math
from collections import defaultdict
from collections.abc import Iterator
from functools import partial

import numpy as np

from isometron.document.edits.choosing import select
from isometron.document.edits.eye_edits import fit_on_page
from isometron.document.edits.places.standing import stand_on_ground
from isometron.drawing.curves import length_of, outside_arcs
from isometron.drawing.measures import face_middle
from isometron.drawing.strokes import outside
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.kinds.loop import Loop
from isometron.framework.volume import Volume
from isometron.hiding.contact import contact
from isometron.hiding.meeting import near_pairs
from isometron.nearness import NEAR
from isometron.perspective.conics import points_at, straight
from isometron.perspective.eye import Array, Eye, sight_axes
from isometron.perspective.lengths import write_number
from isometron.perspective.places import Place
from isometron.perspective.projection import project
from isometron.remarks.limits import (
    COINCIDE_LEAST_MM,
    COINCIDE_MM,
    CONTACT_MM,
    HAND_MM,
    MOST_COINCIDENCES,
    OFF_SQUARE,
    SQUARE_WITHIN,
)
from isometron.remarks.remark import Look, Remark, Remedy, Severity, rule, rule_of_one
from isometron.words import _


@rule
def floating(look: Look) -> list[Remark]:
    """A volume hangs above the ground with nothing under it.

    When nothing on the sheet reaches the ground, the lowest base is taken for it.
    """
    volumes = look.volumes()
    if not volumes:
        return []
    reach = np.array([picture.figure.reach for _unused, picture in volumes])
    ground = max(0.0, float(reach[:, 2].min()))
    held = set(np.flatnonzero(reach[:, 2] <= ground + CONTACT_MM).tolist())
    held |= _carried(look, reach, held)
    found = []
    for row, (index, picture) in enumerate(volumes):
        wheel = picture.volume.shape.rolls  # has a rule of its own
        line = isinstance(picture.volume.shape, Loop)  # a circle in space is no thing that falls
        if row in held or picture.volume.like is not None or wheel or line:
            continue
        gap = float(reach[row, 2]) - ground
        found.append(
            Remark(
                Severity.DOUBTFUL,
                f"{picture.volume.name} floats",
                _(
                    "Its base hangs {gap} above the ground and touches nothing; set it down, "
                    "or put something under it."
                ).format(gap=look.length(gap)),
                gap,
                "mm",
                _lowest(look, picture),
                index,
                1.0,
                partial(_set_down, index) if ground == 0 else (lambda: None),
            )
        )
    return found


def _carried(look: Look, reach: Array, ground: set[int]) -> set[int]:
    """Rows of the volumes that hold on, over others, to those that stand on the ground. The parts
    of a group are one body: they hold together whatever is left out between them."""
    volumes = look.volumes()
    hanging = [row for row in range(len(volumes)) if row not in ground]
    slack = np.array([-1, -1, -1, 1, 1, 1]) * CONTACT_MM
    near: dict[int, set[int]] = defaultdict(set)
    for a, b in near_pairs(reach + slack, hanging) if hanging else []:
        near[a].add(b)
        near[b].add(a)
    groups = defaultdict(list)
    for row in range(len(volumes)):
        if volumes[row][1].volume.group:
            groups[volumes[row][1].volume.group].append(row)
    for rows in groups.values():
        for row in rows:
            near[row].update(rows)
    held, fresh = set(ground), set(ground)
    while fresh:
        fresh = {b for a in fresh for b in near[a] - held if _hold(look, volumes[a], volumes[b])}
        held |= fresh
    return held


def _hold(look: Look, one: tuple[int, VolumePicture], other: tuple[int, VolumePicture]) -> bool:
    (a, first), (b, second) = sorted((one, other), key=lambda pair: pair[0])
    if first.volume.group and first.volume.group == second.volume.group:
        return True
    meeting = look.scene.meetings.get((a, b))
    pierced = None if meeting is None else meeting.there
    return contact(first.figure, second.figure, CONTACT_MM, pierced=pierced).holds


def _set_down(index: int) -> Remedy | None:
    return Remedy(_("Set it on the ground"), lambda d: stand_on_ground(select(d, index)))


def _lowest(look: Look, picture: VolumePicture) -> Place:
    held = picture.volume.enclosing()
    lowest = held[int(held[:, 2].argmin())]
    return _seen_place(look, project(look.eye, lowest[None]).sheet[0])


def _seen_place(look: Look, place: Array) -> Place:
    if not np.isfinite(place).all():
        return look.eye.centre_of_vision_mm
    return float(place[0]), float(place[1])


@rule
def overlapping_volumes(look: Look) -> list[Remark]:
    """Two volumes that have nothing to do with each other run through each other."""
    found = []
    for (first, second), meeting in look.scene.meetings.items():
        a, b = look.document.volumes[first], look.document.volumes[second]
        if not meeting.there or _related(look, first, second):
            continue
        arcs = np.concatenate([straight(meeting.starts, meeting.ends), meeting.arcs])
        length, middle = _along(arcs)
        found.append(
            Remark(
                Severity.DOUBTFUL,
                _("{name} and {name2} run through each other").format(name=a.name, name2=b.name),
                _(
                    "Their faces cross along {length}; move one of them, cut one out of the "
                    "other, or group them as one body."
                ).format(length=look.length(length)),
                length,
                "mm",
                _seen_place(look, project(look.eye, middle[None]).sheet[0]),
                second,
                1.0,
            )
        )
    return found


def _along(arcs: Array) -> tuple[float, Array]:
    """True length of world arcs (n, 3, 4), in chords, and the middle (3,) of the first."""
    t = np.linspace(0.0, 1.0, 17)
    places = [points_at(arcs, np.full(len(arcs), at)) for at in t]
    length = sum(float(np.linalg.norm(b - a, axis=1).sum()) for a, b in itertools.pairwise(places))
    return length, np.asarray(places[8][0])


def _middle(volume: Volume) -> Array:
    corners = volume.corners()
    return np.asarray((corners[0] + corners[7]) / 2)


def _related(look: Look, first: int, second: int) -> bool:
    a, b = look.document.volumes[first], look.document.volumes[second]
    if a.group and a.group == b.group:
        return True
    if np.allclose(sorted(a.sides), sorted(b.sides)) and np.allclose(_middle(a), _middle(b)):
        return True  # the same, turned within its own circle: that is how it is drawn
    # what hangs on one of a row goes with all of it: a rail through its posts
    hangs = [
        one.on is not None and one.on.parent in (other.key, other.like and other.like.source)
        for one, other in ((a, b), (b, a))
    ]
    return any(hangs)


@rule_of_one
def square_off_square(look: Look) -> list[Remark]:
    """A face that is truly square reads more than 15 % off because of where it stands.

    Compared are the drawn middle lines of the face with those an eye would see that turns to look
    straight at it.
    """
    found = []
    for index, picture in look.cornered():
        worst = max(
            _off_square(look.eye, picture), key=lambda pair: max(pair[1], 1 / pair[1]), default=None
        )
        if worst is None or 1 / (1 + OFF_SQUARE) <= worst[1] <= 1 + OFF_SQUARE:
            continue
        face, ratio = worst
        percent = 100 * (max(ratio, 1 / ratio) - 1)
        middle = face_middle(picture, face)
        found.append(
            Remark(
                Severity.DOUBTFUL,
                _("A square of {name} looks {percent} % off").format(
                    name=picture.volume.name, percent=write_number(percent, 0)
                ),
                _(
                    "Its sides are equal, but so far from the centre of vision it is drawn "
                    "stretched; bring it nearer to the centre, or step back."
                ),
                percent,
                "percent",
                _seen_place(look, project(look.eye, middle[None]).sheet[0]),
                index,
                percent / (100 * OFF_SQUARE),
            )
        )
    return found


def _off_square(eye: Eye, picture: VolumePicture) -> list[tuple[int, float]]:
    """Faces that are square and turned to us, with drawn ratio over the ratio seen face on."""
    found = []
    for face in np.flatnonzero(picture.shown).tolist():
        corners, outlines = picture.body.face_corners(face), picture.body.loops(face)
        if len(corners) != 4 or len(outlines) > 1 or len(outlines[0]) != 4:
            continue
        world = corners @ picture.axes + picture.figure.place
        drawn = project(eye, world).sheet
        sides = np.linalg.norm(np.roll(world, -1, axis=0) - world, axis=1)
        diagonals = np.linalg.norm(world[2:] - world[:2], axis=1)
        if np.ptp(sides) > SQUARE_WITHIN * sides.max() or not np.isfinite(drawn).all():
            continue
        if np.ptp(diagonals) > SQUARE_WITHIN * diagonals.max():
            continue
        straight = _looked_at(eye, world)
        if straight is not None:
            found.append((face, _ratio(drawn) / _ratio(straight)))
    return found


def _looked_at(eye: Eye, world: Array) -> Array | None:
    """Corners (4, 2) as seen on a plane square to the line from the eye to their middle, keeping
    the eye's own upright."""
    v = world - np.array(eye.place)
    ahead = v.mean(axis=0) / np.linalg.norm(v.mean(axis=0))
    up = sight_axes(eye)[1].astype(float)
    up = up - (up @ ahead) * ahead
    if np.linalg.norm(up) < NEAR:
        return None
    up /= np.linalg.norm(up)
    right = np.cross(ahead, up)
    depth = v @ ahead
    return np.stack([v @ right / depth, v @ up / depth], axis=1) if depth.min() > 0 else None


def _ratio(ring: Array) -> float:
    """Length of one middle line of a quadrilateral over the other."""
    middles = (ring + np.roll(ring, -1, axis=0)) / 2
    return float(math.dist(middles[0], middles[2]) / max(math.dist(middles[1], middles[3]), 1e-12))


@rule_of_one
def off_the_sheet(look: Look) -> list[Remark]:
    """Part of the drawing falls off the paper."""
    sheet = look.document.sheet
    paper = (0.0, 0.0, sheet.width_mm, sheet.height_mm)
    found = []
    for index, picture in look.volumes():
        lines = picture.seen_lines
        curves = picture.curves_drawn("seen")
        lost = _length(outside(lines, paper)) + length_of(outside_arcs(curves, paper))
        whole = _length(lines) + length_of(curves)
        if lost <= HAND_MM or whole == 0:
            continue
        left, bottom, right, top = picture.bounds.tolist()
        over = max(-left, -bottom, right - sheet.width_mm, top - sheet.height_mm)
        beyond = (
            _(", up to {over} beyond its edge").format(over=look.length(over))
            if math.isfinite(over)
            else ""
        )
        found.append(
            Remark(
                Severity.NOTE,
                _("{name} runs off the sheet").format(name=picture.volume.name),
                _("{value} % of its lines fall off the paper{beyond}.").format(
                    value=write_number(100 * lost / whole, 0), beyond=beyond
                ),
                lost,
                "mm",
                _onto(sheet.width_mm, sheet.height_mm, picture),
                index,
                lost / whole,
                lambda: Remedy(_("Fit it all on the page"), fit_on_page),
            )
        )
    return found


def _length(lines: Array) -> float:
    return float(np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1]).sum())


def _onto(width: float, height: float, picture: VolumePicture) -> Place:
    places = picture.sheet[np.isfinite(picture.sheet).all(axis=1)]
    if not len(places):
        return width / 2, height / 2
    x, y = places.mean(axis=0)
    return min(max(float(x), 0.0), width), min(max(float(y), 0.0), height)


@rule
def coincidence(look: Look) -> list[Remark]:
    """Corners or edges of different volumes fall together on the paper by accident."""
    every = itertools.chain(_corners_together(look), _edges_together(look))
    return list(itertools.islice(every, MOST_COINCIDENCES))


def _corners_together(look: Look) -> Iterator[Remark]:
    volumes = look.volumes()
    if not volumes:
        return
    sheet = np.concatenate([p.sheet[p.seen_corners] for _index, p in volumes])
    world = np.concatenate([p.world[p.seen_corners] for _index, p in volumes])
    owner = np.repeat([i for i, _p in volumes], [len(p.seen_corners) for _index, p in volumes])
    order = np.argsort(sheet[:, 0], kind="stable")
    sheet, world, owner = sheet[order], world[order], owner[order]
    last = np.searchsorted(sheet[:, 0], sheet[:, 0] + COINCIDE_MM, side="right")
    told: set[frozenset[int]] = set()
    count = np.arange(1, len(sheet) + 1)
    for a in np.flatnonzero(last > count).tolist():
        for b in range(a + 1, int(last[a])):
            pair = frozenset((int(owner[a]), int(owner[b])))
            apart = math.dist(world[a], world[b])
            off = math.dist(sheet[a], sheet[b])
            if len(pair) == 2 and off < COINCIDE_MM and apart > CONTACT_MM and pair not in told:
                told.add(pair)
                yield _together(look, "corner", sorted(pair), off, sheet[a])


def _edges_together(look: Look) -> Iterator[Remark]:
    """Seen lines of two volumes on one line of the paper, though they are apart in the world."""
    lines, owners = [], []
    for index, picture in look.volumes():
        lines.append(picture.seen_lines)
        owners += [index] * len(picture.seen_lines)
    line = np.concatenate(lines) if lines else np.empty((0, 4))
    run = line[:, 2:] - line[:, :2]
    length = np.hypot(run[:, 0], run[:, 1])
    angle = np.arctan2(run[:, 1], run[:, 0]) % np.pi
    off = (line[:, 0] * run[:, 1] - line[:, 1] * run[:, 0]) / np.maximum(length, 1e-12)
    off = np.where(run[:, 1] < 0, -off, off)
    buckets: dict[tuple[int, int], list[int]] = defaultdict(list)
    for i in np.flatnonzero(length > COINCIDE_LEAST_MM).tolist():
        buckets[round(angle[i] / 0.01), round(off[i] / 2.0)].append(i)
    told: set[frozenset[int]] = set()
    for (slope, place), some in buckets.items():
        near = [
            j
            for da in (0, 1)
            for dp in (-1, 0, 1)
            for j in buckets.get((slope + da, place + dp), [])
        ]
        for i in some:
            for j in near:
                pair = frozenset((owners[i], owners[j]))
                if len(pair) < 2 or pair in told or _share_an_edge(look, *sorted(pair)):
                    continue
                overlap, gap = _run_together(line[i], line[j])
                if overlap > COINCIDE_LEAST_MM and gap < COINCIDE_MM:
                    told.add(pair)
                    yield _together(look, "edge", sorted(pair), gap, line[i, :2])


def _share_an_edge(look: Look, first: int, second: int) -> bool:
    """Whether two volumes touch in the world: what meets there falls together by right."""
    return (first, second) in look.scene.meetings


def _run_together(a: Array, b: Array) -> tuple[float, float]:
    """How long two lines run side by side, and how far apart at most there."""
    start, end = a[:2], a[2:]
    length = math.dist(start, end)
    along = (end - start) / length
    across = np.array([-along[1], along[0]])
    t = sorted((float((p - start) @ along), float((p - start) @ across)) for p in (b[:2], b[2:]))
    low, high = max(0.0, t[0][0]), min(length, t[1][0])
    return high - low, max(abs(t[0][1]), abs(t[1][1]))


def _together(look: Look, what: str, pair: list[int], off: float, place: Array) -> Remark:
    a, b = (look.document.volumes[i].name for i in pair)
    return Remark(
        Severity.NOTE,
        _("{a} and {b} share {which} on the paper").format(
            a=a, b=b, which=_("a corner") if what == "corner" else _("an edge")
        ),
        _(
            "There they fall together within {length} though they stand apart; move "
            "the eye a little so that they part."
        ).format(length=look.length(max(off, 0.05))),
        off,
        "mm",
        _seen_place(look, place),
        pair[1],
        1.0,
    )
