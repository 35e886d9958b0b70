"""Every command of the window, declared once: menus, keys, the help page and the buttons that wish
for one read this table. Commands that write files come from the table of what leaves the program,
which the command line reads too."""

from isometron.ui.bench.commands.command import MENUS, Command
from isometron.ui.bench.commands.of_build import BUILD_COMMANDS
from isometron.ui.bench.commands.of_edit import EDIT_COMMANDS
from isometron.ui.bench.commands.of_help import help_commands
from isometron.ui.bench.commands.of_look import LOOK_COMMANDS
from isometron.ui.bench.commands.of_picture import PICTURE_COMMANDS
from isometron.ui.bench.commands.of_sheet import SHEET_COMMANDS
from isometron.ui.bench.work import Work

__all__ = ["COMMANDS", "CONTEXT", "MENUS", "Command", "run"]

COMMANDS: list[Command] = [
    *SHEET_COMMANDS,
    *EDIT_COMMANDS,
    *BUILD_COMMANDS,
    *PICTURE_COMMANDS,
    *LOOK_COMMANDS,
]
COMMANDS += help_commands(COMMANDS)

CONTEXT = {
    "board": (
        *("copy", "cut", "paste", "duplicate", "take away", ""),
        *("group", "ungroup", "make cube", ""),
        *("lay edge", "add box", "see-through", "fans", "fit sheet", "sheet alone"),
    ),
    "list": (
        *("copy", "cut", "paste", "duplicate", "take away", ""),
        *("group", "ungroup", "choose group", "choose all"),
    ),
    "picture": (
        *("take or leave", "weigh less", "take away", ""),
        *("mark edge", "mark corner", "mark rim", "mark row", "mark point", ""),
        *("lay sheet over", "fit sheet"),
    ),
    "plan": ("duplicate", "take away", "", "group", "ungroup", "choose all", "show plan"),
}
"""What the menu under the pointer holds, by where it is: keys of commands, a line for each ""."""


def run(key: str, work: Work) -> None:
    """Run a command by its key."""
    next(command for command in COMMANDS if command.key == key).run(work)
