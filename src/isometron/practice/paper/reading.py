"""A photograph of a page of exercises: straightened by its marks, its codes read, the printed lines
taken away, and what is left taken for the person's strokes."""

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from isometron.perspective.eye import Array
from isometron.perspective.places import Place
from isometron.practice.asks import Answer, Stroke
from isometron.practice.drill import HIGH_MM, WIDE_MM, Exercise, PracticeError
from isometron.practice.paper.layout import (
    BOTTOMS_MM,
    CODE_MM,
    LEFT_MM,
    MARK_MM,
    PAGE_MM,
    code_places,
    corner_places,
    dictionaries,
    exercise_of,
    slides,
)
from isometron.practice.paper.strokes import Pencil, answer_of
from isometron.words import _

PX_PER_MM = 8
"""The page is straightened to so many px a mm."""

DARK, FAINT = 0.24, 0.34
"""What takes more than this share of the paper's blue light is a pencil's; on printed lines, which
are pale blue, it must take more."""

PRINTED_MM = 0.9
CODE_BITS, LEAST_CONTRAST, CORRECTED = 5, 40.0, 0.6
"""Bits along a code mark; less contrast is no mark; how much of what can be put right is."""

FRAME_MM = 2.0
"""What is drawn lies so far inside the frame of an exercise; its corners are printed."""

Pixels = NDArray[np.uint8]


class OnPaper(NamedTuple):
    """An exercise found on a page: its picture (rows, columns, 3), PX_PER_MM; the answer that was
    found, with the places at first where none was; which held points were surely found; whether a
    stroke was."""

    exercise: Exercise
    picture: Pixels
    answer: Answer
    sure: tuple[bool, ...]

    @property
    def whole(self) -> bool:
        """Whether all of the answer was found."""
        if isinstance(self.exercise.asks, Stroke):
            return len(self.answer.stroke) > 1
        return bool(self.exercise.asks.held) and all(self.sure)


def told_of(one: OnPaper) -> str:
    """What is said of an answer that was found, or was not."""
    exercise = one.exercise
    if not exercise.asks.by_hand:
        return _("Answer as you wrote it on the sheet.")
    if one.whole:
        return _("This was found on your sheet: drag what is wrong, then answer.")
    if isinstance(exercise.asks, Stroke):
        return _("Your stroke was not surely found: draw over it.")
    found = zip(exercise.asks.held, one.sure, strict=True)
    unsure = [held.what for held, sure in found if not sure]
    return _("Not surely found: {what}. Drag it to your mark, then answer.").format(
        what=", ".join(unsure)
    )


def read_page(content: bytes) -> list[OnPaper]:
    """The exercises on an encoded picture of a page. Raises PracticeError for a picture without the
    marks or codes of one, PictureError for what is no picture."""
    page = straightened(content)
    found = []
    for bottom in BOTTOMS_MM:
        digits = [_digit(page, place) for place in code_places(bottom)]
        known = [digit for digit in digits if digit is not None]
        exercise = exercise_of(known) if len(known) == len(digits) else None
        if exercise is not None:
            found.append(_found(exercise, _part(page, bottom)))
        elif len(known) > 1:  # one may be read into anything
            raise PracticeError(
                _("The code of an exercise cannot be read: photograph the page sharp and whole.")
            )
    if not found:
        raise PracticeError(_("This page carries no exercises: photograph a printed one."))
    return found


def straightened(content: bytes) -> Pixels:
    """The page alone (rows, columns, 3), PX_PER_MM, upright, by its four marks. Raises
    PracticeError, PictureError."""
    import cv2

    from isometron.reading.pictures import colours

    pixels = np.ascontiguousarray(colours(content))
    corners, numbers = _marks(pixels, dictionaries()[0])
    seen, true = [], []
    for number, place in enumerate(corner_places()):
        own = np.flatnonzero(numbers == number)
        if len(own) != 1:
            raise PracticeError(
                _("The four marks at the corners of the page do not all show: photograph all of "
                  "it, flat and sharp.")
            )  # fmt: skip
        seen.append(corners[own[0]])
        left, low = place
        high, right = low + MARK_MM, left + MARK_MM
        true.append([[left, high], [right, high], [right, low], [left, low]])
    goal = np.array(true).reshape(-1, 2)
    goal = np.stack([goal[:, 0], PAGE_MM[1] - goal[:, 1]], axis=1) * PX_PER_MM - 0.5
    way, _unused = cv2.findHomography(np.array(seen, dtype=float).reshape(-1, 2), goal)
    size = (round(PAGE_MM[0] * PX_PER_MM), round(PAGE_MM[1] * PX_PER_MM))
    flat: Any = cv2.warpPerspective(pixels, way, size, flags=cv2.INTER_LINEAR)
    return np.asarray(flat, dtype=np.uint8)


def _marks(pixels: Pixels, dictionary: Any) -> tuple[Array, NDArray[np.intp]]:
    """The marks of a kind in a picture: their corners (n, 4, 2), px, from their upper left one
    clockwise, and their numbers (n,)."""
    import cv2

    wanted = cv2.aruco.DetectorParameters()
    wanted.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY)
    told: Any = cv2.aruco.ArucoDetector(dictionary, wanted).detectMarkers(grey)
    corners, numbers, _refused = told
    if numbers is None:
        return np.empty((0, 4, 2)), np.empty(0, dtype=np.intp)
    found = np.array(corners, dtype=float).reshape(-1, 4, 2)
    return found, np.asarray(numbers, dtype=np.intp).ravel()


def _digit(page: Pixels, place: Array) -> int | None:
    """The number of the code mark at a place (2,) of a straightened page; None for none.

    Its place is known: the light of the middle of each cell is held against the darkest and the
    lightest of them, and the bits against the dictionary's, which puts a few wrong ones right."""
    import cv2

    count = CODE_BITS + 2
    cell = CODE_MM / count
    middles = place[0] + cell * (np.arange(count) + 0.5)
    rows = PAGE_MM[1] - (place[1] + cell * (np.arange(count)[::-1] + 0.5))
    grey: Any = cv2.cvtColor(page, cv2.COLOR_RGB2GRAY)
    x, y = np.meshgrid(middles * PX_PER_MM - 0.5, rows * PX_PER_MM - 0.5)
    soft = cv2.GaussianBlur(grey, (0, 0), 0.25 * cell * PX_PER_MM)
    light = cv2.remap(soft, x.astype(np.float32), y.astype(np.float32), cv2.INTER_LINEAR)
    light = np.asarray(light, dtype=float)
    low, high = light.min(), light.max()
    if high - low < LEAST_CONTRAST:
        return None
    bits = (light[1:-1, 1:-1] > (low + high) / 2).astype(np.uint8)
    told: Any = dictionaries()[1].identify(bits, CORRECTED)
    known, number, turned = told
    return int(number) if known and turned == 0 else None


def _part(page: Pixels, bottom: float) -> Pixels:
    """What a page shows of an exercise."""
    top = round((PAGE_MM[1] - bottom - HIGH_MM) * PX_PER_MM)
    left = round(LEFT_MM * PX_PER_MM)
    rows, columns = round(HIGH_MM * PX_PER_MM), round(WIDE_MM * PX_PER_MM)
    return np.ascontiguousarray(page[top : top + rows, left : left + columns])


def _found(exercise: Exercise, picture: Pixels) -> OnPaper:
    places, sure, stroke = answer_of(exercise, pencil_on(exercise, picture))
    return OnPaper(exercise, picture, Answer(places=places, stroke=stroke), sure)


def pencil_on(exercise: Exercise, picture: Pixels) -> Pencil:
    """What a person's pencil left on the picture of an exercise.

    Printed lines are pale blue: they take hardly any blue light, a pencil takes much. Light that
    falls off over the page is told from ink by what lies round about it."""
    import cv2

    blue: Any = picture[:, :, 2].astype(np.float32)
    paper = cv2.morphologyEx(blue, cv2.MORPH_CLOSE, np.ones((25, 25), np.uint8))
    paper = cv2.GaussianBlur(paper, (0, 0), 12.0)
    dark = np.clip(1.0 - cv2.GaussianBlur(blue, (0, 0), 1.0) / np.maximum(paper, 1.0), 0.0, 1.0)
    printed = np.zeros(dark.shape, dtype=np.uint8)
    for x0, y0, x1, y1 in np.concatenate([exercise.lines, slides(exercise)]).tolist():
        ends = [_pixel((x0, y0)), _pixel((x1, y1))]
        cv2.line(printed, ends[0], ends[1], 255, round(PRINTED_MM * PX_PER_MM))
    for _word, (x, y) in exercise.words:
        cv2.circle(printed, _pixel((x, y)), round(3.0 * PX_PER_MM), 255, -1)
    ink = (dark > DARK) & ((printed == 0) | (dark > FAINT))
    frame = round(FRAME_MM * PX_PER_MM)
    rim = np.ones(ink.shape, dtype=bool)
    rim[frame:-frame, frame:-frame] = False
    ink[rim] = False
    return Pencil(ink, np.where(ink, dark, 0.0).astype(np.float32), PX_PER_MM)


def _pixel(place: Place) -> tuple[int, int]:
    """The pixel of a place of the sheet, mm."""
    return round(place[0] * PX_PER_MM - 0.5), round((HIGH_MM - place[1]) * PX_PER_MM - 0.5)
