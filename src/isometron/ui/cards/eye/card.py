"""The Eye tab: the paper, the marks on it, where we stand, and the limits of judgement."""

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QWidget

from isometron.document.document import Document
from isometron.document.edits import eye_edits, sheet_edits
from isometron.document.edits.stances import STANCES, take_stance
from isometron.document.near_edge import near_edge, scale_at_near_corner
from isometron.drawing.scene import Scene
from isometron.perspective.eye import eye_level
from isometron.perspective.lengths import UNIT_WORDS
from isometron.perspective.sheet import FORMATS, Sheet
from isometron.ui.parts.card import EditCard
from isometron.ui.parts.fields import Choice
from isometron.ui.parts.form import Entry, Form
from isometron.ui.parts.theme import Room

OWN_SIZE = "own size"
LARGER = 1.1
Scaled = Callable[[Document, float], Document]


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("EyeCard", text)


class EyeCard(EditCard):
    """The card of the Eye tab."""

    def __init__(self, room: Room) -> None:
        super().__init__(room, tr("Eye"))
        self.form = Form()
        self.form.wanted.connect(self.wanted)
        self.form.refused.connect(self.refused)
        self._stances()
        self._sheet_row()
        self._paper_rows()
        self._stand_rows()
        self._limit_rows()
        self.body.addLayout(self.form.grid)
        self.body.addStretch(1)

    def _stances(self) -> None:
        grid = QGridLayout()
        grid.setSpacing(5)
        for number, stance in enumerate(STANCES):
            button = QPushButton(tr(stance.name).capitalize())
            button.setToolTip(STANCE_TIPS[stance.name])
            button.clicked.connect(
                lambda _=False, stance=stance: self.wanted.emit(
                    f"stance {stance.name}", lambda document: take_stance(document, stance)
                )
            )
            grid.addWidget(button, number // 2, number % 2)
        self.body.addLayout(grid)

    def _sheet_row(self) -> None:
        self.format = Choice(
            tr("Sheet format"),
            tr("The format of the paper; type any size in the two fields."),
            [*FORMATS, tr(OWN_SIZE)],
        )
        self.lie = Choice(
            tr("Upright or lying"),
            tr("Whether the paper lies (wider than high) or stands upright."),
            [tr("lying"), tr("upright")],
        )
        for box in (self.format, self.lie):
            box.activated.connect(self._choose_format)
        row = QHBoxLayout()
        row.setSpacing(5)
        row.addWidget(self.format, 1)
        row.addWidget(self.lie, 1)
        self.body.addSpacing(4)
        self.body.addLayout(row)
        self.form.row(
            tr("sheet"),
            Entry(
                "sheet width",
                tr("How wide the paper is."),
                "length",
                lambda d: d.sheet.width_mm,
                lambda d, mm: sheet_edits.change_sheet(d, Sheet(mm, d.sheet.height_mm)),
            ),
            Entry(
                "sheet height",
                tr("How high the paper is."),
                "length",
                lambda d: d.sheet.height_mm,
                lambda d, mm: sheet_edits.change_sheet(d, Sheet(d.sheet.width_mm, mm)),
            ),
        )

    def _choose_format(self) -> None:
        name, lying = self.format.currentText(), self.lie.currentIndex() == 0
        if name in FORMATS:
            self.wanted.emit(
                "sheet format",
                lambda document: sheet_edits.change_format(document, name, lying=lying),
            )
        else:
            self.wanted.emit("turn the sheet", lambda d: sheet_edits.turn_sheet(d, lying=lying))

    def _paper_rows(self) -> None:
        form = self.form
        form.heading(tr("On the paper"))
        form.row(
            tr("eye level"),
            Entry(
                "eye level",
                tr("Height of the eye level above the paper's lower edge."),
                "length",
                lambda d: eye_level(d.eye),
                eye_edits.move_eye_level,
            ),
        )
        left, right = form.row(
            tr("VP left, right"),
            Entry(
                "VP left",
                tr("Place of the left vanishing point, from the paper's left edge."),
                "length",
                lambda d: _point(d, "left", 0),
                eye_edits.move_left_point,
            ),
            Entry(
                "VP right",
                tr("Place of the right vanishing point, from the paper's left edge."),
                "length",
                lambda d: _point(d, "right", 0),
                eye_edits.move_right_point,
            ),
        )
        (third,) = form.row(
            tr("third point"),
            Entry(
                "third point",
                tr("Height of the third point above the paper's lower edge (− is below)."),
                "length",
                lambda d: _point(d, "third", 1),
                eye_edits.move_third_point,
            ),
        )
        left.family, right.family, third.family = "left", "right", "third"
        form.row(
            tr("centre of vision"),
            Entry(
                "centre of vision across",
                tr("The centre of vision, from the paper's left edge."),
                "length",
                lambda d: d.eye.centre_of_vision_mm[0],
                lambda d, mm: eye_edits.move_centre_of_vision(
                    d, (mm, d.eye.centre_of_vision_mm[1])
                ),
            ),
            Entry(
                "centre of vision up",
                tr("The centre of vision, from the paper's lower edge."),
                "length",
                lambda d: d.eye.centre_of_vision_mm[1],
                eye_edits.raise_centre_of_vision,
            ),
        )
        form.row(
            tr("near corner"),
            Entry(
                "near corner across",
                tr("Foot of the near edge, from the paper's left edge."),
                "length",
                lambda d: _corner(d, 0),
                lambda d, mm: eye_edits.place_near_corner(d, (mm, _corner(d, 1) or 0.0)),
            ),
            Entry(
                "near corner up",
                tr("Foot of the near edge, from the paper's lower edge."),
                "length",
                lambda d: _corner(d, 1),
                lambda d, mm: eye_edits.place_near_corner(d, (_corner(d, 0) or 0.0, mm)),
            ),
        )
        form.row(
            tr("near edge drawn"),
            Entry(
                "near edge drawn",
                tr("Drawn length of the near edge: vanishing points stay, the eye comes closer."),
                "length",
                lambda d: edge.drawn_mm if (edge := near_edge(d)) else None,
                eye_edits.draw_near_edge,
            ),
        )

    def _stand_rows(self) -> None:
        form = self.form
        form.heading(tr("Where we stand"))
        form.row(
            tr("eye stands at"),
            Entry(
                "eye across",
                tr("Where the eye stands on the plan, across."),
                "length",
                lambda d: d.eye.x_mm,
                lambda d, mm: eye_edits.move_eye(d, (mm, d.eye.y_mm)),
            ),
            Entry(
                "eye away",
                tr("Where the eye stands on the plan, away from us."),
                "length",
                lambda d: d.eye.y_mm,
                lambda d, mm: eye_edits.move_eye(d, (d.eye.x_mm, mm)),
            ),
        )
        form.row(
            tr("eye height"),
            Entry(
                "eye height",
                tr("Height of the eye above the ground."),
                "length",
                lambda d: d.eye.height_mm,
                eye_edits.set_eye_height,
            ),
        )
        form.row(
            tr("heading, tilt"),
            Entry(
                "heading",
                tr("Where the eye looks, clockwise from above; 0° looks straight away."),
                "angle",
                lambda d: d.eye.heading_deg,
                eye_edits.set_heading,
            ),
            Entry(
                "tilt",
                tr("How far the eye looks up (+) or down (−)."),
                "angle",
                lambda d: d.eye.tilt_deg,
                eye_edits.set_tilt,
            ),
        )
        form.row(
            tr("step back to"),
            Entry(
                "station distance",
                tr(
                    "Distance from the eye to the picture plane: the strength of convergence. "
                    "The near edge stays as drawn."
                ),
                "length",
                lambda d: d.eye.station_distance_mm,
                eye_edits.step_back,
            ),
            beside=self._pair(
                ("step closer", tr("Step a tenth closer."), 1 / LARGER, _stepped),
                ("step back", tr("Step a tenth further back."), LARGER, _stepped),
            ),
        )
        form.row(
            tr("size on page"),
            Entry(
                "size on page",
                tr("Scale of the drawing at the near corner, such as 1 : 4; the view stays."),
                "scale",
                scale_at_near_corner,
                eye_edits.draw_to_scale,
            ),
            beside=self._pair(
                ("draw smaller", tr("Draw a tenth smaller."), 1 / LARGER, eye_edits.size_on_page),
                ("draw larger", tr("Draw a tenth larger."), LARGER, eye_edits.size_on_page),
            ),
        )

    def _limit_rows(self) -> None:
        self.form.heading(tr("What we go by"))
        self.form.row(
            tr("cone, ruler"),
            Entry(
                "cone of vision",
                tr("Full angle of the cone of vision; 60° is usual, 40° to 50° cautious."),
                "angle",
                lambda d: d.choices.cone_deg,
                sheet_edits.set_cone,
            ),
            Entry(
                "ruler",
                tr("How long your ruler is."),
                "length",
                lambda d: d.kit.ruler_mm,
                sheet_edits.set_ruler,
            ),
            spacious=True,
        )

    def _pair(self, *steps: tuple[str, str, float, Scaled]) -> QWidget:
        """Two small buttons, less and more."""
        pair = QWidget()
        row = QHBoxLayout(pair)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(5)
        for sign, (name, tip, factor, edit) in zip("−+", steps, strict=True):
            button = QPushButton(sign)
            button.setAccessibleName(name)
            button.setToolTip(tip)
            button.setProperty("small", True)
            button.clicked.connect(
                lambda _=False, name=name, factor=factor, edit=edit: self.wanted.emit(
                    name, lambda document: edit(document, factor)
                )
            )
            row.addWidget(button)
        return pair

    def show_document(
        self, document: Document, _scene: Scene, _families: tuple[str, str, str]
    ) -> None:
        self.note.setText(tr("in %s") % UNIT_WORDS[document.choices.unit])
        name = document.sheet.format_name
        self.format.setCurrentText(name or tr(OWN_SIZE))
        self.lie.setCurrentIndex(0 if document.sheet.lying else 1)
        self.form.show_document(document, self.room)


STANCE_TIPS = {
    "square to us": tr("A face turned square to us: one-point."),
    "edge nearest": tr("An upright edge nearest us, a level eye: two-point."),
    "looking down": tr("A corner nearest us, the eye above: three-point."),
    "looking up": tr("A corner nearest us, the eye low down: three-point."),
}


def _point(document: Document, family: str, axis: int) -> float | None:
    place = eye_edits.points_of_setup(document).get(family)
    return None if place is None else place[axis]


def _corner(document: Document, axis: int) -> float | None:
    edge = near_edge(document)
    return None if edge is None else edge.corner_mm[axis]


def _stepped(document: Document, factor: float) -> Document:
    return eye_edits.step_back(document, document.eye.station_distance_mm * factor)
