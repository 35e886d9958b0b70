"""Readings: what is picked, or else the near edge of the volume in work, measures."""

from dataclasses import replace

from isometron.document.document import Document
from isometron.drawing.between import between, vehicle
from isometron.drawing.measures import near_edge_number
from isometron.drawing.picks.curve import CirclePick
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.picks.pick import Pick, Reading
from isometron.drawing.rounds import circle_in_work
from isometron.drawing.scene import Scene


def default_pick(document: Document, scene: Scene) -> Pick | None:
    """What is read when nothing is picked: the near edge of the volume in work."""
    if not scene.pictures:
        return None
    index = document.selected or 0
    picture = scene.pictures[index]
    edge = near_edge_number(document.eye, picture)
    if picture.body.bent or edge is None:
        circle = circle_in_work(replace(document, selected=index), scene)
        if circle is not None:
            return CirclePick(index, circle.number)
    return None if edge is None else EdgePick(index, edge)


def reading_of(document: Document, scene: Scene, pick: Pick | None) -> Reading | None:
    """The reading of what is picked, else of what lies between two chosen volumes or of a chosen
    vehicle, else of the near edge of the volume in work; None without."""
    if pick is None:
        several = between(document, scene) or vehicle(document)
        if several is not None:
            return several
    if pick is None or not pick.is_there(scene):
        pick = default_pick(document, scene)
    return None if pick is None else pick.reading(document, scene)
