"""What every kind of volume answers for itself.

Nothing here has an answer by default: a kind that leaves one out cannot be made, and the type
checker says which. To add a kind, write one file beside this one.
"""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from typing import ClassVar, NamedTuple, Self

import numpy as np
from numpy.typing import NDArray

from isometron.framework.bodies.body import Body, Circle
from isometron.framework.bodies.extruded import Carried
from isometron.framework.box import CORNERS
from isometron.framework.circles import FaceCircle, FacePlane, flat_plane, mirrored_on_face
from isometron.perspective.eye import Array
from isometron.perspective.places import Sides

Holes = Sequence[FaceCircle]
Triangles = tuple[Array, NDArray[np.intp]]
"""Vertices (n, 3) and triangles (t, 3) of vertex numbers, counter-clockwise from outside."""


class Outline(NamedTuple):
    """A plan outline: corners as shares of width and depth, counter-clockwise from above, each
    chamfered or rounded by `corner_mm`."""

    corners: tuple[tuple[float, float], ...]
    corner_mm: float
    rounded: bool


RECTANGLE = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))
"""The plan of a whole box."""


class Kind(ABC):
    """A frozen value that fills the box of a volume. Lengths in mm, own axes: width along x, depth
    along y, height along z, corner 0 at the origin. Refusals are VolumeErrors with a sentence."""

    word: ClassVar[str]
    """What it is called in a file; says which kind it is for ever."""
    rank: ClassVar[int]
    """Its place in lists: the most usual first."""

    @property
    @abstractmethod
    def called(self) -> str:
        """What the trade calls it, for lists and tables."""

    @property
    @abstractmethod
    def axle(self) -> int | None:
        """The own axis it is turned about, whose two sides across are then equal; None for none."""

    @property
    @abstractmethod
    def rolls(self) -> bool:
        """Whether it is a wheel: it stands on the ground by its rim and agrees with its mates."""

    @abstractmethod
    def body(self, sides: Sides, holes: Holes) -> Body:
        """Its body in a box of the given sides, round holes through it."""

    @abstractmethod
    def faceted(self, sides: Sides) -> Body | None:
        """It as a flat body that can be cut, or cut with; None for one that cannot."""

    @abstractmethod
    def contents_mm3(self, sides: Sides, holes: Holes) -> float:
        """True contents, mm³."""

    @abstractmethod
    def triangles(self, sides: Sides, holes: Holes) -> Triangles | None:
        """Its skin as triangles in own mm, for meshes; None for what has no body."""

    @abstractmethod
    def profile(self, sides: Sides, holes: Holes) -> Carried | None:
        """The outline it is built from by carrying it over from a flat view; None for a kind built
        from its corners or about an axle."""

    @abstractmethod
    def footprint(self, sides: Sides) -> Array:
        """The outline (n, 3) of its base in own mm, for the plan of what stands upright."""

    @abstractmethod
    def mirrored(self) -> Self:
        """It mirrored left to right in its box."""

    @abstractmethod
    def scaled(self, factors: Sides) -> Self:
        """It in a box whose sides have grown by factors."""

    @abstractmethod
    def face_plane(self, body: Body, sides: Sides, circle: FaceCircle) -> tuple[FacePlane, int]:
        """The face a circle is drawn on as a plane to draw in, and its number in the body."""

    @abstractmethod
    def mirrored_circle(
        self, circle: FaceCircle, body: Body, twin: Body, width_mm: float
    ) -> FaceCircle | None:
        """A circle on one of its faces as it lies on its twin; None when that face is not there."""

    @abstractmethod
    def circle_called(self, circle: Circle, circles: Sequence[Circle]) -> str:
        """What a sketcher calls one of the circles of its body."""

    @property
    @abstractmethod
    def leans(self) -> tuple[float, float, float, float] | None:
        """How far each upper edge (front, back, left, right) lies inside the lower one, mm; None
        for a kind whose sides cannot lean."""

    @property
    @abstractmethod
    def outline(self) -> "Outline | None":
        """Its plan outline, when it stands upright on one; else None."""


# What several kinds answer alike: a kind takes from these what is true of it, and says the rest.


class Unrolling:
    """No wheel."""

    rolls = False

    def circle_called(self, circle: Circle, circles: Sequence[Circle]) -> str:
        """As the body calls it."""
        return circle.called


class Unturned(Unrolling):
    """Turned about no axle."""

    axle = None


class Unleaning:
    """Its sides do not lean."""

    leans = None


class Unoutlined:
    """It stands on no outline of its own."""

    outline = None


class Uncarried:
    """It is carried over from no flat view."""

    def profile(self, sides: Sides, holes: Holes) -> Carried | None:
        """None."""
        return None


class Boxed:
    """Its base is that of its box."""

    def footprint(self, sides: Sides) -> Array:
        """The four corners of the base."""
        return np.asarray(CORNERS[[0, 1, 3, 2]] * np.array(sides))


class OnFaces:
    """Its circles lie on faces that its twin has too."""

    def mirrored_circle(
        self, circle: FaceCircle, body: Body, twin: Body, width_mm: float
    ) -> FaceCircle | None:
        """By its face."""
        return mirrored_on_face(circle, body, twin, width_mm)


class OnFlatFaces(OnFaces):
    """Those faces are flat."""

    def face_plane(self, body: Body, sides: Sides, circle: FaceCircle) -> tuple[FacePlane, int]:
        """The face itself."""
        return flat_plane(body, circle.face), circle.face


class OfShares:
    """All of it is said in shares of its box."""

    def scaled(self, factors: Sides) -> Self:
        """The same."""
        return self
