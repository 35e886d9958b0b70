"""What a command is, and what most of them ask and do."""

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, NamedTuple

from PyQt6.QtGui import QAction, QKeySequence

from isometron.deeds.deed import Parameter
from isometron.deeds.table import deed
from isometron.ui.bench.work import Work
from isometron.ui.parts.wishes import Edit
from isometron.words import _

MENUS = (
    *(_("Sheet"), _("Edit"), _("Build"), _("Draw")),
    *(_("Picture"), _("Look"), _("Help")),
)
SHEET, EDIT, BUILD, DRAW, PICTURE, LOOK, HELP = MENUS


class Listed(NamedTuple):
    """One entry of a command that is a list."""

    text: str
    tip: str
    run: Callable[[], object]
    drawing: Path | None = None
    """Where a drawing of it lies, if there is one."""


@dataclass(frozen=True)
class Command:
    """One command. `checked` says, for one that is on or off, which it is now; `needs` whether it
    can be run now; `named` what it is called now, when that changes; `lists` makes it a submenu."""

    key: str
    menu: str
    text: str
    tip: str
    run: Callable[[Work], object] = field(default=lambda work: None)
    keys: tuple[str, ...] = ()
    checked: Callable[[Work], bool] | None = None
    needs: Callable[[Work], bool] | None = None
    named: Callable[[Work], str] | None = None
    lists: Callable[[Work], list[Listed]] | None = None
    line_before: bool = False
    group: str = ""
    """The entry of its menu it stands under, in a list of its own."""
    within: str = ""
    """The entry of that list it stands under, in one more."""
    finds: str = ""
    """Other words it is found by."""
    takes: tuple[Parameter, ...] = ()
    """What may be said after its words in a line."""
    say: Callable[[Work, str], object] | None = None
    """The same with what is said."""

    def action(self, work: Work) -> QAction:
        """Its action: the same in menu, by key and for assistive technology."""
        action = QAction(self.text, work.window_itself)
        action.setShortcuts([QKeySequence(key) for key in self.keys])
        action.setToolTip(self.tip)
        action.setStatusTip(self.tip)
        action.setCheckable(self.checked is not None)
        action.triggered.connect(lambda: self.run(work))
        return action


def edit(name: str, what: Edit) -> Callable[[Work], object]:
    """One edit, by the name undo knows it by."""
    return lambda work: work.session.edit(name, what)


def of_deed(menu: str, key: str, **own: Any) -> Command:
    """The command of a deed; `own` is what it has besides as a command."""
    one = deed(key)

    def run(work: Work) -> object:
        return work.do_deed(one)

    def say(work: Work, values: str) -> None:
        work.say_deed(one, values)

    def ready(work: Work) -> bool:
        return one.ready(work.session.document, work.session.pick)

    told: dict[str, Any] = {"takes": one.asking_all.parameters, "say": say}
    told |= {"text": one.text, "tip": one.tip, "keys": one.keys, "finds": one.finds}
    return Command(key, menu, **(told | {"run": run, "needs": ready} | own))


def volume_chosen(work: Work) -> bool:
    """Whether a volume is in work."""
    return work.session.document.volume is not None


def something(work: Work) -> bool:
    """Whether there is any volume."""
    return bool(work.session.document.volumes)
