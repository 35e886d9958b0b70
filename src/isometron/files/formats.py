"""Everything that leaves the program as a file: what it is, in which formats, and by which words.

Menus, dialogs, the command line and the help page read this table. To add a format, write a row of
its kind: its ending, its words, and the function that makes its bytes.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple, Protocol

from isometron.document.building import METHODS
from isometron.perspective.errors import FileError
from isometron.perspective.watching import last_tick
from isometron.words import _

if TYPE_CHECKING:
    from isometron.construction.stages import Stage
    from isometron.document.document import Document


class Painting(Protocol):
    """What can only be painted where Qt is."""

    def sheet(self, document: "Document", *, dpi: float, paper: bool) -> bytes:
        """The sheet as PNG."""

    def layers(self, document: "Document", *, dpi: float) -> list[tuple[str, bytes]]:
        """The sheet as named layers, each a PNG without paper, the lowest first."""

    def stage(self, document: "Document", stage: "Stage") -> bytes:
        """The lines of a stage of the build order as PNG, without paper."""


class Asked(NamedTuple):
    """What a person may ask of a file besides its format."""

    painting: Painting | None = None
    dpi: float = 300.0
    no_paper: bool = False
    per_chapter: bool = False
    method: str | None = None
    first: str | None = None
    step_sheet: bool = False
    values: str | None = None
    shadows: bool = False
    view: str | None = None
    curved: bool = False

    def painter(self) -> Painting:
        """What paints. Raises FileError where nothing can."""
        if self.painting is None:
            raise FileError(_("Pictures cannot be painted here: choose another format."))
        return self.painting


Writer = Callable[["Document", Asked], bytes]


class Format(NamedTuple):
    """One format: the ending of its files, its words, and how its bytes are made."""

    ending: str
    words: str
    write: Writer

    @property
    def filter(self) -> str:
        """The words of a file dialog."""
        return f"{self.words} (*{self.ending})"


@dataclass(frozen=True)
class Errand:
    """One way a person asks for a file in the window: words and tip of the menu, keys, and what is
    asked besides."""

    text: str
    tip: str
    keys: tuple[str, ...] = ()
    asked: dict[str, Any] = field(default_factory=dict)


class Option(NamedTuple):
    """One option of the command line: its flag, the field of `Asked` it sets, and its settings."""

    flag: str
    settings: dict[str, Any]


class Outgoing(NamedTuple):
    """One kind of thing that leaves as a file.

    key: its command on the command line. about: what that does. proposal: what its file is called,
    for a sheet's name. done: what is said when it is written. needs_volumes: nothing can be written
    of a blank sheet. prints: whether it is printed when no
    file is named. takes: how such a file is read back into a document.
    """

    key: str
    about: str
    formats: list[Format]
    errands: tuple[Errand, ...]
    proposal: str
    done: str
    unknown: str
    options: tuple[Option, ...] = ()
    prints: Format | None = None
    needs_volumes: bool = False
    takes: "Callable[[Document, Path], Document] | None" = None
    group: str = ""
    """The list of the menu that its errands stand in."""

    @property
    def endings(self) -> str:
        """Every ending, in words."""
        return ", ".join(one.ending for one in self.formats)

    @property
    def names(self) -> str:
        """Every format, in words."""
        return ", ".join(one.words for one in self.formats)

    def format_of(self, path: Path) -> Format:
        """The format a path's ending says. Raises FileError for another one."""
        for one in self.formats:
            if one.ending == path.suffix.lower():
                return one
        raise FileError(self.unknown.format(name=path.name, endings=self.endings))

    def write(self, document: "Document", path: Path, asked: Asked) -> None:
        """Write a file in the format its ending says, whole or not at all. Raises FileError."""
        from isometron.files.disk import write_whole

        shown = _bent(_lit(_viewed(document, asked), asked), asked)
        content = self.format_of(path).write(shown, asked)
        last_tick()
        write_whole(path, content)


def _bent(document: "Document", asked: Asked) -> "Document":
    """The document drawn curved, if that was asked for; a plan or elevation stays as it is."""
    if not asked.curved or document.eye.parallel is not None:
        return document
    from isometron.document.edits.projecting import Projecting

    return Projecting(curved=True)(document)


def _viewed(document: "Document", asked: Asked) -> "Document":
    """The document with the one view that was asked for, on the whole sheet. Raises FileError."""
    if asked.view is None:
        return document
    from isometron.drawing.page import seen_in

    names = [view.name or str(n + 1) for n, view in enumerate(document.views)]
    if asked.view not in names:
        raise FileError(
            _("The sheet has no view “{name}”: it has {names}.").format(
                name=asked.view, names=", ".join(f"“{one}”" for one in names)
            )
        )
    return seen_in(document, names.index(asked.view))


def _lit(document: "Document", asked: Asked) -> "Document":
    """The document with the light and values that were asked for."""
    if asked.values is None and not asked.shadows:
        return document
    from isometron.document.edits.lighting import put_on, set_shading
    from isometron.document.lights.sun import Sun

    if document.light is None:
        document = put_on(document, Sun)
    way = asked.values or document.shading.way
    shadows = asked.shadows or (asked.values is None and document.shading.shadows)
    return set_shading(document, way=way, shadows=shadows)


PICTURES = tuple(
    Format(ending, words, lambda document, asked: b"")
    for ending, words in (
        (".jpg", "JPEG"),
        (".jpeg", "JPEG"),
        (".png", "PNG"),
        (".webp", "WebP"),
        (".tif", "TIFF"),
        (".tiff", "TIFF"),
    )
)
"""Pictures that are brought in; never written."""

# The sheet drawn


def _svg(document: "Document", asked: Asked) -> bytes:
    from isometron.files.sheet_page import svg_of

    return svg_of(document)


def _pdf(document: "Document", asked: Asked) -> bytes:
    from isometron.files.sheet_page import pdf_of

    return pdf_of(document)


def _png(document: "Document", asked: Asked) -> bytes:
    return asked.painter().sheet(document, dpi=asked.dpi, paper=not asked.no_paper)


def _ora(document: "Document", asked: Asked) -> bytes:
    from isometron.files.open_raster import open_raster

    painter = asked.painter()
    merged = painter.sheet(document, dpi=asked.dpi, paper=True)
    return open_raster(painter.layers(document, dpi=asked.dpi), merged)


def _dxf(document: "Document", asked: Asked) -> bytes:
    from isometron.files.dxf import dxf_of

    return dxf_of(document)


DRAWING = Outgoing(
    "draw",
    _("Draw a sheet at true size to a file."),
    [
        Format(".pdf", "PDF", _pdf),
        Format(".svg", "SVG", _svg),
        Format(".png", "PNG", _png),
        Format(".dxf", "DXF", _dxf),
        Format(".ora", _("Painting layers"), _ora),
    ],
    (
        Errand(
            _("Draw to a file…"),
            _("Draw the sheet to a file at true size: {formats}."),
            ("Ctrl+E",),
        ),
    ),
    "{name}",
    _("Drawn at true size to “{file}”."),
    _("“{name}” does not say what to draw: end its name in {endings}."),
    (
        Option(
            "--dpi",
            {"type": float, "default": 300.0, "help": _("dots per inch of a PNG (default 300)")},
        ),
        Option(
            "--no-paper", {"action": "store_true", "help": _("leave a PNG's paper transparent")}
        ),
        Option(
            "--values",
            {
                "choices": ("flat", "hatch", "numbers", "none"),
                "help": _("show the values of its light so, or of a sun behind us"),
            },
        ),
        Option("--curved", {"action": "store_true", "help": _("draw the view you work in curved")}),
        Option("--view", {"metavar": "NAME", "help": _("one view of the page alone, by its name")}),
        Option(
            "--shadows", {"action": "store_true", "help": _("draw the shadows its light casts")}
        ),
    ),
)


# The build order


def _order(write: Callable[["Document", Asked], bytes]) -> Writer:
    def written(document: "Document", asked: Asked) -> bytes:
        from isometron.document.edits.building_edits import build_by

        method = None if asked.method is None else asked.method.replace("-", " ")
        first = None if asked.first is None else asked.first == "points"
        return write(build_by(document, method, first), asked)

    return written


def _booklet(document: "Document", asked: Asked) -> bytes:
    from isometron.files.building.booklet import booklet_of
    from isometron.files.building.step_sheet import step_sheet_of

    if asked.step_sheet:
        return step_sheet_of(document)
    return booklet_of(document, per_chapter=asked.per_chapter)


def _order_text(document: "Document", asked: Asked) -> bytes:
    from isometron.files.building.orders import text_of

    return text_of(document)


def _order_svg(document: "Document", asked: Asked) -> bytes:
    from isometron.files.building.orders import svg_stages

    return svg_stages(document)


def _order_ora(document: "Document", asked: Asked) -> bytes:
    from isometron.files.building.orders import ora_stages

    return ora_stages(document, asked.painter().stage)


def _order_json(document: "Document", asked: Asked) -> bytes:
    from isometron.files.building.orders import json_of

    return json_of(document)


ORDER_TEXT = Format(".txt", _("Text"), _order(_order_text))
ORDER = Outgoing(
    "steps",
    _("Write the build order of a sheet: the ruler moves, in the order a hand makes them."),
    [
        Format(".pdf", _("Booklet"), _order(_booklet)),
        ORDER_TEXT,
        Format(".svg", _("SVG layers"), _order(_order_svg)),
        Format(".ora", _("Painting layers"), _order(_order_ora)),
        Format(".json", "JSON", _order(_order_json)),
    ],
    (
        Errand(
            _("Write the build order…"),
            _("Write the build order to a file: {formats}."),
            ("Ctrl+Shift+E",),
        ),
        Errand(
            _("Write a short build order…"),
            _("Write the build order with one picture per chapter instead of one per step."),
            asked={"per_chapter": True},
        ),
        Errand(
            _("Write a step sheet…"),
            _("Write the build order as one page of pictures with a sentence each, for a class."),
            asked={"step_sheet": True},
        ),
    ),
    _("{name} build order"),
    _("Build order written to “{file}”."),
    _("“{name}” does not say what order: end its name in {endings}."),
    (
        Option(
            "--method",
            {
                "choices": [method.replace(" ", "-") for method in METHODS],
                "help": _("how lengths in depth are found (default: as the sheet says)"),
            },
        ),
        Option(
            "--first",
            {
                "choices": ["points", "station"],
                "help": _("what is laid first (default: as it says)"),
            },
        ),
        Option(
            "--per-chapter",
            {"action": "store_true", "help": _("one picture per chapter of the booklet")},
        ),
        Option(
            "--step-sheet",
            {"action": "store_true", "help": _("one page of pictures with a sentence each")},
        ),
    ),
    prints=ORDER_TEXT,
    needs_volumes=True,
    group=_("Build order"),
)


# The volumes


def _mesh(ending: str) -> Writer:
    def written(document: "Document", asked: Asked) -> bytes:
        from isometron.files.mesh import mesh_of

        return mesh_of(document, ending)

    return written


MESH = Outgoing(
    "mesh",
    _("Send the volumes of a sheet out as a mesh."),
    [
        Format(".obj", "OBJ", _mesh(".obj")),
        Format(".glb", "glTF", _mesh(".glb")),
        Format(".stl", "STL", _mesh(".stl")),
    ],
    (Errand(_("Send the volumes out…"), _("Send the volumes to another program: {formats}.")),),
    "{name}",
    _("Volumes sent to “{file}”."),
    _("“{name}” does not say what mesh: end its name in {endings}."),
)


def _table(document: "Document", asked: Asked) -> bytes:
    from isometron.files.table import table_of

    return table_of(document)


def _take(document: "Document", path: Path) -> "Document":
    from isometron.files.table import read_table, take_table

    return take_table(document, read_table(path), f"“{path.name}”")


CSV = Format(".csv", "CSV", _table)
TABLE = Outgoing(
    "dimensions",
    _("Print the dimensions of every volume as a table, or take them from one."),
    [CSV],
    (Errand(_("Write dimensions…"), _("Write every dimension to a table: {formats}.")),),
    "{name}",
    _("Dimensions written to “{file}”."),
    _("“{name}” does not say what table: end its name in {endings}."),
    prints=CSV,
    takes=_take,
)


def _report(document: "Document", asked: Asked) -> bytes:
    from isometron.files.report import report_text

    return report_text(document).encode()


REPORT_JSON = Format(".json", "JSON", _report)
REPORT = Outgoing(
    "measure",
    _("Print everything the bench knows about a sheet as JSON."),
    [REPORT_JSON],
    (
        Errand(
            _("Write every measure…"), _("Write everything the bench knows to a file: {formats}.")
        ),
    ),
    _("{name} measures"),
    _("Measures written to “{file}”."),
    _("“{name}” does not say what report: end its name in {endings}."),
    prints=REPORT_JSON,
)


def _variants_pdf(document: "Document", asked: Asked) -> bytes:
    from isometron.files.variants_page import variants_pdf

    return variants_pdf(document)


def _variants_svg(document: "Document", asked: Asked) -> bytes:
    from isometron.files.variants_page import variants_svg

    return variants_svg(document)


VARIANTS = Outgoing(
    "variants",
    _("Write the variants of a sheet side by side, with what differs."),
    [Format(".pdf", "PDF", _variants_pdf), Format(".svg", "SVG", _variants_svg)],
    (
        Errand(
            _("Write variants…"),
            _("Write all variants side by side, with what differs: {formats}."),
        ),
    ),
    _("{name} variants"),
    _("Variants written to “{file}”."),
    _("“{name}” does not say what file: end its name in {endings}."),
    needs_volumes=True,
)

OUTGOING = [DRAWING, ORDER, MESH, TABLE, REPORT, VARIANTS]
"""In the order of the menu."""


def _corrections(document: "Document", asked: Asked) -> bytes:
    from isometron.files.corrections import corrections_of

    return corrections_of(document)


CORRECTIONS = Outgoing(
    "corrections",
    _("Write the corrections of a sketch at true size."),
    [Format(".pdf", "PDF", _corrections)],
    (
        Errand(
            _("Write the correction sheet…"),
            _("Write corrections as thin lines at 1 : 1, to lay under your sheet or trace."),
        ),
    ),
    _("{name} corrections"),
    _("Corrections written to “{file}”: print them at 100 %."),
    _("“{name}” does not say what file: end its name in {endings}."),
)
"""Of the picture in work, where it is a sketch: not of every sheet, so not among the others."""


def _sheet(document: "Document", asked: Asked) -> bytes:
    from isometron.files.sheet_file import sheet_as_text

    return sheet_as_text(document).encode()


def _only_read(document: "Document", asked: Asked) -> bytes:
    raise FileError(_("Outlines are only read: draw the sheet to an SVG instead."))


SHEET = Format(".isometron", _("Isometron sheets"), _sheet)
OUTLINE = Format(".svg", "SVG", _only_read)


def _by_its_page(document: "Document", asked: Asked) -> bytes:
    raise FileError(_("This is written by the page it stands on, not from a sheet."))


EXERCISES = Format(".pdf", "PDF", _by_its_page)
LOGS = (Format(".csv", "CSV", _by_its_page), Format(".json", "JSON", _by_its_page))
CHARTS = (Format(".csv", "CSV", _by_its_page), Format(".svg", "SVG", _by_its_page))
"""What the Practice and the Log tab write."""
