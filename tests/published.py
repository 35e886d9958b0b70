"""The published schemas, each made into a checker once."""

import json
from functools import cache
from importlib import resources

import fastjsonschema


def schema(name):
    """A published schema by its name: sheet, report, marks, reading, order."""
    return json.loads(
        resources.files("isometron.files").joinpath(f"{name}.schema.json").read_text()
    )


@cache
def checker(name):
    """Raises JsonSchemaValueException for what a published schema refuses."""
    return fastjsonschema.compile(schema(name))
