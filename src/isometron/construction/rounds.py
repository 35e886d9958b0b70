"""Steps for what is round: squares, touching points, ellipses and outlines; profiles carried over
point by point."""

import numpy as np

from isometron.construction.draft import Draft
from isometron.construction.outlining import mark_curves
from isometron.construction.reach import Wanted
from isometron.construction.volumes import Site, profile_to_carry
from isometron.document.edits.shapes.rounding import turned_of
from isometron.drawing.rounds import DrawnCircle, circles_of
from isometron.drawing.scene import Scene
from isometron.framework.bodies.extruded import Carried
from isometron.framework.outlines import Flat, centre_of
from isometron.framework.skins import PATTERN_WORDS
from isometron.nearness import ROUNDING
from isometron.perspective.conics import straight
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_number
from isometron.perspective.projection import depths, project
from isometron.words import _

SQUARED = ("end", "station", "mark", "loop", "hole")
"""Circles that may get a square of their own; inner ones and sections are drawn about the same
centre."""

TOGETHER = 3
"""So many circles about one centre are drawn in one step."""

ALONG_ARC = 4
"""Parts into which an arc of a profile is divided when it is carried over."""


def draw_circles(
    draft: Draft, site: Site, scene: Scene, index: int, key: str, wanted: Wanted
) -> None:
    """Every circle of a volume: the large ones in their squares, the others by axes and guide."""
    every = [circle for circle in circles_of(scene, index) if wanted.circle(circle)]
    names = _names(draft, every)
    for circle in every:
        if circle.picture.segment_mm is not None:
            _edge_on(draft, site, circle, f"{key}.circle-{circle.number}", names[circle.number])
    circles = [c for c in every if c.ellipse is not None]
    squared = _squared(circles)
    if turned_of(site.picture.volume) is not None and not wanted.hidden_too:
        squared = _one_square(draft, circles, squared)
    for circle in (c for c in circles if c.number in squared):
        step = f"{key}.circle-{circle.number}"
        _square(draft, site, circle, step, names[circle.number])
        _ellipses(draft, site, [circle], f"{step}.ellipse", names, squared=True)
    others: dict[tuple[float, ...], list[DrawnCircle]] = {}
    for circle in (c for c in circles if c.number not in squared):
        others.setdefault(tuple(np.round(circle.centre, 3)), []).append(circle)
    for of_station in others.values():
        for first in range(0, len(of_station), TOGETHER):
            some = of_station[first : first + TOGETHER]
            step = f"{key}.circle-{some[0].number}.ellipse"
            _ellipses(draft, site, some, step, names, squared=False)


def _names(draft: Draft, circles: list[DrawnCircle]) -> dict[int, str]:
    """What each circle of a volume is called, by its number: of several called alike which one,
    counted from us."""
    alike: dict[str, list[DrawnCircle]] = {}
    for circle in circles:
        alike.setdefault(circle.name, []).append(circle)
    found = {}
    for name, unsorted in alike.items():
        deep = depths(draft.eye, np.array([c.centre for c in unsorted]))
        some = [unsorted[i] for i in np.argsort(deep, kind="stable")]
        for place, circle in enumerate(some, 1):
            told = _("{name}")
            if len(some) == 2:
                told = (_("near {name}"), _("far {name}"))[place - 1]
            elif len(some) > 2:
                told = _("{name} ({place} of {count}, counted from us)")
            found[circle.number] = told.format(name=_(name), place=place, count=len(some))
    return found


def _squared(circles: list[DrawnCircle]) -> set[int]:
    """Numbers of the circles that get a square: of a stack the largest at either end, of others
    the largest about each middle."""
    best: dict[tuple[float, ...], DrawnCircle] = {}
    for circle in circles:
        if circle.role not in SQUARED:
            continue
        key = tuple(np.round([*circle.centre, *np.abs(circle.normal)], 3))
        if key not in best or circle.radius_mm > best[key].radius_mm:
            best[key] = circle
    stack = [c for c in best.values() if c.role in ("end", "station")]
    if len(stack) > 2:
        largest = max(c.radius_mm for c in stack)
        big = [c for c in stack if c.radius_mm >= 0.999 * largest]
        keep = {big[0].number, big[-1].number, stack[0].number, stack[-1].number}
        return keep | {c.number for c in best.values() if c.role not in ("end", "station")}
    return {c.number for c in best.values()}


def _one_square(draft: Draft, circles: list[DrawnCircle], squared: set[int]) -> set[int]:
    """Of the squares of a turned volume the one that serves all: about its largest circle, the
    nearest to us of those. The others are drawn about their own centres on the axle."""
    some = [c for c in circles if c.number in squared]
    if not some:
        return squared
    largest = max(c.radius_mm for c in some)
    big = [c for c in some if c.radius_mm >= 0.95 * largest]
    depth = [float(depths(draft.eye, c.centre[None])[0]) for c in big]
    return {big[int(np.argmin(depth))].number}


def _square(draft: Draft, site: Site, circle: DrawnCircle, key: str, called: str) -> None:
    """The square round a circle: corners, diagonals, middles and touching points."""
    across, along = circle.radius_mm * circle.axes
    exact = circle.square(draft.eye)
    if not np.isfinite(exact).all():
        return
    corners = []
    for i, (x, y) in enumerate(((-1, -1), (1, -1), (1, 1), (-1, 1))):
        world = circle.centre + x * across + y * along
        name = site.grid.point(site.grid.coordinates(world))
        draft.land(name, exact[i], _("corner of the square of the {name}").format(name=called))
        corners.append(name)
    name = site.picture.volume.name
    sides = [draft.join(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
    if not draft.crosses_well(
        draft_line := draft.join(corners[0], corners[2]),
        other := draft.join(corners[1], corners[3]),
    ):
        middle = draft.mark((float(exact[8][0]), float(exact[8][1])))
    else:
        middle = draft.cross(draft_line, other)
    draft.draw(draft_line, other)
    draft.land(middle, exact[8], _("centre of the {name}").format(name=called))
    draft.step(
        f"{key}.square",
        _(
            "Draw the square round the {called} of {volume} with its diagonals: {middle} is the "
            "centre of the circle, not that of the ellipse."
        ).format(called=called, volume=name, middle=draft.letter(middle)),
    )
    for i, side, opposite in ((0, 0, 2), (1, 1, 3)):
        ends = []
        world = (
            [circle.centre - along, circle.centre + along]
            if i == 0
            else [circle.centre + across, circle.centre - across]
        )
        line = _through(draft, site, middle, world, exact[4 + side])
        for one in (side, opposite):
            if draft.crosses_well(line, sides[one]):
                touch = draft.cross(line, sides[one])
            else:
                touch = draft.mark((float(exact[4 + one][0]), float(exact[4 + one][1])))
            draft.land(touch, exact[4 + one], _("touching point of the {name}").format(name=called))
            ends.append(touch)
    draft.step(
        f"{key}.touching",
        _(
            "Draw its middle lines through that centre: the circle touches the square "
            "in their four ends."
        ),
    )


def _through(draft: Draft, site: Site, middle: str, world: list[Array], mark: Array) -> str:
    """A middle line of a square: along a direction of the grid, else to a measured mark."""
    run = world[1] - world[0]
    run = run / np.linalg.norm(run)
    for axis in range(3):
        if abs(abs(float(run @ site.grid.axes[axis])) - 1) < ROUNDING:
            at = site.grid.coordinates((world[0] + world[1]) / 2)
            return site.grid.line(axis, at, middle)
    return draft.join(middle, draft.mark((float(mark[0]), float(mark[1]))))


def _edge_on(draft: Draft, site: Site, circle: DrawnCircle, key: str, called: str) -> None:
    """A circle seen edge-on is the straight line between its two ends."""
    ends = circle.picture.segment_mm
    assert ends is not None
    first, second = (draft.mark(end) for end in ends)
    for name, end in zip((first, second), ends, strict=True):
        draft.land(name, np.array(end), _("end of the {name}").format(name=called))
    draft.keep(draft.join(first, second))
    draft.step(
        f"{key}.edge-on",
        _(
            "Draw the {name} of {name2}: it is seen edge-on, a straight line {length} long from "
            "{start} to {end}."
        ).format(
            name=called,
            name2=site.picture.volume.name,
            length=draft.length(float(np.hypot(*np.subtract(*ends)))),
            start=draft.letter(first),
            end=draft.letter(second),
        ),
    )


def _ellipses(
    draft: Draft,
    site: Site,
    circles: list[DrawnCircle],
    key: str,
    names: dict[int, str],
    *,
    squared: bool,
) -> None:
    """The ellipses of circles about one centre: of one in its square, or of several by their
    axes."""
    told = []
    for circle in circles:
        ellipse = circle.ellipse
        assert ellipse is not None
        centre = draft.mark(ellipse.centre_mm)
        half = (ellipse.semi_major_mm, ellipse.semi_minor_mm)
        name = draft.ellipse(centre, half, ellipse.major_axis_deg)
        draft.ellipses[name] = (*ellipse.centre_mm, *half, ellipse.major_axis_deg)
        draft.keep(name)
        told.append(_ellipse_words(draft, circle, names[circle.number]))
    way = (
        _("short arcs at the touching points first, then join them.")
        if squared
        else _("mark its centre and its two axes, then draw through their ends.")
    )
    if len(circles) > 1:
        way = _("mark the centre and the two axes of each, then draw through their ends.")
    draft.step(
        key,
        _("Draw the {names} of {volume}: {way} {each}").format(
            names=_(" and ").join(names[circle.number] for circle in circles),
            volume=site.picture.volume.name,
            way=way,
            each=" ".join(told),
        ),
    )


def _ellipse_words(draft: Draft, circle: DrawnCircle, called: str) -> str:
    """How an ellipse opens and lies, and what guide draws it."""
    ellipse = circle.ellipse
    assert ellipse is not None
    gap, miss = circle.rule_gap_mm() or 0.0, circle.picture.miss_deg or 0.0
    rule = (
        _("lay its short axis along the axle")
        if gap <= 0.5
        else _("do not lay its short axis along the axle, it leans {miss}° off").format(
            miss=write_number(miss, 1)
        )
    )
    guide = circle.guide_words(draft.document.kit)
    by_guide = _(" Guide: {guide}.").format(guide=guide) if guide else ""
    return _("The {called} opens to {degree}°; {rule}.{by_guide}").format(
        called=called,
        degree=write_number(ellipse.degree_deg, 0),
        rule=rule,
        by_guide=by_guide,
    )


def draw_outlines(draft: Draft, site: Site, key: str, wanted: Wanted) -> None:
    """The outlines of a curved body, tangent to its ellipses."""
    picture = site.picture
    every = picture.outlines
    drawn = [i for i in range(len(every)) if (picture.arc_numbers == -1 - i).any()]
    outlines = [i for i in drawn if wanted.outline(i)]
    what = _("outline of {name}").format(name=picture.volume.name)
    mark_curves(draft, [every[i] for i in outlines], what)
    if outlines:
        draft.step(
            f"{key}.outline",
            _(
                "Draw the outline of {name} tangent to its ellipses, through these points: "
                "it is a little wider than the line through the axle suggests."
            ).format(name=picture.volume.name),
        )


def carry_profile(draft: Draft, site: Site, key: str, wanted: Wanted) -> None:
    """The outline of an extrusion carried over from its side view: onto the near side, then across
    its width, point by point."""
    volume = site.picture.volume
    one = profile_to_carry(volume)
    if one is None:
        return
    sides = [face for face in (0, 1) if wanted.side(face)]
    for number, ring in enumerate(one.rings):
        what = _("outline") if number == 0 else _("hole {number}").format(number=number)
        _carry_ring(draft, site, f"{key}.profile-{number}", one, ring, what, sides, wanted)


def carry_openings(draft: Draft, site: Site, key: str, wanted: Wanted) -> None:
    """The openings in the faces of a volume, onto the face and onto where they end; and what is
    only drawn on its faces."""
    volume = site.picture.volume
    for number, one in enumerate(volume.tunnels):
        what = _("opening {number}").format(number=number + 1)
        sides = [0, 1] if wanted.side(one.face) else []
        _carry_ring(
            draft, site, f"{key}.opening-{number}", one.carried, one.ring, what, sides, wanted
        )
    for number, arcs in enumerate(volume.drawn_rings):
        placed = [_placed(site, arc) for arc in arcs]
        mark_curves(draft, placed, _("a point of {name}").format(name=volume.name))
        draft.step(
            f"{key}.on-face-{number}",
            _("Draw the outline on the face of {name} through these points.").format(
                name=volume.name
            ),
        )


def _placed(site: Site, arc: Array) -> Array:
    """An arc of a volume (3, 4), homogeneous, where it lies in the world."""
    places = arc.copy()
    places[:, :3] = arc[:, :3] @ site.picture.axes + arc[:, 3:] * np.array(
        site.picture.volume.place
    )
    return places


def lay_skins(draft: Draft, site: Site, key: str) -> None:
    """The skins of a volume: their lines through measured points."""
    volume = site.picture.volume
    for number, one in enumerate(volume.laid_skins):
        lines = np.concatenate([straight(one.starts, one.ends), one.arcs])
        for arc in lines:
            mark_curves(
                draft, [_placed(site, arc)], _("a point of {name}").format(name=volume.name)
            )
        words = PATTERN_WORDS[volume.skins[number].pattern]
        draft.step(
            f"{key}.skin-{number}",
            _(
                "Lay the {what} of {name}: step their heights off on an upright edge and run them "
                "to its vanishing points."
            ).format(what=_(words), name=volume.name),
        )


def _carry_ring(
    draft: Draft,
    site: Site,
    key: str,
    one: Carried,
    ring: Flat,
    what: str,
    sides: list[int],
    wanted: Wanted,
) -> None:
    """One ring carried onto its near side (0), onto its far side (1), and joined across: of all of
    it those pieces that are wanted."""
    name = site.picture.volume.name
    stations = _stations(ring)
    pieces = _pieces(stations)
    for side, words in ((0, _("near")), (1, _("far"))):
        some = pieces if side in sides else []
        shown = [run for run in some if _shows(wanted, one, stations, run, side)]
        for run in shown:
            names = [_carried(draft, site, one, stations[i][0], float(side)) for i in run]
            if len(names) == 2 and names[0] != names[1]:
                draft.keep(draft.join(names[0], names[1]))
            elif len(names) > 2:
                draft.keep(draft.curve(tuple(names)))
        if shown:
            draft.step(
                f"{key}-{words}",
                _(
                    "Carry the {what} of {name} over from the side view onto its {words} side, "
                    "point by point: along the length, then up, and join them as in the side "
                    "view."
                ).format(what=what, name=name, words=words),
            )
    across = False
    for uv, corner in stations:
        if corner and _across_shows(wanted, one, uv):
            ends = [_carried(draft, site, one, uv, side) for side in (0.0, 1.0)]
            if ends[0] != ends[1]:
                draft.keep(draft.join(ends[0], ends[1]))
                across = True
    if across:
        draft.step(
            f"{key}-width",
            _("Join the corners of both sides of {name}: these lines run to one point.").format(
                name=name
            ),
        )


def _pieces(stations: list[tuple[Array, bool]]) -> list[list[int]]:
    """The pieces of a ring as runs of its stations, from corner to corner."""
    count = len(stations)
    starts = [i for i, (_place, corner) in enumerate(stations) if corner]
    runs = []
    for place, start in enumerate(starts):
        stop = starts[(place + 1) % len(starts)]
        run = [start]
        while run[-1] != stop or len(run) == 1:
            run.append((run[-1] + 1) % count)
        runs.append(run)
    return runs


ON_PIECE = 1e-6
"""Share of a ring's size within which a place lies on a piece of it."""


def _shows(
    wanted: Wanted, one: Carried, stations: list[tuple[Array, bool]], run: list[int], side: int
) -> bool:
    """Whether any of a piece of a ring on one side of an extrusion shows."""
    if wanted.everything:
        return True
    places = np.array([stations[i][0] for i in run])
    size = 1.0 + float(np.abs(places).max())
    flat = wanted.shown_places @ one.to_flat[:, :3].T
    ends = np.array([one.ends.at(float(u))[side] for u in flat[:, 0]])
    flat = flat[np.abs(flat[:, 2] - ends) <= ON_PIECE, :2]
    if not len(flat):
        return False
    # through three stations of an arc: their circle
    (ax, ay), (bx, by), (cx, cy) = places[0], places[len(run) // 2], places[-1]
    system = 2 * np.array([[bx - ax, by - ay], [cx - ax, cy - ay]])
    if len(run) == 2 or np.linalg.matrix_rank(system) < 2:
        return bool((_off_line(flat, places[0], places[-1]) <= ON_PIECE * size).any())
    level = np.array([bx * bx - ax * ax + by * by - ay * ay, cx * cx - ax * ax + cy * cy - ay * ay])
    centre = np.linalg.solve(system, level)
    radius = float(np.hypot(*(places[0] - centre)))
    on = np.abs(np.hypot(*(flat - centre).T) - radius) <= ON_PIECE * size
    chord, bulge = places[-1] - places[0], places[len(run) // 2] - places[0]
    way = float(chord[0] * bulge[1] - chord[1] * bulge[0])
    beside = (chord[0] * (flat - places[0])[:, 1] - chord[1] * (flat - places[0])[:, 0]) * way
    return bool((on & (beside >= -ON_PIECE * size)).any())


def _off_line(points: Array, a: Array, b: Array) -> Array:
    """How far points (p, 2) lie from a line between two places."""
    run = b - a
    share = np.clip((points - a) @ run / max(float(run @ run), 1e-300), 0.0, 1.0)
    return np.asarray(np.linalg.norm(points - a - share[:, None] * run, axis=1))


def _across_shows(wanted: Wanted, one: Carried, uv: Array) -> bool:
    """Whether any of the line across an extrusion over a place of its outline shows."""
    if wanted.everything:
        return True
    flat = wanted.shown_places @ one.to_flat[:, :3].T
    begin, stop = one.ends.at(float(uv[0]))
    near = np.abs(flat[:, :2] - uv).max(axis=1, initial=0.0) <= ON_PIECE * (1 + np.abs(uv).max())
    inside = (flat[:, 2] > begin + ON_PIECE) & (flat[:, 2] < stop - ON_PIECE)
    return bool((near & inside).any())


def _stations(ring: Flat) -> list[tuple[Array, bool]]:
    """Places of a ring to be carried over, in order, and which are corners (or ends of arcs)."""
    found = []
    for start, end, bulge in zip(ring.corners, ring.after, ring.bulges.tolist(), strict=True):
        found.append((start, True))
        if bulge:
            centre, radius, first, turn = centre_of(start, end, bulge)
            for part in range(1, ALONG_ARC):
                angle = first + turn * part / ALONG_ARC
                found.append((centre + radius * np.array([np.cos(angle), np.sin(angle)]), False))
    return found


def _carried(draft: Draft, site: Site, one: Carried, uv: Array, side: float) -> str:
    """A place of the outline on the near or far side."""
    volume = site.picture.volume
    u, v = (float(x) for x in uv)
    own = one.place(u, v, one.ends.at(u)[int(side)])
    name = site.grid.point(site.at(own))
    draft.land(
        name,
        project(draft.eye, site.world(own)[None]).sheet[0],
        _("a point of {name}").format(name=volume.name),
    )
    return name
