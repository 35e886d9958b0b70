"""The second look: all rules asked, worst first."""

import time
from collections.abc import Iterator
from dataclasses import replace

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.drawing.volume_picture import VolumePicture
from isometron.remarks.remark import OF_ONE, Look, Remark, rules
from isometron.words import _, many

__all__ = ["SecondLook", "call_back", "gathered", "remark_key", "second_look", "set_aside"]


def second_look(document: Document, scene: Scene) -> list[Remark]:
    """Every remark on a document, the most serious and furthest from right first.

    Of what one rule says about the volumes of one group only the worst is kept: they share a cause.
    What the person has set aside for this sheet is not said again.
    """
    look = Look(document, scene)
    found = _in_order(document, [remark for rule in rules().values() for remark in rule(look)])
    return [remark for remark in found if remark_key(document, remark) not in document.aside]


def remark_key(document: Document, remark: Remark) -> str:
    """What a remark is set aside by: its rule, and the key of the volume it is about."""
    volume = "" if remark.volume is None else f" {document.volumes[remark.volume].key}"
    return f"{remark.rule}{volume}"


def gathered(document: Document, remarks: list[Remark]) -> tuple[list[Remark], list[str]]:
    """One remark for all that one rule says, in the words of the worst, and what each is set aside
    by: the keys of all that it stands for, one to a line."""
    together: dict[str, list[Remark]] = {}
    for remark in remarks:
        together.setdefault(remark.rule or remark.title, []).append(remark)
    told, keys = [], []
    for worst, *others in together.values():
        keys.append("\n".join(remark_key(document, one) for one in (worst, *others)))
        told.append(_for_all(document, worst, others) if others else worst)
    return told, keys


NAMED = 3
"""Of more volumes than this, of which the same is said, only the number is told."""


def _for_all(document: Document, worst: Remark, others: list[Remark]) -> Remark:
    """The worst remark, with the others it stands for."""
    numbers = [one.volume for one in others if one.volume is not None]
    names = list(dict.fromkeys(document.volumes[n].name for n in numbers))
    count = len(others)
    if 0 < len(names) <= NAMED and len(names) == count:
        more = _("So it is with {names}.").format(names=", ".join(names))
    else:
        more = many("So it is at {n} more place.", "So it is at {n} more places.", count)
        more = more.format(n=count)
    return worst._replace(text=f"{worst.text} {more}")


def set_aside(document: Document, key: str) -> Document:
    """The document with a remark set aside, or several with their keys one to a line: it is as the
    person wants it."""
    return replace(document, aside=document.aside | set(key.splitlines()))


def call_back(document: Document) -> Document:
    """The document with every remark called back."""
    return replace(document, aside=frozenset())


def _in_order(document: Document, remarks: list[Remark]) -> list[Remark]:
    ordered = sorted(remarks, key=lambda remark: (remark.severity, -remark.excess))
    kept, told = [], set()
    for remark in ordered:
        group = "" if remark.volume is None else document.volumes[remark.volume].group
        if not group or (remark.rule, group) not in told:
            kept.append(remark)
        told.add((remark.rule, group))
    return kept


class SecondLook:
    """A second look that can be interrupted, and that looks again only at volumes whose picture is
    another one. `remarks` are those of the last look that came to its end."""

    def __init__(self) -> None:
        self.remarks: list[Remark] = []
        self.aside = 0
        """How many are set aside."""
        self._known: dict[int, tuple[VolumePicture, dict[str, list[Remark]]]] = {}
        self._for: object = None

    def steps(self, document: Document, scene: Scene) -> Iterator[None]:
        """Look at a document, a volume or a rule to a step."""
        depends, asked = (document.sheet, document.choices, document.kit), rules()
        if depends != self._for:
            self._known, self._for = {}, depends
        for index, picture in enumerate(scene.pictures):
            known = self._known.get(index)
            if known is None or known[0] is not picture:
                alone = Look(document, scene, index)
                said = {name: asked[name](alone) for name in asked if name in OF_ONE}
                self._known[index] = (picture, {name: told for name, told in said.items() if told})
                yield
        count, look = len(scene.pictures), Look(document, scene)
        found: list[Remark] = []
        for name, rule in asked.items():
            if name in OF_ONE:
                for index in range(count):
                    found += self._known[index][1].get(name, ())
            else:
                found += rule(look)
                yield
        every = _in_order(document, found)
        self.remarks = [one for one in every if remark_key(document, one) not in document.aside]
        self.aside = len(every) - len(self.remarks)

    def work(self, steps: Iterator[None], ms: float) -> bool:
        """Some steps, for about so long; gives whether there are more."""
        until = time.perf_counter() + ms / 1000
        return any(time.perf_counter() > until for _step in steps)
