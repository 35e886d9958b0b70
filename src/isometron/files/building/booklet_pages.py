"""Blocks of a booklet: a picture of the sheet and its words, flowing from page to page."""

from collections.abc import Callable
from dataclasses import dataclass

from isometron.construction.stages import Stage, Stages
from isometron.files.building.stage_items import (
    LABEL_MM,
    Look,
    drawn,
    edge_of,
    framed,
    look_at,
)
from isometron.pages.flow import (
    GAP_MM,
    LEADING,
    MM_PER_POINT,
    WORDS_MM,
    Flow,
    broken,
    lines_of,
)
from isometron.pages.page import (
    Box,
    Item,
    Kept,
    Placed,
    Words,
)
from isometron.perspective.places import Place, Rectangle
from isometron.words import _

TITLE_MM = 13.0 * MM_PER_POINT
BETWEEN_MM = 0.4 * WORDS_MM
"""Room between paragraphs beside or under a picture."""

PICTURE_SHARE, MOST_HIGH_MM = 0.5, 80.0
"""A picture takes this share of the page's width, and no more than this height."""

AROUND = 0.04
"""Shown round the paper in a picture, as a share of its width."""

CLEARLY_CLOSER = 1.6
"""A closer look is given when it shows things so many times larger."""

GROUP = 16
"""So many earlier chapters are drawn as one."""

Closer = Callable[[float], Rectangle | None]
"""Gives the part of the sheet to show closer, for a width over height."""


@dataclass(frozen=True)
class Block:
    """A step, or a chapter, on a page: its chapter's key and title, its words in paragraphs, the
    sheet (on top of what so many chapters before have left), and a closer look at what is drawn
    now."""

    key: str
    title: str
    words: list[str]
    stage: Stage
    closer: Closer | None = None
    behind: int = 0


class Past:
    """What earlier chapters have left on the sheet: kept once for each chapter and once for every
    GROUP of them, so that a page costs no more late in a long order than early."""

    def __init__(self, stages: Stages, around: Rectangle, scale: float) -> None:
        self._stages, self._around, self._scale = stages, around, scale
        low_x, low_y, high_x, high_y = (scale * mm for mm in around)
        self._box = (low_x, low_y, high_x, high_y)

    def items(self, chapters: int) -> tuple[Item, ...]:
        """What so many chapters have left, the sheet's corner at the origin."""
        whole = chapters // GROUP
        groups = [self._group(number) for number in range(whole)]
        return *groups, *(self._chapter(number) for number in range(whole * GROUP, chapters))

    def _chapter(self, number: int) -> Kept:
        def items() -> tuple[Item, ...]:
            stage = Stage(tuple(self._stages.behind(number, self._around)), ())
            return tuple(drawn(stage, Look(self._scale, (0.0, 0.0))))

        return Kept(f"chapter-{number}", self._box, items)

    def _group(self, number: int) -> Kept:
        parts = tuple(self._chapter(number * GROUP + i) for i in range(GROUP))
        return Kept(f"chapters-{number}", self._box, lambda: parts)


class Blocks:
    """Sets pictures with their words one under the other."""

    def __init__(self, size: Place, stages: Stages, around: Rectangle) -> None:
        self.flow = Flow(size)
        self._stages, self._sheet = stages, stages.sheet
        self._title = self._chapter = ""
        spare = AROUND * self._sheet.width_mm
        wide, high = self._sheet.width_mm + spare, self._sheet.height_mm + spare
        self._part = (-spare, -spare, wide, high)
        shape = (wide + spare) / (high + spare)
        self._high = min(PICTURE_SHARE * (self.flow.right - self.flow.left) / shape, MOST_HIGH_MM)
        self._wide = self._high * shape
        self._past = Past(stages, around, self._high / (high + spare))

    def picture(self, stage: Stage, high: float) -> None:
        """The sheet right across, no higher than so many mm."""
        flow, shape = self.flow, self._wide / self._high
        wide = min(flow.right - flow.left, high * shape)
        self._look(stage, self._part, (flow.left, flow.y - wide / shape, wide, wide / shape))
        flow.gap(wide / shape)

    def block(self, block: Block) -> None:
        """A picture with its words beside it, or under it when a closer look is beside it or they
        are long."""
        flow = self.flow
        left = flow.left + self._wide + GAP_MM
        beside = flow.right - left
        part = self._closer(block, beside)
        lines = [broken(text, beside, WORDS_MM) for text in block.words]
        under = part is not None or _high(lines) > self._high
        whole = self._high
        if under:
            across = flow.right - flow.left
            whole += _high([broken(text, across, WORDS_MM) for text in block.words])
        heading = 0.0 if block.title == self._title else 2.0 * TITLE_MM
        fresh = flow.needs(min(whole, 0.6 * flow.high) + heading)
        if fresh or block.title != self._title:
            self._title = block.title
            flow.words(block.title, TITLE_MM, bold=True)
            flow.gap(0.5 * TITLE_MM)
        if block.key != self._chapter:  # another one may have the same title
            self._chapter = block.key
            flow.mark(block.key, block.title)
        top = flow.y
        box = (flow.left, top - self._high, self._wide, self._high)
        self._look(block.stage, self._part, box, block.behind)
        if part is not None:
            shown = block.stage
            if part[3] - part[1] > self._part[3] - self._part[1]:
                shown = Stage((*shown.strokes, *self._stages.strips(shown)), shown.spots)
            self._look(shown, part, (left, top - self._high, beside, self._high))
        if not under:
            for one in lines:
                flow.add(lines_of(one, left, flow.y, WORDS_MM))
                flow.gap(LEADING * WORDS_MM * len(one) + BETWEEN_MM)
        flow.y = top - self._high
        if under:
            for text in block.words:
                flow.words(text)
                flow.gap(BETWEEN_MM)
        flow.gap()

    def _closer(self, block: Block, wide: float) -> Rectangle | None:
        part = None if block.closer is None else block.closer(wide / self._high)
        if part is None:
            return None
        times = (self._part[3] - self._part[1]) / (part[3] - part[1])
        return part if times >= CLEARLY_CLOSER or times < 1 else None

    def _look(self, stage: Stage, part: Rectangle, box: Box, behind: int = 0) -> None:
        """A part of the sheet in a box of the page, with the edges of the paper, over what earlier
        chapters have left (in the whole sheet only)."""
        look, sheet = look_at(part, box), self._sheet
        if behind:
            left = Placed(self._past.items(behind), look.corner)
            self.flow.add([Placed((left,), box=box)])
        paper = (*look.corner, look.scale * sheet.width_mm, look.scale * sheet.height_mm)
        self.flow.add([framed(stage, part, box), Placed((edge_of(paper),), box=box)])
        if part is not self._part:
            closer = part[3] - part[1] < self._part[3] - self._part[1]
            told = _("closer") if closer else _("beside the sheet")
            foot = (box[0] + 4 * MM_PER_POINT, box[1] + 4 * MM_PER_POINT)
            self.flow.add([edge_of(box), Words(told, foot, LABEL_MM)])


def _high(paragraphs: list[list[str]]) -> float:
    """How high paragraphs stand, mm."""
    return sum(LEADING * WORDS_MM * len(one) + BETWEEN_MM for one in paragraphs)
