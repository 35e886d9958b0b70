"""The document: one sheet seen from one eye, with its volumes and the person's choices."""

from dataclasses import dataclass, field, replace

from isometron.framework.box import Box
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Eye
from isometron.perspective.lengths import MM_PER
from isometron.perspective.sheet import Sheet

CONE_RANGE_DEG = (10.0, 120.0)
"""Full angles of the cone of vision a person may choose."""

DEFAULT_CONE_DEG = 60.0
"""The usual cone of vision; cautious people use 40° to 50°."""

DEFAULT_RULER_MM = 300.0
"""The ruler most people have in the drawer."""

RULER_RANGE_MM = (50.0, 5000.0)
"""Rulers that can be bought or made."""

MOST_VOLUMES = 2000
"""More volumes than this are not a framework but a mistake."""

UNITS = ("mm", "cm", "in")
"""Units the sheet can be read in."""


class ChoiceError(IsometronError):
    """A choice outside what the bench offers."""


@dataclass(frozen=True)
class Choices:
    """What the person has chosen for this sheet: units, limits of judgement, what is drawn."""

    unit: str = "cm"
    cone_deg: float = DEFAULT_CONE_DEG
    ruler_mm: float = DEFAULT_RULER_MM
    see_through: bool = True
    fans: bool = True

    def __post_init__(self) -> None:
        if self.unit not in UNITS or self.unit not in MM_PER:
            raise ChoiceError(f"“{self.unit}” is not a unit here: use one of {', '.join(UNITS)}.")
        _within("The cone of vision", self.cone_deg, CONE_RANGE_DEG, "°")
        _within("The ruler", self.ruler_mm, RULER_RANGE_MM, " mm")


def _within(what: str, value: float, limits: tuple[float, float], unit: str) -> None:
    least, most = limits
    if not least <= value <= most:
        raise ChoiceError(
            f"{what} of {value:g}{unit} is of no use: choose {least:g}{unit} to {most:g}{unit}."
        )


BLANK_EYE = Eye(
    x_mm=0.0,
    y_mm=0.0,
    height_mm=400.0,
    heading_deg=35.0,
    tilt_deg=0.0,
    station_distance_mm=500.0,
    centre_of_vision_mm=(210.0, 200.0),
)
"""A seated person's eye over a table, two-point, eye level on the upper third of an A3 sheet."""


@dataclass(frozen=True)
class Document:
    """Everything about one sheet. `yaw_deg` is the lie of the set-up: the direction that new
    volumes, and an empty sheet's vanishing points, take. `selected` is the volume in work."""

    sheet: Sheet = field(default_factory=Sheet)
    eye: Eye = BLANK_EYE
    volumes: tuple[Box, ...] = ()
    selected: int | None = None
    yaw_deg: float = 0.0
    choices: Choices = field(default_factory=Choices)

    def __post_init__(self) -> None:
        if len(self.volumes) > MOST_VOLUMES:
            raise ChoiceError(
                f"{len(self.volumes)} volumes are more than one sheet carries: "
                f"keep to {MOST_VOLUMES}."
            )
        if self.selected is not None and not 0 <= self.selected < len(self.volumes):
            raise ChoiceError("The volume in work is not on this sheet: choose one that is.")

    @property
    def volume(self) -> Box | None:
        """The volume in work: the selected one."""
        return None if self.selected is None else self.volumes[self.selected]

    @property
    def lead(self) -> Box | None:
        """The volume the set-up is told by: the selected one, else the first."""
        return self.volume or (self.volumes[0] if self.volumes else None)

    @property
    def lead_yaw_deg(self) -> float:
        """Yaw of the directions the set-up is told by."""
        return self.yaw_deg if self.lead is None else self.lead.yaw_deg

    def same_work(self, other: "Document") -> bool:
        """Whether two documents differ in nothing but which volume is selected."""
        return replace(self, selected=None) == replace(other, selected=None)

    def with_volume(self, index: int, box: Box) -> "Document":
        """The document with one volume replaced."""
        return replace(
            self, volumes=(*self.volumes[:index], box, *self.volumes[index + 1 :]), selected=index
        )
