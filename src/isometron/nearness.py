"""How near is the same: the powers of ten by which the core decides, each with what it stands for.

What is judged by a measure of its own (a hair of paper, a lip of steel) names that measure where it
is judged. What merely keeps a division defined is no decision and stands bare beside it.
"""

SAME = 1e-9
"""Shares, unit vectors and numbers of one size that differ by no more are the same: what a chain of
constructions leaves of double precision, with three figures to spare."""

ROUNDING = 1e-12
"""What one short sum leaves of double precision: less, of numbers of one size, is nothing."""

CLOSE = 1e-7
"""Places found by root finding or by a polygon library, as a share of what they lie on: no nearer
can they be told apart."""

NEAR = 1e-6
"""Places on paper or in the world, mm, and shares of them, that no eye tells apart and no later
construction pulls asunder."""

NOUGHT = 1e-300
"""Less than this is nought, whatever it is measured in: what is divided by it overflows."""

LAST_BITS = 1e-14
"""The last bits of a product of two: less, as a share of its factors, is nothing."""
