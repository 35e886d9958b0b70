"""Steps for flat volumes: near edge, fans, closing, completing, what is leant, cut or divided."""

import itertools
import math
from dataclasses import dataclass

import numpy as np

from isometron.construction.draft import Draft
from isometron.construction.grid import Coordinates, Grid
from isometron.construction.reach import Wanted
from isometron.construction.targets import Targets, beyond
from isometron.document.edits.places.by_eye import Closing
from isometron.document.near_edge import box_near_corner
from isometron.drawing.volume_picture import VolumePicture
from isometron.framework.bodies.extruded import Carried
from isometron.framework.box import EDGES
from isometron.framework.volume import Volume
from isometron.nearness import SAME
from isometron.perspective.eye import Array, Eye
from isometron.perspective.lengths import write_number
from isometron.perspective.projection import depths, project
from isometron.perspective.vanishing import vanishing_point
from isometron.words import _, said

REACH = 0.4
"""A volume is found from an earlier near corner while everything lies within so many paper widths
of the paper; else it gets a near corner of its own."""


@dataclass
class Site:
    """A volume being built: its picture, its grid, and whether the grid begins with it."""

    picture: VolumePicture
    grid: Grid
    fresh: bool

    def at(self, own: Array) -> Coordinates:
        """Grid coordinates of a place in the volume's own mm."""
        return self.grid.coordinates(self.world(own))

    def world(self, own: Array) -> Array:
        """World place of own mm."""
        place, axes = self.picture.volume.pose
        return np.asarray(place + own @ axes)


SHARED_PLANES = 3
"""A box with fewer of its six planes in those of a grid is begun at its own near corner: that takes
fewer lines than carrying every side of it over."""


def near_corner_of(eye: Eye, picture: VolumePicture) -> int:
    """The corner of a volume's box that an order begins from: the near corner, or of a tipped
    volume the corner nearest to us."""
    if not picture.volume.tipped:
        return box_near_corner(eye, picture.volume)
    return int(depths(eye, picture.box_world).argmin())


def grid_for(
    draft: Draft, targets: Targets, picture: VolumePicture, method: str, grids: list[Grid]
) -> Site:
    """The grid a volume is built in: an earlier one with the same directions, when everything it
    needs lies near the paper, else one from its own near corner."""
    volume, eye = picture.volume, draft.eye
    axes = volume.pose[1]
    turns = np.abs(np.array([grid.axes for grid in grids]).reshape(-1, 3, 3) @ axes.T)
    alike = np.abs(turns - np.rint(turns)).max(axis=(1, 2)) < SAME
    for grid in (grids[i] for i in np.flatnonzero(alike)):
        shares = grid.shared(picture.box_world)
        if shares >= SHARED_PLANES and _within_reach(draft, grid, picture):
            return Site(picture, grid, fresh=False)
    corner = near_corner_of(eye, picture)
    signs = np.array([-1.0 if corner >> axis & 1 else 1.0 for axis in range(3)])
    world = picture.box_world[corner]
    grid = Grid(draft, targets, world, axes * signs[:, None], method)
    grid.size = max(volume.sides)
    grids.append(grid)
    return Site(picture, grid, fresh=True)


def _within_reach(draft: Draft, grid: Grid, picture: VolumePicture) -> bool:
    """Whether the feet on the axes of all corners of a volume lie before us and near the paper."""
    own = (picture.box_world - grid.corner) @ grid.axes.T
    feet = [grid.corner]
    for axis in range(3):
        for value in np.unique(np.round(own[:, axis], 6)):
            feet.append(grid.corner + value * grid.axes[axis])
        for other in range(axis):
            for pair in np.unique(np.round(own[:, [axis, other]], 6), axis=0):
                feet.append(grid.corner + pair[0] * grid.axes[axis] + pair[1] * grid.axes[other])
    seen = project(draft.eye, np.array(feet))
    if not seen.seen.all() or float(seen.depth.min()) < 0.15 * float(seen.depth.max()):
        return False
    room = REACH * max(draft.sheet.width_mm, draft.sheet.height_mm)
    return all(beyond(draft.document, (float(x), float(y))) <= room for x, y in seen.sheet)


def runs_to(draft: Draft, grid: Grid, axis: int) -> str:
    """Where a direction of a grid runs, in words."""
    point = vanishing_point(draft.eye, grid.axes[axis])
    if point.sheet_mm is None:
        return _("upright") if abs(grid.axes[axis][2]) > 0.999 else _("parallel")
    return grid.targets.of(grid.axes[axis]).words


def lay_near_edge(draft: Draft, site: Site, key: str) -> None:
    """Near corner and near edge, and the fans from its ends."""
    grid, volume = site.grid, site.picture.volume
    corner = grid.begin()
    place = draft.place(corner)
    height = volume.sides[2]
    top_at = grid.coordinates(grid.world((0.0, 0.0, height)))
    edge = grid.line(2, (0.0, 0.0, 0.0), corner)
    top_place = grid.sheet(top_at)
    drawn = draft.signed(edge, corner, top_place)
    grid.adopt(top_at, draft.step_off(edge, corner, drawn))
    letter = draft.letter(corner)
    draft.keep(edge)
    draft.step(
        f"{key}.near-edge",
        _(
            "Mark the near corner {letter} of {name}: {place}. Draw the near edge "
            "{which} from it, {length} long, to {letter2}."
        ).format(
            letter=letter,
            name=volume.name,
            place=draft.where(place),
            which=_("up") if drawn > 0 else _("down"),
            length=draft.length(abs(drawn)),
            letter2=draft.letter(grid.point(top_at)),
        ),
    )
    letter2 = draft.letter(grid.point(top_at))
    level, run = [], []
    for axis in (0, 1):
        draft.draw(grid.line(axis, (0.0, 0.0, 0.0), corner))
        draft.draw(grid.line(axis, top_at, grid.point(top_at)))
        if grid.vanishing[axis].at_infinity:
            told = _("Through both ends draw lines along the {side}: they stay parallel.")
            level.append(told.format(side=_(SIDES[axis])))
        else:
            run.append(runs_to(draft, grid, axis))
    if run:
        told = _("From {letter} and {letter2} draw light lines to {points}.")
        points = _(" and to ").join(run)
        level.append(told.format(letter=letter, letter2=letter2, points=points))
    draft.step(f"{key}.fans", " ".join(level))


CLOSING = {
    "by eye": _(
        "Place the far edge by eye where the {side} looks right, and measure it from {corner}: "
        "{drawn} is {length}, {least} to {most} is near enough ({share} %). Move it by what is too "
        "much."
    ),
    "plan projection": _(
        "In the plan draw the side from its corner at its angle, step off {laid}, and lay the "
        "ruler from SP to that end: where it cuts PP drop an upright to the fan, {length} of "
        "{side}."
    ),
    "measuring points": _(
        "Lay {laid} off on the measuring line through {corner} and carry it to the "
        "measuring point: where that line cuts the fan lie {length} of {side}."
    ),
    "measuring points, a part": _(
        "Lay {laid} off on the measuring line through {corner}, {part} of the length at this "
        "scale, and carry it to the measuring point drawn for that part: where that line cuts the "
        "fan lie {length} of {side}."
    ),
    "diagonal point": _(
        "Set {laid} off on the near edge and carry it along the diagonal of the "
        "square to the fan: {length} of {side}."
    ),
    "parallel": _(
        "This direction stays parallel: step off {drawn}, {length} of {side} at this scale."
    ),
    "a measured place": _(
        "Measure {drawn} along the line: {length} of {side}. (Its lines cross too flat here.)"
    ),
}

NEAR_ENOUGH = 0.03
"""A length placed by eye may miss by this share."""


def close_volume(draft: Draft, site: Site, key: str) -> None:
    """The lengths of a volume's box closed along the three directions."""
    grid, volume = site.grid, site.picture.volume
    corners = np.array([site.at(own) for own in _box(volume.sides)])
    for axis, side in enumerate(SIDES):
        closed = 0
        for value in sorted(set(corners[:, axis].tolist()), key=abs):
            if value == 0.0:
                continue
            known = [0.0, 0.0, 0.0]
            known[axis] = value
            if grid.known((known[0], known[1], known[2])) is not None:
                continue
            point = grid.along(axis, value)
            closed += 1
            step = f"{key}.close-{side}" if closed == 1 else f"{key}.close-{side}.{closed}"
            if grid.method == "by eye" and not grid.vanishing[axis].at_infinity:
                draft.closings[step] = _placed(draft, site, corners, axis, value)
            words = _closing(draft, grid, axis, value, point)
            draft.step(
                step,
                _("{words} Call it {point}.").format(words=words, point=draft.letter(point)),
            )


def _placed(draft: Draft, site: Site, corners: Array, axis: int, value: float) -> Closing:
    """What a length that is placed by eye says about the volume."""
    grid, sign = site.grid, 1.0 if value > 0 else -1.0
    opposite = next(v for v in corners[:, axis].tolist() if v != value)
    start = grid.sheet((0.0, 0.0, 0.0))
    known = [0.0, 0.0, 0.0]
    known[axis] = value
    run = np.array(grid.sheet((known[0], known[1], known[2]))) - start
    toward = (run / np.hypot(*run)).tolist()
    x, y, z = grid.corner.tolist()
    a, b, c = (sign * grid.axes[axis]).tolist()
    return Closing(
        site.picture.volume.key,
        (x, y, z),
        (a, b, c),
        abs(value),
        sign * opposite,
        start,
        (toward[0], toward[1]),
    )


SIDES = ("width", "depth", "height")


def _closing(draft: Draft, grid: Grid, axis: int, value: float, point: str) -> str:
    """How a length is closed, in words."""
    line = grid.line(axis, (0.0, 0.0, 0.0), grid.origin)
    drawn = abs(draft.signed(line, grid.origin, draft.place(point)))
    way = draft.borrowed or ("parallel" if grid.vanishing[axis].at_infinity else grid.method)
    laid, part = abs(value) * grid.scale, ""
    if way == "measuring points" and grid.part < 1.0:
        way, laid = f"{way}, a part", laid * grid.part
        part = _("a half") if grid.part == 0.5 else _("a quarter")
    least, most = (
        grid.drawn_along(axis, value * (1.0 + share)) for share in (-NEAR_ENOUGH, NEAR_ENOUGH)
    )
    return CLOSING[way].format(
        corner=draft.letter(grid.origin),
        drawn=draft.length(drawn),
        laid=draft.length(laid),
        part=part,
        least=draft.length(least),
        most=draft.length(most),
        share=write_number(100 * NEAR_ENOUGH, 0),
        length=draft.length(abs(value)),
        side=_(SIDES[axis]),
    )


CORNER_WORDS = (
    said("lower front left corner of {name}"),
    said("lower front right corner of {name}"),
    said("lower back left corner of {name}"),
    said("lower back right corner of {name}"),
    said("upper front left corner of {name}"),
    said("upper front right corner of {name}"),
    said("upper back left corner of {name}"),
    said("upper back right corner of {name}"),
)
"""The corners of a box by number, its front along its width at corner 0."""


def corner_words(number: int) -> str:
    """What a corner of a box is called."""
    return _(CORNER_WORDS[number])


def complete_box(draft: Draft, site: Site, key: str, wanted: Wanted) -> None:
    """The corners and edges of the box a volume fills, those that are wanted."""
    grid, volume = site.grid, site.picture.volume
    own = _box(volume.sides)
    at = [site.at(corner) for corner in own]
    order = sorted(range(8), key=lambda i: (sum(v != 0 for v in at[i]), i))
    plain = volume.unopened.boxed
    some = wanted.corners[:8] if plain else np.ones(8, dtype=bool)
    lines = wanted.edges[: len(EDGES)] if plain else np.ones(len(EDGES), dtype=bool)
    order = [i for i in order if some[i]]
    base = [i for i in order if i < 4]
    for part, corners, words in (
        (
            "base",
            base,
            _("Cross the lower fans: base of {name} with its far corner {far}."),
        ),
        (
            "top",
            [i for i in order if i >= 4],
            _(
                "Bring the corners up and cross the upper fans to the opposite points: the "
                "box of {name} closes at {far}."
            ),
        ),
    ):
        made = [grid.point(at[i]) for i in corners]
        if not made:
            continue
        for edge in EDGES[lines].tolist():
            if set(edge) <= (set(base) if part == "base" else set(range(8))):
                _edge(draft, site, at[edge[0]], at[edge[1]], keep=plain)
        for i, name in zip(corners, made, strict=True):
            draft.land(
                name,
                project(draft.eye, site.world(own[i])[None]).sheet[0],
                corner_words(i).format(name=volume.name),
            )
        if draft.idle:
            continue  # all of it stands already
        far = draft.letter(made[-1])
        draft.step(f"{key}.{part}", words.format(name=volume.name, far=far))


def _edge(draft: Draft, site: Site, a: Coordinates, b: Coordinates, *, keep: bool) -> None:
    """The line along an edge between two coordinates, drawn if it is not there yet."""
    axes = [axis for axis in range(3) if a[axis] != b[axis]]
    if len(axes) == 1:
        line = site.grid.line(axes[0], a, site.grid.point(a))
    elif site.grid.point(a) != site.grid.point(b):
        line = draft.join(site.grid.point(a), site.grid.point(b))
    else:
        return
    if keep:
        draft.keep(line)
    draft.draw(line)


def check_box(draft: Draft, site: Site, key: str) -> None:
    """What to measure when a box is closed: across it, between corners that were not laid off from
    each other."""
    grid, volume, ruler = site.grid, site.picture.volume, draft.document.kit.ruler_mm
    at = [site.at(own) for own in _box(volume.sides)]
    names = [name for name in map(grid.known, at) if name is not None]
    pairs = [
        (math.dist(draft.place(a), draft.place(b)), a, b)
        for (i, a), (j, b) in itertools.combinations(
            [(i, grid.known(place)) for i, place in enumerate(at)], 2
        )
        if a is not None and b is not None and (i ^ j).bit_count() > 1
    ]
    pairs = [pair for pair in pairs if pair[0] <= ruler] or pairs
    if not pairs or len(names) < SHARED_PLANES:
        return
    length, first, second = max(pairs)
    width, depth, height = volume.sides
    draft.step(
        f"{key}.check",
        _(
            "Check: from {first} to {second} it measures {length}. Width : depth : height is "
            "{width} : {depth} : 1."
        ).format(
            first=draft.letter(first),
            second=draft.letter(second),
            length=draft.length(length),
            width=write_number(width / height, 2),
            depth=write_number(depth / height, 2),
        ),
    )


def shape_volume(draft: Draft, site: Site, key: str, wanted: Wanted) -> None:
    """The corners of a leaning, cut, chamfered or pierced volume, found in its full box."""
    volume = site.picture.volume
    body = volume.unopened
    if body.boxed or not len(body.edges) or profile_to_carry(volume) is not None:
        return
    at = [site.at(vertex) for vertex in body.vertices]
    for i, place in enumerate(at):
        if not wanted.corners[i]:
            continue
        name = site.grid.point(place)
        draft.land(
            name,
            project(draft.eye, site.world(body.vertices[i])[None]).sheet[0],
            _("corner of {name}").format(name=volume.name),
        )
    draft.step(
        f"{key}.shape-points",
        _(
            "Inside the full box find the corners of {name}: set their distances off "
            "on the three directions and cross the fans."
        ).format(name=volume.name),
    )
    shown = wanted.edges[: len(body.edges)] & ~body.smooth
    for a, b in body.edges[shown].tolist():
        _edge(draft, site, at[a], at[b], keep=True)
    draft.step(
        f"{key}.shape-edges",
        _("Join the corners of {name}: these are its edges.").format(name=volume.name),
    )


def profile_to_carry(volume: Volume) -> Carried | None:
    """The outline of a volume that is carried over from a flat view; None for others."""
    if (volume.cuts or volume.edgings) and volume.shape.faceted(volume.sides) is not None:
        return None
    return volume.shape.profile(volume.sides, volume.whole.holes)


def divide_volume(draft: Draft, site: Site, key: str) -> None:
    """Division marks, straight centre and section lines of a volume."""
    volume = site.picture.volume
    marks = volume.drawn_marks
    if not len(marks.starts):
        return
    for start, end in zip(marks.starts, marks.ends, strict=True):
        at = [site.at(own) for own in (start, end)]
        for own, place in zip((start, end), at, strict=True):
            seen = project(draft.eye, site.world(own)[None]).sheet[0]
            draft.land(
                site.grid.point(place), seen, _("a division of {name}").format(name=volume.name)
            )
        _edge(draft, site, at[0], at[1], keep=True)
    draft.step(
        f"{key}.divide",
        _(
            "Divide {name}: set the true fractions off as lengths and cross the fans "
            "(for a half, the crossed diagonals of the face give the same point)."
        ).format(name=volume.name),
    )


def _box(sides: tuple[float, float, float]) -> Array:
    return np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)], dtype=float) * sides


def before_us(picture: VolumePicture) -> bool:
    """Whether all of a volume lies before us."""
    return bool(np.isfinite(picture.box_sheet).all())
