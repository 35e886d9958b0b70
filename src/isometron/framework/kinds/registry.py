"""The kinds there are, by their word: files, forms and starters read this table."""

from isometron.framework.kinds.bar import Bar
from isometron.framework.kinds.block import Block
from isometron.framework.kinds.extruded import Extruded
from isometron.framework.kinds.kind import Kind
from isometron.framework.kinds.loop import Loop
from isometron.framework.kinds.plan import Plan
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import Turned

KINDS: dict[str, type[Kind]] = {
    kind.word: kind for kind in (Block, Taper, Plan, Turned, Extruded, Bar, Loop)
}
"""Every kind of volume."""
