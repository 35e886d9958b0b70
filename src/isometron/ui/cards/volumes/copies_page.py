"""The Copies page: groups, mirrored twins and repeats."""

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication

from isometron.document.document import Document
from isometron.document.edits import choosing, standing
from isometron.drawing.scene import Scene
from isometron.framework.box import AXES
from isometron.perspective.errors import VolumeError
from isometron.ui.parts.fields import TextField
from isometron.ui.parts.page import Page, list_others
from isometron.ui.parts.theme import Room


def tr(text: str) -> str:
    """The words in the person's language."""
    return QCoreApplication.translate("CopiesPage", text)


class CopiesPage(Page):
    """Groups, mirrored twins and repeats."""

    def __init__(self) -> None:
        super().__init__()
        self.group = TextField(tr("group"), tr("The group the chosen volumes belong to."))
        self.group.typed.connect(
            lambda text: self.wanted.emit("group", lambda d: choosing.group(d, text))
        )
        self.row(tr("group"), self.group)
        self.row(
            "",
            self.act(
                tr("Group"),
                tr("Make the chosen volumes one body."),
                "group",
                lambda: choosing.group_chosen,
            ),
            self.act(
                tr("Ungroup"),
                tr("Let the chosen volumes be separate."),
                "ungroup",
                lambda: lambda d: choosing.group(d, ""),
            ),
            self.act(
                tr("Choose it"),
                tr("Choose everything in the same group."),
                "choose",
                lambda: choosing.choose_group,
            ),
        )
        self.heading(tr("Mirrored twin"))
        self.across = self.choice(
            tr("mirrored across"), tr("The volume whose centre plane is the mirror."), []
        )
        self.row(tr("across"), self.across)
        self.axis = self.choice(
            tr("mirror square to"), tr("The direction the mirror is square to."), list(AXES)
        )
        self.row(
            tr("square to its"),
            self.axis,
            self.act(
                tr("Mirror"),
                tr("Set a twin on the other side; it follows."),
                "mirror",
                self._mirror,
            ),
        )
        self.heading(tr("Repeat"))
        self.count = self.measure("count", "copies", tr("How many copies."), 3.0)
        self.row(tr("copies"), self.count)
        steps = (
            ("step along width", tr("Step along its own width.")),
            ("step along depth", tr("Step along its own depth.")),
            ("step up", tr("Step up.")),
        )
        self.steps = [
            self.measure("length", name, tip, 100.0 if number == 0 else 0.0)
            for number, (name, tip) in enumerate(steps)
        ]
        for step in self.steps:
            step.terse = True  # type: ignore[attr-defined]
        self.row(tr("equal steps"), *self.steps)
        self.row(
            "",
            self.act(tr("Repeat it"), tr("Repeat it at equal true steps."), "repeat", self._repeat),
        )
        self.angle = self.measure("angle", "each turned by", tr("Turn of each copy."), 60.0)
        self.row(
            tr("each turned"),
            self.angle,
            self.act(
                tr("Round the middle"),
                tr("Repeat it round the upright through the chosen volume's middle."),
                "repeat round",
                self._round,
            ),
        )
        self.row(
            "",
            self.act(
                tr("Let them go"),
                tr("The chosen copies no longer follow their source."),
                "let go",
                lambda: standing.let_go,
            ),
            self.act(
                tr("Ghost"),
                tr("Make the chosen volumes ghosts, or solid again."),
                "ghost",
                lambda: _toggle_ghost,
            ),
        )
        self.column.addStretch(1)

    def _mirror(self) -> Callable[[Document], Document]:
        about = self.across.currentData()
        if about is None:
            raise VolumeError("A twin needs another volume to mirror across: add one.")
        axis = self.axis.currentIndex()
        return lambda d: standing.mirror(d, int(about), axis)

    def _copies(self) -> int:
        return round(self.count.number)

    def _repeat(self) -> Callable[[Document], Document]:
        count = self._copies()
        along = [step.number for step in self.steps]

        def repeat(document: Document) -> Document:
            _, volume = choosing.in_work(document)
            axes = volume.pose[1]
            run = along[0] * axes[0] + along[1] * axes[1]
            return standing.repeat(
                document, count, (float(run[0]), float(run[1]), float(run[2]) + along[2])
            )

        return repeat

    def _round(self) -> Callable[[Document], Document]:
        about, count, angle = self.across.currentData(), self._copies(), self.angle.number
        if about is None:
            raise VolumeError("A repeat round a middle needs another volume: add one.")

        def round_it(document: Document) -> Document:
            corners = document.volumes[int(about)].corners()
            x, y, z = (float(v) for v in (corners[0] + corners[7]) / 2)
            return standing.repeat_round(document, count, (x, y, z), 2, angle)

        return round_it

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str], room: Room
    ) -> None:
        super().show_document(document, scene, families, room)
        list_others(self.across, document, None)
        self.group.show_text(document.volume.group if document.volume else None)


def _toggle_ghost(document: Document) -> Document:
    ghost = not all(volume.ghost for volume in choosing.chosen_volumes(document))
    return choosing.make_ghost(document, ghost)
