"""Arithmetic with measures as people write it: ``2*3 w + 4 cm``, ``5' 3"``, ``1/3 of sheet``.

Words are turned into a plain arithmetic expression, which simpleeval works out with quantities in
place of numbers: lengths in mm and so many times named lengths, which need not be known yet.
"""

import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from isometron.perspective.errors import LengthError
from isometron.words import _, quoted

LONGEST = 200
"""Nobody types a longer sum."""

MM_PER = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8}
UNIT_SIGNS = {
    **{unit: unit for unit in MM_PER},
    **{"millimetre": "mm", "millimetres": "mm", "centimetre": "cm", "centimetres": "cm"},
    **{"metre": "m", "metres": "m", "inch": "in", "inches": "in", "foot": "ft", "feet": "ft"},
    **{'"': "in", "″": "in", "”": "in", "'": "ft", "′": "ft", "’": "ft"},
}
"""How units are written, and which each is."""

WORDS = {"half": "1/2", "third": "1/3", "quarter": "1/4", "twice": "2", "double": "2"}
SIGNS = {"plus": "+", "and": "+", "minus": "-", "times": "*"} | dict.fromkeys("×·", "*")
SIGNS |= {"−": "-", "–": "-", "÷": "/", ":": "/"}
VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3"}
VULGAR |= {"⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
POWERS = dict(zip("⁰¹²³⁴⁵⁶⁷⁸⁹⁻", "0123456789-", strict=True))
FILLING = ("of", "the", "a")

_NUMBER = r"(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d{1,2}(?![\w.]))?"
_FRACTION = re.compile(r"(?:(\d{1,9})\s*(?:-|\s)\s*)?(\d{1,9})\s*/\s*(\d{1,9})(?![\d.,])")
_MIXED = re.compile(r"(\d{1,9})(-|\s+)(\d{1,9})\s*/\s*(\d{1,9})(?![\d.,])")
_PLAIN = re.compile(_NUMBER)
_THOUSANDS = re.compile(r"[1-9]\d{0,2},\d{3}")
"""A comma before three digits: thousands to some, a decimal comma to others."""

_WORD = re.compile(r"[^\W\d_]\w*")


@dataclass(frozen=True)
class Quantity:
    """A number, or a length: mm and so many times named lengths."""

    mm: float
    terms: Mapping[str, float] = field(default_factory=dict)
    length: bool = True

    def __add__(self, other: "Quantity") -> "Quantity":
        one, two = _alike(self, other)
        terms = {
            name: one.terms.get(name, 0.0) + two.terms.get(name, 0.0)
            for name in {**one.terms, **two.terms}
        }
        return Quantity(one.mm + two.mm, _without_nothing(terms), one.length)

    def __sub__(self, other: "Quantity") -> "Quantity":
        return self + -other

    def __neg__(self) -> "Quantity":
        return self * Quantity(-1.0, length=False)

    def __pos__(self) -> "Quantity":
        return self

    def __mul__(self, other: "Quantity") -> "Quantity":
        if self.length and other.length:
            raise LengthError(_("A length times a length is no length: take one of them away."))
        by, what = (other, self) if self.length else (self, other)
        terms = {name: by.mm * count for name, count in what.terms.items()}
        return Quantity(by.mm * what.mm, _without_nothing(terms), what.length)

    def __truediv__(self, other: "Quantity") -> "Quantity":
        if other.length and not other.terms and self.length and not self.terms and other.mm:
            return Quantity(self.mm / other.mm, length=False)
        if other.length:
            raise LengthError(_("Nothing is divided by a length here: divide by a number."))
        if other.mm == 0:
            raise LengthError(
                _("A fraction cannot have nothing below its line: write 5/8, not 5/0.")
            )
        return self * Quantity(1.0 / other.mm, length=False)


def _without_nothing(terms: dict[str, float]) -> dict[str, float]:
    return {name: count for name, count in terms.items() if count}


def _alike(one: Quantity, two: Quantity) -> tuple[Quantity, Quantity]:
    """Two quantities to be added: a bare number beside a length is a length in the usual unit."""
    if one.length == two.length:
        return one, two
    if one.length:
        return one, Quantity(two.mm * _usual[-1])
    return Quantity(one.mm * _usual[-1]), two


_usual = [1.0]
"""mm of the unit that bare numbers are in while something is worked out."""


class UnknownWordError(LengthError):
    """A word that means nothing here: `word`."""

    def __init__(self, word: str) -> None:
        super().__init__(
            _(
                "“{word}” is not known here: type mm, cm, m, in, ft, a side, a volume or a module, "
                "or make it one with {word} = 62 cm."
            ).format(word=quoted(word))
        )
        self.word = word


def reckon(text: str, unit: str, names: Iterable[str] = ()) -> Quantity:
    """What a text says, a length: bare numbers in `unit`; `names` are lengths it may speak of,
    whatever their case. Raises LengthError with the sentence to show."""
    found = _worked_out(text, unit, names)
    return found if found.length else Quantity(found.mm * MM_PER[unit])


def reckon_number(text: str) -> float:
    """What a text says, a bare number. Raises LengthError with the sentence to show."""
    found = _worked_out(text, "mm", ())
    if found.length:
        raise LengthError(_("“{value}” is a length: type a number.").format(value=quoted(text)))
    return found.mm


def _worked_out(text: str, unit: str, names: Iterable[str]) -> Quantity:
    from simpleeval import InvalidExpression, SimpleEval

    if len(text) > LONGEST:
        raise _wrong(text)
    expression = _Expression(text, names)
    worker = SimpleEval(names=expression.known, functions={})
    _usual.append(MM_PER[unit])
    try:
        found = worker.eval(expression.words)
    except LengthError:
        raise
    except (InvalidExpression, SyntaxError, ArithmeticError, TypeError, ValueError, RecursionError):
        raise _wrong(text) from None
    finally:
        _usual.pop()
    if not isinstance(found, Quantity):
        raise _wrong(text)
    if not all(map(math.isfinite, (found.mm, *found.terms.values()))):
        raise LengthError(_("That measure is too large: use a smaller number."))
    return found


def _wrong(text: str) -> LengthError:
    return LengthError(
        _(
            "“{value}” is not a measure: type, say, 24.5 cm, 9 5/8 in, 5' 3\", 2*3 cm + 4 mm."
        ).format(value=quoted(text))
    )


class _Expression:
    """A text turned into an expression over names; `known` tells what each of them stands for."""

    def __init__(self, text: str, names: Iterable[str]) -> None:
        self._asked = text
        self._text = f" {text.strip()} "
        for sign, spelled in VULGAR.items():
            self._text = self._text.replace(sign, f" {spelled} ")
        by_length = sorted(names, key=len, reverse=True)
        self._names = [(name.casefold(), name) for name in by_length]
        self._after = ""
        """What stands before: "number", "length", or a sign or nothing."""
        self._parts: list[str] = []
        self.known: dict[str, Quantity] = {}
        self._unit_before = ""
        self._loose: str | None = None
        """The number that stands behind a length, until it is known what it counts."""
        at = 0
        while at < len(self._text):
            at = self._take(at)
        self._settle()

    @property
    def words(self) -> str:
        """The expression."""
        return " ".join(self._parts)

    def _take(self, at: int) -> int:
        """Take what stands at a place; gives where it ends."""
        text = self._text
        sign = text[at]
        if sign.isspace():
            return at + 1
        if sign in UNIT_SIGNS and not sign.isalpha():
            self._unit(UNIT_SIGNS[sign])
            return at + 1
        name = _name_at(text, at, self._names)
        if name is not None:
            self._put(Quantity(0.0, {name: 1.0}), "length")
            self._unit_before = ""
            return at + len(name)
        if sign in POWERS or sign.isdecimal() or _begins_decimal(text, at):
            return self._number(at)
        word = _WORD.match(text, at)
        if word is not None:
            self._word(word[0])
            return word.end()
        self._sign(SIGNS.get(sign, sign))
        return at + 1

    def _number(self, at: int) -> int:
        """Take a number, or the power of the one before; gives where it ends."""
        if self._text[at] in POWERS:
            return self._power(at)
        value, end = _number_at(self._text, at)
        self._put(Quantity(value, length=False), "number")
        return end

    def _power(self, at: int) -> int:
        """Take a small raised number, the power of the number before it; gives where it ends."""
        end = at
        while self._text[end] in POWERS:
            end += 1
        raised = "".join(POWERS[sign] for sign in self._text[at:end])
        if self._after != "number" or not re.fullmatch(r"-?\d{1,2}", raised):
            raise _wrong(self._asked)
        key = self._parts[-1]
        try:
            value = self.known[key].mm ** int(raised)
        except ArithmeticError:
            raise _wrong(self._asked) from None
        self.known[key] = Quantity(value, length=False)
        return end

    def _put(self, quantity: Quantity, kind: str) -> None:
        key = f"q{len(self.known)}"
        self.known[key] = quantity
        if self._after == "number" and kind == "length":  # binds closer than any sign
            self._parts[-1] = f"({self._parts[-1]} * {key})"
            self._loose = None
        elif self._after == "length" and kind == "number":
            self._settle()
            self._parts += ["+", key]
            self._loose = key
        elif self._after:
            raise _wrong(self._asked)
        else:
            self._parts.append(key)
        self._after = kind

    def _settle(self) -> None:
        """What a number without a unit behind a length counts: inches behind feet, else nothing
        that is sure."""
        key, self._loose = self._loose, None
        if key is None:
            return
        if self._unit_before != "ft":
            raise LengthError(
                _("“{value}”: say what the last number counts, as in 5 cm 6 mm.").format(
                    value=quoted(self._asked)
                )
            )
        self.known[key] = Quantity(self.known[key].mm * MM_PER["in"])

    def _unit(self, unit: str) -> None:
        if self._after != "number":
            raise _wrong(self._asked)
        self._unit_before = unit
        self._put(Quantity(MM_PER[unit]), "length")

    def _word(self, word: str) -> None:
        low = word.casefold()
        if low in UNIT_SIGNS:
            self._unit(UNIT_SIGNS[low])
        elif low in WORDS:
            over, _slash, under = WORDS[low].partition("/")
            self._put(Quantity(float(over) / float(under or 1), length=False), "number")
        elif low in SIGNS:
            self._sign(SIGNS[low])
        elif low not in FILLING:
            raise UnknownWordError(word)

    def _sign(self, sign: str) -> None:
        if sign not in "+-*/()":
            raise _wrong(self._asked)
        self._settle()
        if sign in "+-" and self._parts and self._parts[-1] in ("+", "-"):  # a slip
            raise _wrong(self._asked)
        if sign == "(" and self._after:
            self._parts.append("*")
        self._parts.append(sign)
        self._after = "length" if sign == ")" else ""


def _begins_decimal(text: str, at: int) -> bool:
    """Whether a number without a whole part begins at a place, as in .5."""
    return text[at] in ".," and text[at + 1 : at + 2].isdecimal()


def _name_at(text: str, at: int, folded: list[tuple[str, str]]) -> str | None:
    """The longest known name that stands at a place, as a word of its own."""
    here = text[at:].casefold()
    before = text[at - 1] if at else " "
    if before.isalpha():
        return None
    for low, name in folded:
        if here.startswith(low) and not here[len(low) : len(low) + 1].isalnum():
            return name
    return None


def _number_at(text: str, at: int) -> tuple[float, int]:
    """The number at a place (a fraction, a whole one and a fraction, or a plain one) and where it
    ends."""
    mixed = _MIXED.match(text, at)
    if mixed is not None and (mixed[2] != "-" or _inches_follow(text, mixed.end())):
        over, under = int(mixed[3]), int(mixed[4])
        return int(mixed[1]) + _share(over, under), mixed.end()
    fraction = _FRACTION.match(text, at)
    if fraction is not None and fraction[1] is None:
        return _share(int(fraction[2]), int(fraction[3])), fraction.end()
    plain = _PLAIN.match(text, at)
    if plain is None:  # no digit of ours
        raise _wrong(text.strip())
    if _THOUSANDS.fullmatch(plain[0]):
        raise LengthError(
            _("“{value}” may mean {large} or {small}: write it without the comma.").format(
                value=plain[0], large=plain[0].replace(",", ""), small=plain[0].replace(",", ".")
            )
        )
    return float(plain[0].replace(",", ".")), plain.end()


def _inches_follow(text: str, at: int) -> bool:
    rest = text[at:].lstrip()
    return rest.startswith(('"', "″", "”")) or rest.casefold().startswith("in")


def _share(over: int, under: int) -> float:
    if under == 0:
        raise LengthError(_("A fraction cannot have nothing below its line: write 5/8, not 5/0."))
    return over / under
