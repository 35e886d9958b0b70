import pytest
from hypothesis import given

from isometron.perspective.errors import LengthError
from isometron.perspective.lengths import (
    read_angle,
    read_length,
    read_ratio,
    read_scale,
    read_three_lengths,
    write_angle,
    write_length,
    write_place,
    write_scale,
)
from tests.scenes import floats


@pytest.mark.parametrize(
    ("typed", "unit", "mm"),
    [
        ("24.5", "cm", 245.0),
        ("24,5 cm", "mm", 245.0),
        ("305mm", "in", 305.0),
        ("1.2 m", "cm", 1200.0),
        ("9 5/8 in", "cm", 9.625 * 25.4),
        ('9-5/8"', "cm", 9.625 * 25.4),
        ("5/8", "in", 0.625 * 25.4),
        ("9½″", "mm", 9.5 * 25.4),
        ("−3 1/4 inches", "mm", -3.25 * 25.4),
        (".5", "mm", 0.5),
        ("12 inch", "cm", 304.8),
    ],
)
def test_a_measure_reads_as_people_write_it(typed, unit, mm):
    assert read_length(typed, unit) == pytest.approx(mm, abs=1e-12)


@pytest.mark.parametrize(
    "typed", ["", "wide", "3 furlongs", "1/0 in", "nan", "inf", "1e999", "--3"]
)
def test_what_is_no_measure_is_refused_with_a_sentence(typed):
    with pytest.raises(LengthError, match=r"[.:]"):
        read_length(typed, "mm")


@given(floats(-9000, 9000))
def test_inches_are_written_to_the_nearest_sixteenth(mm):
    written = write_length(mm, "in")
    assert abs(read_length(written, "in") - mm) <= 25.4 / 32 + 1e-9
    assert (
        "/16" in written
        or "/8" in written
        or "/4" in written
        or "/2" in written
        or (
            read_length(written, "in") % 25.4 == pytest.approx(0, abs=1e-9)
            or read_length(written, "in") % 25.4 == pytest.approx(25.4, abs=1e-9)
        )
    )


def test_measures_are_written_without_needless_digits():
    assert write_length(245.0, "cm") == "24.5 cm"
    assert write_length(-0.0001, "cm") == "0 cm"
    assert write_length(-93.06, "cm") == "−9.31 cm"
    assert write_length(9.625 * 25.4, "in") == "9 5/8 in"
    assert write_length(25.4 * 0.99, "in") == "1 in"
    assert write_length(100.0, "mm", with_unit=False) == "100"


def test_angles_scales_and_proportions_read_back():
    assert read_angle(" −12,5° ") == -12.5
    assert write_angle(-0.01) == "0°"
    assert read_scale("1 : 4") == 0.25
    assert read_scale("25 %") == 0.25
    assert read_scale(write_scale(2.0)) == 2.0
    assert write_scale(0.2) == "1 : 5"
    assert read_ratio("3 : 2 : 1") == (3.0, 2.0, 1.0)
    assert read_ratio("1,5x1x0.5") == (1.5, 1.0, 0.5)


@pytest.mark.parametrize(
    ("reader", "typed"),
    [
        (read_angle, "steep"),
        (read_angle, "inf"),
        (read_scale, "1 : 0"),
        (read_scale, "-2"),
        (read_scale, "1:2:3"),
        (read_ratio, "3 : 2"),
        (read_ratio, "0 : 1 : 1"),
        (read_ratio, "a:b:c"),
    ],
)
def test_nonsense_angles_scales_and_proportions_are_refused(reader, typed):
    with pytest.raises(LengthError, match="“"):
        reader(typed)


@pytest.mark.parametrize(
    ("place", "told"),
    [((159.7, 85.9), "15.97 cm right, 8.59 cm up"), ((-226.5, 30.0), "22.65 cm left, 3 cm up"),
     ((-1.0, -20.0), "0.1 cm left, 2 cm down"), ((-0.001, -1e-9), "0 cm right, 0 cm up")],
)  # fmt: skip
def test_a_place_has_no_negative_numbers(place, told):
    assert write_place(place, "cm") == told


def test_three_lengths_are_told_from_a_proportion():
    assert read_three_lengths("10 cm : 10 cm : 1.2 m", "mm") == (100.0, 100.0, 1200.0)
    assert read_three_lengths("2 w : 1/2 w : 30", "cm", {"w": 620.0}) == (1240.0, 310.0, 300.0)
    assert read_three_lengths("3 : 2 : 1", "cm") is None and read_three_lengths("3", "cm") is None
    with pytest.raises(LengthError):
        read_three_lengths("3 cm : ? : 2", "cm")
