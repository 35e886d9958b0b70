"""The plain values that places are said by where no arithmetic is done."""

Place = tuple[float, float]
"""Right and up: on a sheet, a face, a plan or a picture."""

WorldPlace = tuple[float, float, float]
"""Right, ahead and up in the world, or along the axes of a volume."""

Sides = tuple[float, float, float]
"""Width, depth and height, mm."""

Rectangle = tuple[float, float, float, float]
"""Left, bottom, right, top."""
