"""How a volume stands: on the ground, on or against others, through them, inside, or in the air."""

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.hiding.contact import TOUCH_MM, How, contact
from isometron.perspective.lengths import write_length
from isometron.words import _

MOST_TOLD = 3
"""More neighbours than this are not told one by one."""

SAID = {
    How.ON: _("stands on {names}"),
    How.AGAINST: _("lies against {names}"),
    How.UNDER: _("carries {names}"),
    How.THROUGH: _("runs through {names}"),
    How.INSIDE: _("is inside {names}"),
    How.AROUND: _("holds {names} inside"),
}


def touching(document: Document, scene: Scene, index: int) -> dict[How, list[int]]:
    """Numbers of the volumes that one touches, pierces or lies inside, by how."""
    own = scene.pictures[index].figure
    found: dict[How, list[int]] = {}
    for other, picture in enumerate(scene.pictures):
        shown = document.volumes[other].shown and not document.volumes[other].ghost
        if other == index or not shown:
            continue
        meeting = scene.meetings.get((min(index, other), max(index, other)))
        pierced = None if meeting is None else meeting.there
        how = contact(own, picture.figure, pierced=pierced).how
        if how is not How.APART:
            found.setdefault(how, []).append(other)
    return found


def stands(document: Document, scene: Scene, index: int) -> str:
    """How a volume stands, in a sentence."""
    found = touching(document, scene, index)
    low = float(scene.pictures[index].figure.reach[2])
    told = []
    if abs(low) <= TOUCH_MM:
        told.append(_("stands on the ground"))
    told += [SAID[how].format(names=_names(document, found[how])) for how in SAID if how in found]
    carried = abs(low) <= TOUCH_MM or How.ON in found or How.INSIDE in found
    if not carried and low > 0:
        told.append(_hangs(document, scene, index))
    elif not carried and low < 0:
        sunk = write_length(-low, document.choices.unit)
        told.append(_("reaches {depth} below the ground").format(depth=sunk))
    return _("It {told}.").format(told=", ".join(told))


def _names(document: Document, numbers: list[int]) -> str:
    names = [document.volumes[i].name for i in numbers]
    if len(names) > MOST_TOLD:
        return _("{n} volumes").format(n=len(names))
    return _(" and ").join(names)


def _hangs(document: Document, scene: Scene, index: int) -> str:
    """How far it hangs over what lies under it, or over the ground."""
    own = scene.pictures[index].figure.reach
    unit, gap, name = document.choices.unit, float(own[2]), ""
    for other, picture in enumerate(scene.pictures):
        reach = picture.figure.reach
        apart = (own[:2] >= reach[3:5]).any() or (reach[:2] >= own[3:5]).any()
        under = float(own[2] - reach[5])
        if other != index and not apart and 0 <= under < gap:
            gap, name = under, document.volumes[other].name
    told = _("hangs {gap} above {name}") if name else _("hangs {gap} above the ground")
    return told.format(gap=write_length(gap, unit), name=name)
