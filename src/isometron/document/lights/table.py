"""The lights there are, by their word: files, forms and pages read this table. Every light that has
a file in this folder stands in it."""

from isometron.document import lights as folder
from isometron.document.light import Light
from isometron.folders import classes_of

LIGHTS: dict[str, type[Light]] = {light.word: light for light in classes_of(folder, Light)}
"""Every light, in the order of lists."""
