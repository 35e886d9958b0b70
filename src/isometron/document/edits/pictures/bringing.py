"""Pictures come to a sheet, are taken into work, and leave it."""

from collections.abc import Callable, Sequence
from dataclasses import replace

from isometron.document.document import Document
from isometron.document.errors import ChoiceError
from isometron.document.marks import Edge, Lens
from isometron.document.picture import Laid, SheetPicture
from isometron.perspective.places import Place
from isometron.words import _

Change = Callable[[SheetPicture], SheetPicture]


def bring_picture(document: Document, picture: SheetPicture) -> Document:
    """Another picture on the sheet, which becomes the one in work. Raises ChoiceError for one too
    many."""
    return replace(
        document,
        pictures=(*document.pictures, picture),
        picture=len(document.pictures),
    )


def take_picture_away(document: Document) -> Document:
    """The picture in work taken off the sheet. Raises ChoiceError when there is none."""
    in_work(document)
    left = [one for i, one in enumerate(document.pictures) if i != document.picture]
    number = max(min(document.picture, len(left) - 1), 0)
    return replace(document, pictures=tuple(left), picture=number)


def choose_picture(document: Document, number: int) -> Document:
    """Another picture in work."""
    return replace(document, picture=number)


def in_work(document: Document) -> SheetPicture:
    """The picture in work. Raises ChoiceError when there is none."""
    if document.photograph is None:
        raise ChoiceError(_("No picture lies on this sheet: open one first."))
    return document.photograph


def change_picture(document: Document, change: Change) -> Document:
    """The picture in work changed."""
    pictures = list(document.pictures)
    pictures[document.picture] = change(in_work(document))
    return replace(document, pictures=tuple(pictures))


def set_cropped(document: Document, cropped: bool) -> Document:
    """Whether the picture may be a part of what the camera saw."""
    return change_picture(document, lambda picture: replace(picture, cropped=cropped))


def use_lens(document: Document, used: bool) -> Document:
    """Whether the focal length that the file told is used."""
    return change_picture(document, lambda picture: replace(picture, lens_used=used))


def set_dpi(document: Document, dpi: float) -> Document:
    """How many dots per inch the scan in work has. Raises ChoiceError for what no scan has."""
    return change_picture(document, lambda picture: replace(picture, dpi=dpi))


def put_lines(
    document: Document,
    lines: Sequence[Edge],
    bend: float,
    bend_error: float,
    long_lines: int,
    cropped: bool = False,
    doubt: str = "",
) -> Document:
    """Lines that were found take the place of those found before; what was marked by hand stays,
    and so does what has been named or said of a found one. cropped: whether they say that the
    picture is a part of another; doubt: what of them is in doubt."""

    def change(picture: SheetPicture) -> SheetPicture:
        spoken_of = {number for one in picture.known for number in one.edges}
        kept = [
            (number, edge)
            for number, edge in enumerate(picture.edges)
            if not edge.found or number in spoken_of or edge.corners is not None or edge.name
        ]
        now = {number: place for place, (number, _edge) in enumerate(kept)}
        known = tuple(
            replace(one, edges=tuple(now[number] for number in one.edges)) for one in picture.known
        )
        own = tuple(edge for _number, edge in kept)
        return replace(
            picture,
            edges=(*own, *lines),
            known=known,
            bend=bend,
            bend_error=bend_error,
            long_lines=long_lines,
            cropped=picture.cropped or cropped,
            doubt=doubt,
        )

    return change_picture(document, change)


def propose_corners(document: Document, corners: Sequence[Place]) -> Document:
    """The picture in work shows a sheet of paper, whose four corners are proposed."""
    return change_picture(document, lambda picture: replace(picture, corners=tuple(corners)))


def move_corner(document: Document, number: int, place: Place) -> Document:
    """A corner of the paper put elsewhere."""

    def change(picture: SheetPicture) -> SheetPicture:
        corners = list(picture.corners)
        corners[number] = place
        return replace(picture, corners=tuple(corners))

    return change_picture(document, change)


def put_sheet(document: Document, sheet: SheetPicture) -> Document:
    """The straightened sheet in place of the picture in work."""
    return change_picture(document, lambda picture: sheet)


KNOWN_SHARE = 0.002
"""How surely the station distance of a framework is that of a sketch of it, as a share."""

PAPER_APART_MM = 2.0


def mean_framework(document: Document) -> Document:
    """The framework on the sheet is what the sketch in work was meant to be: its eye, and its edges
    to compare with. Raises ChoiceError for a picture that is no straightened sheet, a framework
    that is none, or another format of paper."""
    picture, eye, sheet = in_work(document), document.eye, document.sheet
    if picture.paper_mm is None:
        raise ChoiceError(_("The picture is no straightened sheet: straighten your sheet first."))
    if not document.volumes:
        raise ChoiceError(_("No framework stands on the sheet: lay one down first."))
    wide, high = picture.paper_mm
    if abs(wide - sheet.width_mm) > PAPER_APART_MM or abs(high - sheet.height_mm) > PAPER_APART_MM:
        raise ChoiceError(
            _("Your sheet and the framework's are of different formats: choose the same.")
        )
    scale = wide / picture.width
    x, y = eye.centre_of_vision_mm
    distance = eye.station_distance_mm / scale
    laid = Laid((0.0, 0.0), (0.0, 0.0), scale, 0.0, eye)
    return change_picture(
        document,
        lambda one: replace(
            one,
            laid=laid,
            cropped=False,
            centre=(x / scale, y / scale),
            lens=Lens(distance, KNOWN_SHARE * distance),
            lens_used=True,
        ),
    )


def show_picture(document: Document, shown: bool) -> Document:
    """The picture under the sheet shown or put away. Raises ChoiceError when none is laid there."""
    return _change_laid(document, shown=shown)


def set_strength(document: Document, strength: float) -> Document:
    """How strong the picture shows under the lines, 0 to 1."""
    return _change_laid(document, strength=strength, shown=True)


def send_picture(document: Document, sent: bool) -> Document:
    """Whether the picture goes out with the sheet, in PDF, PNG and SVG."""
    return _change_laid(document, sent=sent)


def keep_ghost(document: Document, kept: bool) -> Document:
    """Whether the picture's view stays as a ghost when we look from elsewhere."""
    return _change_laid(document, ghost=kept)


def take_picture_eye(document: Document) -> Document:
    """The eye of the picture in work again. Raises ChoiceError when no sheet lies over it."""
    laid = in_work(document).laid
    if laid is None:
        raise ChoiceError(_("No sheet lies over this picture: lay one over it first."))
    return document.with_eye(laid.eye)


def underlay_of(document: Document) -> Laid | None:
    """How the picture in work lies under the sheet as it is seen now; None when it is put away,
    laid under no sheet, or does not fit what the eye sees."""
    picture = document.photograph
    if picture is None or picture.laid is None or not picture.laid.shown:
        return None
    return picture.laid.seen_from(document.eye)


def sent_underlay_of(document: Document) -> Laid | None:
    """The underlay, when it goes out with the sheet."""
    laid = underlay_of(document)
    return laid if laid is not None and laid.sent else None


def _change_laid(document: Document, **changes: object) -> Document:
    def change(picture: SheetPicture) -> SheetPicture:
        if picture.laid is None:
            raise ChoiceError(_("No sheet lies over this picture: lay one over it first."))
        return replace(picture, laid=replace(picture.laid, **changes))  # type: ignore[arg-type]

    return change_picture(document, change)
