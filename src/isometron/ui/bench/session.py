"""The open sheet: its history, its file, what is picked, and the scene that belongs to it.

Widgets say what they wish; the session carries it out and says what is to be shown.
"""

from collections.abc import Callable, Hashable
from dataclasses import replace
from enum import Enum
from pathlib import Path
from typing import Any

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from isometron.deeds.deed import Deed, Given, source_of
from isometron.document.document import Document
from isometron.document.edits.offering import Offer, offered
from isometron.document.edits.projecting import applied
from isometron.document.history import History
from isometron.drawing.consequences import NOTHING, consequences
from isometron.drawing.measuring import pinned, reading_between, thing_of
from isometron.drawing.picks.pick import Pick, Reading
from isometron.drawing.readings import default_pick, reading_of
from isometron.drawing.scene import Scene, left_behind, scene_of
from isometron.files.journal import Stamp
from isometron.framework.dimensions import Dimension
from isometron.perspective.errors import IsometronError
from isometron.perspective.eye import Array
from isometron.ui.parts.wishes import Edit
from isometron.words import _

CHOOSING = frozenset({_("choose"), _("choose a picture"), _("another view")})
"""Steps that choose what is worked on: to choose it again is nothing to speak of."""

MOST_ANSWERS = 4
"""So many ways there are at most to keep an intention true, and one more."""

NO_OTHER = _("There is no other answer: nothing else can give way.")
ANOTHER = _("Something else gives way now; once more for the next answer.")

HEAVY = 200
"""Sheets of more volumes are worked out beside the window, where that can be stopped."""

Patience = Callable[[Callable[[], Any], str], Any]
"""Does work beside the window, with words for it. Raises what the work raises, and StoppedError."""


def at_once(work: Callable[[], Any], words: str) -> Any:
    """The work done here and now."""
    return work()


MOST_OLD = 60
"""The old lines of so many changes are kept at most."""


class FileState(Enum):
    """What has become of a sheet's file since it was last read or written."""

    AS_KNOWN = ""
    CHANGED = _("changed on the disk")
    GONE = _("its file is gone")


KEEPS = "Ctrl+Alt+K"
"""Keeps true what the last step made true."""


class Session(QObject):
    """One open sheet. `shown` is emitted with every document to be shown, `refused` with the
    sentence when an edit cannot be done (the sheet then stays as it was), `told` with what else
    the person must know."""

    shown = pyqtSignal()
    opened = pyqtSignal()
    """Another sheet lies here now."""
    refused = pyqtSignal(str)
    told = pyqtSignal(str)

    def __init__(self, document: Document, path: Path | None = None, *, called: str = "") -> None:
        super().__init__()
        self.path = path
        self.called = called
        self.patience: Patience = at_once
        self.saved_at = ""
        self.stamp: Stamp | None = None
        """What the sheet's file held when it was last read or written."""
        self.file_state = FileState.AS_KNOWN
        self._history = History(document)
        self._told_of_lost = False
        self._preview: Document | None = None
        self._scene: Scene | None = None
        self._pick: Pick | None = None
        self._measured: tuple[Pick, ...] = ()
        self.last_deed: tuple[Deed, Given] | None = None
        """What was done last, to be done again."""
        self._doing: tuple[str, Edit, Document] | None = None
        """The last step or what is dragged: its name, its edit, and what it gave."""
        self._answer = 0
        self._offer: tuple[Document, Offer] | None = None
        self._offered: set[Hashable] = set()
        self.ghost: Array = np.empty((0, 4))
        """Lines (k, 4) sheet mm of what the last action changed, as it was before."""
        self._step: tuple[Document, Scene] | None = None
        self._keeps_old = False
        self._old_lines: list[Array] = []
        self._kept_scene: Scene | None = None
        self._ghost_of = document

    @property
    def document(self) -> Document:
        """The document to show: the one being dragged, or the one last kept."""
        return self._preview or self._history.document

    @property
    def scene(self) -> Scene:
        """The scene of the document to show, made when it is first asked for."""
        if self._scene is None:
            self._scene = self._kept_scene = self.scene_for(self.document)
        return self._scene

    def scene_for(self, document: Document, before: Scene | None = None) -> Scene:
        """The scene of a document; of a heavy one beside the window. Raises StoppedError when the
        person stops it."""
        scene: Scene = self._worked(document, lambda: scene_of(document, before))
        return scene

    def _worked(self, document: Document, work: Callable[[], Any]) -> Any:
        """What work on a document gives."""
        heavy = len(document.volumes) > HEAVY
        return (self.patience if heavy else at_once)(work, _("Working out what hides what…"))

    @property
    def ready(self) -> bool:
        """Whether the scene is made."""
        return self._scene is not None

    @property
    def dragging(self) -> bool:
        """Whether something is being dragged."""
        return self._preview is not None

    @property
    def kept(self) -> Document:
        """The document as it was before the drag in progress."""
        return self._history.document

    @property
    def unsaved(self) -> bool:
        """Whether there is work that is not on the disk."""
        return self._history.unsaved or self.file_state is FileState.GONE

    @property
    def undo_name(self) -> str | None:
        """What undo would take back."""
        return self._history.undo_name

    @property
    def redo_name(self) -> str | None:
        """What redo would do again."""
        return self._history.redo_name

    # What is picked

    @property
    def pick(self) -> Pick | None:
        """What the person has picked, while it is there."""
        return self._pick

    @property
    def reading(self) -> Pick | None:
        """What is read: what is picked, else what usually is."""
        return self._pick or default_pick(self.document, self.scene)

    def read(self, pick: Pick | None) -> None:
        """Pick something, or nothing; what was measured is done with."""
        self._pick, self._measured = pick, ()

    @property
    def measured(self) -> tuple[Pick, ...]:
        """What is measured between: nothing, the first thing, or both."""
        return self._measured

    def measure(self, pick: Pick) -> None:
        """Measure from something, or to it when one is picked to measure from."""
        goes_on = len(self._measured) == 1 and pick not in self._measured
        try:
            thing_of(self.scene.pictures[pick.volume], pick)
        except IsometronError as error:
            self.refused.emit(str(error))
            return
        self._measured = (*self._measured, pick) if goes_on else (pick,)
        self._show()

    @property
    def mark(self) -> Dimension | None:
        """The measure between the two things as it would be pinned to the sheet."""
        if len(self._measured) < 2:
            return None
        try:
            return pinned(self.document, self.scene, *self._measured)
        except IsometronError:  # it lies too far off to be held
            return None

    def told_reading(self) -> Reading | None:
        """What is to be read: the measure, else what is picked."""
        if self.mark is not None:
            return reading_between(self.document, self.scene, *self._measured)
        return reading_of(self.document, self.scene, self._pick)

    # Steps

    def open(
        self,
        document: Document,
        path: Path | None,
        *,
        called: str = "",
        stamp: Stamp | None = None,
        kept: Document | None = None,
        scene: Scene | None = None,
    ) -> None:
        """Another sheet; the history begins anew. Nothing of the open one is touched before all of
        the other is made.

        called: the name of one that has no file yet. stamp: what its file held. kept: what lies on
        the disk, when that is not the document. scene: its scene, where it is made already. Raises
        StoppedError when the person stops it.
        """
        scene, history = scene or self.scene_for(document), History(document, kept)
        self.path, self.called, self.saved_at, self._preview = path, called, "", None
        self.stamp, self.file_state = stamp, FileState.AS_KNOWN
        self._history, self._kept_scene, self._pick = history, scene, None
        self._measured, self._step, self._doing, self._offer = (), None, None, None
        self._offered = set()
        self._told_of_lost = False
        self._old_lines = []
        self.opened.emit()
        self._show()

    def edit(self, name: str, edit: Edit) -> bool:
        """One step. Gives False, and says why, when it cannot be done."""
        self._answer = 0
        self._preview = None
        try:
            after, scene = self._edited(edit)
        except IsometronError as error:
            self.refused.emit(str(error))
            self._show()
            return False
        kept = self._history.document
        self._step = kept, self.scene
        self._history.take(name, after)
        self._doing = name, edit, after
        self._show(scene)
        if after == kept and name not in CHOOSING:
            self.told.emit(NOTHING)
        self._tell_of_lost_steps()
        return True

    def another_answer(self) -> None:
        """The last step, or the drag in progress, with something else giving way so that what was
        meant stays true."""
        shown = self.document
        if self._doing is None or self._doing[2] != shown or not shown.intentions:
            self.told.emit(NO_OTHER)
            return
        name, edit, _unused = self._doing
        dragging = self.dragging
        if not dragging:
            self._history.undo()
        for _turn in range(MOST_ANSWERS):
            self._answer += 1
            try:
                after, scene = self._edited(edit)
            except IsometronError:
                continue
            if after != shown:
                break
        else:
            if not dragging:
                self._history.redo()
            self.told.emit(NO_OTHER)
            return
        if dragging:
            self._preview = after
        else:
            self._history.take(name, after)
        self._doing = name, edit, after
        self._show(scene)
        self.told.emit(ANOTHER)
        self._tell_of_lost_steps()

    def do(self, deed: Deed, given: Given) -> bool:
        """One deed, kept as a step. Gives False, and says why, when it cannot be done."""
        try:
            edit = deed.with_given(given)
        except IsometronError as error:
            self.refused.emit(str(error))
            return False
        before, source = self._history.document, source_of(self._history.document)
        done = self.edit(deed.name, edit)
        if done:
            self.last_deed = deed, given
            self._tell_of_source(before, source)
        return done

    def _tell_of_source(self, before: Document, source: int | None) -> None:
        """That a deed on a copy has been done to what it follows."""
        after, copy = self._history.document, before.volume
        if source is None or copy is None or len(after.volumes) != len(before.volumes):
            return
        if after.volumes[source] != before.volumes[source]:
            told = _("Done to {source}: {copy} follows it.")
            self.told.emit(told.format(source=before.volumes[source].name, copy=copy.name))

    def preview(self, edit: Edit) -> str:
        """Show what an edit of the kept document would give, without keeping it; gives why it
        cannot be done, the sheet then is as it was. Heavy sheets are not worked out for it."""
        if len(self._history.document.volumes) > HEAVY:
            return ""
        self._preview = None
        try:
            after, scene = self._edited(edit)
        except IsometronError as error:
            self._show()
            return str(error)
        self._preview = after
        self._show(scene)
        return ""

    def drag(self, edit: Edit) -> None:
        """Show what an edit of the kept document would give, without keeping it."""
        if self._preview is None:
            self._answer = 0
        try:
            after, scene = self._edited(edit)
        except IsometronError as error:
            self.refused.emit(str(error))
            return
        self._preview, self._doing = after, ("", edit, after)
        self._show(scene)

    def _edited(self, edit: Edit) -> tuple[Document, Scene]:
        """What an edit of the kept document gives, and its scene. Raises IsometronError."""
        kept, before = self._history.document, self.scene

        def work() -> tuple[Document, Scene]:
            after = applied(edit, replace(kept, answer=self._answer) if self._answer else kept)
            after = replace(after, answer=0) if self._answer else after
            return after, scene_of(after, before)

        made: tuple[Document, Scene] = self._worked(kept, work)
        return made

    def drop(self, name: str) -> None:
        """Keep what is being shown as one step."""
        preview, self._preview = self._preview, None
        if preview is not None:
            if self._doing is not None:
                self._doing = name, self._doing[1], preview
            if self._kept_scene is not None:
                self._step = self._history.document, self._kept_scene
            self._history.take(name, preview)
            self._show()
            self._tell_of_lost_steps()

    def let_go(self) -> None:
        """Give up the drag in progress."""
        self._answer = 0
        if self._preview is not None:
            self._preview = None
            self._show()

    def tell_of_step(self) -> None:
        """What the last step did besides what was asked for; once, when the hand is off."""
        step, self._step = self._step, None
        if step is None or self.dragging or step[0].same_work(self.document):
            return
        for sentence in consequences(*step, self.document, self.scene):
            self.told.emit(sentence)
        self._offer_to_keep(step[0])

    def _offer_to_keep(self, before: Document) -> None:
        """Offer once to keep what the hand has just made true."""
        found = offered(before, self.document)
        if found is not None and found.key not in self._offered:
            self._offered.add(found.key)
            self._offer = self.document, found
            words = _("Meant? {tie}: {key} keeps it so from now on.")
            self.told.emit(words.format(tie=found.words, key=KEEPS))

    @property
    def offer(self) -> Offer | None:
        """What the last step made true and may be kept so."""
        known = self._offer
        return known[1] if known is not None and known[0] is self._history.document else None

    def keep_offered(self) -> None:
        """Keep true what the last step made true."""
        found = self.offer
        if found is not None:
            self.edit(_("keep it so"), found.edit)

    def undo(self) -> None:
        """Take the last step back."""
        self._turn_back(self._history.undo, self._history.redo)

    def redo(self) -> None:
        """Do again what was taken back."""
        self._turn_back(self._history.redo, self._history.undo)

    @property
    def steps(self) -> list[tuple[str, int]]:
        """The steps taken and taken back, the latest first, each with how far it is from now."""
        return self._history.steps

    def go(self, by: int) -> None:
        """So many steps back, or forward again."""
        for _step in range(abs(by)):
            (self.redo if by > 0 else self.undo)()

    def _turn_back(self, step: Callable[[], None], and_back: Callable[[], None]) -> None:
        self._preview = self._step = None
        before = self._history.document
        step()
        if self._history.document is before:
            self._show()
            return
        try:
            scene = self.scene_for(self._history.document, self.scene)
        except IsometronError as error:
            and_back()
            self.refused.emit(str(error))
            return
        self._show(scene)

    def mark_saved(self, path: Path, at: str, stamp: Stamp) -> None:
        """The kept document lies in `path` now, which holds what the stamp says."""
        self.path, self.saved_at = path, at
        self.stamp, self.file_state = stamp, FileState.AS_KNOWN
        self._history.mark_saved()
        self._show()

    def refresh(self) -> None:
        """Show the document again, as after another pick."""
        self._show()

    @property
    def keeps_old_lines(self) -> bool:
        """Whether the old lines of what was changed are kept until they are dismissed."""
        return self._keeps_old

    def keep_old_lines(self, keep: bool) -> None:
        """Keep the old lines of everything that is changed from now on, or dismiss them all."""
        self._keeps_old = keep
        self._old_lines = [self.ghost] if keep and len(self.ghost) else []
        if not keep:
            self.ghost = np.empty((0, 4))
        self._show()

    def _tell_of_lost_steps(self) -> None:
        """Once per sheet: that undo no longer leads back to its beginning."""
        if self._history.lost and not self._told_of_lost:
            self._told_of_lost = True
            self.told.emit(_("The history is full: undo no longer leads back to the oldest steps."))

    def _with_old(self, left: Array) -> Array:
        """The lines left behind now, besides those that are kept."""
        return np.concatenate([*self._old_lines, left]) if self._old_lines else left

    def _show(self, scene: Scene | None = None) -> None:
        before = self.scene
        self._scene = scene or scene_of(self.document, before)
        if self._pick is not None and self._scene is not before:
            self._pick = self._pick.carried(before, self._scene)
        if (
            self._pick is not None
            and self._pick.of_volume
            and self._pick.volume not in self.document.chosen
        ):
            self._pick = None  # another volume has come into work
        if self._measured and self._scene is not before:
            there = [pick.carried(before, self._scene) for pick in self._measured]
            self._measured = tuple(pick for pick in there if pick is not None)
        kept = self._kept_scene or self._scene
        if self._preview is not None:
            self.ghost = self._with_old(left_behind(kept, self._scene))
        else:
            if self.document is not self._ghost_of:
                left = left_behind(kept, self._scene)
                self.ghost = self._with_old(left)
                if self._keeps_old and len(left):
                    self._old_lines = [*self._old_lines, left][-MOST_OLD:]
            self._kept_scene, self._ghost_of = self._scene, self.document
        self.shown.emit()
