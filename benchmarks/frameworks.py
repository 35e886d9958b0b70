"""Hidden lines and repainting of whole frameworks, as ratios and growth. Prints JSON.

    .venv/bin/python benchmarks/frameworks.py [--quick]

`hidden lines` are compared with a straightforward method written out below: every edge of separate
turned boxes minus the intervals that each convex face covers, vectorised in NumPy without any
sorting out beforehand. `aim` is the most each ratio should be.
"""

import argparse
import itertools
import json
import os
import statistics
from dataclasses import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np

from isometron.document.document import Document
from isometron.document.edits import eye_edits
from isometron.document.edits.places import sliding
from isometron.document.edits.stances import EDGE_NEAREST, take_stance
from isometron.drawing.scene import scene_of
from isometron.framework.bodies.cuts import Cut
from isometron.framework.box import CORNERS, EDGES, FACES
from isometron.framework.kinds.block import Block
from isometron.framework.kinds.kind import RECTANGLE
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.volume import Volume
from isometron.perspective.projection import project
from isometron.ui.bench.app import application
from speed import Painted, ratio, timed


def framework(count: int, *, mixed: bool) -> Document:
    """Boxes (or mixed volumes) standing apart on a grid, each turned, seen from above a corner."""
    rng = np.random.default_rng(count)
    across = int(np.ceil(np.sqrt(count)))
    volumes = []
    for i in range(count):
        sides = rng.uniform(80, 200, 3).tolist()
        place = (300.0 * (i % across), 300.0 * (i // across), 0.0)
        volume = Volume(f"Case {i}", *sides, *place, float(rng.uniform(-40, 40)))
        if mixed:
            lean = 0.2 * min(sides[:2])
            shapes = (
                Block(),
                Taper(lean, lean, lean, 0.0),
                Plan(RECTANGLE, lean, True),
                Block(),
            )
            cuts = (Cut((0.5, 0.0, 0.5), (1.0, 1.0, 1.0)),) if i % 4 == 3 else ()
            volume = replace(volume, shape=shapes[i % 4], cuts=cuts)
        volumes.append(volume)
    document = Document(volumes=tuple(volumes), selected=count // 2)
    return eye_edits.set_eye_height(take_stance(document, EDGE_NEAREST), 1600.0)


def plain_method(document: Document) -> float:
    """Edge minus covered intervals, for separate boxes: every edge against every face turned to us,
    five planes each. Gives the total seen share (so that nothing is optimised away)."""
    eye = np.array(document.eye.place)
    yaw = np.radians([volume.yaw_deg for volume in document.volumes])
    sides = np.array([volume.sides for volume in document.volumes])
    own = CORNERS * sides[:, None]
    across = own[..., :1] * np.stack([np.cos(yaw), np.sin(yaw)], axis=1)[:, None]
    away = own[..., 1:2] * np.stack([-np.sin(yaw), np.cos(yaw)], axis=1)[:, None]
    place = np.array([volume.place for volume in document.volumes])
    corners = np.concatenate([across + away, own[..., 2:]], axis=2) + (place - eye)[:, None]
    starts = corners[:, EDGES[:, 0]].reshape(-1, 3)
    ends = corners[:, EDGES[:, 1]].reshape(-1, 3)
    every = corners[:, FACES]
    outward = np.cross(every[:, :, 1] - every[:, :, 0], every[:, :, 2] - every[:, :, 0])
    which, face = np.nonzero((outward * every[:, :, 0]).sum(axis=2) < 0)
    rings = corners[which[:, None], FACES[face]]
    middle = rings.mean(axis=1)
    sides = np.cross(rings, np.roll(rings, -1, axis=1))
    sides *= np.where((sides * middle[:, None]).sum(axis=2, keepdims=True) < 0, -1.0, 1.0)
    front = np.cross(rings[:, 1] - rings[:, 0], rings[:, 2] - rings[:, 0])
    front *= np.where((front * middle).sum(axis=1, keepdims=True) < 0, -1.0, 1.0)
    offset = (front * rings[:, 0]).sum(axis=1)
    seen = 0.0
    for begin in range(0, len(starts), 512):  # in blocks, or memory runs out before patience
        a, b = starts[begin : begin + 512], ends[begin : begin + 512]
        low = np.zeros((len(a), len(front)))
        high = np.ones((len(a), len(front)))
        planes = [(front, offset)] + [(sides[:, k], np.zeros(len(front))) for k in range(4)]
        for normal, off in planes:
            p, q = a @ normal.T - off, b @ normal.T - off
            with np.errstate(divide="ignore", invalid="ignore"):
                cut = p / (p - q)
            low = np.where((p <= 0) & (q > 0), np.maximum(low, cut), low)
            high = np.where((p > 0) & (q <= 0), np.minimum(high, cut), high)
            high = np.where((p <= 0) & (q <= 0), -1.0, high)
        rows, columns = np.nonzero(high - low > 1e-9)
        spans = sorted(zip(rows.tolist(), low[rows, columns], high[rows, columns], strict=True))
        for _, group in itertools.groupby(spans, key=lambda span: span[0]):
            at, free = 0.0, 0.0
            for _, start, stop in group:
                free += max(0.0, start - at)
                at = max(at, stop)
            seen += free + 1.0 - at
    project(document.eye, (np.concatenate([starts, ends]) + eye))
    return seen


def hidden_lines(rounds: int) -> dict[str, dict[str, float]]:
    figures: dict[str, dict[str, float]] = {}
    first = 0.0
    for count in (10, 50, 200):
        document = framework(count, mixed=False)
        few = max(3, rounds * 10 // count)
        whole = [timed(lambda d=document: scene_of(d)) for _ in range(few)]
        first = first or statistics.median(whole)
        scene = scene_of(document)
        volume = document.volumes[count // 2]
        steps = itertools.cycle((10.0, 0.0))

        def moved(d=document, v=volume, s=scene, steps=steps) -> object:
            changed = replace(v, height_mm=v.height_mm + next(steps))
            index = len(d.volumes) // 2
            return scene_of(
                replace(d, volumes=(*d.volumes[:index], changed, *d.volumes[index + 1 :])), s
            )

        figures[f"hidden lines, {count} boxes"] = {
            "ratio to the plain method": round(
                ratio(lambda d=document: scene_of(d), lambda d=document: plain_method(d), few), 3
            ),
            "aim": 1.0,
            "growth from 10 boxes": round(statistics.median(whole) / first, 2),
        }
        figures[f"one of {count} moved, against all anew"] = {
            "ratio": round(ratio(moved, lambda d=document: scene_of(d), few), 3),
            "aim": 0.2,
        }
    return figures


def face_dragged(rounds: int) -> dict[str, dict[str, float]]:
    figures = {}
    first = 0.0
    for count, frames in ((10, 60), (50, 60), (200, 20)):
        board = Painted(framework(count, mixed=True))
        document = board.bench.session.document
        picture = board.bench.session.scene.pictures[count // 2]
        face = int(np.flatnonzero(picture.shown)[-1])
        ring = picture.sheet[list(picture.body.rings[face][0])].mean(axis=0)
        place = (float(ring[0]), float(ring[1]))
        grip = sliding.grip_face(document, count // 2, face, place)
        steps = itertools.cycle((2.0, 5.0))

        def drag(board=board, grip=grip, place=place, steps=steps) -> None:
            to = (place[0], place[1] + next(steps))
            session = board.bench.session
            session.drag(lambda d: sliding.slide_face(d, grip, to).document)
            board.paint()

        for _ in range(3):
            drag()
        pairs = [(timed(drag), timed(board.repaint_all)) for _ in range(max(5, rounds))]
        median = statistics.median(dragged for dragged, _ in pairs)
        bare = statistics.median(painted for _, painted in pairs)
        first = first or median
        figures[f"one face dragged among {count} mixed volumes"] = {
            "share of the time for one frame": round(median * frames, 3),
            "aim": 1.0,
            "frames a second asked": frames,
            "ratio to painting every stroke": round(median / bare, 3),
            "growth from 10": round(median / first, 2),
        }
    return figures


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--quick", action="store_true", help="fewer rounds")
    rounds = 9 if parser.parse_args().quick else 40
    app = application()
    print(json.dumps({**hidden_lines(rounds), **face_dragged(rounds)}, indent=1))
    app.processEvents()


if __name__ == "__main__":
    main()
