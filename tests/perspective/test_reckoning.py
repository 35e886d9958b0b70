"""Arithmetic with measures, against sums worked out by hand and with exact fractions."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from isometron.perspective.errors import LengthError
from isometron.perspective.lengths import read_angle, read_length
from isometron.perspective.reckoning import reckon, reckon_number

KNOWN = {"w": 620.0, "width": 360.0, "Body.depth": 90.0, "seat 2": 44.0, "sheet": 420.0}

SAID = {
    "2*3 w + 4 cm": 2 * 3 * 620 + 40,
    "5' 3\"": 63 * 25.4,
    "1 ft 2 in": 14 * 25.4,
    "3 cm 5 mm": 35.0,
    "1/3 of sheet": 140.0,
    "half of Body.depth": 45.0,
    "half the width plus 1": 190.0,
    "twice w minus 2 cm": 1220.0,
    "width / 3": 120.0,
    "1 1/2 w": 930.0,
    "2 SEAT 2": 88.0,
    "2 (3 cm + 5 mm) - 1": 60.0,
    "7 cm / 2 cm * 1 mm": 3.5,
    "w - width": 260.0,
    "−(2 − 3) × 4,5 cm": 45.0,
    "10 - 4": 60.0,
    "12 cm 3 mm": 123.0,
    "9-5/8\"": 9.625 * 25.4,
    "½": 5.0,
    "1e2 mm": 100.0,
    "10³ mm": 1000.0,
    "2 × 10⁻¹ cm": 2.0,
    "½² cm": 2.5,
    "٣ cm": 30.0,
}  # fmt: skip


@pytest.mark.parametrize("text", SAID)
def test_measures_are_worked_out_as_a_person_means_them(text):
    assert read_length(text, "cm", KNOWN) == pytest.approx(SAID[text], rel=1e-14)


def test_what_hangs_on_others_says_on_which():
    found = reckon("2*3 w + half of width - 4 cm", "cm", KNOWN)
    assert found.terms == {"w": 6.0, "width": 0.5} and found.mm == -40.0


@pytest.mark.parametrize(
    "text",
    ["", "abc", "w w", "3 4", "1.5.2", "cm", '"', "2 cm * 3 cm", "5/0", "1/0 w", "(2", "2)", "()",
     "w / width", "2 ** 9", "__import__('os')", "[1]", "lambda: 1", "1 if 1 else 2", "1e400 cm",
     "9" * 5000, "(" * 150, "1+" * 120, "\0", "w" * 300, "2 cm = 3", "1;2", "x y z", "3 w cm",
     "½½", "²", "10³³³", "5⁻", "cm²", "3 cm²", "(2)²", "①", "Ⅷ", "2⁹⁹⁹", "0⁻¹", "௧௰", "1²²²²"],
)  # fmt: skip
def test_what_is_no_measure_is_refused_in_one_sentence(text):
    with pytest.raises(LengthError) as told:
        read_length(text, "cm", KNOWN)
    assert str(told.value).endswith(".") and "\n" not in str(told.value)
    assert len(str(told.value)) < 200


UNITS = {"mm": Fraction(1), "cm": Fraction(10), "m": Fraction(1000), "in": Fraction(254, 10)}


@st.composite
def sums(draw, depth=3):
    """A sum as text, and what it comes to, mm, in exact fractions."""
    kind = draw(st.sampled_from(["plain", "mixed", "sum", "times", "over"][: 5 if depth else 2]))
    if kind == "plain":
        number, unit = draw(st.integers(0, 9999)), draw(st.sampled_from(list(UNITS)))
        return f"{number / 100} {unit}", Fraction(str(number / 100)) * UNITS[unit]
    if kind == "mixed":
        whole, over, under = (draw(st.integers(1, 30)) for _unused in range(3))
        return f"{whole} {over}/{under} in", (whole + Fraction(over, under)) * UNITS["in"]
    one, first = draw(sums(depth - 1))
    if kind == "sum":
        other, second = draw(sums(depth - 1))
        sign = draw(st.sampled_from("+-−"))
        return f"({one}) {sign} ({other})", first + second if sign == "+" else first - second
    number = draw(st.integers(1, 40))
    if kind == "times":
        return f"{number} * ({one})", number * first
    return f"({one}) / {number}", first / number


@given(sums())
def test_any_sum_comes_to_what_exact_fractions_say(told):
    text, exactly = told
    if len(text) <= 200:
        assert read_length(text, "cm") == pytest.approx(float(exactly), rel=1e-12, abs=1e-9)


def test_angles_and_plain_numbers_are_worked_out_too():
    assert read_angle("90/4°") == 22.5 and read_angle("-12,5") == -12.5
    assert reckon_number("2*(3+1)") == 8.0
    with pytest.raises(LengthError, match="type a number"):
        reckon_number("3 cm")
