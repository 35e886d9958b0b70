"""Undo and redo: the documents before and after, and what each step was called."""

import sys
from collections import deque
from dataclasses import fields, is_dataclass
from typing import Any

from isometron.document.document import Document

MOST_BYTES = 48_000_000
"""What the steps may weigh together before the oldest is let go of."""

STEP_BYTES = 1000
"""What the smallest step weighs: a document of its own."""


class History:
    """The document in work with the steps that led to it and those taken back.

    Documents share their parts, so a step weighs what is its own alone; what was worked out of a
    volume that stands no more is let go of and worked out again on the way back. `lost` counts the
    oldest steps dropped because all of them weighed more than `most_bytes`.
    """

    def __init__(
        self, document: Document, kept: Document | None = None, most_bytes: int | None = None
    ) -> None:
        """`kept` is what lies on the disk, when that is not the document."""
        self.document = document
        self.lost = 0
        self._most_bytes = MOST_BYTES if most_bytes is None else most_bytes
        self._before: deque[tuple[str, Document]] = deque()
        self._weights: deque[int] = deque()
        self._weight = 0
        self._after: list[tuple[str, Document]] = []
        self._kept = kept or document

    def take(self, name: str, document: Document) -> None:
        """One step: the next document and its name. A mere change of selection is no step."""
        if document == self.document:
            return
        if document.same_work(self.document):
            self.document = document
            return
        self._push(name, self.document, document)
        self._after.clear()
        self._stand(document)
        while self._weight > self._most_bytes and len(self._before) > 1:
            self._before.popleft()
            self._weight -= self._weights.popleft()
            self.lost += 1

    def undo(self) -> None:
        """Back to the document before the last step, if there is one."""
        if self._before:
            name, document = self._before.pop()
            self._weight -= self._weights.pop()
            self._after.append((name, self.document))
            self._stand(document)

    def redo(self) -> None:
        """Forward again to a step taken back, if there is one."""
        if self._after:
            name, document = self._after.pop()
            self._push(name, self.document, document)
            self._stand(document)

    @property
    def undo_name(self) -> str | None:
        """Name of the step that undo takes back."""
        return self._before[-1][0] if self._before else None

    @property
    def redo_name(self) -> str | None:
        """Name of the step that redo takes again."""
        return self._after[-1][0] if self._after else None

    @property
    def steps(self) -> list[tuple[str, int]]:
        """Every step by its name, the latest first, with how many steps lead from now to just after
        it: below nought back, above it forward again, 0 the last one taken."""
        again = [(name, n) for n, (name, _document) in enumerate(reversed(self._after), 1)]
        taken = [(name, -n) for n, (name, _document) in enumerate(reversed(self._before))]
        return [*reversed(again), *taken]

    @property
    def unsaved(self) -> bool:
        """Whether the work differs from what was last saved or opened."""
        return not self.document.same_work(self._kept)

    def mark_saved(self) -> None:
        """The document as it is now lies safe on the disk."""
        self._kept = self.document

    def _push(self, name: str, document: Document, after: Document) -> None:
        weight = own_bytes(document, after)
        self._before.append((name, document))
        self._weights.append(weight)
        self._weight += weight

    def _stand(self, document: Document) -> None:
        """Go on with another document; what stood in the last one alone forgets its workings."""
        now = set(map(id, document.volumes))
        for volume in self.document.volumes:
            if id(volume) not in now:
                volume.forget()
        self.document = document


def own_bytes(document: Document, beside: Document) -> int:
    """About how many bytes a document takes that stands beside another it shares parts with."""
    shared = {id(volume) for volume in beside.volumes}
    for picture in beside.pictures:
        shared |= {id(picture), *(id(getattr(picture, one.name)) for one in fields(picture))}
    for field in fields(Document):
        shared.add(id(getattr(beside, field.name)))
    return STEP_BYTES + _bytes_of(document, shared)


def _bytes_of(value: Any, known: set[int]) -> int:
    """Bytes of a value and all in it that is not known yet."""
    if value is None or id(value) in known:
        return 0
    known.add(id(value))
    size = sys.getsizeof(value)
    if is_dataclass(value):
        return size + sum(_bytes_of(getattr(value, one.name), known) for one in fields(value))
    if isinstance(value, tuple | list | frozenset):
        return size + sum(_bytes_of(one, known) for one in value)
    return size
