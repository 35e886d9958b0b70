"""The bench as tests use it: a real window offscreen, its questions answered without dialogs."""

import gc

import pytest
from PyQt6.QtCore import QPoint, QPointF, QSettings, Qt
from PyQt6.QtTest import QTest

from isometron.files.formats import DRAWING, SHEET
from isometron.files.sheet_file import sample_sheet
from isometron.ui.bench.app import application
from isometron.ui.bench.asking import Conflict, Unsaved
from isometron.ui.bench.starter_dialog import StarterDialog
from isometron.ui.bench.window import Bench


class Answers:
    """Stands in for the dialogs: answers as told, and remembers what was said."""

    def __init__(self):
        self.opens = self.saves = self.draws = None
        self.unsaved = Unsaved.STAY
        self.told = []
        self.asked = 0
        self.conflict, self.throws_away = Conflict.STAY, True
        self.sends = self.table = self.outline = self.answers_to_starter = self.picture = None

    def starter_values(self, starter, room, unit, said=None):
        if said:
            dialog = StarterDialog(None, starter, room, unit)
            return dict(dialog.values) if dialog.fill(said) else None
        return self.answers_to_starter and {**starter.proposal, **self.answers_to_starter}

    def which(self, _title, _folder, formats):
        return {
            ".isometron": self.opens,
            ".csv": self.table,
            ".svg": self.outline,
            ".jpg": self.picture,
        }[formats[0].ending]

    def where(self, _title, _proposal, formats):
        if formats == [SHEET]:
            return self.saves
        return self.draws if formats == DRAWING.formats else self.sends

    def about_unsaved(self, _name):
        self.asked += 1
        return self.unsaved

    def about_conflict(self, _name, differs):
        self.told.append(differs)
        return self.conflict

    def may_throw_away(self, _what):
        return self.throws_away

    def tell(self, _title, sentence):
        self.told.append(sentence)


class Desk:
    """A bench with hands: drags, types and presses like a person."""

    def __init__(self, tmp_path, document=None, path=None):
        application()
        settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
        self.bench = Bench(document or sample_sheet(), path, settings)
        self.answers = self.bench.keeping.asking = Answers()
        self.bench.resize(1280, 800)
        self.bench.show()
        QTest.qWaitForWindowExposed(self.bench)
        self.bench.activateWindow()
        self.settle()

    def settle(self):
        """Let the cards follow and the window lay itself out."""
        self.bench.settle()
        application().processEvents()

    @property
    def document(self):
        return self.bench.session.document

    @property
    def board(self):
        return self.bench.board

    def handle(self, key):
        return next(h for h in self.board.handles if h.key == key)

    def place(self, key):
        """Where a handle can be grabbed, px."""
        handle, view = self.handle(key), self.board.view
        return handle.at(view).toPoint()

    def drag(self, start, by, *, shift=False, alt=False, on=None, drop=True):
        """Press, move in steps, release."""
        widget = on or self.board
        keys = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
        keys |= Qt.KeyboardModifier.AltModifier if alt else Qt.KeyboardModifier.NoModifier
        start, by = QPointF(start).toPoint(), QPoint(*by)
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, keys, start)
        for step in (1, 2, 3):
            self._move(widget, start + by * step / 3, keys)
        if drop:
            QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, keys, start + by)
        self.settle()

    @staticmethod
    def _move(widget, at, keys):
        from PyQt6.QtCore import QEvent
        from PyQt6.QtGui import QMouseEvent

        where = QPointF(widget.mapToGlobal(at))
        left = Qt.MouseButton.LeftButton
        event = QMouseEvent(QEvent.Type.MouseMove, QPointF(at), where, left, left, keys)
        application().sendEvent(widget, event)

    def click(self, at, *, control=False, on=None):
        keys = Qt.KeyboardModifier.ControlModifier if control else Qt.KeyboardModifier.NoModifier
        QTest.mouseClick(on or self.board, Qt.MouseButton.LeftButton, keys, at)
        self.settle()

    def face_place(self, index, face):
        """The middle of a face of a volume on the board, px."""
        picture = self.bench.session.scene.pictures[index]
        ring = picture.sheet[list(picture.body.rings[face][0])]
        x, y = ring.mean(axis=0)
        return self.board.view.point((float(x), float(y))).toPoint()

    @property
    def slip(self):
        return self.bench.slip

    def page(self, number, place):
        """Open a page of the card of a place."""
        self.bench.open_place(place)
        self.bench.card(place).open_page(number)
        self.settle()
        return self.bench.card(place).page(number)

    def deed(self, key, **values):
        """Open the fields of a deed; with values, fill them in and do it."""
        from isometron.deeds.table import deed

        self.settle()
        if not deed(key).parameters:
            self.bench.do_deed(deed(key))
            self.settle()
            return None
        assert self.bench.do_deed(deed(key)), self.board.plate.text()
        self.settle()
        panel = self.slip.panel
        for name, value in values.items():
            self.fill(panel, name.replace("_", " "), value)
        if values:
            self.do(panel)
        return panel

    def pad(self, matter):
        """The pads of a matter, unfolded."""
        self.settle()
        self.slip.groups[matter].unfold()
        self.settle()
        page = self.slip.groups[matter].page
        self.bench.column.slips.currentWidget().ensureWidgetVisible(page["pad"])
        self.settle()
        page["pad"].grab()
        return page

    def fill(self, panel, name, value):
        """Fill a field in: words are typed, the others of a choice are taken by their words."""
        from PyQt6.QtWidgets import QComboBox

        field = panel[name]
        if isinstance(field, QComboBox):
            field.setCurrentIndex(value if isinstance(value, int) else field.findText(value))
            field.activated.emit(field.currentIndex())
        else:
            field.setFocus()
            field.selectAll()
            QTest.keyClicks(field, value)
            QTest.keyClick(field, Qt.Key.Key_Tab)
        self.settle()

    def do(self, panel):
        """Return, with the keyboard in the fields of a deed."""
        QTest.keyClick(panel, Qt.Key.Key_Return)
        self.settle()

    def write(self, field, text):
        """Type into a field that is on the screen and press Return."""
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.settle()

    def field(self, name):
        """The field of a value, on the slip or on the card of the eye."""
        from isometron.deeds.table import deeds
        from isometron.ui.parts.fields import NumberField

        if name in deeds():
            return self.slip.row(name).asked.widget
        self.bench.card("stand")
        return next(f for f in self.bench.findChildren(NumberField) if f.objectName() == name)

    def type(self, name, text):
        """Type into a field and press Return."""
        from isometron.deeds.table import deeds

        self.bench.open_place("build" if name in deeds() else "stand")
        self.settle()
        self.write(self.field(name), text)

    def press(self, words):
        """Press the visible button with these words."""
        from PyQt6.QtWidgets import QAbstractButton

        buttons = self.bench.findChildren(QAbstractButton)
        button = next((b for b in buttons if b.text() == words and b.isVisible()), None)
        if button is None:
            self.press_on_a_remark(words)
        else:
            QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        self.settle()

    def press_on_a_remark(self, words):
        """Press a button painted on a remark of the second look."""
        self.bench.strip.open(True)
        self.settle()
        remarks = self.bench.strip.list
        for row in remarks.in_view():
            index, remedy = remarks.rows.index(row), remarks.rows.solve(row)
            face = remarks.row.face(remarks.visualRect(index), remedy)
            places = {"Show": face.show, "As I want it": face.aside}
            places |= {remedy.label: face.cure} if remedy else {}
            for text, place in places.items():
                if text == words:
                    at = place.center()
                    QTest.mouseClick(remarks.viewport(), Qt.MouseButton.LeftButton, pos=at)
                    return
        raise AssertionError(f"there is no button “{words}”")

    def run(self, words):
        """Trigger a command by its words."""
        action = next(a for c, a in self.bench.actions_of if c.text == words)
        action.trigger()
        self.settle()

    def key(self, key, keys=Qt.KeyboardModifier.NoModifier):
        QTest.keyClick(self.board, key, keys)
        self.settle()


@pytest.fixture
def desk(tmp_path, qtbot):
    """Opens desks, and clears them away without asking."""
    opened = []

    def open_desk(document=None, path=None):
        made = Desk(tmp_path, document, path)
        opened.append(made)
        return made

    yield open_desk
    for made in opened:
        made.answers.unsaved = Unsaved.DISCARD
        made.bench.keeping.asking = made.answers
        made.bench.close()
        made.bench.deleteLater()
    application().processEvents()
    gc.collect(1)  # the young ones: a whole sweep after every test costs more than the test
