"""Deeds of variants: other versions of the framework on the same sheet, from the same eyes."""

from isometron.deeds.deed import ActsOn, Deed, Given, Matter, listed, plain, words
from isometron.deeds.example import Example, box
from isometron.document.document import Document
from isometron.document.edits import varying, volume_edits
from isometron.words import _, said

MATTER = Matter.VARIANTS


def _others(document: Document) -> list[tuple[str, int]]:
    return [(v.name, n) for n, v in enumerate(document.variants) if n != document.variant]


def _name(document: Document, given: Given) -> str | None:
    return document.variants[document.variant].name if document.variants else None


WHICH = listed(
    said("which variant"), _("Another version of the framework."), _others, label=_("take")
)
PART = listed(
    said("which part"),
    _("A part that is different there."),
    varying.parts_elsewhere,
    label=_("take"),
)
NAME = words(said("name of the variant"), _("What it is called."), "", label=_("called"), now=_name)


def _take(document: Document, given: Given) -> Document:
    return varying.take_variant(document, given.one(WHICH, document, varying.ONLY_ONE))


def _part(document: Document, given: Given) -> Document:
    nothing = _("No part of the other variants differs from those here.")
    return varying.take_part(document, given.one(PART, document, nothing))


def _called(document: Document, given: Given) -> Document:
    return varying.rename_variant(document, given.text(NAME))


def _lie(document: Document) -> Document:
    return varying.lay_beneath(document, on=not document.beneath)


def _two() -> Document:
    other = varying.new_variant(box().document)
    return volume_edits.set_side(other, 2, 120.0)


def _three() -> Example:
    return Example(_two(), None, {WHICH.key: 0})


def _parted() -> Example:
    document = _two()
    return Example(document, None, {PART.key: varying.parts_elsewhere(document)[0][1]})


DEEDS = (
    Deed(
        "new variant",
        _("New variant"),
        _("Another version of the framework, made from the one in hand; the old one stays."),
        _("new variant"),
        plain(varying.new_variant),
        acts_on=(ActsOn.SHEET,),
        keys=("Ctrl+Alt+N",),
        finds=_("version alternative try copy keep old"),
    ),
    Deed(
        "next variant",
        _("Next variant"),
        _("The next version of the framework in hand; after the last the first."),
        _("next variant"),
        plain(varying.next_variant),
        acts_on=(ActsOn.SHEET,),
        keys=("V",),
        shows=lambda: Example(_two()),
        finds=_("version flick compare other"),
    ),
    Deed(
        "take variant",
        _("Take a variant"),
        _("Another version of the framework in hand."),
        _("take a variant"),
        _take,
        (WHICH,),
        (ActsOn.SHEET,),
        shows=_three,
        finds=_("version choose"),
    ),
    Deed(
        "lay variants beneath",
        _("Others beneath"),
        _("The other versions lie pale under the one in hand; once more: not."),
        _("others beneath"),
        plain(_lie),
        acts_on=(ActsOn.SHEET,),
        shows=lambda: Example(_two()),
        finds=_("ghost overlay compare versions"),
    ),
    Deed(
        "take part",
        _("Take a part over"),
        _("A part as another version has it, in the place of the one here."),
        _("take a part over"),
        _part,
        (PART,),
        (ActsOn.SHEET,),
        shows=_parted,
        finds=_("merge version from another"),
    ),
    Deed(
        "name variant",
        _("Name the variant"),
        _("What the version in hand is called."),
        _("name the variant"),
        _called,
        (NAME,),
        (ActsOn.SHEET,),
        shows=lambda: Example(_two(), None, {NAME.key: "Long"}),
        finds=_("rename version call"),
    ),
    Deed(
        "drop variant",
        _("Drop the variant"),
        _("The version in hand goes; the one before it is in hand."),
        _("drop the variant"),
        plain(varying.drop_variant),
        acts_on=(ActsOn.SHEET,),
        shows=lambda: Example(_two()),
        finds=_("remove version delete"),
    ),
)
