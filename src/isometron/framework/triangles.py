"""The skin of a placed volume as triangles."""

import numpy as np

from isometron.framework.kinds.kind import Triangles
from isometron.framework.volume import Volume


def triangles_of(volume: Volume) -> Triangles | None:
    """Vertices (n, 3) world mm and triangles (t, 3) of a volume; None for a line in space."""
    found = volume.whole.skin
    if found is None:
        return None
    place, axes = volume.pose
    return np.asarray(found[0] @ axes + place), found[1]
