"""The slip: what is picked, first what it measures, then what can be done with it."""

from collections.abc import Callable, Mapping

from PyQt6.QtWidgets import QGridLayout, QPushButton, QSizePolicy, QVBoxLayout

from isometron.deeds.deed import PARTS, READY, ActsOn, Matter
from isometron.deeds.table import deed, deeds, matters
from isometron.drawing.picks.of_sheet import EyeLevelPick, LightPick, PicturePick
from isometron.drawing.picks.pick import Pick, Reading
from isometron.drawing.picks.point import PointPick
from isometron.perspective.errors import IsometronError
from isometron.perspective.lengths import UNIT_WORDS
from isometron.remarks.picked import RemarkPick
from isometron.ui.cards.slip.group import Group
from isometron.ui.cards.slip.pads import PADS
from isometron.ui.cards.slip.panel import DeedPanel, given_in_words, type_into
from isometron.ui.cards.slip.readings import ReadingTable
from isometron.ui.cards.slip.remark import RemarkPart
from isometron.ui.cards.slip.tiles import Tiles
from isometron.ui.cards.slip.value_row import ValueRow
from isometron.ui.parts.card import Card, Shown
from isometron.ui.parts.fields import NumberField
from isometron.ui.parts.fold import bring_into_view
from isometron.ui.parts.paged_card import small_button
from isometron.ui.parts.plain import Elided, plain_tip
from isometron.ui.parts.theme import font
from isometron.ui.parts.wishes import Wishes
from isometron.words import _, many

FIRST = (Matter.ROUNDS, Matter.PROFILE)
"""Matters of a volume of their kind: they come before all others."""

PART_ORDER = (
    *(Matter.SIZE, Matter.PLACE, Matter.CUTS, Matter.OPENINGS),
    *(Matter.LINES, Matter.CIRCLES, Matter.BUILDING, Matter.COPIES, Matter.SHAPE, Matter.MEANT),
)
"""How deeds with a part that is picked follow each other."""

OF_SHEET = (Matter.ADD, Matter.VARIANTS, Matter.EYE, Matter.LIGHT, Matter.AIDS)
"""Matters of a sheet on which nothing is chosen."""

OF_ITS_OWN: tuple[tuple[type[Pick], tuple[Matter, ...]], ...] = (
    (PointPick, (Matter.EYE,)),
    (EyeLevelPick, (Matter.EYE,)),
    (LightPick, (Matter.LIGHT,)),
    (PicturePick, (Matter.PICTURE,)),
    (RemarkPick, ()),
)
"""What has a slip of its own, and the matters on it."""

HANDS: tuple[tuple[str, str, str, tuple[ActsOn, ...]], ...] = (
    (
        "draw opening",
        _("Draw an opening"),
        _("Drag it on the face, from corner to corner (Ctrl+Shift+U)."),
        (ActsOn.FACE,),
    ),
    (
        "draw cut",
        _("Draw a cut"),
        _("Drag the piece on the face, from corner to corner (Ctrl+Shift+X)."),
        (ActsOn.FACE,),
    ),
    (
        "draw outline",
        _("Draw on it by hand"),
        _("Draw it right round on the face (Ctrl+U)."),
        (ActsOn.FACE,),
    ),
    (
        "divide by hand",
        _("Divide by a drag"),
        _("Drag across the edge where it is divided (Ctrl+Shift+D)."),
        (ActsOn.EDGE,),
    ),
    (
        "measure",
        _("Measure from here"),
        _("Measure from it to another thing that you click (Ctrl+M)."),
        (ActsOn.FACE, ActsOn.EDGE),
    ),
)
"""Tools a hand takes for the part that is picked: their command, words, tip, and with what."""

FIRST_CLICK = _("Click an edge, a face or a point to read it, and to see what can be done with it.")


def _offered(tip: str, does: Callable[[], object], words: str = "") -> QPushButton:
    """A button that is there only at times."""
    made = QPushButton(words)
    made.setToolTip(tip)
    made.clicked.connect(lambda _on=False: does())
    made.hide()
    return made


class SlipCard(Card):
    """The slip of the open sheet."""

    def __init__(self, wishes: Wishes) -> None:
        super().__init__(wishes, _("Slip"))
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        self._shown: Shown | None = None
        self._unfolded: dict[str, set[Matter]] = {
            "volume": {Matter.SIZE},
            "sheet": {Matter.ADD},
            **{own.__name__: set(its) for own, its in OF_ITS_OWN},
        }
        self._kind = ""
        self.of = Elided()
        self.of.setProperty("soft", True)
        self.title.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.head.setStretch(0, 1)
        self.head.setStretch(1, 0)
        self.body.addWidget(self.of)
        self.table = ReadingTable(wishes)
        self.body.addWidget(self.table)
        self.again = _offered(
            _("All numbers it was begun with, as they stand; what you changed by hand stays."),
            lambda: wishes.do("open starter"),
        )
        self.pin = _offered(
            _("Draw this measure on the sheet; it follows (Ctrl+Shift+M)."),
            lambda: wishes.do("pin measure"),
            _("Pin to the sheet"),
        )
        self.body.addWidget(self.again)
        self.body.addWidget(self.pin)
        self.remark = RemarkPart(wishes)
        self.body.addWidget(self.remark)
        self._parts: dict[ActsOn, Tiles] = {}
        self._first = QVBoxLayout()
        self._first.setSpacing(4)
        self.body.addLayout(self._first)
        hands = QGridLayout()
        hands.setSpacing(4)
        self._hands: list[tuple[QPushButton, tuple[ActsOn, ...]]] = []
        for number, (key, words, tip, parts) in enumerate(HANDS):
            button = small_button(words, tip)
            button.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            button.clicked.connect(lambda _on=False, k=key: self._take(k))
            button.hide()
            self._hands.append((button, parts))
            hands.addWidget(button, number // 2, number % 2)
        self.body.addLayout(hands)
        self._places = QVBoxLayout()
        self._places.setSpacing(4)
        self.body.addLayout(self._places)
        self.groups: dict[Matter, Group] = {}
        for matter in (*FIRST, *(one for one in Matter if one not in FIRST)):
            its = [one for key, one in deeds().items() if matters()[key] is matter]
            group = Group(wishes, matter, its, PADS.get(matter), self._opened)
            group.line.clicked.connect(lambda on, m=matter: self._remember(m, on))
            self.groups[matter] = group
            self._places.addWidget(group)
        self.foot = self.section("")
        self.foot.setFont(font(italic=True))
        self.foot.setProperty("soft", True)
        self.foot.setWordWrap(True)
        self.body.addStretch(1)
        self._foot_of = ""

    # What is read

    def offer_pin(self, offered: bool) -> None:
        """Offer to pin the measure that is shown, or not."""
        self.pin.setVisible(offered)

    def show_reading(self, reading: Reading | None, unit: str) -> None:
        """Show a reading, its numbers in a unit."""
        what, of = ("", "") if reading is None else reading.parts
        self.title.setText(what or _("Nothing is picked"))
        self.title.setToolTip(plain_tip(reading.title if reading else ""))
        self.of.setText(_("of {name}").format(name=of) if of else "")
        self.of.setVisible(reading is not None)
        told = [(row.label, row.words(unit)) for row in reading.rows] if reading else []
        if told != self.table.rows.told:
            self.setAccessibleDescription("; ".join(f"{label}: {value}" for label, value in told))
            self.table.rows.show_rows(told)
        self.table.setVisible(bool(told))
        foot = unit if reading else ""
        if foot != self._foot_of or not self.foot.text():
            self._foot_of = foot
            measured = _("Measured from the paper's left and lower edges, in {unit}.")
            self.foot.setText(measured.format(unit=UNIT_WORDS[unit]) if reading else FIRST_CLICK)

    # What can be done

    def show_document(self, shown: Shown) -> None:
        """Show what can be done with what is picked."""
        another = self._shown is None or shown.document is not self._shown.document
        self._shown = shown
        document = shown.document
        chosen = len(document.chosen)
        self.note.setText(many("{n} chosen", "{n} chosen", chosen).format(n=chosen) * (chosen > 1))
        self._show_parts(shown)
        begun = document.begun_with if self._alone is None else None
        if begun is not None:
            self.again.setText(_("Open the {name} again…").format(name=_(begun.starter).lower()))
        self.again.setVisible(begun is not None)
        picked = shown.picked
        self.remark.show_remark(picked if isinstance(picked, RemarkPick) else None, shown)
        kind = "sheet" if document.volume is None else "part" if self._part else "volume"
        kind = kind if self._alone is None else type(picked).__name__
        fits = self._fitting(shown)
        if kind != self._kind:
            self._kind = kind
            wanted = self._unfolded.setdefault(kind, set())
            for matter, group in self.groups.items():
                group.line.setChecked(matter in wanted)
        for matter, group in self.groups.items():
            group.setVisible(matter in fits)
            if matter in fits:
                group.show_document(shown, another=another)
        new = [matter for matter in FIRST if matter in fits and not self.groups[matter].open]
        if kind == "volume":
            for matter in new:
                self.groups[matter].unfold()

    @property
    def _alone(self) -> set[Matter] | None:
        """The matters of what is picked, where it has a slip of its own."""
        picked = None if self._shown is None else self._shown.picked
        return next((set(its) for own, its in OF_ITS_OWN if isinstance(picked, own)), None)

    @property
    def _part(self) -> ActsOn | None:
        """The part of a volume that is picked."""
        shown = self._shown
        if shown is None or shown.document.volume is None:
            return None
        return next((p for p in PARTS if READY[p](shown.document, shown.picked)), None)

    def _show_parts(self, shown: Shown) -> None:
        """The deeds with the part that is picked, before all others."""
        part = self._part
        for one, tiles in self._parts.items():
            tiles.setVisible(one is part)
            if one is not part:
                tiles.close_panel()
        for button, parts in self._hands:
            button.setVisible(part in parts)
        if part is None:
            return
        if part not in self._parts:
            made = [one for one in deeds().values() if part in one.acts_on]
            made.sort(key=lambda one: PART_ORDER.index(matters()[one.key]))
            self._parts[part] = Tiles(self.wishes, made, self._opened)
            self._first.addWidget(self._parts[part])
        self._parts[part].show_document(shown)

    def _take(self, key: str) -> None:
        """Take a tool in hand; measuring begins with the part that is picked."""
        pick = None if self._shown is None else self._shown.picked
        self.wishes.do(key)
        if key == "measure" and pick is not None:
            self.wishes.measure(pick)

    def _fitting(self, shown: Shown) -> set[Matter]:
        """The matters that are shown."""
        document = shown.document
        if self._alone is not None:
            return self._alone
        pictures = {Matter.PICTURE} if document.pictures else set()
        if document.volume is None:
            return set(OF_SHEET) | pictures
        kinds = {Matter.ROUNDS: ActsOn.ROUND, Matter.PROFILE: ActsOn.PROFILE}
        left_out = {
            matter for matter, kind in kinds.items() if not READY[kind](document, shown.picked)
        }
        return (set(Matter) - {Matter.PICTURE} - left_out) | pictures

    def _remember(self, matter: Matter, on: bool) -> None:
        unfolded = self._unfolded.setdefault(self._kind, set())
        (unfolded.add if on else unfolded.discard)(matter)

    def _opened(self, where: Tiles) -> None:
        """Fields are opened: those of another deed are closed."""
        for tiles in self._every():
            if tiles is not where:
                tiles.close_panel()

    def _every(self) -> list[Tiles]:
        groups = [group.tiles for group in self.groups.values()]
        return [*self._parts.values(), *(tiles for tiles in groups if tiles is not None)]

    @property
    def panel(self) -> DeedPanel | None:
        """The fields that are open."""
        return next((tiles.panel for tiles in self._every() if tiles.panel is not None), None)

    def open_deed(self, key: str, *, whole: bool = False) -> DeedPanel | None:
        """Open the fields of a deed, or its value; gives the fields of one that has a tile, whole:
        all that may be given."""
        if self._alone is not None and matters()[key] not in self._alone:
            self.wishes.pick(None)  # a deed with something else
            self.wishes.settle()
        part = self._part
        if part is not None and part in deed(key).acts_on:
            panel = self._parts[part].open(key, whole=whole)
            bring_into_view(panel)
            return panel
        group = self.groups[matters()[key]]
        group.unfold()
        self._remember(group.matter, True)
        if deed(key).in_place:
            row = next(one for one in group.rows if one.deed.key == key)
            row.asked.widget.setFocus()
            bring_into_view(row.asked.widget)
            return None
        assert group.tiles is not None
        panel = group.tiles.open(key, whole=whole)
        bring_into_view(panel)
        return panel

    def say(self, key: str, values: Mapping[str, str]) -> None:
        """Do a deed with what is given in words, by the keys of its parameters; where that cannot
        be done its fields stay open, as they were filled in."""
        assert self._shown is not None
        try:
            given = given_in_words(self.wishes, deed(key), self._shown, values)
        except IsometronError:
            pass
        else:
            if self.wishes.deed(deed(key), given):
                return
        panel = self.open_deed(key, whole=True)
        if panel is not None:
            panel.give(values)
        else:
            self.row(key).give(next(iter(values.values())))

    def row(self, key: str) -> ValueRow:
        """The row of a value that is typed in place."""
        group = self.groups[matters()[key]]
        group.unfold()
        self._remember(group.matter, True)
        return next(one for one in group.rows if one.deed.key == key)

    def shown_row(self, key: str) -> NumberField:
        """The field of a value, its matter unfolded and shown."""
        self.open_deed(key)
        field = self.row(key).asked.widget
        assert isinstance(field, NumberField)
        return field

    def begin_typing(self, text: str, key: str = "") -> bool:
        """Type into the first field that takes a number, of a deed or of what is picked; gives
        whether there is one."""
        if key and deed(key).in_place:
            type_into(self.shown_row(key), text)
            return True
        if key:
            panel = self.open_deed(key)
            return panel is not None and panel.begin_typing(text)
        if self.panel is not None:
            return self.panel.begin_typing(text)
        part = self._part
        if part is not None:
            for tile in self._parts[part].tiles.values():
                numbers = [p for p in tile.deed.parameters if p.range and not p.choices]
                if tile.isEnabled() and numbers:
                    return self._parts[part].open(tile.deed.key).begin_typing(text)
        for group in self.groups.values():
            for row in group.rows if group.isVisible() and group.open else ():
                field = row.asked.widget
                if isinstance(field, NumberField) and field.isEnabled():
                    type_into(field, text)
                    return True
        return False

    def begin_anew(self) -> None:
        """Another sheet: nothing that was typed lives on."""
        for tiles in self._every():
            tiles.forget()
