"""Starters: first frameworks from a few numbers, one file for each.

The proportions are ours, made up for sketching. They are not engineering, safety or ergonomic data.
"""

from isometron.document.edits.starters.appliance import APPLIANCE
from isometron.document.edits.starters.chest import CHEST
from isometron.document.edits.starters.crates import CRATES
from isometron.document.edits.starters.figure import FIGURE
from isometron.document.edits.starters.kiosk import KIOSK
from isometron.document.edits.starters.ring_of_piers import RING_OF_PIERS
from isometron.document.edits.starters.seat import SEAT
from isometron.document.edits.starters.setting_down import with_starter
from isometron.document.edits.starters.shed import SHED
from isometron.document.edits.starters.shelf import SHELF
from isometron.document.edits.starters.starter import CAUTION, Question, Starter
from isometron.document.edits.starters.steps import STEPS
from isometron.document.edits.starters.table_and_stool import TABLE
from isometron.document.edits.starters.trailer import TRAILER
from isometron.document.edits.starters.turned_object import TURNED
from isometron.document.edits.starters.two_wheels import TWO_WHEELS
from isometron.document.edits.starters.vehicle import VEHICLE

STARTERS = (
    *(VEHICLE, TRAILER, TWO_WHEELS, SEAT, TABLE, SHELF, CRATES, CHEST, APPLIANCE, TURNED),
    *(STEPS, KIOSK, SHED, RING_OF_PIERS, FIGURE),
)
"""In the order of the menu."""

__all__ = [
    "APPLIANCE",
    "CAUTION",
    "CHEST",
    "CRATES",
    "FIGURE",
    "KIOSK",
    "RING_OF_PIERS",
    "SEAT",
    "SHED",
    "SHELF",
    "STARTERS",
    "STEPS",
    "TABLE",
    "TRAILER",
    "TURNED",
    "TWO_WHEELS",
    "VEHICLE",
    "Question",
    "Starter",
    "with_starter",
]
