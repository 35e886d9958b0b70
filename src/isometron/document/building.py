"""How a sheet is built by hand: the method, and what the person has done so far."""

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

MOST_KEYS = 5000
LONGEST_KEY = 120


class BuildError(IsometronError):
    """A way of building that the bench does not know."""


@dataclass(frozen=True)
class Building:
    """method, one of METHODS; points_first: vanishing points are laid first, else the station
    point; done and hidden: keys of steps; chapters: keys of chapters in the person's own order."""

    method: str = "measuring points"
    points_first: bool = True
    done: frozenset[str] = frozenset()
    hidden: frozenset[str] = frozenset()
    chapters: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if self.method not in METHODS:
            raise BuildError(
                _("“{method}” is no method here: use one of {methods}.").format(
                    method=self.method, methods=", ".join(METHODS)
                )
            )
        keys = (*self.done, *self.hidden, *self.chapters)
        if len(keys) > MOST_KEYS or any(not 0 < len(key) <= LONGEST_KEY for key in keys):
            raise BuildError(_("The ticks of this sheet's build order are damaged: take them out."))
