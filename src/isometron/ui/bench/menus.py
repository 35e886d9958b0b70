"""The menus of the bench, filled from the commands."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QMenu, QMenuBar

from isometron.ui.bench.commands import COMMANDS, MENUS, Command, action_for

if TYPE_CHECKING:
    from isometron.ui.bench.window import Bench


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("Menus", text)


class Menus:
    """Every command as an action in its menu; `actions_of` pairs them."""

    def __init__(self, bench: "Bench", bar: QMenuBar) -> None:
        self._bench = bench
        self.actions_of: list[tuple[Command, QAction]] = []
        menus = {name: QMenu(tr(name), bench) for name in MENUS}
        for menu in menus.values():
            menu.setToolTipsVisible(True)
            bar.addMenu(menu)
        for command in COMMANDS:
            action = action_for(command, bench)
            if command.line_before:
                menus[command.menu].addSeparator()
            menus[command.menu].addAction(action)
            self.actions_of.append((command, action))
            if command.text == "Open…":
                self.recent = QMenu(tr("Open recent"), bench)
                self.recent.aboutToShow.connect(self._list_recent)
                menus[command.menu].addMenu(self.recent)
        for menu in menus.values():
            menu.aboutToShow.connect(self.refresh)

    def refresh(self) -> None:
        """Bring ticks, names and what can be run up to date."""
        session = self._bench.session
        for command, action in self.actions_of:
            if command.checked is not None:
                action.setChecked(command.checked(self._bench))
            if command.needs is not None:
                action.setEnabled(command.needs(self._bench))
            if command.text in ("Undo", "Redo"):
                name = getattr(session, f"{command.text.lower()}_name")
                words = tr(command.text)
                action.setText(f"{words}: {name}" if name else words)

    def _list_recent(self) -> None:
        keeping = self._bench.keeping
        self.recent.clear()
        for path in keeping.recent():
            action = self.recent.addAction(path.name)
            assert action is not None
            action.setToolTip(str(path))
            action.triggered.connect(lambda _=False, path=path: keeping.open_path(path))
        if self.recent.isEmpty():
            none = self.recent.addAction(tr("None yet"))
            assert none is not None
            none.setEnabled(False)
