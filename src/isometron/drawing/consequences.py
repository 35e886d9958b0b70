"""What a step did that nobody may have meant: nothing at all, nothing that is seen, a volume that
is seen no more, one that hangs in the air or runs through another since."""

from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.drawing.stands import touching
from isometron.drawing.volume_picture import VolumePicture
from isometron.hiding.contact import TOUCH_MM, How
from isometron.perspective.eye import Array
from isometron.perspective.lengths import write_length
from isometron.perspective.sheet import Sheet
from isometron.words import _

MOST_VOLUMES, MOST_CHANGED, MOST_TOLD = 200, 12, 2
"""Of more volumes, or of so many that were changed at once, only what is seen is told; no more
sentences than so many."""

NOTHING = _("Nothing changes: it is so already.")


def consequences(before: Document, old: Scene, after: Document, new: Scene) -> list[str]:
    """Sentences about what a step did besides what was asked for. `old` and `new` are the scenes of
    the two documents; volumes are told apart by their keys."""
    was = {volume.key: n for n, volume in enumerate(before.volumes)}
    kept = {n: was[volume.key] for n, volume in enumerate(after.volumes) if volume.key in was}
    told = _gone(before, old, after, new, kept)
    raised = replace(before.eye, height_mm=after.eye.height_mm)
    if not before.volumes and before.eye != after.eye == raised:
        high = write_length(after.eye.height_mm, after.choices.unit)
        told.append(
            _("The eye now stands {high} high, so that first numbers are round.").format(high=high)
        )
    if before.volumes == after.volumes or len(after.volumes) > MOST_VOLUMES:
        return told[:MOST_TOLD]
    changed = [
        n for n, first in kept.items()
        if not np.array_equal(old.pictures[first].world, new.pictures[n].world)
        or old.pictures[first].body is not new.pictures[n].body
    ]  # fmt: skip
    if not changed or len(changed) > MOST_CHANGED:
        return told[:MOST_TOLD]
    told += _collided(before, old, after, new, {n: kept[n] for n in changed})
    if (
        not told
        and before.views == after.views
        and after.light is None
        and _alike(after, old, new, kept)
    ):
        told.append(_("It is done, and nothing of it is seen from here."))
    return told[:MOST_TOLD]


def _seen(sheet: Sheet, picture: VolumePicture) -> bool:
    """Whether anything of a volume is seen on the sheet."""
    pieces = picture.pieces
    seen = pieces.seen & pieces.drawn
    if not seen.any():
        return False
    straight = picture.lines[seen[: len(picture.lines)]].reshape(-1, 2, 2)
    if picture.curves is not None or seen[len(picture.lines) :].any() or not len(straight):
        return True
    size = np.array([sheet.width_mm, sheet.height_mm])
    return bool(((straight.max(axis=1) >= 0) & (straight.min(axis=1) <= size)).all(axis=1).any())


def _gone(
    before: Document, old: Scene, after: Document, new: Scene, kept: dict[int, int]
) -> list[str]:
    """Volumes that were seen, and are no more though they are shown."""
    found = []
    for n, first in kept.items():
        volume, picture = after.volumes[n], new.pictures[n]
        if not volume.shown or picture is old.pictures[first]:
            continue
        if not _seen(before.sheet, old.pictures[first]) or _seen(after.sheet, picture):
            continue
        behind = not (picture.depth > 0).any()
        hidden = not (picture.pieces.seen & picture.pieces.drawn).any()
        if behind:
            told = _("“{name}” is seen no more: it lies behind the eye.")
        elif hidden:
            told = _("“{name}” is seen no more: other volumes hide it.")
        else:
            told = _("“{name}” is seen no more: it lies off the sheet.")
        found.append(told.format(name=volume.name))
    return found


def _collided(
    before: Document, old: Scene, after: Document, new: Scene, changed: dict[int, int]
) -> list[str]:
    """Changed volumes that run through others since, or hang in the air since."""
    found = []
    keys = [volume.key for volume in before.volumes]
    for n, first in changed.items():
        volume = after.volumes[n]
        if not volume.shown or volume.ghost:
            continue
        was, now = touching(before, old, first), touching(after, new, n)
        through = {keys[other] for other in was.get(How.THROUGH, ())}
        into = [m for m in now.get(How.THROUGH, ()) if after.volumes[m].key not in through]
        if into:
            told = _("“{name}” runs through “{other}” now.")
            found.append(told.format(name=volume.name, other=after.volumes[into[0]].name))
        elif _held(old, first, was) and not _held(new, n, now):
            found.append(_("“{name}” touches nothing now: it hangs in the air.").format(
                name=volume.name))  # fmt: skip
    return found


def _held(scene: Scene, number: int, touched: dict[How, list[int]]) -> bool:
    """Whether a volume stands on the ground, reaches below it, or touches anything."""
    return bool(touched) or float(scene.pictures[number].figure.reach[2]) <= TOUCH_MM


def _alike(after: Document, old: Scene, new: Scene, kept: dict[int, int]) -> bool:
    """Whether two scenes of the same volumes draw the same."""
    if len(old.pictures) != len(new.pictures) or len(kept) != len(new.pictures):
        return False
    through = after.choices.see_through or any(volume.see_through for volume in after.volumes)
    return all(
        old.pictures[first] is new.pictures[n]
        or np.array_equal(
            _drawn(old.pictures[first], through=through), _drawn(new.pictures[n], through=through)
        )
        for n, first in kept.items()
    )


def _drawn(picture: VolumePicture, *, through: bool) -> Array:
    """(k,) numbers of all that is drawn of a volume, hidden edges too where one sees through."""
    count = len(picture.lines)
    shown = picture.pieces.drawn & (picture.pieces.seen | through)
    return np.concatenate(
        [picture.lines[shown[:count]].ravel(), picture.arcs[shown[count:]].ravel()]
    )
