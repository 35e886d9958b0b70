"""How near readings of pictures come to the least error there can be, and what a fit costs.

.venv/bin/python benchmarks/reading.py [--trials 1000]

Made-up boxes (5 : 2 : 1.5, turned 35°, station distance 450 mm, picture 250 mm wide), 0.3 mm of
noise on each end of all nine visible edges; rims of 60 × 25 and 60 × 12 mm from 60 points. Each
number is a root-mean-square error over the Cramér–Rao bound, which is written out here by finite
differences of a projection of its own; pulls are errors over stated errors. Aims: boxes at most
1.03, spread of pulls 0.9 to 1.1 and mean within 0.1; rims 1.02, the thin arc 1.2; a warm fit at
most 25 times a bare least-squares solve of its linearised system; lines of a 12-megapixel picture
at most twice the time the library's detector takes.
"""

import argparse
import sys
import time

import numpy as np

from isometron.document.marks import FAMILIES, Edge, Marks, Picture
from isometron.reading.fit import Frame, fit, refined, system_of
from isometron.reading.model import directions
from isometron.reading.reading import eye_of
from isometron.reading.rims import fit_rim
from isometron.reading.told import Told

NOISE, CENTRE, SIZE = 0.3, np.array([125.0, 90.0]), (250.0, 180.0)
VIEWS = {
    "two-point, centre known": (-35.0, 0.0, True),
    "three-point 20°, centre known": (-35.0, -20.0, True),
    "three-point 20°, centre unknown": (-35.0, -20.0, False),
}
NAMES = ("station distance", "heading", "tilt", "roll", "depth", "height")
PAIRS = [(a, b) for a in range(8) for b in range(a + 1, 8) if a ^ b in (1, 2, 4)]


def frame(heading: float, tilt: float, roll: float) -> np.ndarray:
    """Rows right, up, away; angles in radians."""
    right = np.array([np.cos(heading), -np.sin(heading), 0.0])
    away = np.array([np.sin(heading) * np.cos(tilt), np.cos(heading) * np.cos(tilt), np.sin(tilt)])
    up = np.cross(right, away)
    return np.array(
        [np.cos(roll) * right - np.sin(roll) * up, np.sin(roll) * right + np.cos(roll) * up, away]
    )


def corners(numbers: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Pictures (8, 2) and depths of a box: distance, heading, tilt, roll, two ratios, where the
    first corner is drawn, the width at its scale, centre of vision."""
    d, heading, tilt, roll, depth, height, x, y, width, cx, cy = numbers
    bits = np.array([[i & 1, i >> 1 & 1, i >> 2] for i in range(8)], dtype=float)
    seen = bits * (width * np.array([1.0, depth, height])) @ frame(heading, tilt, roll).T
    seen += (x - cx, y - cy, d)
    return np.array([cx, cy]) + d * seen[:, :2] / seen[:, 2:], seen[:, 2]


def setting(heading: float, tilt: float) -> np.ndarray:
    """The numbers of a box whose middle lies in the line of sight."""
    h, t = np.radians([heading, tilt])
    turned, sides = frame(h, t, 0.0), np.array([5.0, 2.0, 1.5])
    first = -sides / 2 @ turned.T + (0, 0, 3 * np.linalg.norm(sides))
    scale = 450.0 / first[2]
    return np.array([450.0, h, t, 0.0, 0.4, 0.3, *(CENTRE + scale * first[:2]), 5 * scale, *CENTRE])


def boxes(trials: int) -> None:
    """Errors over bounds, and pulls, of three views."""
    rng = np.random.default_rng(1)
    for name, (heading, tilt, known) in VIEWS.items():
        numbers = setting(heading, tilt)
        places, depths = corners(numbers)
        edges = [pair for pair in PAIRS if int(depths.argmax()) not in pair]
        free = range(9 if known else 11)
        rows = []
        for i in free:
            step = 1e-6 * max(1.0, abs(numbers[i]))
            ahead, behind = numbers.copy(), numbers.copy()
            ahead[i] += step
            behind[i] -= step
            change = (corners(ahead)[0] - corners(behind)[0]) / (2 * step)
            rows.append(np.concatenate([np.r_[change[a], change[b]] for a, b in edges]))
        least = np.linalg.inv(np.array(rows) @ np.array(rows).T) * NOISE**2
        bound = np.sqrt(np.diag(least))[:6]
        turned = frame(*numbers[1:4])
        ways = [turned @ axis for axis in np.eye(3)]
        errors, pulls, angles = [], [], []
        for _unused in range(trials):
            some = []
            for a, b in edges:
                one, two = (tuple(places[i] + NOISE * rng.standard_normal(2)) for i in (a, b))
                some.append(Edge(one, two, FAMILIES[(a ^ b).bit_length() - 1], (a, b)))
            picture = Picture(*SIZE, tuple(CENTRE) if known else None)
            best = fit(Marks(picture, tuple(some), noise=NOISE))
            told = Told(best)

            def made(state):
                return np.concatenate([eye_of(state), state.sides[1:] / state.sides[0]])

            found = made(best.state)
            true = np.array([450, heading, tilt, 0, 0.4, 0.3])
            spread = np.sqrt(np.diag(told.spread(told.slopes(made))))
            errors.append((found - true) * [1, *np.radians([1, 1, 1]), 1, 1])
            pulls.append((found - true) / spread)
            own = directions(best.state)
            angles.append([np.linalg.norm(own[i] - ways[i]) for i in range(3)])
        ratio = np.sqrt(np.mean(np.square(errors), axis=0)) / bound
        slopes = []
        for i in (1, 2, 3):
            ahead, behind = numbers.copy(), numbers.copy()
            ahead[i] += 1e-6
            behind[i] -= 1e-6
            slopes.append((frame(*ahead[1:4]) - frame(*behind[1:4])) / 2e-6)
        turn = np.array(slopes)
        least_way = [
            np.sqrt(np.einsum("ik,jk,ij", turn[:, :, a], turn[:, :, a], least[1:4, 1:4]))
            for a in range(3)
        ]
        ways_ratio = np.sqrt(np.mean(np.square(angles), axis=0)) / least_way
        say(f"{name}: " + ", ".join(f"{n} {r:.3f}" for n, r in zip(NAMES, ratio, strict=True)))
        say(
            "  directions "
            + ", ".join(f"{f} {r:.3f}" for f, r in zip(FAMILIES, ways_ratio, strict=True))
        )
        spread, mean = np.std(pulls, axis=0).round(3), np.mean(pulls, axis=0).round(3)
        say(f"  pulls: spread {spread}, mean {mean}")


def along(values: np.ndarray, t: np.ndarray) -> np.ndarray:
    """Places of an ellipse."""
    cx, cy, a, b, angle = values
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    return np.stack([a * np.cos(t), b * np.sin(t)], axis=1) @ turn.T + (cx, cy)


def rims(trials: int) -> None:
    """Errors of rims over their bounds."""
    rng = np.random.default_rng(2)
    for name, short, share in (
        ("whole", 12.5, 1.0),
        ("60 %", 12.5, 0.6),
        ("thin, 45 %", 6.0, 0.45),
    ):
        values = np.array([100.0, 80.0, 30.0, short, 0.4])
        t = np.linspace(0.3, 0.3 + 2 * np.pi * share, 60, endpoint=share < 1)
        tangent = along(values, t + 1e-6) - along(values, t - 1e-6)
        normal = np.stack([tangent[:, 1], -tangent[:, 0]], axis=1)
        normal /= np.hypot(*normal.T)[:, None]
        rows = []
        for i in range(5):
            ahead, behind = values.copy(), values.copy()
            ahead[i] += 1e-6
            behind[i] -= 1e-6
            rows.append(((along(ahead, t) - along(behind, t)) / 2e-6 * normal).sum(axis=1))
        bound = np.sqrt(np.diag(np.linalg.inv(np.array(rows) @ np.array(rows).T))) * NOISE
        errors = []
        for _unused in range(trials):
            points = along(values, t)
            errors.append(
                fit_rim(points + NOISE * rng.standard_normal(points.shape)).values - values
            )
        ratio = np.sqrt(np.mean(np.square(errors), axis=0)) / bound
        parts = ("x", "y", "long", "short", "angle")
        say(f"rim, {name}: " + ", ".join(f"{n} {r:.3f}" for n, r in zip(parts, ratio, strict=True)))


def cost() -> None:
    """A warm fit against one bare solve of its linearised system."""
    numbers, rng = setting(-35.0, -20.0), np.random.default_rng(3)
    places, depths = corners(numbers)
    some = []
    for a, b in (pair for pair in PAIRS if int(depths.argmax()) not in pair):
        one, two = (tuple(places[i] + NOISE * rng.standard_normal(2)) for i in (a, b))
        some.append(Edge(one, two, FAMILIES[(a ^ b).bit_length() - 1], (a, b)))
    marks = Marks(Picture(*SIZE, tuple(CENTRE)), tuple(some), noise=NOISE)
    best = fit(marks)
    base = Frame(marks, best.seen, best.state.count).base
    values, rows = system_of(marks, best.seen, best.state, NOISE)
    slopes = rows @ base
    solve = min(_seconds(lambda: np.linalg.lstsq(slopes, values, rcond=None)) for _ in range(50))
    near = best.state.moved(1e-3 * rng.standard_normal(best.state.count) * (np.arange(11) < 4))
    warm = min(_seconds(lambda: refined(marks, best.seen, near)) for _ in range(50))
    say(f"warm fit over one least-squares solve: {warm / solve:.1f} ({1e3 * warm:.2f} ms)")


def lines() -> None:
    """Lines of a picture of twelve megapixels against the library's detector alone."""
    import cv2

    from isometron.files.sheet_file import sample_sheet
    from isometron.reading.finding import lines_in
    from isometron.reading.pictures import read_picture
    from isometron.stand_ins.camera import Camera, photograph

    content = photograph(sample_sheet("supply crawler"), Camera(width_px=4120))
    grey = read_picture(content, "a.jpg").grey
    lines_in(grey)
    alone, whole = [], []
    for _unused in range(3):
        alone.append(_seconds(lambda: cv2.createLineSegmentDetector().detect(grey)))
        whole.append(_seconds(lambda: lines_in(grey)))
    ratio = min(whole) / min(alone)
    say(f"lines of {grey.size / 1e6:.0f} megapixels over the detector: {ratio:.2f}")


def _seconds(act) -> float:
    begin = time.perf_counter()
    act()
    return time.perf_counter() - begin


def say(words: str) -> None:
    """Print a line."""
    sys.stdout.write(words + "\n")


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--trials", type=int, default=1000)
    given = parser.parse_args()
    boxes(given.trials)
    rims(given.trials)
    cost()
    lines()
