"""A page of exercises: where they lie on it, what is printed of each, and the marks by which a
photograph of the page is told.

At the corners of the page lie four marks, at the head of each exercise its code: a row of marks of
another kind that say drill, difficulty and seed in thousands, and a check. Both kinds are the
square fiducial marks of the imaging library (Garrido-Jurado and others, Pattern Recognition 47,
2014)."""

import io
import zlib
from collections.abc import Sequence
from functools import cache
from typing import Any

import numpy as np

from isometron.drawing.pencils import GRAPHITE, TEAL, Pencil
from isometron.pages.page import END, Boxes, Item, Lines, Page, Picture, Placed, Words
from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.drill import HIGH_MM, WIDE_MM, Exercise, drill_of, drills, first_key
from isometron.practice.scenery import crosses

PAGE_MM = (210.0, 297.0)
LEFT_MM, BOTTOMS_MM = 10.0, (149.0, 14.0)
"""Where the exercises of a page lie: the upper one, the lower one."""

ON_PAGE = len(BOTTOMS_MM)
MARK_MM, CODE_MM, PITCH_MM = 7.0, 5.0, 6.5
EDGE_MM = 5.0

PALE_BLUE = "#8fb6d9"
"""Printed lines are pale blue: what is drawn over them is told apart by its colour."""

GREY = "#9a9a9a"
PALE_SHARE = 0.6
"""How much white is laid over printed pictures."""

THOUSAND, KEY_DIGITS, SEED_DIGITS = 1000, 2, 4
FINE = 100
"""Difficulties on paper are whole hundredths."""


def for_paper(exercise: Exercise) -> Exercise:
    """An exercise as paper can say it: its difficulty in whole hundredths."""
    rounded = round(exercise.difficulty * FINE) / FINE
    if rounded == exercise.difficulty:
        return exercise
    return drill_of(exercise.drill).exercise(exercise.seed, rounded)


def pages_of(exercises: Sequence[Exercise], *, answers: bool = False) -> tuple[Page, ...]:
    """The pages of exercises, two on each, or of their answers to lay over them."""
    return tuple(
        _page(exercises[first : first + ON_PAGE], first, answers=answers)
        for first in range(0, len(exercises), ON_PAGE)
    )


def _page(exercises: Sequence[Exercise], first: int, *, answers: bool) -> Page:
    cells, photos = [corner_cells()], list[Item]()
    lines, words = list[Item](), list[Item]()
    for number, (exercise, bottom) in enumerate(zip(exercises, BOTTOMS_MM, strict=False)):
        lines.append(Placed(_lines(exercise, answers=answers), (LEFT_MM, bottom)))
        words += _words(exercise, first + number, bottom, answers=answers)
        if not answers:
            cells.append(code_cells(exercise, bottom))
            if exercise.photo is not None:
                printed = _pale(exercise.photo())
                photos.append(Picture(printed, (LEFT_MM, bottom), (WIDE_MM, HIGH_MM)))
    marks = Boxes("#000000", np.concatenate(cells))
    return Page(PAGE_MM, (*photos, *lines, marks, *words))


def _pale(content: bytes) -> bytes:
    """A picture (PNG) so pale that a pencil shows on it."""
    from PIL import Image

    picture, pale = Image.open(io.BytesIO(content)).convert("RGB"), io.BytesIO()
    white = Image.new("RGB", picture.size, "white")
    Image.blend(picture, white, PALE_SHARE).save(pale, "PNG")
    return pale.getvalue()


def _lines(exercise: Exercise, *, answers: bool) -> tuple[Lines, ...]:
    """What is drawn of an exercise, mm from its own lower left corner."""
    corners = np.array([[0.0, 0.0], [WIDE_MM, 0.0], [WIDE_MM, HIGH_MM], [0.0, HIGH_MM]])
    inward = np.array([[1, 1], [-1, 1], [-1, -1], [1, -1]]) * 3.0
    ends = [
        [*corner, *(corner + step * np.array(way))]
        for corner, step in zip(corners, inward, strict=True)
        for way in ((1, 0), (0, 1))
    ]
    crops = Lines(Pencil(GREY, 0.2), np.array(ends))
    if not answers:
        held = Lines(Pencil(PALE_BLUE, 0.3), slides(exercise))
        return crops, Lines(Pencil(PALE_BLUE, 0.25), exercise.lines), held
    truth = exercise.truth
    own = [exercise.drawn, crosses(np.array(truth.places)), exercise.asks.drawn(truth)]
    return crops, Lines(Pencil(TEAL, 0.35), np.concatenate(own))


def slides(exercise: Exercise) -> Array:
    """(n, 4) short strokes where held points may slide."""
    lines = []
    for one in exercise.asks.held:
        if one.along is not None:
            at, way = np.array(one.start), np.array(one.along[1])
            lines.append([*(at - 3 * way), *(at + 3 * way)])
    return np.array(lines, dtype=float).reshape(-1, 4)


LINE_CHARS, TEXT_MM, SMALL_MM, ROW_MM = 78, 3.2, 2.5, 4.2
CHOICE_MM = 46.0
"""Room that choices take across."""


def _words(exercise: Exercise, number: int, bottom: float, *, answers: bool) -> list[Item]:
    """The head of an exercise, its choices, and its drill, seed and difficulty in small."""
    head = f"{number + 1}  {exercise.task}"
    if answers:
        head = f"{number + 1}  {exercise.asks.in_words(exercise.truth)}"
    top, found = bottom + HIGH_MM, list[Item]()
    for row, text in enumerate(_folded(head)):
        found.append(Words(text, (LEFT_MM, top + 6.0 - 4.2 * row), TEXT_MM, GRAPHITE))
    told = f"{exercise.drill} · {exercise.seed} · {exercise.difficulty:g}"
    found.append(Words(told, (LEFT_MM + WIDE_MM, top + 7.4), SMALL_MM, GRAPHITE, END))
    if answers:
        return found
    letters = exercise.asks.lettered
    if any(len(one) > 1 for one in letters):  # letters alone stand beside what they name
        x, y = _free_corner(exercise, len(letters))
        for n, text in enumerate(letters):
            place = (LEFT_MM + x, bottom + y + ROW_MM * (len(letters) - 1 - n))
            found.append(Words(text, place, SMALL_MM, GRAPHITE))
    for text, (x, y) in exercise.words:
        place = (LEFT_MM + x - 0.9, bottom + y - 1.1)
        found.append(Words(text, place, TEXT_MM, GRAPHITE))
    return found


def _free_corner(exercise: Exercise, rows: int) -> Place:
    """Where choices stand: the first corner of the sheet in which nothing is drawn."""
    high, share = ROW_MM * rows, np.linspace(0.0, 1.0, 41)[:, None, None]
    lines = exercise.lines.reshape(-1, 2, 2)
    drawn = (lines[:, 0] + share * (lines[:, 1] - lines[:, 0])).reshape(-1, 2)
    right, top = WIDE_MM - CHOICE_MM, HIGH_MM - 2.0 - high
    for x, y in ((3.0, 3.0), (right, 3.0), (3.0, top), (right, top)):
        inside = np.abs(drawn - (x + CHOICE_MM / 2, y + high / 2)) < (CHOICE_MM / 2, high / 2 + 2)
        if not inside.all(axis=1).any():
            return x, y
    return 3.0, 3.0


def _folded(text: str) -> list[str]:
    import textwrap

    return textwrap.wrap(text, LINE_CHARS)[:2]


# Marks


@cache
def dictionaries() -> tuple[Any, Any]:
    """The marks of the corners, and those of the codes."""
    import cv2

    return (
        cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50),
        cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_5X5_1000),
    )


def corner_places() -> Array:
    """(4, 2) the lower left corners of the page's four marks: lower left first, counter-clockwise.
    Their numbers are 0 to 3."""
    right, top = PAGE_MM[0] - LEFT_MM - MARK_MM, PAGE_MM[1] - EDGE_MM - MARK_MM
    return np.array([[LEFT_MM, EDGE_MM], [right, EDGE_MM], [right, top], [LEFT_MM, top]])


def corner_cells() -> Array:
    """(n, 4) the black cells of the page's four marks."""
    own, _codes = dictionaries()
    return np.concatenate(
        [_cells(own, n, 4, place, MARK_MM) for n, place in enumerate(corner_places())]
    )


def code_places(bottom: float) -> Array:
    """(n, 2) the lower left corners of the marks of a code."""
    count = KEY_DIGITS + 1 + SEED_DIGITS + 1
    left = LEFT_MM + WIDE_MM - count * PITCH_MM + PITCH_MM - CODE_MM
    return np.stack(
        [left + PITCH_MM * np.arange(count), np.full(count, bottom + HIGH_MM + 1.5)], axis=1
    )


def code_cells(exercise: Exercise, bottom: float) -> Array:
    """(n, 4) the black cells of the code of an exercise."""
    _own, codes = dictionaries()
    return np.concatenate([
        _cells(codes, digit, 5, place, CODE_MM)
        for digit, place in zip(code_of(exercise), code_places(bottom), strict=True)
    ])  # fmt: skip


def _cells(dictionary: Any, number: int, bits: int, place: Array, size: float) -> Array:
    """(n, 4) the black cells of one mark, by runs along its rows."""
    import cv2

    count = bits + 2
    image = np.asarray(cv2.aruco.generateImageMarker(dictionary, number, count))
    cell, found = size / count, []
    for row in range(count):
        dark = np.concatenate([[False], image[row] < 128, [False]]).astype(int)
        begins, ends = np.flatnonzero(np.diff(dark) == 1), np.flatnonzero(np.diff(dark) == -1)
        for begin, end in zip(begins.tolist(), ends.tolist(), strict=True):
            low = place + cell * np.array([begin, count - 1 - row])
            found.append([*low, cell * (end - begin), cell])
    return np.array(found)


# Codes


def code_of(exercise: Exercise) -> list[int]:
    """The code of an exercise: drill, difficulty, seed in thousands, check."""
    digits = _thousands(_key_number(exercise.drill), KEY_DIGITS)
    digits += [round(exercise.difficulty * FINE), *_thousands(exercise.seed, SEED_DIGITS)]
    return [*digits, _check(digits)]


def exercise_of(digits: Sequence[int]) -> Exercise | None:
    """The exercise of a code; None for a code that no page carries. Raises PracticeError."""
    *own, check = digits
    key = {_key_number(one): one for one in drills()}.get(_whole(own[:KEY_DIGITS]))
    fine, seed = own[KEY_DIGITS], _whole(own[KEY_DIGITS + 1 :])
    if check != _check(own) or key is None or fine > FINE:
        return None
    return drill_of(key).exercise(seed, fine / FINE)


def _thousands(number: int, count: int) -> list[int]:
    return [number // THOUSAND**n % THOUSAND for n in range(count)]


def _whole(digits: Sequence[int]) -> int:
    return sum(digit * THOUSAND**n for n, digit in enumerate(digits))


def _key_number(key: str) -> int:
    """The number of a drill in codes: it stays the same whatever other drills there are."""
    return int(zlib.crc32(first_key(key).encode()) % THOUSAND**KEY_DIGITS)


def _check(digits: Sequence[int]) -> int:
    return sum((n + 1) * digit for n, digit in enumerate(digits)) % 997
