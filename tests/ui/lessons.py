"""First lessons: what the trade builds every day, from a blank sheet to the printed page, by hand.

One action is a click, a drag, a typed field or a shortcut; Enter in a field is none; printing
counts two. The tests check counts and numbers; tools/lessons.py draws the finished sheets.
"""

import numpy as np
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QCheckBox, QDialog, QWidget

from isometron.deeds.table import deeds, matters
from isometron.document.edits.starters import STARTERS
from isometron.drawing.picks.face import FacePick
from isometron.framework.circles import flat_plane
from isometron.perspective.projection import project
from isometron.ui.bench.starter_dialog import StarterDialog
from isometron.ui.parts.drawn import DrawnChoice
from isometron.ui.parts.fields import Choice

LEFT = 3
"""The left side, as the deeds name it."""

ROUND = 2


class Hands:
    """A desk whose actions are counted."""

    def __init__(self, at):
        self.at, self.actions = at, 0

    def command(self, words):
        """A shortcut, or one entry of a menu."""
        self.actions += 1
        self.at.run(words)

    def press_again(self):
        """The last deed once more, by its key."""
        self.actions += 1
        next(a for c, a in self.at.bench.actions_of if c.key == "again").trigger()
        self.at.settle()

    def press(self, words):
        self.actions += 1
        self.at.press(words)

    def type(self, name, text):
        self.actions += 1
        self.at.type(name, text)

    def deed(self, key, **values):
        """A deed of the slip: its matter unfolded, its tile, its fields; Return with the last one
        when it is typed."""
        self.at.settle()
        slip, asks = self.at.slip, bool(deeds()[key].parameters)
        seen = slip.groups[matters()[key]].open or slip._part in deeds()[key].acts_on
        self.actions += (not seen) + 1 + len(values)
        if asks and (not values or isinstance(list(values.values())[-1], int)):
            self.actions += 1  # Return: what is chosen last does not press it
        panel = self.at.deed(key, **values)
        if asks and not values:
            self.at.do(panel)

    def value(self, key, text):
        """A value of the slip, its matter unfolded."""
        self.actions += (not self.at.slip.groups[matters()[key]].open) + 1
        self.at.type(key, text)

    def line(self, words):
        """A deed said in a line: the finder's key, and what is typed there."""
        self.actions += 2
        self.at.bench.find_deed()
        QTest.keyClicks(self.at.bench.finder, words)
        QTest.keyClick(self.at.bench.finder, Qt.Key.Key_Return)
        self.at.settle()

    def click_in_list(self, name):
        """A volume in the list."""
        self.actions += 1
        self.at.bench.open_place("build")
        self.at.settle()
        shown = self.at.bench.card("build").list
        row = [volume.name for volume in self.at.document.volumes].index(name)
        shown.scrollTo(shown.model().index(row, 0))
        place = shown.visualRect(shown.model().index(row, 0)).center() - QPoint(70, 0)
        QTest.mouseClick(shown.viewport(), Qt.MouseButton.LeftButton, pos=place)
        self.at.settle()

    def starter(self, name, **answers):
        """A starter: its command, its fields one by one, and its button."""
        self.actions += 2 + len(answers)
        starter = next(one for one in STARTERS if one.name == name)
        bench = self.at.bench
        dialog = StarterDialog(bench, starter, bench.room, self.at.document.choices.unit)
        dialog.show()
        for key, text in answers.items():
            field = dialog.findChild(QWidget, key.replace("_", " "))
            if isinstance(field, QCheckBox):
                QTest.mouseClick(
                    field, Qt.MouseButton.LeftButton, pos=QPoint(8, field.height() // 2)
                )
                continue
            if isinstance(field, DrawnChoice):
                tile = field.tiles[int(text) - 1]
                QTest.mouseClick(tile, Qt.MouseButton.LeftButton, pos=tile.rect().center())
                continue
            field.setFocus()
            field.selectAll()
            QTest.keyClicks(field, text)
            QTest.keyClick(field, Qt.Key.Key_Return)
        QTest.mouseClick(dialog.put, Qt.MouseButton.LeftButton)
        assert dialog.result() == QDialog.DialogCode.Accepted and not dialog.wrong.text()
        self.at.answers.answers_to_starter = dialog.values
        self.at.run(f"{name}…")

    def drag(self, start_mm, end_mm):
        """Drag on the sheet, from place to place."""
        self.actions += 1
        start, end = (self.at.board.view.point(place).toPoint() for place in (start_mm, end_mm))
        by = end - start
        self.at.drag(start, (by.x(), by.y()))

    def pick(self, what):
        """A click on a part of a volume."""
        self.actions += 1
        self.at.bench.wishes.pick(what)
        self.at.settle()

    def drag_on(self, index, face, first, last):
        """Drag on a face of a volume, between places in shares of it."""
        volume = self.at.document.volumes[index]
        plane, (place, axes) = flat_plane(volume.unopened, face), volume.pose
        own = [plane.place(s * plane.extents[0], t * plane.extents[1]) for s, t in (first, last)]
        start, end = project(self.at.document.eye, np.array(own) @ axes + place).sheet.tolist()
        self.drag(tuple(start), tuple(end))

    def enter(self):
        """Do the deed that is open, as it proposes itself."""
        self.actions += 1
        self.at.do(self.at.slip.panel)

    def escape(self):
        self.actions += 1
        self.at.key(Qt.Key.Key_Escape)

    def print_to(self, path):
        self.actions += 2
        self.at.answers.draws = path
        self.at.run("Draw to a file…")


def three_crates(hands):
    """Three crates in one-point: on, across and above the eye level."""
    hands.command("Lay down front faces")
    hands.drag((60.0, 70.0), (150.0, 130.0))
    hands.drag((150.0, 130.0), (170.0, 155.0))
    hands.drag((190.0, 170.0), (270.0, 230.0))
    hands.drag((190.0, 170.0), (197.0, 182.0))
    hands.drag((300.0, 220.0), (380.0, 270.0))
    hands.drag((300.0, 220.0), (280.0, 215.0))
    hands.escape()


def pier_block(hands):
    """The pier block with its cable trench, seven units by four by three."""
    hands.press("Add a box")
    hands.type("height", "75 cm")
    hands.value("width : depth : height", "7 : 4 : 3")
    hands.deed("cut U")
    hands.command("Edge nearest")


def marker_masts(hands):
    """Eleven marker masts along the summit track, 1.8 m apart."""
    hands.press("Add a box")
    hands.value("width : depth : height", "8 cm : 8 cm : 2.1 m")
    hands.deed("set in row", in_all="11", over="18.08 m")
    hands.command("Edge nearest")


def plate_cabinet(hands):
    """The plate cabinet: pigeonholes three across and five up, against a wall."""
    hands.press("Add a box")
    hands.value("width : depth : height", "81 cm : 38 cm : 112 cm")
    hands.deed(
        "put opening",
        **{"from left": "3", "up": "6", "opening wide": "75", "opening high": "100"},
        **{"opening deep": "30", "across": "3", "upward": "5", "gap": "1.8"},
    )
    hands.command("Floor line")
    hands.command("Edge nearest")


def desiccant_jar(hands):
    """The desiccant jar with its screw lid, one-point."""
    hands.starter(
        "Turned object",
        **{"height": "21 cm", "foot diameter": "11 cm", "waist diameter": "13 cm"},
        **{"belly diameter": "14 cm", "mouth diameter": "9 cm", "joints": "1"},
        **{"lid height": "3 cm"},
    )
    hands.command("Square to us")


def rail_cycle(hands):
    """The rail inspection cycle: two wheels in line, a beam, a steering post, a hub drum."""
    hands.starter(
        "Two wheels",
        **{"wheel diameter": "56 cm", "wheelbase": "2.4", "beam height": "0.5"},
        **{"saddle height": "1.5", "handle height": "1.8", "hub drum": "0.3"},
        **{"post angle": "12"},
    )
    hands.command("From the front")


def survey_saloon(hands):
    """The survey saloon: tumblehome, raked screens, narrowing nose, rising belt line, windows."""
    hands.starter(
        "Vehicle",
        **{"wheelbase": "3.1", "belt rise": "0.1", "nose height": "1.2", "nose width": "1.8"},
        **{"lean of side glass": "12", "rake front": "44", "rake rear": "26"},
    )
    hands.click_in_list("Cabin")
    hands.deed(
        "put opening",
        **{"mirrored": 2, "opening wide": "1/2", "opening high": "1/2", "opening deep": "drawn"},
    )
    hands.command("From the front")


def observing_chair(hands):
    """The observing chair: a back of four slats between posts, upright sheet, high eye."""
    hands.actions += 2  # the Eye tab, and its choice
    hands.at.bench.open_place("stand")
    card = hands.at.bench.card("stand")
    every = card.findChildren(Choice)
    turn = next(one for one in every if one.accessibleName() == "Upright or lying")
    turn.setCurrentIndex(1)
    turn.activated.emit(1)
    hands.at.settle()
    hands.starter("Seat", **{"seat height": "50 cm", "slats": "4", "posts": "yes", "splay": "6"})
    hands.type("eye height", "1.9 m")


def mirror_carrier(hands):
    """The mirror carrier, its body longer than first thought, with two lamps in its nose."""
    hands.starter("Vehicle")
    hands.command("Keep the old lines")
    hands.click_in_list("Body")
    hands.type("width", "1.06 * 291.4")
    hands.deed(
        "put opening",
        **{"side of the opening": LEFT, "shape of the opening": ROUND, "mirrored": 2},
        **{"from left": "24 cm", "up": "32 cm"},
        **{"opening wide": "22 cm", "opening deep": "4 cm"},
    )


def ring_of_piers(hands):
    """The ring of piers for the dome's rail: six of them with their beams, in courses."""
    hands.starter("Ring of piers", piers="6", rise="40 cm")
    hands.click_in_list("Beam 1")
    hands.deed("lay skin", course_high="15 cm")
    hands.click_in_list("Pier 1")
    hands.press_again()


def generator_shed(hands):
    """The generator shed: a lean-to roof, louvres and a flue in one end, a fuel drum before it."""
    hands.starter("Lean-to shed")
    hands.click_in_list("Walls")
    hands.deed(
        "put opening",
        **{"side of the opening": LEFT, "up": "60 cm", "opening wide": "64 cm"},
        **{"opening high": "75 cm", "opening deep": "6 cm", "upward": "7"},
    )
    hands.deed("put opening", **{"shape of the opening": ROUND, "up": "1.5 m", "upward": "1"})
    hands.command("Cylinder")
    hands.value("width : depth : height", "58 cm : 58 cm : 88 cm")
    hands.value("place in words", "45 cm in front of Walls")
    hands.command("Edge nearest")


def seen_from_above(hands):
    """The supply crawler as a three-point four-wheeled framework."""
    hands.starter("Vehicle", **{"boxes": "1", "height": "2.7", "ground clearance": "0.45"})
    hands.command("Looking down")


def wall_lamp(hands):
    """A wall lamp of one's own: plate, arm, shade and bulb."""
    hands.line("box 12 × 3 × 20 cm, 1.4 m above ground")
    hands.pick(FacePick(0, 2))
    hands.line("knob 3 cm, 18 cm")
    hands.line("dome 16 cm, 5 cm in front of Box 1, on the centre plane of Box 1")
    hands.line("sphere 6 cm, 9 cm in front of Box 1, on the centre plane of Box 1")
    hands.command("Edge nearest")


def handcart(hands):
    """A handcart of one's own: bed, a pair of wheels, a bent handle and a leg."""
    hands.line("box 110 × 60 × 30 cm, 35 cm above ground")
    hands.line("wheel 55 cm, 30 cm left of the middle of Box 1")
    hands.line("pair 70 cm")
    hands.line("box 50 × 56 × 30 cm, against the right of Box 1, on the centre plane of Box 1")
    hands.line("bent bar 3 cm, handle")
    hands.line("box 5 × 50 × 35 cm, 20 cm right of the middle of Box 1, on the ground")
    hands.command("Edge nearest")


def cut_out_desk(hands):
    """A desk of one's own: a top with a cut-out, two side panels."""
    hands.line("box 160 × 80 × 4 cm, 72 cm above ground")
    hands.line("box 4 × 80 × 72 cm, flush with the left of Box 1, flush with the front of Box 1")
    hands.command("Mirrored twin")
    hands.enter()
    hands.command("Looking down")
    hands.command("Draw an opening")
    hands.drag_on(0, 5, (0.35, 0.7), (0.65, 0.9))


OWN = {
    "wall lamp": (wall_lamp, 25, 10),
    "handcart": (handcart, 28, 13),
    "cut-out desk": (cut_out_desk, 20, 9),
}
"""Objects without a starter: how each is made, the actions it took with pages of fields, and the
most it may take."""

LESSONS = {
    "three crates": (three_crates, 12),
    "pier block": (pier_block, 10),
    "plate cabinet": (plate_cabinet, 16),
    "marker masts": (marker_masts, 9),
    "desiccant jar": (desiccant_jar, 15),
    "rail inspection cycle": (rail_cycle, 22),
    "survey saloon": (survey_saloon, 22),
    "observing chair": (observing_chair, 22),
    "mirror carrier": (mirror_carrier, 16),
    "ring of piers": (ring_of_piers, 13),
    "generator shed": (generator_shed, 22),
    "three-point crawler": (seen_from_above, 22),
}
"""What each is called, how it is made, and how many actions it may take, the print included."""
