"""Which volumes are chosen, and what is done to all of them: list, groups, copies, removal."""

from collections.abc import Callable, Sequence, Set
from dataclasses import replace

import numpy as np

from isometron.document.document import Document
from isometron.framework.box import AXES
from isometron.framework.intentions.intention import TRUE_MM, Intention
from isometron.framework.placing import UNCOUNTED, Mirrored
from isometron.framework.volume import LONGEST_NAME, Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _

Change = Callable[[Volume], Volume]


def select(document: Document, index: int | None) -> Document:
    """Another volume in work (None for none), and no other chosen with it."""
    return replace(document, selected=index, also=frozenset(), circle=None)


def choose_also(document: Document, index: int) -> Document:
    """One more volume chosen, which becomes the one in work; a chosen one is let off."""
    chosen = set(document.chosen)
    if index in chosen:
        chosen.remove(index)
        lead = document.selected if document.selected in chosen else None
        lead = max(chosen, default=None) if lead is None else lead
        return replace(document, selected=lead, also=frozenset(chosen))
    return replace(document, selected=index, also=frozenset(chosen))


def bring_forward(document: Document, index: int) -> Document:
    """A volume that is chosen already becomes the one in work; the others stay chosen."""
    return replace(document, selected=index, also=frozenset(document.chosen))


def choose_all(document: Document) -> Document:
    """Every volume chosen."""
    count = len(document.volumes)
    lead = document.selected if document.selected is not None else (0 if count else None)
    return replace(document, selected=lead, also=frozenset(range(count)))


def choose_group(document: Document) -> Document:
    """All volumes of the groups that the chosen ones belong to."""
    groups = {document.volumes[i].group for i in document.chosen} - {""}
    also = {i for i, volume in enumerate(document.volumes) if volume.group in groups}
    return replace(document, also=document.also | frozenset(also))


def chosen_volumes(document: Document) -> list[Volume]:
    """The chosen volumes. Raises VolumeError when none is."""
    if not document.chosen:
        raise VolumeError(_("No volume is chosen: click one, or lay down a near edge."))
    return [document.volumes[i] for i in document.chosen]


def in_work(document: Document) -> tuple[int, Volume]:
    """Number and volume in work. Raises VolumeError when there is none."""
    if document.selected is None or document.volume is None:
        raise VolumeError(_("No volume is chosen: click one, or lay down a near edge."))
    return document.selected, document.volume


def change_chosen(document: Document, change: Change) -> Document:
    """The same change made to every chosen volume."""
    chosen_volumes(document)
    return document.with_each({i: change(document.volumes[i]) for i in document.chosen})


def show(document: Document, index: int, shown: bool) -> Document:
    """One volume shown or hidden; a hidden one is neither drawn nor hides anything."""
    return document.with_each({index: replace(document.volumes[index], shown=shown)})


def make_ghost(document: Document, ghost: bool) -> Document:
    """The chosen volumes as ghosts: pale, hiding nothing, only to compare with."""
    return change_chosen(document, lambda volume: replace(volume, ghost=ghost))


def lock(document: Document, index: int, locked: bool) -> Document:
    """One volume locked (its size and place stay) or unlocked."""
    return document.with_each({index: replace(document.volumes[index], locked=locked)})


def see_through_one(document: Document, index: int, own: bool | None) -> Document:
    """One volume see-through, solid, or (None) as the sheet is."""
    return document.with_each({index: replace(document.volumes[index], see_through=own)})


def see_through(document: Document, own: bool | None) -> Document:
    """The chosen volumes see-through, solid, or (None) as the sheet is."""
    return change_chosen(document, lambda volume: replace(volume, see_through=own))


def group(document: Document, name: str) -> Document:
    """The chosen volumes as one group (no name: none). Flush joints in a group are not drawn."""
    name = " ".join(name.split())
    if len(name) > LONGEST_NAME:
        raise VolumeError(
            _("A group's name needs up to {longest_name} letters: shorten it.").format(
                longest_name=LONGEST_NAME
            )
        )
    return change_chosen(document, lambda volume: replace(volume, group=name))


def group_chosen(document: Document) -> Document:
    """The chosen volumes as one group with a new name."""
    taken = {volume.group for volume in document.volumes}
    number = next(n for n in range(1, len(taken) + 2) if f"Group {n}" not in taken)
    return group(document, f"Group {number}")


def ungroup(document: Document) -> Document:
    """The chosen volumes in no group."""
    return group(document, "")


def move_in_list(document: Document, step: int) -> Document:
    """The volume in work further up (−1) or down (1) in the list."""
    index, _unused = in_work(document)
    to = min(max(index + step, 0), len(document.volumes) - 1)
    volumes = list(document.volumes)
    volumes.insert(to, volumes.pop(index))
    order = list(range(len(volumes)))
    order.insert(to, order.pop(index))
    also = frozenset(order.index(i) for i in document.also)
    return replace(document, volumes=tuple(volumes), selected=to, also=also)


def move_chosen_to(document: Document, row: int) -> Document:
    """The chosen volumes, in their order, put before what stands in a row of the list (0 to the
    number of volumes). Raises VolumeError for a row that is not there."""
    chosen = document.chosen
    if not chosen or not 0 <= row <= len(document.volumes):
        raise VolumeError(_("There is nothing to move there: choose a volume first."))
    before = [i for i in range(row) if i not in chosen]
    after = [i for i in range(row, len(document.volumes)) if i not in chosen]
    order = [*before, *chosen, *after]
    return replace(
        document,
        volumes=tuple(document.volumes[i] for i in order),
        selected=None if document.selected is None else order.index(document.selected),
        also=frozenset(order.index(i) for i in document.also),
    )


def group_with(document: Document, index: int) -> Document:
    """The chosen volumes in the group of another; in a new one with it when it has none."""
    other = document.volumes[index]
    chosen = {*document.chosen, index}
    wide = replace(document, also=frozenset(chosen - {document.selected}))
    if not other.group:
        return group_chosen(wide)
    return group(wide, other.group)


def rename_volume(document: Document, name: str) -> Document:
    """Another name for the volume in work. Raises VolumeError for an empty or endless one."""
    index, volume = in_work(document)
    name = " ".join(name.split())
    old = volume.name + "."

    def called(length: str) -> str:
        return f"{name}.{length.removeprefix(old)}" if length.startswith(old) else length

    def follow(other: Volume) -> Volume:
        width, depth, height = (
            None if count is None else count.called_anew(called) for count in other.counts
        )
        on = other.on
        if on is not None and on.counts != UNCOUNTED:
            x, y, z = (None if c is None else c.called_anew(called) for c in on.counts)
            on = replace(on, counts=(x, y, z))
        return replace(other, counts=(width, depth, height), on=on)

    volumes = [follow(other) for other in document.volumes]
    volumes[index] = replace(volumes[index], name=name)
    return document.settled(volumes)


def remove_chosen(document: Document) -> Document:
    """The sheet without the chosen volumes. Raises VolumeError when one of them is locked."""
    chosen = chosen_volumes(document)
    for volume in chosen:
        if volume.locked:
            raise VolumeError(
                _("{name} is pinned: take its pin out in the list first.").format(name=volume.name)
            )
    gone = set(document.chosen)
    left = [volume for i, volume in enumerate(document.volumes) if i not in gone]
    lead = min(*gone, len(left) - 1) if left else None
    bare = replace(document, volumes=(), selected=None, also=frozenset())
    return replace(bare.settled(left), selected=lead)


def with_new(
    document: Document, volumes: Sequence[Volume], ties: Sequence[Intention] = ()
) -> Document:
    """The sheet with more volumes, given keys of their own and chosen.

    Whatever hangs among them keeps hanging so; what hangs on a volume of the sheet too. ties: what
    the volumes they are copies of are meant to be to each other; what is true of them stays so.
    """
    free = document.free_key
    keys = {volume.key: free + number for number, volume in enumerate(volumes)}
    fresh = [replace(_rekeyed(one, keys), key=free + n) for n, one in enumerate(volumes)]
    first = len(document.volumes)
    grown = document.settled([*document.volumes, *fresh])
    parts = grown.parts
    meant = [one.rekeyed(keys) for one in ties if keys.keys() >= set(one.keys)]
    meant = [one for one in meant if one.miss_mm(parts) <= TRUE_MM]
    return replace(
        grown,
        intentions=(*grown.intentions, *meant),
        selected=first + len(fresh) - 1 if fresh else grown.selected,
        also=frozenset(range(first, first + len(fresh))),
    )


def _rekeyed(volume: Volume, keys: dict[int, int]) -> Volume:
    on, like = volume.on, volume.like
    if on is not None:
        on = replace(on, parent=keys.get(on.parent, on.parent))
    if like is not None:
        like = replace(like, source=keys.get(like.source, like.source))
        if isinstance(like, Mirrored):
            like = replace(like, about=keys.get(like.about, like.about))
    return replace(volume, key=keys[volume.key], on=on, like=like)


def paste(
    document: Document, volumes: Sequence[Volume], ties: Sequence[Intention] = ()
) -> Document:
    """Copied volumes set on the sheet: with new names a little aside of where they were, or, where
    none of their names is there any more (they were cut), as they were; and the ties
    between them."""
    if not volumes:
        raise VolumeError(_("There is no volume to paste: copy some first."))
    width = max(volume.width_mm for volume in volumes)
    step = 0.25 * width * volumes[0].axes()[0].astype(float)
    fresh = []
    named = document
    taken = {volume.name for volume in document.volumes}
    gone = taken.isdisjoint(volume.name for volume in volumes)
    step = 0.0 * step if gone else step
    for volume in volumes:
        stem = volume.name.rstrip("0123456789 ") or _("Box")
        name = volume.name if gone else free_name(named, stem)
        x, y, z = (float(v) for v in np.array(volume.place) + step)
        copy = replace(volume, name=name, x_mm=x, y_mm=y, z_mm=z, locked=False)
        fresh.append(copy)
        named = replace(named, volumes=(*named.volumes, replace(copy, key=named.free_key)))
    known = {module.name for module in document.modules} | set(AXES)
    known |= {f"{one.name}.{axis}" for one in (*document.volumes, *fresh) for axis in AXES}
    return with_new(document, [_released(volume, fresh, known) for volume in fresh], ties)


def _released(volume: Volume, among: Sequence[Volume], known: set[str]) -> Volume:
    """A pasted volume: free of what was not copied with it, and as long as it is where it was
    counted in something that the sheet does not know."""
    width, depth, height = (
        count if count is None or known.issuperset(count.names) else None for count in volume.counts
    )
    volume = replace(volume, counts=(width, depth, height))
    return free_of_lost(volume, {other.key for other in among})


def free_of_lost(volume: Volume, there: Set[int]) -> Volume:
    """A volume free of what it stands on, or copies, where that is not there, by keys."""
    on = volume.on if volume.on is not None and volume.on.parent in there else None
    like = volume.like
    if like is not None and not {like.source, getattr(like, "about", like.source)} <= there:
        like = None
    return replace(volume, on=on, like=like)


def with_new_volume(document: Document, volume: Volume) -> Document:
    """The sheet with one more volume, in work."""
    return with_new(document, [volume])


def free_name(document: Document, stem: str) -> str:
    """The first of stem 1, stem 2, … that no volume has."""
    taken = {volume.name for volume in document.volumes}
    number = 1
    while f"{stem} {number}" in taken:
        number += 1
    return f"{stem} {number}"


def own_name(document: Document, name: str) -> str:
    """A name no volume of the sheet has, numbered where another has it."""
    taken = {volume.name for volume in document.volumes}
    number = 2
    given = name
    while given in taken:
        given, number = f"{name} {number}", number + 1
    return given
