"""Variants of a framework on one sheet, seen from the same eyes: A, B, C …"""

from dataclasses import dataclass, field
from typing import Any

from isometron.document.begun import Begun
from isometron.document.errors import ChoiceError
from isometron.framework.dimensions import Dimension
from isometron.framework.intentions.intention import Intention
from isometron.framework.settling import Modules
from isometron.framework.volume import Volume
from isometron.words import _

MOST_VARIANTS = 12
LONGEST_NAME = 40

FIELDS = ("volumes", "modules", "dimensions", "intentions", "begun")
"""What a variant has for itself; eyes, paper, light, pictures are the sheet's."""


@dataclass(frozen=True)
class Variant:
    """One version of the framework and its name. Of the variant in hand only the name counts: what
    it is lies on the sheet itself."""

    name: str
    volumes: tuple[Volume, ...] = ()
    modules: Modules = ()
    dimensions: tuple[Dimension, ...] = ()
    intentions: tuple[Intention, ...] = ()
    begun: tuple[Begun, ...] = ()
    kept: dict[Any, Any] = field(default_factory=dict, compare=False, repr=False)
    """What has been worked out of it."""

    def __post_init__(self) -> None:
        if not (1 <= len(self.name) <= LONGEST_NAME and self.name.isprintable()):
            raise ChoiceError(_("A variant's name has 1 to 40 plain letters: change it."))


def fair_variants(variants: tuple[Variant, ...], at: int) -> None:
    """Raise ChoiceError for more than a sheet carries, two of one name, or none in hand."""
    if len(variants) > MOST_VARIANTS:
        raise ChoiceError(_("A sheet has {most} variants: drop one.").format(most=MOST_VARIANTS))
    if len({one.name for one in variants}) < len(variants):
        raise ChoiceError(_("Two variants have one name: call them differently."))
    if len(variants) == 1 or not 0 <= at < max(len(variants), 1):
        raise ChoiceError(_("One of several variants is in hand: choose one that is there."))
