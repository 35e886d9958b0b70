"""The limits of judgement the rules go by."""

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
