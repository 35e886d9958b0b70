"""What a reading says: numbers with their standard errors, and what is refused."""

from dataclasses import dataclass, field


@dataclass(frozen=True)
class Quantity:
    """A number and its standard error."""

    value: float
    standard_error: float


@dataclass(frozen=True)
class View:
    """The eye: what the marks do not tell is None. Degrees; lengths in the picture's unit."""

    station_distance: Quantity | None
    heading_deg: Quantity | None
    tilt_deg: Quantity | None
    roll_deg: Quantity | None
    centre_of_vision: tuple[Quantity, Quantity] | None


@dataclass(frozen=True)
class Vanishing:
    """Where a family runs: its vanishing point, or None at infinity; its direction in the eye's
    frame (right, up, away); how surely that is told, degrees, both ways together."""

    family: str
    at: tuple[float, float] | None
    direction: tuple[float, float, float]
    standard_error_deg: float


@dataclass(frozen=True)
class Sides:
    """Sides of the box for a width of 1, with their covariance; and at true size where a length is
    known, by family."""

    depth: Quantity | None
    height: Quantity | None
    covariance: tuple[tuple[float, float], tuple[float, float]] | None
    true: dict[str, Quantity] = field(default_factory=dict)


@dataclass(frozen=True)
class Rim:
    """A rim by itself: its ellipse."""

    name: str
    centre: tuple[Quantity, Quantity]
    semi_major: Quantity
    semi_minor: Quantity
    major_axis_deg: Quantity
    degree_deg: Quantity


@dataclass(frozen=True)
class RowTold:
    """Lengths between neighbouring places of a row, in the first of them."""

    name: str
    family: str
    lengths: tuple[Quantity, ...]


@dataclass(frozen=True)
class HeightTold:
    """How tall a named upright edge is, in heights of the eye above the ground, when it stands on
    the ground."""

    edge: int
    name: str
    eye_heights: Quantity


@dataclass(frozen=True)
class Refused:
    """What the marks do not tell, why, and what would tell it."""

    what: str
    why: str
    would_help: str


@dataclass(frozen=True)
class SetAside:
    """An edge that does not fit, and why."""

    edge: int
    why: str


@dataclass(frozen=True)
class Reading:
    """All that marks say."""

    view: View | None
    eye_level: tuple[Quantity, Quantity] | None
    vanishing: tuple[Vanishing, ...]
    sides: Sides | None
    noise: Quantity
    residuals: tuple[float | None, ...]
    set_aside: tuple[SetAside, ...]
    rims: tuple[Rim, ...]
    rows: tuple[RowTold, ...]
    refused: tuple[Refused, ...]
    heights: tuple[HeightTold, ...] = ()
