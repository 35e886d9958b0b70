"""A deed as a small card to press: its drawing and its words."""

from isometron.deeds.deed import Deed
from isometron.ui.parts.drawn import DrawnTile
from isometron.ui.parts.wishes import Wishes

HIGH, PICTURE = 42, 34
"""Height of a tile, and the square its drawing takes, px."""


class DeedTile(DrawnTile):
    """One deed. It is down while its fields are open."""

    def __init__(self, wishes: Wishes, deed: Deed) -> None:
        told = f"{deed.tip} ({deed.keys[0]})" if deed.keys else deed.tip
        super().__init__(wishes, deed.key, deed.text, told, high=HIGH, picture=PICTURE)
        self.deed = deed
        self.setObjectName(deed.key)
        self.setCheckable(bool(deed.parameters))
