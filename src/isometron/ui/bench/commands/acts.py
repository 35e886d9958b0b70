"""What some commands do that is more than one edit."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QMimeData
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication

from isometron.deeds.line import asked_by, shared_out
from isometron.document.document import Document
from isometron.document.edits import choosing, sheet_edits, volume_edits
from isometron.document.edits.pictures import marking
from isometron.document.edits.pictures.bringing import bring_picture, show_picture
from isometron.document.edits.places import measuring
from isometron.document.edits.stances import Stance, stance_of, take_stance
from isometron.document.edits.starters import STARTERS, Starter, with_starter
from isometron.document.edits.starters.from_sheet import with_own
from isometron.document.edits.starters.starter import Values
from isometron.drawing.picks.dimension import DimensionPick
from isometron.drawing.picks.edge import EdgePick
from isometron.files.formats import CORRECTIONS
from isometron.files.sheet_file import (
    SKETCH_SAMPLE,
    SKETCH_SHEET,
    pictures_as_text,
    pictures_from_text,
    volumes_as_text,
    volumes_from_text,
)
from isometron.framework.box import AXES
from isometron.perspective.errors import VolumeError
from isometron.perspective.lengths import write_length
from isometron.ui.bench.work import Work
from isometron.ui.board.pictures.frame import ENDINGS, dropped_file
from isometron.ui.cards.building.card import BuildCard
from isometron.words import _

FORMS = ("image/png", "image/jpeg", "image/webp", "image/tiff")
"""Pictures that are taken as they were copied."""

QUICKLY = 80
"""Quality of a PNG that is written at once and made smaller elsewhere."""


def begin_with(work: Work, number: int, line: str = "") -> None:
    """Ask for a starter's numbers, as far as a line does not tell them, and put its volumes on the
    sheet."""
    _begin(work, STARTERS[number], with_starter, line)


def begin_with_own(work: Work, path: Path | None = None) -> None:
    """Begin with a starter of one's own; without a path with any sheet the person chooses."""
    starter = work.keeping.own_starter(path)
    if starter is not None:
        _begin(work, starter, with_own, "")


def _begin(
    work: Work, starter: Starter, begun: Callable[[Document, Starter, Values], Document], line: str
) -> None:
    unit = work.session.document.choices.unit
    try:
        said = shared_out(asked_by(starter), line)
    except VolumeError as error:
        work.refuse(str(error))
        return
    values = work.keeping.asking.starter_values(starter, work.room, unit, said)
    if values is None:
        return
    work.session.read(None)
    name = _("{name} starter").format(name=starter.name.lower())
    before = work.session.document
    done = work.session.edit(name, lambda d: begun(d, starter, values))
    work.open_place("build")
    work.board.setFocus()
    if not done or before.volumes:
        return
    if work.session.document.eye == before.eye:
        work.board.tell(
            _("It stands where your eye sees all of it; eye level, view and page stay.")
        )
    else:
        work.board.tell(
            _(
                "Seen {stance}, the kind of view the sheet had: place and height of the eye and "
                "station distance are set so that all of it is on the page; undo brings yours back."
            ).format(stance=_(stance_of(before).name))
        )


def again(work: Work) -> None:
    """The last deed again, with what was given then, on what is picked now."""
    last = work.session.last_deed
    if last is None:
        return
    deed, given = last
    sentence = deed.lacking(work.session.document, work.session.pick)
    if sentence:
        work.refuse(sentence)
    else:
        work.session.do(deed, replace(given, pick=work.session.pick))


def copy(work: Work) -> None:
    """Copy the picture with its marks while it lies on the felt, else the chosen volumes."""
    picture, clipboard = work.session.document.photograph, QApplication.clipboard()
    if work.pictured and picture is not None and clipboard is not None:
        clipboard.setText(pictures_as_text([picture]))
        work.tell(_("The picture is copied with its marks: paste it on another sheet."))
    else:
        copy_volumes(work)


def make_cube(work: Work) -> None:
    """The volume in work as a cube of the side that was picked or typed last, and say which."""
    session = work.session
    volume, pick, axis = session.document.volume, session.pick, 2
    if isinstance(pick, EdgePick) and pick.volume == session.document.selected:
        own = int(session.scene.pictures[pick.volume].body.edge_axes[pick.index])
        axis = own if own in (0, 1, 2) else axis
    else:
        typed = [_(side) for side in AXES]
        axis = typed.index(session.undo_name) if session.undo_name in typed else axis
    done = session.edit(
        _("make it a cube"), lambda document: volume_edits.make_cube(document, axis)
    )
    if done and volume is not None:
        length = write_length(volume.sides[axis], session.document.choices.unit)
        work.tell(_("A cube of {length}, its {side}.").format(length=length, side=_(AXES[axis])))


def copy_volumes(work: Work) -> None:
    """Copy the chosen volumes to the clipboard, as text that any sheet takes."""
    document, clipboard = work.session.document, QApplication.clipboard()
    assert clipboard is not None
    chosen = [document.volumes[i] for i in document.chosen]
    clipboard.setText(volumes_as_text(chosen, document.intentions))


def pin_measure(work: Work) -> None:
    """Pin what is measured to the sheet."""
    mark = work.session.mark
    if mark is not None:
        work.session.edit(_("pin the measure"), lambda d: measuring.pin(d, mark))
        work.session.read(None)
        work.session.refresh()


def take_away(work: Work) -> None:
    """Take marks of the picture away while it lies on the felt, else the measure that is picked,
    else the chosen volumes."""
    if work.pictured:
        marks = work.picture_board.chosen
        if marks:
            work.picture_board.choose(())
            work.session.edit(_("take marks away"), lambda d: marking.take_away(d, marks))
        return
    pick = work.session.pick
    if isinstance(pick, DimensionPick) and pick.index < len(work.session.document.dimensions):
        number = pick.index
        work.session.read(None)
        work.session.edit(_("take the measure off"), lambda d: measuring.take_off(d, number))
    else:
        work.session.edit(_("take the volume away"), choosing.remove_chosen)


def cut_volumes(work: Work) -> None:
    """Copy the chosen volumes and take them off the sheet."""
    copy_volumes(work)
    work.session.edit(_("cut"), choosing.remove_chosen)


def _copied_picture(mime: QMimeData, image: Callable[[], QImage]) -> Callable[[], bytes]:
    """What gives the file of a copied picture: as it was copied where it is one, else encoded when
    it is called, beside the window."""
    for form in FORMS:
        if mime.hasFormat(form):
            content = mime.data(form).data()
            return lambda: content
    pixels = image()

    def encoded() -> bytes:
        kept = QBuffer()
        kept.open(QIODevice.OpenModeFlag.WriteOnly)
        pixels.save(kept, "PNG", QUICKLY)
        return kept.data().data()

    return encoded


def paste(work: Work) -> None:
    """Paste a picture when one was copied, else copied volumes."""
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    mime, text = clipboard.mimeData(), clipboard.text()
    if mime is not None and mime.hasImage():
        work.open_place("picture")
        work.keeping.paste_picture(_copied_picture(mime, clipboard.image))
        return
    path = dropped_file(mime)
    if path is not None and path.suffix.lower() in ENDINGS:
        work.open_place("picture")
        work.keeping.bring_picture(path)
        return
    pictures = pictures_from_text(text)
    if pictures:
        for picture in pictures:
            work.session.edit(_("paste a picture"), lambda d, p=picture: bring_picture(d, p))  # type: ignore[misc]
        work.open_place("picture")
        return
    work.session.edit(_("paste"), lambda d: choosing.paste(d, *volumes_from_text(text)))


def open_picture(work: Work) -> None:
    """Pin a picture the person chooses on the felt."""
    work.open_place("picture")
    work.keeping.bring_picture_asked()


def open_sample_picture(work: Work, name: str) -> None:
    """Pin a sample photograph on the felt."""
    work.open_place("picture")
    work.keeping.bring_sample_picture(name)


def open_sample_sketch(work: Work) -> None:
    """Open the sheet that the sample sketch was meant to be, with the sketch on the felt."""
    if work.keeping.open_sample(SKETCH_SHEET):
        work.open_place("picture")
        work.keeping.bring_sample_picture(SKETCH_SAMPLE)


def ask_strokes(work: Work) -> None:
    """Go through the unsure strokes of the sheet in work."""
    from isometron.ui.board.pictures.asking import unsure

    picture = work.session.document.photograph
    if picture is None or picture.paper_mm is None:
        work.refuse(_("The picture is no straightened sheet: straighten your sheet first."))
        return
    if not unsure(picture):
        work.tell(_("Every stroke has its family."))
        return
    work.open_place("picture")
    work.picture_board.ask()


def write_corrections(work: Work) -> None:
    """Write the corrections of a sketch; a file is asked for only when there are some."""
    picture = work.session.document.photograph
    if picture is None or picture.paper_mm is None:
        work.refuse(_("The picture is no straightened sheet: straighten your sheet first."))
    else:
        work.keeping.send(CORRECTIONS, CORRECTIONS.errands[0])


def weigh_less(work: Work) -> None:
    """What is in work counts less, or as much again."""
    marks, picture = work.picture_board.chosen, work.session.document.photograph
    if not marks or picture is None:
        work.refuse(_("No mark is picked: click one on the picture first."))
        return
    one = marking.mark_of(picture, marks[0])
    less = getattr(one, "weight", 1.0) == 1.0
    work.session.edit(_("weigh a mark"), lambda d: marking.weigh_less(d, marks, less))


def lay_sheet_over(work: Work) -> None:
    """Lay the sheet over the picture, and go to it."""
    from isometron.reading.laying import lay_sheet

    sized = _size_known(work.session.document)
    if work.session.edit(_("lay a sheet over the picture"), lay_sheet):
        work.open_place("build")
        work.board.fit_sheet()
        _log_reading(work.session.document)
        words = _("The sheet lies over the picture. Ctrl+T shows the picture or puts it away.")
        if not sized:
            boxed = _boxed(work.session.document)
            words += " " + (
                _("No length is known: the longest side is taken to be a metre.")
                if boxed
                else _("Nothing tells its size: our eye is taken to be 160 cm above the ground.")
            )
        work.tell(words)


def _log_reading(document: Document) -> None:
    """Keep in the log what a picture said."""
    from isometron.drawing.measures import kind_of_sheet
    from isometron.perspective.lengths import write_length
    from isometron.ui.bench.logged import log_work

    picture, eye = document.photograph, document.eye
    if picture is not None:
        told = _("eye {height} up, tilt {tilt}°, {kind}").format(
            height=write_length(eye.height_mm, document.choices.unit),
            tilt=f"{eye.tilt_deg:.1f}",
            kind=_(kind_of_sheet(document)),
        )
        log_work("reading", picture.name, told)


def _boxed(document: Document) -> bool:
    picture = document.photograph
    return picture is not None and any(edge.corners for edge in picture.edges)


def _size_known(document: Document) -> bool:
    picture = document.photograph
    return picture is not None and any(one.kind == "length" for one in picture.known)


def toggle_underlay(work: Work) -> None:
    """The picture under the sheet shown or put away."""
    picture = work.session.document.photograph
    if picture is not None and picture.laid is not None:
        shown = not picture.laid.shown
        work.session.edit(_("show the picture"), lambda d: show_picture(d, shown))


def toggle_see_through(work: Work) -> None:
    """See-through or solid."""
    on = not work.session.document.choices.see_through
    work.session.edit(_("see-through"), lambda d: sheet_edits.show_see_through(d, on))


def toggle_fans(work: Work) -> None:
    """Construction fans on or off."""
    on = not work.session.document.choices.fans
    work.session.edit(_("fans"), lambda d: sheet_edits.show_fans(d, on))


def toggle_diagonal_point(work: Work) -> None:
    """The 45° point on or off."""
    on = not work.session.document.choices.diagonal_point
    work.session.edit(_("45° point"), lambda d: sheet_edits.show_diagonal_point(d, on))


def take(work: Work, stance: Stance) -> None:
    """Take a stance, and say what it has set."""
    name = _("stance {name}").format(name=_(stance.name))
    if work.session.edit(name, lambda d: take_stance(d, stance)):
        work.board.tell(
            _(
                "Seen {stance}: place and height of the eye, heading, tilt, station distance and "
                "centre of vision are set anew; undo brings yours back."
            ).format(stance=_(stance.name))
        )


def toggle_full_screen(work: Work) -> None:
    """The whole screen for the window, or its own size again."""
    window = work.window_itself.window()
    if window is None:
        return
    if window.isFullScreen():
        window.showNormal()
    else:
        window.showFullScreen()


def toggle_nudging(work: Work) -> None:
    """Arrow keys move volumes in true mm, or in mm on the paper."""
    work.board.truly = not work.board.truly


def steps(work: Work) -> BuildCard:
    """The card of the build order, opened."""
    work.open_place("draw")
    card = work.open_card
    assert isinstance(card, BuildCard)
    return card
