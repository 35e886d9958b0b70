"""The limits of judgement the rules go by."""

from isometron.hiding.contact import TOUCH_MM

HAND_MM = 0.5
"""What a hand with a ruler can tell apart; remarks below it would be noise."""

RIGHT_ANGLE_DEG = 90.0
"""A near ground corner drawn sharper than this cannot be the corner of a box."""

ANGLE_NOISE_DEG = 0.05
"""A corner this little sharper than a right angle is a rounding (looking straight down)."""

CORNER_MARGIN_DEG = 1.0
"""A remedy opens the near corner this much beyond a right angle."""

FORCED_SPACING = 3.0
"""Vanishing points closer together than this many drawn heights look forced."""

STATIC_WITHIN_DEG = 0.5
"""A turn this close to 45° goes static."""

LIVELY_TURN_DEG = 30.0
"""The usual turn: thirty degrees on one side, sixty on the other."""

EDGE_ON_DEG = 1.0
"""A face seen at less than this angle of sight reads as a line."""

CLEAR_STEP_MM = 15.0
"""How far a remedy moves a mark on the paper to undo an accident."""

FURTHEST_STEP = 40.0
"""A remedy never steps back beyond this many times the present station distance."""

CONTACT_MM = TOUCH_MM
"""Volumes nearer to each other than this touch; a base this low stands on the ground."""

OFF_SQUARE = 0.15
"""A square that reads further off square than this looks wrong to anybody."""

SQUARE_WITHIN = 0.01
"""Sides that differ by less than this share are meant to be equal."""

COINCIDE_MM = 0.5
"""Corners and edges nearer than the hand's own precision fall together on the paper."""

COINCIDE_LEAST_MM = 8.0
"""Edges that fall together for less than this are not noticed."""

MOST_COINCIDENCES = 3
"""More accidents of one kind than this are one accident: the place of the eye."""

FLAT_ELLIPSE_DEG = 5.0
"""An ellipse that opens less than this is drawn as a line."""

ROUND_ELLIPSE_DEG = 80.0
"""An ellipse that opens more than this is drawn as a circle."""

DISAGREE_DEG = 15.0
"""Wheels of one side whose ellipses open this differently look like two vehicles."""

ONE_AXLE_DEG = 0.5
"""Axles that differ by more than this do not belong to one vehicle."""
