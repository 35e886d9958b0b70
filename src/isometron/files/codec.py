"""Between frozen dataclasses and JSON: forms that write a value, read it back, check what they read
and say what a schema says of it.

A form is told once, in a table (`files.sheet_form`); what is written, what is read, what is refused
and the published schema all come from it. Whole numbers and texts are settled here, for every
reader.
"""

import dataclasses
import json
import typing
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any, NamedTuple, Protocol

from isometron.perspective.errors import FileError
from isometron.words import _

Fields = dict[str, Any]
Definitions = dict[str, Fields]

USUAL_MM = 1e6
"""Numbers of a kind nobody has given bounds for lie within this."""


class Complaint(NamedTuple):
    """What is wrong with data: where (as in eye.tilt_deg or volumes[3].name), and what, to end a
    sentence."""

    where: str
    what: str


Complaints = Iterator[Complaint]


class Form(Protocol):
    """How a value stands in JSON. `read` takes data of which `check` has nothing to say."""

    def write(self, value: Any) -> Any:
        """The value as JSON data."""

    def check(self, data: Any, where: str) -> Complaints:
        """What is wrong with data that lies somewhere in a file, the same that the schema refuses,
        in the order of the file."""

    def read(self, data: Any) -> Any:
        """The value of checked data. Raises IsometronError for one that cannot be."""

    def schema(self, known: Definitions) -> Fields:
        """What the data must be, as JSON schema; forms with a name are put among the definitions
        and referred to."""


class Number(NamedTuple):
    """A number between two bounds."""

    low: float
    high: float
    name: str = ""

    def write(self, value: Any) -> Any:
        """As a double: every one reads back to itself."""
        return float(value)

    def check(self, data: Any, where: str) -> Complaints:
        """A number within the bounds; true and false are none."""
        if isinstance(data, bool) or not isinstance(data, int | float):
            yield Complaint(where, _must_be("a number"))
        else:
            yield from _within(data, self.low, self.high, where)

    def read(self, data: Any) -> float:
        """As a double, also where the file has a whole number."""
        return float(data)

    def schema(self, known: Definitions) -> Fields:
        """A number."""
        return _named(self.name, known, {"type": "number", **_bounds(self.low, self.high)})


class Whole(NamedTuple):
    """A whole number between two bounds, or (`options`) one of a few."""

    low: int = 0
    high: int = 1_000_000_000
    options: tuple[int, ...] = ()

    def write(self, value: Any) -> Any:
        """As it is."""
        return value

    def check(self, data: Any, where: str) -> Complaints:
        """A whole number, 3.0 is one; within the bounds, or one of the few."""
        number = not isinstance(data, bool) and isinstance(data, int | float)
        if self.options:
            if not number or data not in self.options:
                yield Complaint(where, _one_of(self.options))
        elif not number or data != int(data):
            yield Complaint(where, _must_be(_("a whole number")))
        else:
            yield from _within(data, self.low, self.high, where)

    def read(self, data: Any) -> int:
        """As an int, also where the file has 3.0."""
        return int(data)

    def schema(self, known: Definitions) -> Fields:
        """A whole number."""
        if self.options:
            return {"enum": list(self.options)}
        return {"type": "integer", **_bounds(self.low, self.high)}


class Flag(NamedTuple):
    """True or false."""

    def write(self, value: Any) -> Any:
        """As it is."""
        return value

    def check(self, data: Any, where: str) -> Complaints:
        """True or false."""
        if not isinstance(data, bool):
            yield Complaint(where, _must_be(_("true or false")))

    def read(self, data: Any) -> bool:
        """As it is."""
        return bool(data)

    def schema(self, known: Definitions) -> Fields:
        """A boolean."""
        return {"type": "boolean"}


class Text(NamedTuple):
    """Text of at least and at most so many letters, or (`options`) one of a few words."""

    most: int = 60
    least: int = 1
    options: tuple[str, ...] = ()

    def write(self, value: Any) -> Any:
        """As it is."""
        return value

    def check(self, data: Any, where: str) -> Complaints:
        """Text of a fair length, or one of the words."""
        if self.options:
            if not isinstance(data, str) or data not in self.options:
                yield Complaint(where, _one_of(self.options))
        elif not isinstance(data, str):
            yield Complaint(where, _must_be("text"))
        elif not self.least <= len(data) <= self.most:
            yield Complaint(where, _counted(self.least, self.most, _("letters")))

    def read(self, data: Any) -> str:
        """As it is. Raises FileError for halves of letters, which nothing can be written with."""
        try:
            data.encode()
        except UnicodeEncodeError as error:
            raise FileError("A name holds half a letter: type it again.") from error
        return str(data)

    def schema(self, known: Definitions) -> Fields:
        """Text."""
        if self.options:
            return {"enum": list(self.options)}
        least = {"minLength": self.least} if self.least else {}
        return {"type": "string", **least, "maxLength": self.most}


class Word(NamedTuple):
    """One of a few values, each written as a word."""

    values: dict[str, Any]

    def write(self, value: Any) -> str:
        """Its word."""
        return next(word for word, one in self.values.items() if one == value)

    def check(self, data: Any, where: str) -> Complaints:
        """One of the words."""
        if not isinstance(data, str) or data not in self.values:
            yield Complaint(where, _one_of(tuple(self.values)))

    def read(self, data: Any) -> Any:
        """The value of a word."""
        return self.values[data]

    def schema(self, known: Definitions) -> Fields:
        """One of the words."""
        return {"enum": list(self.values)}


class Maybe(NamedTuple):
    """A value or none."""

    form: Form

    def write(self, value: Any) -> Any:
        """As the form does; null for none."""
        return None if value is None else self.form.write(value)

    def check(self, data: Any, where: str) -> Complaints:
        """As the form does; nothing is wrong with null."""
        return iter(()) if data is None else self.form.check(data, where)

    def read(self, data: Any) -> Any:
        """As the form does; none for null."""
        return None if data is None else self.form.read(data)

    def schema(self, known: Definitions) -> Fields:
        """What the form says, or null."""
        inner = self.form.schema(known)
        if isinstance(inner.get("type"), str):
            return inner | {"type": [inner["type"], "null"]}
        return {"oneOf": [{"type": "null"}, inner]}


class Many(NamedTuple):
    """A row of values: from `least` to `most` of them, made into a tuple or a (sorted) set."""

    form: Form
    most: int
    least: int = 0
    make: Callable[[Iterable[Any]], Any] = tuple
    name: str = ""

    def write(self, value: Any) -> list[Any]:
        """A list; of a set in order."""
        every = sorted(value) if self.make is frozenset else value
        return [self.form.write(one) for one in every]

    def check(self, data: Any, where: str) -> Complaints:
        """A list of a fair length, and every one in it."""
        if not isinstance(data, list):
            yield Complaint(where, _must_be(_("a list")))
            return
        if not self.least <= len(data) <= self.most:
            yield Complaint(where, _counted(self.least, self.most, _("parts")))
            return
        for number, one in enumerate(data):
            yield from self.form.check(one, f"{where}[{number}]")

    def read(self, data: Any) -> Any:
        """Every one as the form does."""
        return self.make(self.form.read(one) for one in data)

    def schema(self, known: Definitions) -> Fields:
        """An array."""
        least = {"minItems": self.least} if self.least else {}
        items = {"maxItems": self.most, "items": self.form.schema(known)}
        return _named(self.name, known, {"type": "array", **least, **items})


def row(form: Form, count: int, name: str = "") -> Many:
    """Exactly so many values."""
    return Many(form, count, count, name=name)


class PerName(NamedTuple):
    """Values of a row by name; those that are None left out."""

    names: tuple[str, ...]
    form: Form

    def write(self, value: Any) -> Fields:
        """Those that are there."""
        pairs = zip(self.names, value, strict=True)
        return {name: self.form.write(one) for name, one in pairs if one is not None}

    def check(self, data: Any, where: str) -> Complaints:
        """A group of fields, none of which must be there."""
        return _of_fields(data, where, dict.fromkeys(self.names, self.form), ())

    def read(self, data: Any) -> tuple[Any, ...]:
        """All, None for those left out."""
        return tuple(self.form.read(data[n]) if n in data else None for n in self.names)

    def schema(self, known: Definitions) -> Fields:
        """An object none of whose fields is required."""
        return _object({name: self.form.schema(known) for name in self.names}, [])


MUST = object()
"""The default of a field that every file has."""


class Entry(NamedTuple):
    """One field of a record: its name in the file, its form, the attribute it holds (or several, as
    a row), what it is when the file leaves it out (MUST: it never does; a function is asked with
    the fields of the file), and when it is left out: when it says nothing but the default, unless
    `when` tells otherwise of the whole value."""

    name: str
    form: Form
    attribute: str | tuple[str, ...] = ""
    default: Any = MUST
    when: Callable[[Any], bool] | None = None

    def value_in(self, whole: Any) -> Any:
        """Its value in a whole record."""
        if isinstance(self.attribute, tuple):
            return tuple(getattr(whole, one) for one in self.attribute)
        return getattr(whole, self.attribute or self.name)

    def usual(self, data: Fields) -> Any:
        """Its default beside the fields of a file."""
        return self.default(data) if callable(self.default) else self.default


class Spread(NamedTuple):
    """A value whose one field stands beside those of the record that holds it: one of several
    forms, told by the name of the field; `bare` is the value that has no field."""

    forms: Callable[[], Mapping[type, tuple[str, Form]]]
    bare: Any

    def write(self, value: Any) -> Fields:
        """The one field, or none."""
        if value == self.bare:
            return {}
        name, form = self.forms()[type(value)]
        return {name: form.write(value)}

    def check(self, data: Any, where: str) -> Complaints:
        """The record that holds it asks its fields."""
        return iter(())

    def read(self, data: Any) -> Any:
        """The value of the first field that is there."""
        for name, form in self.forms().values():
            if name in data:
                return form.read(data[name])
        return self.bare

    def schema(self, known: Definitions) -> Fields:
        """The fields it may have, none required."""
        return {name: form.schema(known) for name, form in self.forms().values()}


class Record(NamedTuple):
    """A dataclass as an object: its entries in the order of the file. A `Spread` among them puts
    its field beside the others."""

    make: Callable[..., Any]
    entries: tuple[Entry, ...]
    name: str = ""

    def write(self, value: Any) -> Fields:
        """Its fields; those that say nothing are left out."""
        fields: Fields = {}
        for entry in self.entries:
            one = entry.value_in(value)
            if isinstance(entry.form, Spread):
                fields |= entry.form.write(one)
            elif entry.when is not None:
                fields |= {entry.name: entry.form.write(one)} if entry.when(value) else {}
            elif entry.default is MUST or one != entry.usual(fields):
                fields[entry.name] = entry.form.write(one)
        return fields

    def check(self, data: Any, where: str) -> Complaints:
        """A group of fields: those that must be there, and none that are unknown."""
        return self.check_besides(data, where, ())

    def check_besides(self, data: Any, where: str, also: Sequence[str]) -> Complaints:
        """The same, where others look after some fields that stand among them."""
        fields: dict[str, Form] = {}
        for entry in self.entries:
            if isinstance(entry.form, Spread):
                fields |= dict(entry.form.forms().values())
            else:
                fields[entry.name] = entry.form
        needed = [e.name for e in self.entries if e.default is MUST and e.name in fields]
        return _of_fields(data, where, fields, needed, also)

    def read(self, data: Any) -> Any:
        """The dataclass."""
        found: Fields = {}
        for entry in self.entries:
            if isinstance(entry.form, Spread):
                one = entry.form.read(data)
            elif entry.name in data:
                one = entry.form.read(data[entry.name])
            else:
                one = entry.usual(data)
            if isinstance(entry.attribute, tuple):
                found |= dict(zip(entry.attribute, one, strict=True))
            else:
                found[entry.attribute or entry.name] = one
        return self.make(**found)

    def schema(self, known: Definitions) -> Fields:
        """An object; a field without a default is required."""
        fields: Fields = {}
        for entry in self.entries:
            if isinstance(entry.form, Spread):
                fields |= entry.form.schema(known)
            else:
                fields[entry.name] = entry.form.schema(known)
        needed = [e.name for e in self.entries if e.default is MUST and e.name in fields]
        return _named(self.name, known, _object(fields, needed))


class Told(NamedTuple):
    """One of several records, told by a word in one of its fields."""

    by: str
    forms: Mapping[str, tuple[type, Record]]

    def write(self, value: Any) -> Fields:
        """The word, and the fields of its record."""
        for word, (kind, form) in self.forms.items():
            if isinstance(value, kind):
                return {self.by: word, **form.write(value)}
        raise TypeError(f"No form for {value!r}")

    def check(self, data: Any, where: str) -> Complaints:
        """A record that its word tells."""
        if not isinstance(data, dict):
            yield Complaint(where, _must_be(_("a group of fields")))
        elif self.by not in data:
            yield Complaint(where, _lacks([self.by]))
        elif not isinstance(data[self.by], str) or data[self.by] not in self.forms:
            yield Complaint(_inside(where, self.by), _one_of(tuple(self.forms)))
        else:
            form = self.forms[data[self.by]][1]
            yield from form.check_besides(data, where, (self.by,))

    def read(self, data: Any) -> Any:
        """The record of its word."""
        return self.forms[data[self.by]][1].read(data)

    def schema(self, known: Definitions) -> Fields:
        """One of the objects."""
        one_of = []
        for word, (_kind, form) in self.forms.items():
            inner = form.schema(known)
            fields = {self.by: {"const": word}, **inner["properties"]}
            one_of.append(_object(fields, [self.by, *inner["required"]]))
        return {"oneOf": one_of}


def record_of(kind: type, forms: Mapping[str, Form] | None = None) -> Record:
    """The record of a frozen dataclass: its fields under their own names, those with a default left
    out when they have it; each by its form, by its type where it has been given none."""
    hints = typing.get_type_hints(kind)
    entries = []
    for field in dataclasses.fields(kind):
        default = MUST if field.default is dataclasses.MISSING else field.default
        form = (forms or {}).get(field.name) or _form_of(hints[field.name])
        entries.append(Entry(field.name, form, default=default))
    return Record(kind, tuple(entries))


def _form_of(hint: Any) -> Form:
    """The form of a type: a number, text, flag, or rows of these."""
    plain: dict[Any, Form] = {
        float: Number(-USUAL_MM, USUAL_MM),
        int: Whole(-1_000_000_000),
        bool: Flag(),
        str: Text(),
    }
    if hint in plain:
        return plain[hint]
    inner = typing.get_args(hint)
    if typing.get_origin(hint) is tuple and inner and len(set(inner) - {Ellipsis}) == 1:
        form = _form_of(inner[0])
        return Many(form, 400) if Ellipsis in inner else row(form, len(inner))
    raise TypeError(f"No form for {hint}: give it one in files.sheet_form")


def _of_fields(
    data: Any,
    where: str,
    fields: Mapping[str, Form],
    needed: Sequence[str],
    also: Sequence[str] = (),
) -> Complaints:
    """A group of fields: those needed, each by its form, and none besides."""
    if not isinstance(data, dict):
        yield Complaint(where, _must_be(_("a group of fields")))
        return
    lacking = [name for name in needed if name not in data]
    if lacking:
        yield Complaint(where, _lacks(lacking))
    for name, form in fields.items():
        if name in data:
            yield from form.check(data[name], _inside(where, name))
    if any(name not in fields and name not in also for name in data):
        yield Complaint(where, _("has a field that no sheet has; take it out"))


def _inside(where: str, name: str) -> str:
    return f"{where}.{name}" if where else name


def _within(value: float, low: float, high: float, where: str) -> Complaints:
    for bound, words, wrong in (
        (low, _("at least"), value < low),
        (high, _("at most"), value > high),
    ):
        if wrong:
            asked = _("must be {value} {definition}")
            yield Complaint(where, asked.format(value=words, definition=_plain(bound)))


def _must_be(what: str) -> str:
    return _("must be {value}").format(value=what)


def _one_of(options: Sequence[Any]) -> str:
    return _must_be(" or ".join(json.dumps(option) for option in options))


def _lacks(names: Sequence[str]) -> str:
    return _("lacks {names}").format(names=", ".join(names))


def _counted(least: int, most: int, what: str) -> str:
    if least == most:
        return _("must have {n} {what}").format(n=most, what=what)
    return _("must have {least} to {most} {what}").format(least=least, most=most, what=what)


def _bounds(low: float, high: float) -> Fields:
    """Bounds of a schema; whole ones without a point."""
    return {"minimum": _plain(low), "maximum": _plain(high)}


def _plain(value: float) -> float | int:
    return int(value) if abs(value) < 1e15 and value == int(value) else value


def _object(fields: Fields, needed: Sequence[str]) -> Fields:
    return {
        "type": "object",
        "required": list(needed),
        "additionalProperties": False,
        "properties": fields,
    }


def _named(name: str, known: Definitions, schema: Fields) -> Fields:
    if not name:
        return schema
    known[name] = schema
    return {"$ref": f"#/definitions/{name}"}
