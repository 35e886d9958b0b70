"""Drives the program in a made-up language, every letter of every message replaced, and prints as
JSON what could still be read: words that did not go through the door, and words that went through
it without being in the catalogue."""

import gettext
import json
import os
import re
import sys
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"
sys.path.insert(0, str(Path(__file__).parents[1] / "tools"))
from words import messages

LETTERS = str.maketrans(
    "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ",
    "αβψδεφγηιξκλμνοπθρστυωχςζϑΑΒΨΔΕΦΓΗΙΞΚΛΜΝΟΠΘΡΣΤΥΩΧΫΖΪ",
)
PARTS = re.compile(r"(\{[^}]*\})")
CATALOGUE = {words for pair in messages() for words in pair}
unknown: set[str] = set()


class MadeUp(gettext.NullTranslations):
    """Greek letters for Latin ones, parts in braces kept."""

    def gettext(self, message):
        if message not in CATALOGUE and message.translate(LETTERS) != message:
            unknown.add(message)
        parts = PARTS.split(message)
        return "".join(p if p.startswith("{") else p.translate(LETTERS) for p in parts)

    def ngettext(self, one, more, n):
        return self.gettext(one if n == 1 else more)


gettext.translation = lambda *_args, **_more: MadeUp()

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLabel, QWidget

from isometron.construction.telling import Teller
from isometron.document.building import METHODS
from isometron.document.edits.building_edits import build_by
from isometron.document.edits.starters import STARTERS
from isometron.drawing.scene import scene_of
from isometron.files.building.order_words import built, heading_of, words_of
from isometron.files.journal import Stamp
from isometron.files.sheet_file import SAMPLES, sample_sheet
from isometron.remarks.second_look import second_look
from isometron.ui.bench.app import application
from isometron.ui.bench.commands.help_pages import about_page, keys_page
from isometron.ui.bench.commands.table import COMMANDS
from isometron.ui.bench.place_table import PLACES
from isometron.ui.bench.starter_dialog import StarterDialog
from isometron.ui.bench.window import Bench

FREE = {
    "Isometron", "SVG", "PDF", "PNG", "DXF", "OBJ", "glTF", "STL", "CSV", "JSON", "Ctrl", "Shift",
    "Alt", "Del", "svg", "inf", "Letter", "Tabloid", "Scroll", "Left", "Right",
}  # fmt: skip
"""Proper names, formats, keys, and what Qt itself calls the arrows of a tab bar."""

readable: dict[str, str] = {}
shapes: set[str] = set()


def look(text: str, where: str, names: set[str]) -> None:
    """Latin words of a text that are neither names nor units."""
    bare = re.sub(r"<[^>]*>|&\w+;", " ", text)
    for name in sorted(names, key=len, reverse=True):
        bare = bare.replace(name, " ")
    for word in re.findall(r"[A-Za-z]{3,}", bare):
        if word not in FREE:
            readable.setdefault(word, f"{where}: {text[:90]}")


def look_at_window(window: QWidget, where: str, names: set[str]) -> None:
    for widget in [window, *window.findChildren(QWidget)]:
        told = [widget.toolTip(), widget.accessibleName(), widget.accessibleDescription()]
        if isinstance(widget, QLabel | QAbstractButton):
            told.append(widget.text())
        if isinstance(widget, QComboBox):
            told += [widget.itemText(i) for i in range(widget.count())]
        for text in told:
            look(text, where, names)


def main() -> None:
    app = application()
    every = "--full" in sys.argv
    for number, sample in enumerate(SAMPLES):
        document = sample_sheet(sample)
        scene = scene_of(document)
        names = {v.name for v in document.volumes} | {v.group for v in document.volumes}
        names = {name for name in names if name} | {m.name for m in document.modules} | {sample}
        shapes.update(getattr(v.shape, "name", sample) for v in document.volumes)
        names |= shapes - CATALOGUE
        for remark in second_look(document, scene):
            look(f"{remark.title} {remark.text}", f"remark {remark.rule}", names)
        own = METHODS[number % len(METHODS)]
        for method in METHODS if every else (own,):
            order = built(build_by(document, method, None))
            teller = Teller(order, "cm")
            look(heading_of(document, order), "heading of an order", names)
            for chapter in order.chapters:
                look(chapter.title, "chapter", names)
                for step in chapter.steps:
                    look(words_of(step), f"step {step.key}", names)
                    for told in teller.step(step):
                        look(told, f"move in {step.key}", names)
        if number % 5 and not every:
            continue
        settings = QSettings(f"{sys.argv[1]}/s.ini", QSettings.Format.IniFormat)
        bench = Bench(document, settings=settings, called=sample)
        bench.show()
        for place in PLACES:
            bench.open_place(place.key)
            card = bench.open_card
            for leaf in range(len(getattr(card, "LEAVES", (0,)))):
                if hasattr(card, "open_page"):
                    card.open_page(leaf)
                bench.settle()
                app.processEvents()
                look_at_window(bench, f"{place.key} {leaf}", names)
        bench.open_place("build")
        bench.settle()
        for matter, group in bench.slip.groups.items():
            if group.isVisible():
                group.unfold()
                bench.settle()
                look_at_window(bench, f"slip {matter.name}", names)
        for label, value in bench.slip.table.rows.told:
            look(f"{label} {value}", "reading", names)
        for handle in bench.board.handles:
            look(f"{handle.told()} {handle.number(document, scene)}", "handle", names)
        bench.session.mark_saved(bench.session.path or bench.keeping.folder(), "", Stamp(0, ""))
        bench.close()
    for command in COMMANDS:
        look(f"{command.text} {command.tip}", "command", set(SAMPLES))
    look(keys_page(COMMANDS) + about_page(), "help", {"General Public License", "GNU", "SIL"})
    for starter in STARTERS:
        look_at_window(StarterDialog(bench, starter, bench.room, "cm"), starter.name, set())
    told = {"readable": readable, "unknown": sorted(unknown - shapes)}
    print(json.dumps(told, ensure_ascii=False))


main()
