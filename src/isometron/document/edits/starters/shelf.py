"""A shelf with boxes on every board."""

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side, span
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

MOST_BOXES = 80
FILLS, DEEP, HIGH = 0.86, 0.9, 0.62
"""What of its place on the board a box fills across, away and up."""


def _shelf(values: Values) -> Made:
    wide, deep, high = (values[k] for k in ("width", "depth", "height"))
    boards, each = round(values["boards"]), round(values["boxes on each"])
    thick = values["board thickness"]
    clear = (high - boards * thick) / max(boards - 1, 1)
    inside = wide - 2 * thick
    if boards < 2 or clear <= thick or inside <= 0:
        raise VolumeError(_("That leaves no room between the boards: make it higher or wider."))
    if each * (boards - 1) > MOST_BOXES:
        raise VolumeError(_("That is a warehouse: keep to eighty boxes."))
    group = _("Shelf")

    def part(name: str, key: int, sides: tuple[float, float, float], at: Anchor | None) -> Volume:
        return Volume(name, *sides, on=at, key=key, group=group)

    def beside(x: float, z: float) -> Anchor:
        return Anchor(0, (0.0, 0.0, 0.0), (x, 0.0, z))

    side = part(_("Left side"), 0, (thick, deep, high), None)
    made = [side, part(_("Right side"), 1, (thick, deep, high), beside(wide - thick, 0.0))]
    for n in range(boards):
        up = n * (clear + thick)
        name = _("Board {number}").format(number=n + 1)
        made.append(part(name, 2 + n, (inside, deep, thick), beside(thick, up)))
    place = inside / max(each, 1)
    box = (FILLS * place, DEEP * deep, HIGH * clear)
    for n in range(each * (boards - 1)):
        board, column = divmod(n, each)
        aside = column * place + (place - box[0]) / 2
        on = Anchor(2 + board, (0.0, 0.0, 1.0), (aside, (deep - box[1]) / 2, 0.0))
        name = _("Box {number}").format(number=n + 1)
        made.append(Volume(name, *box, on=on, key=100 + n))
    return Made((Module("shelf", wide),), made)


SHELF = Starter(
    said("Shelf"),
    said("millimetres"),
    (
        Question(
            said("width"),
            "length",
            1200.0,
            said("From side to side."),
            measure=span(0, 0.0, 1, 1.0, 0),
        ),
        Question(
            said("depth"),
            "length",
            380.0,
            said("From front to back."),
            measure=side(0, 1),
        ),
        Question(
            said("height"),
            "length",
            1500.0,
            said("From the ground to the top board."),
            measure=side(0, 2),
        ),
        Question(said("boards"), "count", 4.0, said("The lowest and the top one too.")),
        Question(
            said("board thickness"),
            "length",
            25.0,
            said("Of boards and sides."),
            measure=side(0, 0),
        ),
        Question(said("boxes on each"), "count", 3.0, said("How many stand side by side.")),
    ),
    _shelf,
)
