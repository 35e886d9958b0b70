"""Deeds with the picture in work: how it lies under the sheet, its eye, and taking it off."""

from base64 import b64decode
from functools import cache

from isometron.deeds.deed import (
    ActsOn,
    Deed,
    Matter,
    Measured,
    Parameter,
    choice,
    in_place,
    plain,
)
from isometron.deeds.example import Example, box
from isometron.document.edits import eye_edits
from isometron.document.edits.pictures import bringing
from isometron.document.picture import Laid, PictureFile, SheetPicture
from isometron.words import _, said

MATTER = Matter.PICTURE

ONE_PIXEL = b64decode(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGP4DwABAQEAsO7cpwAAAABJRU5ErkJggg=="
)
"""A picture of one white pixel, PNG."""

SHOWN = (said("put away"), said("shown"))
SENT = (said("stays here"), said("goes out"))


@cache
def _laid() -> Example:
    """A cube over a picture, seen from elsewhere since."""
    document = box().document
    laid = Laid((0.0, 0.0), (0.0, 0.0), 1.0, 0.0, document.eye)
    picture = SheetPicture("", PictureFile(ONE_PIXEL), 1, 1, laid=laid)
    over = bringing.bring_picture(document, picture)
    return Example(eye_edits.step_back(over, 2 * document.eye.station_distance_mm))


def _switch(key: str, tip: str, words: tuple[str, str], what: str) -> Deed:
    edits = {"shown": bringing.show_picture, "sent": bringing.send_picture}
    return in_place(
        choice(
            key,
            tip,
            words,
            now=lambda document, given: document.laid and int(getattr(document.laid, what)),
        ),
        lambda document, number: edits[what](document, bool(number)),
        0 if what == "shown" else 1,
        acts_on=(ActsOn.LAID,),
        shows=_laid,
    )


DEEDS = (
    in_place(
        Parameter(
            said("strength of the picture"),
            _("How strong the picture shows under the lines, in per cent or as a share."),
            Measured.SHARE,
            label=_("strength"),
            now=lambda document, given: document.laid and document.laid.strength,
        ),
        bringing.set_strength,
        0.25,
        name=_("strength of the picture"),
        acts_on=(ActsOn.LAID,),
        shows=_laid,
        finds=_("underlay pale"),
    ),
    _switch(
        said("under the sheet"),
        _("Show the picture under the sheet, or put it away (Ctrl+T)."),
        SHOWN,
        "shown",
    ),
    _switch(
        said("with the sheet"),
        _("Whether the picture goes out with the sheet, in PDF, PNG and SVG, and to the printer."),
        SENT,
        "sent",
    ),
    Deed(
        "picture eye",
        _("Look from its eye again"),
        _("Look from where the picture was taken again."),
        _("the picture's eye"),
        plain(bringing.take_picture_eye),
        acts_on=(ActsOn.LAID,),
        shows=_laid,
    ),
    Deed(
        "take picture off",
        _("Take the picture off"),
        _("Take the picture in hand and its marks off the sheet."),
        _("take the picture off"),
        plain(bringing.take_picture_away),
        acts_on=(ActsOn.PICTURE,),
        shows=_laid,
    ),
)
