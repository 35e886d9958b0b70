"""First lessons: what the trade builds every day, from a blank sheet to the printed page, by hand.

One action is a click, a drag, a typed field or a shortcut; Enter in a field is none; printing
counts two. The tests check counts and numbers; tools/lessons.py draws the finished sheets.
"""

from PyQt6.QtCore import Qt


class Hands:
    """A desk whose actions are counted."""

    def __init__(self, at):
        self.at, self.actions = at, 0

    def command(self, words):
        """A shortcut, or one entry of a menu."""
        self.actions += 1
        self.at.run(words)

    def press(self, words):
        self.actions += 1
        self.at.press(words)

    def turn_to(self, page):
        """Click a page of the Volumes card."""
        self.actions += 1
        self.at.page(page)

    def type(self, name, text):
        self.actions += 1
        self.at.type(name, text)

    def write(self, page, key, text):
        self.actions += 1
        self.at.write(self.at.bench.card("volumes").page(page)[key], text)

    def drag(self, start_mm, end_mm):
        """Drag on the sheet, from place to place."""
        self.actions += 1
        start, end = (self.at.board.view.point(place).toPoint() for place in (start_mm, end_mm))
        by = end - start
        self.at.drag(start, (by.x(), by.y()))

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


def plinth(hands):
    """A U-shaped plinth for the telescope, five units by three by two."""
    hands.press("Add a box")
    hands.type("height", "60 cm")
    hands.write(0, "width : depth : height", "5 : 3 : 2")
    hands.turn_to(2)
    hands.press("U cut")
    hands.command("Stand: edge nearest")


def fence(hands):
    """Nine fence posts along the summit track."""
    hands.press("Add a box")
    hands.write(0, "width : depth : height", "10 cm : 10 cm : 1.2 m")
    hands.turn_to(5)
    hands.write(5, "in all", "9")
    hands.write(5, "over", "12 m")
    hands.press("Set in a row")
    hands.command("Stand: edge nearest")


LESSONS = {
    "three crates": (three_crates, 12),
    "plinth": (plinth, 10),
    "fence posts": (fence, 9),
}
"""What each is called, how it is made, and how many actions it may take, the print included."""
