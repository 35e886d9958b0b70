"""The room's look: colours, fonts, spacing. The only place that knows them."""

from typing import NamedTuple

from PyQt6.QtGui import QColor, QFont, QFontMetrics, QPalette
from PyQt6.QtWidgets import QApplication

from isometron.drawing.pencils import GRAPHITE, OXBLOOD, PLUM, RUST, TEAL
from isometron.render.typeface import FAMILY
from isometron.words import said

BODY_PT = 10.0
TITLE_PT = 11.5
GAP = 10
"""Space between cards and inside them, px."""
ROW, FIELD = 26, 24
"""Heights of one row of a card, and of a field, px, at the usual size of text."""

USUAL_LINE = 18
"""Height of a line of text at its usual size, px."""


class Room(NamedTuple):
    """The colours of a room. The paper and the pencils on it are the same in every room.

    Each mark has one meaning: what is chosen lies in the light of the `lamp`; what is switched on
    is sunk in (`tab`) with a bar at its side; a tool in hand is dark, and the board framed in
    `armed`; what has the keyboard has a ring of `focus`; what the pointer is over is shaded.
    """

    name: str
    felt: str
    felt_line: str
    card: str
    card_shade: str
    ink: str
    soft_ink: str
    field: str
    field_line: str
    tab: str
    tab_ink: str
    bar: str
    felt_ink: str
    felt_soft: str
    lamp: str
    focus: str
    hover: str
    felt_focus: str
    armed: str
    left: str = RUST
    right: str = TEAL
    third: str = PLUM
    level: str = OXBLOOD


LIGHT_ROOM = Room(
    name=said("light"),
    felt="#26302e",
    felt_line="#33403d",
    card="#f1ebdb",
    card_shade="#181f1e",
    ink="#1f2426",
    soft_ink="#5b5a52",
    field="#fcf9f0",
    field_line="#a49a84",
    tab="#bdb49d",
    tab_ink="#2c2c28",
    bar="#e7dfcb",
    felt_ink="#f1ebdb",
    felt_soft="#a9b3ae",
    lamp="#ffd95a",
    focus="#2c6a8f",
    hover="#e4dbc4",
    felt_focus="#8cc4e8",
    armed="#f3f0e4",
)
DARK_ROOM = Room(
    name=said("dark"),
    felt="#171c1b",
    felt_line="#252d2b",
    card="#2b3230",
    card_shade="#0c0f0f",
    ink="#ece5d3",
    soft_ink="#b3b3a6",
    field="#1d2322",
    field_line="#6a736f",
    tab="#3f4744",
    tab_ink="#e2dccb",
    bar="#222827",
    felt_ink="#ece5d3",
    felt_soft="#9aa49f",
    lamp="#e8bd3c",
    focus="#8cc4e8",
    hover="#37403d",
    felt_focus="#8cc4e8",
    armed="#f3f0e4",
    left="#e39a62",
    right="#63b6c2",
    third="#c399cf",
    level="#e58a94",
)
ROOMS = {room.name: room for room in (LIGHT_ROOM, DARK_ROOM)}

INK, WHITE, SOFT = GRAPHITE, "#fffdf6", "#6b675c"
"""On paper: lines and outlines of handles, their filling, and words that only explain."""

GRID, FAINT, GROUND = "#c9bfa6", "#a79f8c", "#8b7f66"
"""On the paper of pads and plans: quarter lines, axes, and what things stand on."""

DARK, DIM, TEAL_INK = "#1f2426", "#3a3a30", TEAL
"""Words on the marker and on the lamp, and what is new in a drawing there: the same in every
room."""

CONE = (160, 150, 130, 170)
"""The circle of the cone of vision, red, green, blue, alpha."""

WASH = "#fff3c4"
"""A face that is picked."""

PAPER = "#fbf7ec"
MARKER = "#ffe27a"
FELT_PENCILS = {"left": "#d98b52", "right": "#5fb3c0", "third": "#b98fc6", "level": "#e0828c"}
"""The pencils again, light enough to be seen on felt."""
FELT_OBJECT = "#9aa5a1"
SERIOUS, DOUBTFUL, NOTE = "#a3303f", "#c98f1d", "#8a8f8c"


def family_colour(room: Room, family: str) -> QColor:
    """The pencil colour of a family ("left", "right", "centre", "third") on a card of the room."""
    return QColor(
        {"left": room.left, "right": room.right, "centre": room.right, "third": room.third}.get(
            family, room.soft_ink
        )
    )


def felt_colour(family: str) -> QColor:
    """The pencil colour of a family on the felt of the desk."""
    return QColor(FELT_PENCILS.get("right" if family == "centre" else family, FELT_OBJECT))


def font(points: float = BODY_PT, *, bold: bool = False, italic: bool = False) -> QFont:
    """The type family at a size."""
    made = QFont(FAMILY)
    made.setPointSizeF(points)
    made.setBold(bold)
    made.setItalic(italic)
    return made


def scaled(px: float) -> int:
    """A length of the interface grown with the size of its text, px."""
    return round(px * max(1.0, QFontMetrics(font()).height() / USUAL_LINE))


def palette(room: Room) -> QPalette:
    """Qt's palette for a room."""
    made = QPalette()
    roles = {
        QPalette.ColorRole.Window: room.card,
        QPalette.ColorRole.WindowText: room.ink,
        QPalette.ColorRole.Base: room.field,
        QPalette.ColorRole.AlternateBase: room.card,
        QPalette.ColorRole.Text: room.ink,
        QPalette.ColorRole.Button: room.card,
        QPalette.ColorRole.ButtonText: room.ink,
        QPalette.ColorRole.ToolTipBase: room.card,
        QPalette.ColorRole.ToolTipText: room.ink,
        QPalette.ColorRole.PlaceholderText: room.soft_ink,
        QPalette.ColorRole.Highlight: room.lamp,
        QPalette.ColorRole.HighlightedText: DARK,
    }
    for role, colour in roles.items():
        made.setColor(role, QColor(colour))
    for role in (
        QPalette.ColorRole.WindowText,
        QPalette.ColorRole.Text,
        QPalette.ColorRole.ButtonText,
    ):
        made.setColor(QPalette.ColorGroup.Disabled, role, QColor(room.soft_ink))
    return made


ROOM_IN_USE = "isometron room"
"""Property of the application that names the room people work in."""


def room_in_use() -> Room:
    """The room people work in."""
    app = QApplication.instance()
    return ROOMS.get(str(app.property(ROOM_IN_USE)) if app else "", LIGHT_ROOM)


def style_sheet(room: Room) -> str:
    """Qt's style sheet for the bench in a room."""
    return f"""
QWidget {{ color: {room.ink}; }}
QDialog {{ background: {room.card}; }}
QTextBrowser, QTreeView {{ background: {room.field}; }}
#bench {{ background: {room.felt}; }}
QMenuBar {{ background: {room.bar}; color: {room.ink}; padding: 2px 8px; }}
QMenuBar::item {{ padding: 4px 10px; background: transparent; }}
QMenuBar::item:selected {{ background: {room.tab}; color: {room.tab_ink}; }}
QMenu {{ background: {room.card}; color: {room.ink}; border: 1px solid {room.field_line}; }}
QMenu::item {{ padding: 5px 26px 5px 22px; }}
QMenu::item:selected {{ background: {room.tab}; color: {room.tab_ink}; }}
QMenu::item:disabled {{ color: {room.soft_ink}; }}
QMenu::separator {{ height: 1px; background: {room.field_line}; margin: 4px 10px; }}
QToolTip {{ background: {room.card}; color: {room.ink}; border: 1px solid {room.field_line}; }}
QLineEdit, QComboBox {{
  background: {room.field}; color: {room.ink}; border: 1px solid {room.field_line};
  padding: 1px 3px; min-height: {scaled(18)}px; selection-background-color: {room.lamp};
  selection-color: {DARK};
}}
QLineEdit:focus, QComboBox:focus {{ border: 2px solid {room.focus}; padding: 0 2px; }}
QLineEdit:disabled {{ color: {room.soft_ink}; background: {room.card}; }}
QLineEdit[wrong="true"] {{ border: 2px solid {SERIOUS}; padding: 0 2px; }}
QComboBox::drop-down {{ border: none; width: 16px; }}
QComboBox QAbstractItemView {{ background: {room.field}; color: {room.ink};
  selection-background-color: {room.lamp}; selection-color: {DARK}; }}
QPushButton {{
  background: {room.field}; color: {room.ink}; border: 1px solid {room.field_line};
  padding: 2px 6px; min-height: {scaled(18)}px;
}}
QPushButton[small="true"] {{ min-height: {scaled(18)}px; padding: 1px 4px; }}
QPushButton[page="true"] {{ border-width: 0 0 2px 0; padding: 1px 1px; background: transparent; }}
QPushButton:hover, QPushButton[page="true"]:hover {{ background: {room.hover}; }}
QPushButton:pressed {{ background: {room.tab}; color: {room.tab_ink}; }}
QPushButton:checked {{ background: {room.tab}; color: {room.tab_ink};
  border-left: 4px solid {room.ink}; padding-left: 3px; }}
QPushButton[tool="true"]:checked {{ background: {room.ink}; color: {room.card};
  border: 1px solid {room.felt_ink}; padding: 2px 6px; }}
QPushButton[page="true"]:checked {{ background: {room.field}; color: {room.ink};
  border-width: 0 0 2px 0; border-color: {room.ink}; padding: 1px 1px; }}
QPushButton:focus {{ border: 2px solid {room.focus}; padding: 1px 5px; }}
QPushButton[page="true"]:focus {{ border-width: 0 0 2px 0; border-color: {room.focus};
  padding: 1px 1px; }}
QPushButton:checked:focus {{ border-left: 4px solid {room.ink}; padding-left: 3px; }}
QPushButton[page="true"]:checked:focus {{ border-width: 0 0 2px 0; padding-left: 1px; }}
QPushButton:disabled {{ color: {room.soft_ink}; background: {room.card}; }}
QScrollBar:vertical {{ background: transparent; width: 8px; }}
QScrollBar::handle:vertical {{ background: {room.field_line}; min-height: 24px; }}
QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; }}
QListView {{ background: {room.field}; color: {room.ink}; border: 1px solid {room.field_line};
  outline: none; }}
QListView:focus {{ border: 2px solid {room.focus}; }}
QAbstractItemView[bare="true"] {{ background: transparent; border: none; outline: none; }}
QProgressBar {{ background: {room.field}; border: 1px solid {room.field_line};
  min-height: {scaled(10)}px; max-height: {scaled(10)}px; }}
QProgressBar::chunk {{ background: {room.lamp}; }}
#begin {{ background: {room.card}; }}
#remarks {{ background: {room.felt}; border-top: 1px solid {room.felt_soft}; }}
#found {{ background: {room.card}; border-left: 6px solid {room.lamp};
  border-bottom: 1px solid {room.field_line}; }}
#found_row {{ border-bottom: 1px solid {room.field_line}; }}
QScrollArea, QScrollArea > QWidget > QWidget {{ background: {room.card}; }}
QScrollArea[onfelt="true"], QScrollArea[onfelt="true"] > QWidget,
QScrollArea[onfelt="true"] > QWidget > QWidget {{ background: transparent; }}
QLabel[soft="true"] {{ color: {room.soft_ink}; }}
QLabel[onfelt="true"] {{ color: {room.felt_ink}; }}
"""
