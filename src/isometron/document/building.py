"""How a sheet is built by hand: the method, and what the person has done so far."""

import re
from dataclasses import dataclass

from isometron.perspective.errors import IsometronError
from isometron.words import _, said

METHODS = (
    said("by eye"),
    said("plan projection"),
    said("measuring points"),
    said("diagonal point"),
)
"""The schools a build order can be written for."""

SEEN, EVERYTHING, FRAMEWORK = said("what is seen"), said("everything"), said("framework only")
REACHES = (SEEN, EVERYTHING, FRAMEWORK)
"""How much an order constructs: what the finished drawing shows, what is hidden too, or the boxes
alone."""

MOST_KEYS = 5000
LONGEST_KEY = 120


_RENAMED = (
    (re.compile(r"(v\d+\.close-(?:width|depth|height))-[-+.e\d]+"), r"\1"),
    (re.compile(r"(v\d+)\.fan-[01]"), r"\1.fans"),
    (re.compile(r"(v\d+\.circle-\d+)\.middle"), r"\1.square"),
    (re.compile(r"sheet\.centre"), "sheet.eye-level"),
    (re.compile(r"finish\.weights"), "finish.object"),
)


def key_now(key: str) -> str:
    """The key of a step as it is now: steps that close a side once had its length in theirs and
    lost their ticks when it changed, others have become one with the step beside them."""
    for before, now in _RENAMED:
        if before.fullmatch(key):
            return before.sub(now, key)
    return key


class BuildError(IsometronError):
    """A way of building that the bench does not know."""


@dataclass(frozen=True)
class Building:
    """method, one of METHODS; points_first: vanishing points are laid first, else the station
    point; done and hidden: keys of steps; chapters: keys of chapters in the person's own order;
    reach, one of REACHES."""

    method: str = "measuring points"
    points_first: bool = True
    done: frozenset[str] = frozenset()
    hidden: frozenset[str] = frozenset()
    chapters: tuple[str, ...] = ()
    reach: str = SEEN

    def __post_init__(self) -> None:
        object.__setattr__(self, "done", frozenset(map(key_now, self.done)))
        object.__setattr__(self, "hidden", frozenset(map(key_now, self.hidden)))
        if self.method not in METHODS:
            raise BuildError(
                _("“{method}” is no method here: use one of {methods}.").format(
                    method=self.method, methods=", ".join(METHODS)
                )
            )
        if self.reach not in REACHES:
            raise BuildError(
                _("“{reach}” is no reach of an order: use one of {reaches}.").format(
                    reach=self.reach, reaches=", ".join(REACHES)
                )
            )
        keys = (*self.done, *self.hidden, *self.chapters)
        if len(keys) > MOST_KEYS or any(not 0 < len(key) <= LONGEST_KEY for key in keys):
            raise BuildError(_("The ticks of this sheet's build order are damaged: take them out."))
