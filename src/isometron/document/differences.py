"""What tells two documents apart, in a few words."""

from isometron.document.document import Document
from isometron.words import _, many

MOST_NAMES = 4


def differences(ours: Document, theirs: Document) -> str:
    """In what another document differs from ours, as the end of a sentence; “nothing” when it holds
    the same work. Volumes are told apart by their keys."""
    if ours.same_work(theirs):
        return _("nothing")
    mine = {volume.key: volume for volume in ours.volumes}
    other = {volume.key: volume for volume in theirs.volumes}
    there = [v.name for key, v in other.items() if key not in mine]
    here = [v.name for key, v in mine.items() if key not in other]
    changed = [v.name for key, v in mine.items() if key in other and other[key] != v]
    told = [
        _("{names} only there").format(names=_names(there)) if there else "",
        _("{names} only here").format(names=_names(here)) if here else "",
        _("{names} changed").format(names=_names(changed)) if changed else "",
        _("another eye") if ours.views != theirs.views else "",
        _("another paper") if ours.sheet != theirs.sheet else "",
        _("other pictures or marks") if ours.pictures != theirs.pictures else "",
    ]
    return "; ".join(filter(None, told)) or _("choices or aids")


def _names(names: list[str]) -> str:
    more = len(names) - MOST_NAMES
    shown = ", ".join(f"“{name}”" for name in names[:MOST_NAMES])
    if more <= 0:
        return shown
    return many("{names} and {n} more", "{names} and {n} more", more).format(names=shown, n=more)
