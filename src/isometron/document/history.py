"""Undo and redo: the documents before and after, and what each step was called."""

from isometron.document.document import Document

DEEPEST = 500
"""Steps remembered; documents share their parts, so each costs little."""


class History:
    """The document in work with the steps that led to it and those taken back."""

    def __init__(self, document: Document, kept: Document | None = None) -> None:
        """`kept` is what lies on the disk, when that is not the document."""
        self.document = document
        self._before: list[tuple[str, Document]] = []
        self._after: list[tuple[str, Document]] = []
        self._kept = kept or document

    def take(self, name: str, document: Document) -> None:
        """One step: the next document and its name. A mere change of selection is no step."""
        if document == self.document:
            return
        if document.same_work(self.document):
            self.document = document
            return
        self._before = [*self._before[-(DEEPEST - 1) :], (name, self.document)]
        self._after.clear()
        self.document = document

    def undo(self) -> None:
        """Back to the document before the last step, if there is one."""
        if self._before:
            name, document = self._before.pop()
            self._after.append((name, self.document))
            self.document = document

    def redo(self) -> None:
        """Forward again to a step taken back, if there is one."""
        if self._after:
            name, document = self._after.pop()
            self._before.append((name, self.document))
            self.document = document

    @property
    def undo_name(self) -> str | None:
        """Name of the step that undo takes back."""
        return self._before[-1][0] if self._before else None

    @property
    def redo_name(self) -> str | None:
        """Name of the step that redo takes again."""
        return self._after[-1][0] if self._after else None

    @property
    def unsaved(self) -> bool:
        """Whether the work differs from what was last saved or opened."""
        return not self.document.same_work(self._kept)

    def mark_saved(self) -> None:
        """The document as it is now lies safe on the disk."""
        self._kept = self.document
