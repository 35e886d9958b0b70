"""The menus of a window, filled from the commands."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction, QIcon
from PyQt6.QtWidgets import QMenu, QMenuBar

from isometron.own_places import is_there
from isometron.ui.bench.commands.table import COMMANDS, CONTEXT, MENUS, Command
from isometron.ui.bench.work import Work
from isometron.ui.parts.plain import plain_tip
from isometron.words import _

DRAWN = "QMenu { icon-size: 64px; }"
"""Entries with a drawing show it so large."""


class Menus:
    """Every command as an action in its menu; `actions_of` pairs them."""

    def __init__(self, work: Work, bar: QMenuBar) -> None:
        self._work = work
        self.actions_of: list[tuple[Command, QAction]] = []
        self.menus = {name: QMenu(name, work.window_itself) for name in MENUS}
        for menu in self.menus.values():
            menu.setToolTipsVisible(True)
            menu.setTitle(f"&{menu.title()}")
            bar.addMenu(menu)
            menu.aboutToShow.connect(self.refresh)
        self._groups: dict[tuple[str, ...], QMenu] = {}
        for command in COMMANDS:
            menu = self._menu_of(command)
            if command.line_before:
                menu.addSeparator()
            if command.lists is not None:
                self._add_list(menu, command)
                continue
            action = command.action(work)
            menu.addAction(action)
            self.actions_of.append((command, action))

    def _menu_of(self, command: Command) -> QMenu:
        """The menu a command stands in, or the list of its group there."""
        menu = self.menus[command.menu]
        at: tuple[str, ...] = (command.menu,)
        for name in (command.group, command.within):
            if name:
                at = *at, name
                menu = self._list_in(menu, at)
        return menu

    def _list_in(self, menu: QMenu, at: tuple[str, ...]) -> QMenu:
        """The list of a name within a menu, made when it is first asked for."""
        if at not in self._groups:
            made = QMenu(at[-1], self._work.window_itself)
            made.setToolTipsVisible(True)
            made.aboutToShow.connect(self.refresh)
            menu.addMenu(made)
            self._groups[at] = made
        return self._groups[at]

    def under_pointer(self, where: str) -> QMenu:
        """The menu that opens under the pointer at a place of `CONTEXT`."""
        self.refresh()
        menu = QMenu(self._work.window_itself)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        actions = {command.key: action for command, action in self.actions_of}
        for key in CONTEXT[where]:
            if key:
                menu.addAction(actions[key])
            else:
                menu.addSeparator()
        return menu

    def refresh(self) -> None:
        """Bring ticks, names and what can be run up to date."""
        for command, action in self.actions_of:
            if command.checked is not None:
                action.setChecked(command.checked(self._work))
            if command.needs is not None:
                action.setEnabled(command.needs(self._work))
            if command.named is not None:
                action.setText(command.named(self._work))

    def _add_list(self, menu: QMenu, command: Command) -> None:
        listed = QMenu(command.text, self._work.window_itself)
        listed.setStyleSheet(DRAWN)
        listed.setToolTipsVisible(True)
        listed.aboutToShow.connect(lambda: self._fill(listed, command))
        menu.addMenu(listed)

    def _fill(self, listed: QMenu, command: Command) -> None:
        listed.clear()
        for one in command.lists(self._work) if command.lists is not None else ():
            action = listed.addAction(one.text.replace("&", "&&"))
            assert action is not None
            action.setToolTip(plain_tip(one.tip))
            if one.drawing is not None and is_there(one.drawing):
                action.setIcon(QIcon(str(one.drawing)))
            action.triggered.connect(lambda _on=False, run=one.run: run())
        if listed.isEmpty():
            none = listed.addAction(_("None yet"))
            assert none is not None
            none.setEnabled(False)
