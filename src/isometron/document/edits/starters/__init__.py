"""Starters: first frameworks from a few numbers, one file for each.

The proportions are ours, made up for sketching. They are not engineering, safety or ergonomic data.
"""

from isometron.document.edits.starters.appliance import APPLIANCE
from isometron.document.edits.starters.boat import BOAT
from isometron.document.edits.starters.chest import CHEST
from isometron.document.edits.starters.crates import CRATES
from isometron.document.edits.starters.figure import FIGURE
from isometron.document.edits.starters.hand_tool import HAND_TOOL
from isometron.document.edits.starters.kiosk import KIOSK
from isometron.document.edits.starters.pump import PUMP
from isometron.document.edits.starters.rack import RACK
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
from isometron.document.edits.starters.wall_lamp import WALL_LAMP
from isometron.words import said

SORTS = (
    (said("To ride and haul"), (VEHICLE, TRAILER, TWO_WHEELS, BOAT)),
    (said("To sit and store"), (SEAT, TABLE, SHELF, RACK, CRATES, CHEST)),
    (said("Devices and objects"), (TURNED, APPLIANCE, WALL_LAMP, HAND_TOOL, PUMP)),
    (said("Buildings, people"), (STEPS, KIOSK, SHED, RING_OF_PIERS, FIGURE)),
)
"""The starters by what they are, in the order of the menu."""

STARTERS = tuple(one for _sort, its in SORTS for one in its)

__all__ = [
    "APPLIANCE",
    "BOAT",
    "CAUTION",
    "CHEST",
    "CRATES",
    "FIGURE",
    "HAND_TOOL",
    "KIOSK",
    "PUMP",
    "RACK",
    "RING_OF_PIERS",
    "SEAT",
    "SHED",
    "SHELF",
    "SORTS",
    "STARTERS",
    "STEPS",
    "TABLE",
    "TRAILER",
    "TURNED",
    "TWO_WHEELS",
    "VEHICLE",
    "WALL_LAMP",
    "Question",
    "Starter",
    "with_starter",
]
