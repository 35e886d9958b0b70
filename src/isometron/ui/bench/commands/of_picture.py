"""The commands of the Picture menu."""

from isometron.deeds.deed import Matter
from isometron.deeds.table import matters
from isometron.document.document import Document, Edit
from isometron.document.edits.pictures.bringing import change_picture
from isometron.files.sheet_file import PICTURE_SAMPLES, SKETCH_SAMPLE
from isometron.ui.bench.commands.command import PICTURE, Command, of_deed
from isometron.ui.bench.commands.later import acts
from isometron.ui.bench.work import Work
from isometron.ui.board.pictures.tools import PICTURE_TOOLS, PictureTool
from isometron.words import _

TOOL_KEYS = {
    "thing in a box": "B",
    "mark edge": "E",
    "mark corner": "C",
    "mark rim": "R",
    "mark row": "A",
    "mark point": "P",
}


def has_picture(work: Work) -> bool:
    """Whether a picture lies with the sheet."""
    return bool(work.session.document.pictures)


def picture_in_front(work: Work) -> bool:
    """Whether a picture lies on the felt."""
    return work.pictured and has_picture(work)


def has_laid(work: Work) -> bool:
    """Whether the sheet lies over a picture."""
    picture = work.session.document.photograph
    return picture is not None and picture.laid is not None


def _marks(work: Work) -> bool:
    return picture_in_front(work) and bool(work.marks)


def _said(whole: bool) -> Edit:
    """The edit that says whether the picture is whole."""

    def edit(document: Document) -> Document:
        from isometron.reading.of_picture import said_whole

        return change_picture(document, lambda picture: said_whole(picture, whole))

    return edit


def _tools() -> list[Command]:
    def arm(work: Work, tool: PictureTool) -> None:
        work.open_place("picture")
        board = work.picture_board
        board.arm(None if board.tool is tool else tool)

    return [
        Command(
            tool.key,
            PICTURE,
            tool.name.capitalize(),
            tool.tip,
            lambda w, t=tool: arm(w, t),  # type: ignore[misc]
            (TOOL_KEYS[tool.key],),
            checked=lambda w, t=tool: w.pictured and w.picture_board.tool is t,  # type: ignore[misc]
            needs=picture_in_front,
            group=_("Mark"),
        )
        for tool in PICTURE_TOOLS
    ]


def _straightened(work: Work) -> bool:
    picture = work.session.document.photograph
    return picture is not None and picture.paper_mm is not None


def _shown(work: Work) -> bool:
    picture = work.session.document.photograph
    return picture is not None and picture.laid is not None and picture.laid.shown


PICTURE_COMMANDS: list[Command] = [
    Command(
        "open picture",
        PICTURE,
        _("Open a picture…"),
        _("Pin a photograph on the felt: PNG, JPEG, TIFF or WebP."),
        lambda w: acts().open_picture(w),
        ("Ctrl+Shift+I",),
    ),
    *(
        Command(
            f"sample picture {name}",
            PICTURE,
            _("Sample: {name}").format(name=_(name)),
            _("Pin the sample photograph of the {name} on the felt.").format(name=_(name)),
            lambda w, n=name: acts().open_sample_picture(w, n),  # type: ignore[misc]
            group=_("Samples"),
        )
        for name in PICTURE_SAMPLES
    ),
    Command(
        "sample sketch",
        PICTURE,
        _("Sample: {name}").format(name=_(SKETCH_SAMPLE)),
        _("Open the sheet of the eyepiece case with a sketch of it that has mistakes."),
        lambda w: acts().open_sample_sketch(w),
        group=_("Samples"),
    ),
    of_deed(PICTURE, "take picture off"),
    Command(
        "find lines",
        PICTURE,
        _("Find lines anew"),
        _("Look for straight lines again; what you marked or named yourself stays."),
        lambda w: w.keeping.find_lines(),
        needs=has_picture,
        line_before=True,
    ),
    *(
        Command(
            key,
            PICTURE,
            text,
            tip,
            lambda w, on=on, name=text: w.session.edit(name, _said(on)),  # type: ignore[misc]
            (shortcut,),
            needs=picture_in_front,
            group=_("Mark"),
            finds=_("cropped uncropped part"),
        )
        for key, text, tip, shortcut, on in (
            (
                "whole picture",
                _("All that the camera saw"),
                _("The picture is whole: we looked at its middle. Doubts are weighed anew."),
                "O",
                True,
            ),
            (
                "part of a picture",
                _("A part of it"),
                _("The picture is cut from a larger one. Doubts are weighed anew."),
                "X",
                False,
            ),
        )
    ),
    *_tools(),
    Command(
        "lay picture tool down",
        PICTURE,
        _("Lay the tool down"),
        _("Take lines and marks in hand again."),
        lambda w: w.picture_board.arm(None),
        needs=lambda w: w.pictured and w.picture_board.tool is not None,
        group=_("Mark"),
    ),
    Command(
        "take or leave",
        PICTURE,
        _("Leave out, or take in again"),
        _("Leave the picked marks out of the reading, or take them in again."),
        lambda w: w.picture_board.take_or_leave(),
        ("L",),
        needs=_marks,
        line_before=True,
    ),
    Command(
        "weigh less",
        PICTURE,
        _("Count less, or as much again"),
        _("Let the picked marks count less than the other marks, or as much again."),
        lambda w: acts().weigh_less(w),
        ("W",),
        needs=_marks,
    ),
    Command(
        "my sheet",
        PICTURE,
        _("This is my sheet"),
        _("The picture shows a sheet I have drawn: propose the corners of its paper."),
        lambda w: w.keeping.propose_corners(),
        needs=has_picture,
        line_before=True,
    ),
    Command(
        "ask strokes",
        PICTURE,
        _("Ask me of unsure strokes"),
        _("Go through strokes of no family: keys 1 to 3 name it, 0 drops it, Space goes on."),
        lambda w: acts().ask_strokes(w),
        needs=_straightened,
    ),
    Command(
        "write corrections",
        PICTURE,
        _("Write the correction sheet…"),
        _("Write corrections as thin lines at 1 : 1, to lay under your sheet or trace."),
        lambda w: acts().write_corrections(w),
        needs=_straightened,
    ),
    Command(
        "lay sheet over",
        PICTURE,
        _("Lay a sheet over it"),
        _("Lay the sheet over the picture, seen from the eye that its marks tell."),
        lambda w: acts().lay_sheet_over(w),
        ("Ctrl+Shift+O",),
        needs=has_picture,
        line_before=True,
    ),
    Command(
        "show picture",
        PICTURE,
        _("Picture under the sheet"),
        _("Show the picture under the sheet, or put it away."),
        lambda w: acts().toggle_underlay(w),
        ("Ctrl+T",),
        checked=_shown,
        needs=has_laid,
    ),
    of_deed(PICTURE, "picture eye"),
    *(
        of_deed(PICTURE, key, group=_("How it lies"))
        for key, matter in matters().items()
        if matter is Matter.PICTURE and key not in ("take picture off", "picture eye")
    ),
    Command(
        "show sheet",
        PICTURE,
        _("Go to the sheet"),
        _("Bring the sheet back to the front."),
        lambda w: w.open_place("build"),
        needs=lambda w: w.pictured,
    ),
]
