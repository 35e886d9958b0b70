"""A starter made from a sheet of one's own: its framework, and its modules as the questions."""

from dataclasses import replace

from isometron.document.document import Document
from isometron.document.edits.proportioning import set_module
from isometron.document.edits.starters.setting_down import with_starter
from isometron.document.edits.starters.starter import Made, Question, Starter, Values
from isometron.perspective.errors import VolumeError
from isometron.words import _, said


def starter_from(document: Document, name: str) -> Starter:
    """A starter that sets the framework of a sheet down and asks for its modules. Raises
    VolumeError for a sheet with no framework, or none of whose lengths has a name."""
    asked = [module for module in document.modules if module.count is None]
    if not document.volumes or not asked:
        raise VolumeError(
            _("A starter asks for the lengths that have a name: type, say, w = 62 cm as a side.")
        )
    bare = replace(
        document, dimensions=(), begun=(), variants=(), variant=0, selected=None, also=frozenset()
    )

    def make(values: Values) -> Made:
        done = bare
        for module in asked:
            done = set_module(done, module.name, values[module.name])
        return Made(done.modules, list(done.volumes), done.intentions)

    questions = tuple(
        Question(module.name, "length", module.mm, said("A length of this framework."))
        for module in asked
    )
    return Starter(name, said("millimetres"), questions, make, document.volumes[0].key)


def with_own(document: Document, starter: Starter, values: Values) -> Document:
    """The sheet with the framework of a starter of one's own. It is not opened again: its modules
    are on the sheet. Raises VolumeError."""
    return replace(with_starter(document, starter, values), begun=document.begun)
