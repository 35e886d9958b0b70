"""The table of bands of proportion: between which measures a thing of a kind is as one expects it,
and what that rests on. Sketching proportions, made up and reasoned from use; not engineering or
ergonomic data. A person has bands of their own, for a sheet and for all new ones."""

from collections.abc import Mapping
from typing import NamedTuple

from isometron.words import said


class Side(NamedTuple):
    """An end of a band: so much, or so many times another measure of the same kind and so much."""

    plus: float
    of: str = ""
    times: float = 1.0

    def at(self, measures: Mapping[str, float]) -> float | None:
        """Its value; None where what it hangs on is not there."""
        if not self.of:
            return self.plus
        known = measures.get(self.of)
        return None if known is None else self.times * known + self.plus


class Band(NamedTuple):
    """Of a kind of thing (a starter, or what a volume is), between which values of a measure it
    looks right, in that measure's own unit (modules, mm or degrees), and why."""

    of: str
    what: str
    low: Side
    high: Side
    why: str

    @property
    def key(self) -> tuple[str, str]:
        """What it is known by."""
        return self.of, self.what


def _of(kind: str, *rows: "tuple[str, float | Side, float | Side, str]") -> tuple[Band, ...]:
    def end(value: float | Side) -> Side:
        return value if isinstance(value, Side) else Side(value)

    return tuple(Band(kind, what, end(low), end(high), why) for what, low, high, why in rows)


RAMP = said("less leaves no body beyond the tyre, more grounds where a road begins to climb")
SIT = said("one sits upright under it; higher it would tip in a bend")
REACH = said("one reaches it standing")

BANDS = (
    *_of(
        "Vehicle",
        (
            "wheel diameter",
            300.0,
            1400.0,
            said("smaller it falls into every rut, larger one cannot step over it"),
        ),
        (
            "wheelbase",
            2.0,
            4.6,
            said("between the wheels one sits with legs stretched; longer it grounds on a crest"),
        ),
        ("front overhang", 0.45, 1.8, RAMP),
        ("rear overhang", 0.45, 2.4, RAMP),
        ("height", 1.6, 3.6, SIT),
        ("width", 1.8, 3.4, said("two sit side by side, and it passes where another does")),
        (
            "track",
            1.3,
            Side(-0.25, "width"),
            said("wide enough not to tip, and the wheels stay under the body"),
        ),
        ("ground clearance", 0.12, 0.8, said("it clears a kerb, and one still steps in")),
        ("belt height", 1.1, 2.3, said("one sees out over it, and a door closes under it")),
        ("bonnet", 0.0, 2.6, said("one sees the road before it")),
        ("boot", 0.0, 2.6, said("longer it hangs behind the wheels")),
        ("nose height", 0.8, 2.3, said("one sees the road over it")),
        ("lean of side glass", 0.0, 28.0, said("leaning more it leaves no room for a head")),
        ("rake front", 0.0, 50.0, said("flatter one looks through it lengthways")),
        ("rake rear", 0.0, 45.0, said("flatter one looks through it lengthways")),
    ),
    *_of(
        "Trailer",
        (
            "wheel diameter",
            250.0,
            1200.0,
            said("smaller it falls into every rut, larger the load lies high"),
        ),
        ("length", 1.8, 9.0, said("longer it cannot be balanced on its axle")),
        ("width", 1.4, 3.6, said("it follows where what draws it goes")),
        ("side height", 0.2, 3.0, said("one reaches in over it")),
        ("floor height", 0.5, 1.8, said("one lifts a load so far")),
        ("drawbar", 0.8, 3.5, said("short it does not turn, long it does not follow")),
        ("track", 1.6, 3.8, said("wide enough not to tip")),
    ),
    *_of(
        "Two wheels",
        (
            "wheel diameter",
            150.0,
            760.0,
            said("smaller it stops at a kerb, larger one cannot put a foot down"),
        ),
        ("rear wheel", 0.4, 1.8, said("both roll over the same road")),
        ("wheelbase", 1.4, 4.5, said("shorter it pitches over, longer it does not turn")),
        ("beam height", 0.1, 1.4, said("one steps over it")),
        ("saddle height", 0.8, 3.0, said("one sits on it with a foot on the ground")),
        (
            "handle height",
            Side(0.0, "saddle height", 0.9),
            Side(1.8, "saddle height"),
            said("arms reach it from the saddle"),
        ),
        ("post angle", 5.0, 40.0, said("steeper it twitches, flatter it flops over")),
    ),
    *_of(
        "Seat",
        ("seat height", 350.0, 530.0, said("feet rest on the ground and thighs lie level")),
        ("depth", 350.0, 580.0, said("the back is reached before the knees are")),
        ("width", 360.0, 750.0, said("one person sits in it")),
        ("back height", 220.0, 850.0, said("it holds at least the small of the back")),
        ("back rake", 0.0, 35.0, said("leaning more one lies")),
        ("arm height", 150.0, 300.0, said("elbows rest on it with level shoulders")),
        ("splay", 0.0, 20.0, said("wider one stumbles over the feet")),
    ),
    *_of(
        "Shelf",
        ("width", 200.0, 2600.0, said("longer boards sag")),
        ("depth", 120.0, 700.0, said("an arm reaches the back")),
        ("height", 200.0, 2400.0, REACH),
        ("board thickness", 8.0, 80.0, said("thinner it bends, thicker it looks built of beams")),
    ),
    *_of(
        "Crate stack",
        ("width", 150.0, 900.0, said("two arms carry it")),
        ("depth", 100.0, 700.0, said("two arms carry it")),
        ("height", 60.0, 600.0, said("one looks over it while carrying")),
    ),
    *_of(
        "Turned object",
        (
            "foot diameter",
            Side(0.0, "belly diameter", 0.3),
            Side(0.0, "belly diameter", 1.6),
            said("a smaller foot lets it tip"),
        ),
        (
            "waist diameter",
            Side(0.0, "belly diameter", 0.1),
            Side(0.0, "belly diameter", 1.0),
            said("thinner it looks about to break"),
        ),
    ),
    *_of(
        "Lean-to shed",
        ("length", 900.0, 14000.0, said("one walks in, and one roof spans it")),
        ("depth", 700.0, 6000.0, said("one turns round in it, and a lean-to reaches so far")),
        ("front height", 1900.0, 4800.0, said("one stands upright inside the door")),
        ("overhang", 0.0, 900.0, said("farther it needs posts")),
    ),
    *_of(
        "Ring of piers",
        ("height", 1900.0, 8000.0, said("one walks under the rail")),
        ("thickness", 120.0, 1500.0, said("thin it looks too weak for its beam")),
        ("pier width", 120.0, 1800.0, said("thin it looks too weak for its beam")),
        ("beam height", 100.0, 1800.0, said("it spans from pier to pier")),
    ),
    *_of(
        "Table and stool",
        ("length", 400.0, 3600.0, said("one sits at it, and a longer top sags")),
        ("depth", 350.0, 1300.0, said("an arm reaches the middle of it")),
        ("height", 620.0, 820.0, said("knees go under it and elbows rest on it")),
        ("stool height", 330.0, Side(-180.0, "height"), said("thighs go under the table")),
        ("stool diameter", 220.0, 520.0, said("one sits on it and a hand lifts it")),
    ),
    *_of(
        "Steps",
        ("rise", 90.0, 220.0, said("a leg lifts so far without thinking")),
        ("going", 220.0, 480.0, said("a foot stands on it")),
        ("width", 450.0, 6000.0, said("one walks up with something in the hand")),
    ),
    *_of(
        "Chest with lid",
        ("width", 60.0, 1600.0, said("two arms open its lid")),
        ("depth", 50.0, 1000.0, said("an arm reaches over it")),
        ("height", 20.0, 900.0, said("a hand reaches its floor")),
        ("thickness", 1.0, 60.0, said("thicker it looks like a safe")),
    ),
    *_of(
        "Appliance",
        ("width", 200.0, 1300.0, said("it goes through a door")),
        ("depth", 150.0, 900.0, said("an arm reaches its back")),
        ("height", 250.0, 2100.0, REACH),
        ("gap", 2.0, 30.0, said("the door clears its frame, and no finger goes in")),
        ("door thickness", 8.0, 120.0, said("thinner it rattles, thicker it looks like a vault")),
        ("knob diameter", 18.0, 110.0, said("a hand turns it")),
    ),
    *_of(
        "Ticket kiosk",
        ("width", 900.0, 5000.0, said("one person works in it with arms out")),
        ("depth", 800.0, 4000.0, said("one turns round in it")),
        ("height", 1950.0, 3800.0, said("one stands upright inside")),
        ("counter height", 700.0, 1250.0, said("one puts money on it without lifting the arm")),
        ("counter depth", 100.0, 600.0, said("a hand reaches across it")),
        ("overhang", 0.0, 1000.0, said("farther it needs posts")),
    ),
    *_of(
        "Rack with bays",
        ("bay width", 300.0, 2800.0, said("longer boards sag")),
        ("depth", 150.0, 1200.0, said("an arm reaches the back")),
        ("height", 300.0, 2600.0, said("one reaches the top board with a step")),
        ("board thickness", 10.0, 120.0, said("thinner it bends, thicker it looks built of beams")),
        ("post thickness", 15.0, 180.0, said("thinner it buckles, thicker it fills the bay")),
    ),
    *_of(
        "Lamp on a wall",
        ("height", 1300.0, 2600.0, said("it lights a face and nobody runs into it")),
        ("reach", 90.0, 900.0, said("the shade clears the wall, and one passes under it")),
        ("shade diameter", 60.0, 700.0, said("smaller it dazzles, larger it looks like a roof")),
        (
            "plate diameter",
            40.0,
            Side(0.0, "shade diameter", 1.2),
            said("it holds the arm, and the shade stays the larger"),
        ),
    ),
    *_of(
        "Hand tool",
        ("grip height", 80.0, 170.0, said("four fingers go round it")),
        ("grip depth", 28.0, 64.0, said("a hand closes round it")),
        ("grip width", 22.0, 50.0, said("a hand closes round it")),
        ("grip lean", -5.0, 35.0, said("the wrist stays straight")),
        ("barrel length", 90.0, 420.0, said("longer the nose pulls the hand down")),
        ("barrel diameter", 30.0, 120.0, said("larger one does not see past it")),
    ),
    *_of(
        "Pump on feet",
        (
            "pipe diameter",
            Side(0.0, "casing diameter", 0.12),
            Side(0.0, "casing diameter", 0.5),
            said("what goes round in the casing goes through it"),
        ),
        (
            "drive diameter",
            Side(0.0, "casing diameter", 0.4),
            Side(0.0, "casing diameter", 1.2),
            said("a smaller drive looks too weak for its casing"),
        ),
    ),
    *_of(
        "Small boat",
        ("length", 1800.0, 12000.0, said("one person rows or steers it")),
        (
            "beam",
            Side(0.0, "length", 0.22),
            Side(0.0, "length", 0.6),
            said("narrower it rolls over, broader it pushes the water before it"),
        ),
        (
            "bow height",
            Side(0.0, "length", 0.1),
            Side(0.0, "length", 0.42),
            said("lower a wave comes in over it"),
        ),
        ("house height", 0.0, 2100.0, said("the helm looks out over it")),
    ),
    *_of(
        "seat",
        ("top", 350.0, 530.0, said("feet rest on the ground and thighs lie level")),
        ("depth", 350.0, 580.0, said("the back is reached before the knees are")),
    ),
    *_of("table", ("top", 640.0, 790.0, said("knees go under it and elbows rest on it"))),
    *_of("worktop", ("top", 820.0, 1060.0, said("one works at it standing, without bending"))),
    *_of("arm", ("top", 520.0, 760.0, said("elbows rest on it with level shoulders"))),
    *_of(
        "step",
        ("height", 90.0, 220.0, said("a leg lifts so far without thinking")),
        ("depth", 220.0, 480.0, said("a foot stands on it")),
    ),
    *_of(
        "door",
        ("width", 600.0, 1300.0, said("one walks through with a load")),
        ("height", 1850.0, 2700.0, said("one walks through upright")),
    ),
    *_of("handle", ("top", 750.0, 1250.0, said("a hand finds it without looking"))),
    *_of("shelf board", ("top", 0.0, 2100.0, REACH)),
    *_of(
        "wheel",
        (
            "width",
            100.0,
            2000.0,
            said("smaller it stops at a pebble, larger one cannot look over it"),
        ),
    ),
    *_of("leg", ("slenderness", 2.0, 60.0, said("stouter it is a block, thinner it bends"))),
)
"""All bands, by kind. Starters first, then what a person says a volume is."""

ROLES = tuple(dict.fromkeys(band.of for band in BANDS if band.of[0].islower()))
"""What a volume may be said to be."""
