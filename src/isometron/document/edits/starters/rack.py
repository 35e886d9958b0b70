"""A rack: posts at even bays, before and behind, and boards between them over all bays."""

from isometron.document.edits.starters.starter import Made, Question, Starter, Values, side, span
from isometron.framework.modules import Module
from isometron.framework.placing import Anchor
from isometron.framework.volume import Volume
from isometron.perspective.errors import VolumeError
from isometron.words import _, said

MOST_BAYS, MOST_LEVELS = 12, 12
FOOT = 0.12
"""How high the lowest board lies, as a share of the height."""


def _rack(values: Values) -> Made:
    bay, deep, high = (values[k] for k in ("bay width", "depth", "height"))
    bays, levels = round(values["bays"]), round(values["boards"])
    post, thick = values["post thickness"], values["board thickness"]
    if not (1 <= bays <= MOST_BAYS and 1 <= levels <= MOST_LEVELS):
        raise VolumeError(
            _("A rack has 1 to {bays} bays and 1 to {boards} boards.").format(
                bays=MOST_BAYS, boards=MOST_LEVELS
            )
        )
    gap = (high - thick) * (1 - FOOT) / max(levels - 1, 1)
    if bay <= 2 * post or deep <= 2 * post or gap <= thick:
        raise VolumeError(_("That leaves no room between posts or boards: make it larger."))
    group = _("Rack")

    def part(name: str, key: int, sides: tuple[float, float, float], at: Anchor | None) -> Volume:
        return Volume(name, *sides, on=at, key=key, group=group)

    def from_first(x: float, y: float, z: float) -> Anchor:
        return Anchor(0, (0.0, 0.0, 0.0), (x, y, z))

    made = [part(_("Post {number}").format(number=1), 0, (post, post, high), None)]
    for n in range(1, 2 * (bays + 1)):
        row, back = divmod(n, 2)
        at = from_first(row * bay, back * (deep - post), 0.0)
        made.append(part(_("Post {number}").format(number=n + 1), n, (post, post, high), at))
    inside = (bays * bay - post, deep - 2 * post)
    for n in range(levels):
        up = high * FOOT + n * gap if levels > 1 else high * FOOT
        at = from_first(post, post, min(up, high - thick))
        name = _("Board {number}").format(number=n + 1)
        made.append(part(name, 50 + n, (*inside, thick), at))
    return Made((Module("bay", bay),), made)


RACK = Starter(
    said("Rack with bays"),
    said("millimetres"),
    (
        Question(
            said("bay width"),
            "length",
            900.0,
            said("From the middle of a post to the middle of the next."),
            measure=span(0, 0.5, 2, 0.5, 0),
        ),
        Question(said("bays"), "count", 3.0, said("How many side by side.")),
        Question(
            said("depth"),
            "length",
            500.0,
            said("From front to back."),
            measure=span(0, 0.0, 1, 1.0, 1),
        ),
        Question(
            said("height"),
            "length",
            2000.0,
            said("From the ground to its top."),
            measure=side(0, 2),
        ),
        Question(said("boards"), "count", 4.0, said("How many one above the other.")),
        Question(said("board thickness"), "length", 35.0, said("Of a board."), measure=side(50, 2)),
        Question(said("post thickness"), "length", 50.0, said("Of a post."), measure=side(0, 0)),
    ),
    _rack,
)
