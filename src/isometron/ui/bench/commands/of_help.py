"""The commands of the Help menu."""

from isometron.ui.bench.commands.command import HELP, Command
from isometron.ui.bench.commands.later import pages
from isometron.words import _


def help_commands(every: list[Command]) -> list[Command]:
    """Help and what the program is; help speaks of every command."""
    return [
        Command(
            "help",
            HELP,
            _("Help with this"),
            _("What stands where you are and what it does, what can be taken hold of, every key."),
            lambda w: pages().show_keys(w, every),
            ("F1",),
        ),
        Command(
            "about",
            HELP,
            _("About Isometron"),
            _("Version, licence and a caution."),
            lambda w: pages().show_about(w),
        ),
    ]
