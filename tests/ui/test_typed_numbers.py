"""Every kind of number field, every way of writing a number: what is stored is what was meant, told
by whoever wrote it and not by our reader, or it is refused in a sentence."""

import random
from fractions import Fraction

import pytest

from isometron.perspective.errors import LengthError
from isometron.ui.parts import fields

MM = {"mm": Fraction(1), "cm": Fraction(10), "m": Fraction(1000), "in": Fraction(254, 10)}
SIGNS = {"in": ("in", '"', "″", " in"), "mm": ("mm", " mm", "MM"), "cm": ("cm", " cm"),
         "m": ("m", " m")}  # fmt: skip
LENGTHS = (fields.LengthField, fields.DimensionField, fields.LeanField)
BARE = (fields.CountField, fields.RatioField, fields.ShareField, fields.AngleField,
        fields.ScaleField)  # fmt: skip


def written(rng):
    """A number, and a way somebody writes it."""
    whole, digits = rng.randint(0, 400), rng.randint(1, 99)
    over, under = rng.choice([(1, 2), (1, 3), (3, 4), (5, 8), (2, 5)])
    ways = [
        (Fraction(whole), f"{whole}"),
        (Fraction(whole), f" {whole}.0 "),
        (Fraction(whole), f"{whole}."),
        (whole + Fraction(digits, 100), f"{whole}.{digits:02d}"),
        (whole + Fraction(digits, 100), f"{whole},{digits:02d}"),
        (Fraction(digits, 100), f".{digits:02d}"),
        (Fraction(over, under), f"{over}/{under}"),
        (whole + Fraction(over, under), f"{whole} {over}/{under}"),
        (Fraction(digits, 100), f"{digits}e-2"),
        (Fraction(whole + digits), f"{whole} + {digits}"),
        (Fraction(whole - digits), f"{whole} − {digits}"),
        (Fraction(whole * 3), f"3*{whole}"),
        (Fraction(whole, 4), f"{whole}/4"),
        (whole + Fraction(1, 2), f"{whole}½"),
    ]
    return rng.choice(ways)


def field_of(kind, unit):
    made = kind("a number", "of this test")
    if isinstance(made, fields.LengthField):
        made.show_unit(unit)
    return made


@pytest.mark.parametrize("unit", MM)
@pytest.mark.parametrize("kind", [*LENGTHS, fields.FineField])
def test_a_length_is_what_was_meant_in_its_own_unit_and_in_any(qapp, kind, unit, many):
    rng = random.Random(f"{kind.__name__} {unit}")
    field = field_of(kind, unit)
    own = "mm" if kind is fields.FineField else unit
    for _n in range(many(60, 3000)):
        number, text = written(rng)
        meant = number * MM[own]
        said = rng.choice([None, *MM])
        if said is not None and not any(sign in text for sign in "+−*e"):
            text, meant = text.rstrip() + rng.choice(SIGNS[said]), number * MM[said]
        if kind is fields.DimensionField and meant <= 0:
            continue  # no side is so long
        assert field.read(text) == pytest.approx(float(meant), rel=1e-12, abs=1e-9), text
    feet, inches = rng.randint(1, 9), rng.randint(1, 11)
    for text in (f"{feet}'{inches}", f"{feet}' {inches}\"", f"{feet} ft {inches} in"):
        assert field.read(text) == pytest.approx(25.4 * (12 * feet + inches)), text


@pytest.mark.parametrize("kind", BARE)
def test_a_bare_number_is_what_was_meant_or_is_refused(qapp, kind, many):
    rng, field, taken = random.Random(kind.__name__), field_of(kind, "cm"), 0
    for _n in range(many(120, 6000)):
        number, text = written(rng)
        if kind in (fields.ShareField, fields.ScaleField) and rng.random() < 0.3:
            number, text = number / 100, text.rstrip() + rng.choice(["%", " %"])
        allowed = {
            fields.CountField: number.denominator == 1 and number >= 0,
            fields.ShareField: 0 <= number <= 1,
            fields.ScaleField: 1e-6 <= number <= 1e4,
        }.get(kind, True)
        if not allowed:
            with pytest.raises(LengthError):
                field.read(text)
            continue
        taken += 1
        assert field.read(text) == pytest.approx(float(number), rel=1e-12, abs=1e-12), text
    assert taken > 10


@pytest.mark.parametrize(
    "text",
    ["1,250", "1,234.5", "1.234,5", "1 000", "12 34", "1_000", "0x10", "5cm 6", "5 cm 6 2", "w 3",
     "--5", "1e400", "nan", "inf", "1/0", "12cmm", "5 % cm", "2**3", "1//2", "()", ""],
)  # fmt: skip
def test_what_may_mean_two_things_is_refused_everywhere(qapp, text):
    """Also by the fields that take bare numbers only."""
    for kind in (*LENGTHS, fields.FineField, *BARE):
        with pytest.raises(LengthError):
            field_of(kind, "cm").read(text)
