"""The commands of the Sheet menu: files in and out."""

from isometron.files.formats import OUTGOING, Errand, Outgoing
from isometron.files.own_starters import own_starters
from isometron.files.sheet_file import SAMPLES
from isometron.own_places import full_path
from isometron.ui.bench.commands.command import (
    SHEET,
    Command,
    Listed,
    something,
)
from isometron.ui.bench.commands.later import acts
from isometron.ui.bench.recent import drawing_of
from isometron.ui.bench.work import Work
from isometron.words import _


def _recent(work: Work) -> list[Listed]:
    return [
        Listed(
            path.name,
            str(path),
            lambda path=path: work.keeping.open_path(path),  # type: ignore[misc]
            drawing_of(full_path(path)),
        )
        for path in work.keeping.recent()
    ]


def _own(work: Work) -> list[Listed]:
    """Starters of one's own, and how more come in."""
    mine = [
        Listed(
            _("{name}…").format(name=path.stem),
            _("Begin a {name} from a few numbers.").format(name=path.stem),
            lambda path=path: acts().begin_with_own(work, path),  # type: ignore[misc]
            drawing_of(full_path(path)),
        )
        for path in own_starters()
    ]
    kept = _("Keep this framework with its named lengths as the questions.")
    return [
        *mine,
        Listed(_("Keep this sheet as one"), kept, work.keeping.keep_starter),
        Listed(
            _("With any sheet…"),
            _("Begin with the framework of a sheet file; its named lengths are asked for."),
            lambda: acts().begin_with_own(work),
        ),
    ]


def _samples() -> list[Command]:
    return [
        Command(
            f"sample {name}",
            SHEET,
            _("Sample: {name}").format(name=_(name)),
            _("Open the sample sheet “{name}”.").format(name=_(name)),
            lambda w, n=name: w.keeping.open_sample(n),  # type: ignore[misc]
            group=_("Samples"),
        )
        for name in SAMPLES
    ]


def _sends() -> list[Command]:
    """One command for every way something leaves as a file, and for what can be taken back."""
    found: list[Command] = []
    for outgoing in OUTGOING:
        for number, errand in enumerate(outgoing.errands):
            found.append(_sending(outgoing, errand, number, first=not found))
        if outgoing.takes is not None:
            found.append(
                Command(
                    f"take {outgoing.key}",
                    SHEET,
                    _("Take dimensions…"),
                    _("Take dimensions from a table: {formats}.").format(formats=outgoing.names),
                    lambda w, o=outgoing: w.keeping.take(o),  # type: ignore[misc]
                )
            )
    return found


def _sending(outgoing: Outgoing, errand: Errand, number: int, *, first: bool) -> Command:
    return Command(
        f"send {outgoing.key} {number}" if number else f"send {outgoing.key}",
        SHEET,
        errand.text,
        errand.tip.format(formats=outgoing.names),
        lambda work: work.keeping.send(outgoing, errand),
        errand.keys,
        needs=something if outgoing.needs_volumes else None,
        line_before=first,
        group=outgoing.group,
    )


SHEET_COMMANDS: list[Command] = [
    Command(
        "new", SHEET, _("New"), _("Begin a blank sheet."), lambda w: w.keeping.new(), ("Ctrl+N",)
    ),
    Command(
        "open",
        SHEET,
        _("Open…"),
        _("Open a sheet."),
        lambda w: w.keeping.open_asked(),
        ("Ctrl+O",),
    ),
    Command(
        "own starters",
        SHEET,
        _("Begin with one of mine"),
        _("Frameworks kept as starters of one's own."),
        lists=_own,
    ),
    Command("recent", SHEET, _("Open recent"), _("Sheets opened of late."), lists=_recent),
    *_samples(),
    Command(
        "save",
        SHEET,
        _("Save"),
        _("Save the sheet."),
        lambda w: w.keeping.save(),
        ("Ctrl+S",),
        line_before=True,
    ),
    Command(
        "save as",
        SHEET,
        _("Save as…"),
        _("Save the sheet under another name."),
        lambda w: w.keeping.save_as(),
        ("Ctrl+Shift+S",),
    ),
    *_sends(),
    Command(
        "print",
        SHEET,
        _("Print…"),
        _("Print the sheet at true size."),
        lambda w: w.keeping.print_out(),
        ("Ctrl+P",),
    ),
    Command(
        "leave",
        SHEET,
        _("Leave"),
        _("Leave Isometron."),
        lambda w: w.leave(),
        ("Ctrl+Q", "Ctrl+W"),
        line_before=True,
    ),
]
