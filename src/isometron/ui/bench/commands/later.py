"""What commands load when the first of them is run."""

from types import ModuleType


def acts() -> ModuleType:
    """What some commands do that is more than one edit, loaded at the first."""
    from isometron.ui.bench.commands import acts

    return acts


def pages() -> ModuleType:
    """The help pages, loaded at the first."""
    from isometron.ui.bench.commands import help_pages

    return help_pages


def begun() -> ModuleType:
    """What is done with the answers of a starter."""
    from isometron.ui.bench.commands import begun as loaded

    return loaded
