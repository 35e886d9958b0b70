"""The sides of a volume said in words."""

from isometron.document.document import Document
from isometron.document.edits import volume_edits
from isometron.document.edits.choosing import in_work
from isometron.document.edits.proportioning import known_lengths
from isometron.document.edits.shapes import rounding
from isometron.framework.volume import Volume
from isometron.perspective.lengths import read_length, read_ratio, read_three_lengths, sides_in


def proportion_of(volume: Volume) -> str:
    """Width : depth : height, the height being 1."""
    return " : ".join(f"{side / volume.height_mm:.3g}" for side in volume.sides)


def say_sides(document: Document, text: str) -> Document:
    """The volume in work of a width : depth : height: three lengths, or a proportion, and its
    height stays. Raises LengthError."""
    volume = document.volume
    if volume is not None and text == proportion_of(volume):
        return document
    sides = read_three_lengths(text, document.choices.unit, known_lengths(document))
    if sides is not None:
        return volume_edits.set_sides(document, sides_mm=sides)
    return volume_edits.make_proportion(document, ratio=read_ratio(text))


def say_size(document: Document, text: str) -> Document:
    """The volume in work of a size: its sides, or one length: the side of a cube, the diameter of
    what is round. Raises LengthError."""
    if len(sides_in(text)) > 1:
        return say_sides(document, text)
    mm = read_length(text, document.choices.unit, known_lengths(document))
    if rounding.turned_of(in_work(document)[1]):
        return rounding.set_diameter(document, mm)
    return volume_edits.make_cube(volume_edits.set_side(document, 2, mm))
