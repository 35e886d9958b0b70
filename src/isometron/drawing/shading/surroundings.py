"""What stands around the volumes, as areas: floor, path, wall and shelf, a step paler than the
light tells, and the sky; and the mirror image of everything in the floor."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, NamedTuple

import numpy as np

from isometron.document.finish import Finish
from isometron.document.light import Light
from isometron.drawing.scene import Scene
from isometron.drawing.shading.bands import Lit
from isometron.drawing.shading.receivers import (
    SHELVES,
    Receiver,
    on_sheet,
    paths_of,
    receivers_of,
    shelf_fronts_of,
)
from isometron.drawing.shading.values import Span, lightness, steps_of
from isometron.hiding.areas import Areas, Chart, clipped, seen_areas
from isometron.perspective.eye import Array, Eye, eye_level

FLOOR, PATH, WALL, SHELF, SKY, MIRROR = "floor", "path", "wall", "shelf", "sky", "mirror image"
BACKGROUND = (FLOOR, PATH, WALL, SHELF, SKY)

LEAST_MM2 = 1e-6


class Around(NamedTuple):
    """One of the surroundings: what it is, its step, and where (polygons of the sheet)."""

    what: str
    step: int
    shape: Any


def floor_on_sheet(scene: Scene, chart: Chart, paper: Any) -> Any:
    """Where the ground is drawn, whatever stands on it: below the eye level, this side of walls and
    beside shelves; nothing when the eye is not above it."""
    import shapely

    level, eye = eye_level(scene.eye), scene.eye
    left, bottom, right, top = paper.bounds
    below = paper
    if level is None and eye.tilt_deg > 0:
        return shapely.Polygon()  # straight up there is no ground
    if level is not None and not eye.curved:
        far = max(top - bottom, right - left)
        below = shapely.box(left, min(bottom, level) - far, right, max(level, bottom - far))
        below = shapely.intersection(paper, below)
    if chart.origin[2] <= 0:
        return shapely.Polygon()
    others = [one for one in receivers_of(scene.aids, chart.origin) if one.name != "ground"]
    if not others and not eye.curved:
        return below
    ground = receivers_of(scene.aids, chart.origin)[0]
    return shapely.intersection(on_sheet(chart, ground, ground.part), below)


def surroundings_of(
    scene: Scene,
    light: Light,
    finish: Finish,
    chart: Chart,
    paper: Any,
    covered: Any,
    steps: int,
    span: Span,
) -> list[Around]:
    """Floor, path, wall, shelf and sky where nothing covers them, nearest first."""
    import shapely

    floor = floor_on_sheet(scene, chart, paper)
    planes = receivers_of(scene.aids, chart.origin)
    ground = next((one for one in planes if one.name == "ground"), None)
    found: list[Around] = []

    def told(what: str, receiver: Receiver, shape: Any, paler: int) -> int:
        by_hand = finish.step_of(what)
        lit = _step(receiver, light, chart, shape, steps, span)
        return min(max(lit - paler, 0) if by_hand is None else by_hand, steps - 1)

    def add(what: str, step: int, shape: Any) -> None:
        nonlocal covered
        own = shapely.difference(shapely.intersection(shape, paper), covered)
        if own.area > LEAST_MM2:
            found.append(Around(what, step, own))
            covered = shapely.union(covered, own)

    bottom = None if ground is None else told(FLOOR, ground, floor, 1)
    for receiver in shelf_fronts_of(scene.aids, chart.origin):
        shape = on_sheet(chart, receiver, receiver.part)
        add(SHELF, told(SHELF, receiver, shape, 1), shape)
    for receiver in planes:
        if receiver is not ground:
            what = SHELF if receiver.name in SHELVES else WALL
            shape = on_sheet(chart, receiver, receiver.part)
            step = told(what, receiver, shape, 1)
            apart = what == SHELF or finish.step_of(what) is not None
            add(what, step if apart else _apart(step, bottom), shape)
    if ground is not None and bottom is not None:
        for receiver in paths_of(scene.aids, ground):
            strip = shapely.intersection(on_sheet(chart, receiver, receiver.part), floor)
            add(PATH, told(PATH, receiver, strip, 0), strip)
        add(FLOOR, bottom, floor)
    sky = finish.step_of(SKY)
    add(SKY, min(_apart(0, bottom) if sky is None else sky, steps - 1), paper)
    return found


def _apart(step: int, other: int | None) -> int:
    """A step beside another: paler than it by one, or darker, where both would be the same."""
    if step != other:
        return step
    return step - 1 if step > 0 else step + 1


def _step(
    receiver: Receiver, light: Light, chart: Chart, shape: Any, steps: int, span: Span
) -> int:
    """The step the light gives to a plane, where it is seen."""
    place = receiver.place
    if not shape.is_empty:
        flat = np.array([shape.representative_point().coords[0]])
        level = np.array([float(receiver.place @ receiver.normal)])
        with np.errstate(divide="ignore", invalid="ignore"):
            seen = chart.world(flat, receiver.normal[None], level)[0]
        if np.isfinite(seen).all():  # a plane seen from its edge is told at its own place
            place = seen
    cosine = lightness(light, receiver.normal[None], place[None])
    return int(steps_of(cosine, receiver.normal[2:], steps, span)[0])


def mirrored(chart: Chart) -> Chart:
    """The picture of what a level mirror on the ground shows: mirroring the eye mirrors the world,
    and what is drawn lands where its mirror image is seen."""
    down = np.array([1.0, 1.0, -1.0])
    return Chart(
        chart.origin * down,
        chart.right * down,
        chart.up * down,
        chart.ahead * down,
        far=chart.far,
        distance=chart.distance,
        middle=chart.middle,
        near=chart.near,
        edge=chart.edge,
    )


def mirrored_eye(eye: Eye) -> Eye:
    """The eye that sees the mirror image upside down: below the ground, looking the other way up,
    its picture turned over about the centre of vision."""
    return replace(eye, height_mm=-eye.height_mm, tilt_deg=-eye.tilt_deg)


def above_ground(lit: Lit) -> Lit:
    """The parts of a lit skin that stand above the ground."""
    skin = lit.skin
    lowest = np.array([ring[0][:, 2].min() for ring in skin.rings])
    if lowest.min(initial=0.0) >= 0.0:
        return lit
    rings: list[tuple[Array, ...]] = []
    kept: list[int] = []
    for number, own in enumerate(skin.rings):
        cut = own if lowest[number] >= 0 else _cut(own)
        if cut:
            rings.append(cut)
            kept.append(number)
    part = replace(
        skin,
        rings=tuple(rings),
        bends=tuple(skin.bends[n] for n in kept),
        **{
            name: getattr(skin, name)[kept]
            for name in ("figure", "face", "middles", "normals", "offsets")
        },
    )
    return Lit(part, lit.cosines[kept], lit.steps[kept])


def _cut(rings: Sequence[Array]) -> tuple[Array, ...]:
    found = [clipped(ring, ring[:, 2]) for ring in rings]
    return tuple(ring for ring in found if len(ring) > 2) if len(found[0]) > 2 else ()


def seen_in_mirror(lit: Lit, chart: Chart) -> tuple[Lit, Areas]:
    """What of a skin is seen in the floor, as polygons of the sheet."""
    above = above_ground(lit)
    return above, seen_areas(mirrored(chart), above.skin)
