import sys
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QFontInfo, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QLabel, QMenu, QPushButton, QToolButton, QWidget

from isometron.document.document import Document
from isometron.document.edits import choosing, volume_edits
from isometron.document.edits.stances import EDGE_NEAREST, LOOKING_DOWN, take_stance
from isometron.drawing.picks.edge import EdgePick
from isometron.drawing.scene import scene_of
from isometron.files.journal import LeftBehind, read_head
from isometron.files.sheet_file import sample_sheet
from isometron.ui.bench.app import application
from isometron.ui.bench.commands.help_pages import HelpPage, about_page, keys_page
from isometron.ui.bench.commands.table import COMMANDS, CONTEXT
from isometron.ui.bench.found import FoundDialog
from isometron.ui.bench.place_table import PLACES
from isometron.ui.bench.rescue import Rescue
from isometron.ui.board.desk import Surroundings
from isometron.ui.board.standing_layer import StandingLayer
from isometron.ui.board.tools import CARRY, LAY_EDGE, MEASURE
from isometron.ui.cards.volumes.starters import StarterTile
from isometron.ui.parts import theme
from isometron.ui.parts.fields import NumberField
from isometron.ui.parts.fold import Scroller
from isometron.ui.parts.plain import Elided
from isometron.ui.parts.shell import FRAME, SIZE, Shell
from tests.scenes import case, crowd, sheet, some


def image_of(pixmap):
    image = pixmap.toImage().convertToFormat(QImage.Format.Format_RGB32)
    bits = image.constBits()
    bits.setsize(image.sizeInBytes())
    return np.frombuffer(bytes(bits), dtype=np.uint8).reshape(image.height(), -1)


def test_painting_only_what_changed_gives_the_very_same_picture(desk):
    at = desk()
    document = take_stance(sheet(*crowd(25)), EDGE_NEAREST)
    size, room = QSize(640, 560), theme.LIGHT_ROOM
    around = Surroundings(at.board.view, size, 1.0, document.sheet, "cm", 60.0, room)
    layer, scene = StandingLayer(), scene_of(document)
    layer.picture(around, document, scene)
    for step in range(5):
        document = choosing.select(document, 4 * step)
        document = volume_edits.set_side(document, step % 3, 120.0 + 60 * step)
        scene = scene_of(document, scene)
        updated = image_of(layer.picture(around, document, scene)).astype(int)
        afresh = image_of(StandingLayer().picture(around, document, scene)).astype(int)
        off = np.abs(updated - afresh)  # a clipped dash may round a few pixels' edges elsewhere
        assert off.max() < 64 and (off > 2).mean() < 1e-3


def test_object_lines_are_painted_where_the_numbers_say(desk):
    at = desk()
    image = at.board.grab().toImage()
    picture = at.bench.session.scene.pictures[1]
    for x0, y0, x1, y1 in picture.seen_lines.tolist():
        middle = at.board.view.point(((x0 + x1) / 2, (y0 + y1) / 2))
        around = [
            QColor(image.pixel(round(middle.x()) + dx, round(middle.y()) + dy)).lightness()
            for dx in (-1, 0, 1)
            for dy in (-1, 0, 1)
        ]
        assert min(around) < 110


def half_seen(bench):
    """Starters cut by the border of their card, and the state where not even its name fits."""
    state, port = bench.state, bench.column.stack
    wide = state.fontMetrics().horizontalAdvance(state.shorter[-1])
    return [
        *([] if wide <= state.contentsRect().width() else [state.text()]),
        *(
            tile.words
            for tile in port.findChildren(StarterTile)
            if tile.isVisible()
            and tile.mapTo(port, tile.rect().bottomLeft()).y() > port.rect().bottom()
        ),
    ]


def cut_words(bench):
    """Words that do not fit where they stand."""
    cut = []
    for label in bench.findChildren(QLabel):
        if not label.isVisible() or isinstance(label, Elided):
            continue
        if label.wordWrap():
            fits = label.height() >= label.heightForWidth(label.width())
        else:
            fits = label.width() >= label.sizeHint().width() - 1
        cut += [] if fits else [label.text()]
    for button in bench.findChildren(QPushButton):
        need = button.fontMetrics().horizontalAdvance(button.text()) + 2
        high = button.fontMetrics().height()
        if button.isVisible() and (button.width() < need or button.height() < high):
            cut.append(button.text())
    for field in bench.findChildren(NumberField):
        room = field.fontMetrics().horizontalAdvance(field.text())
        if field.isVisible() and field.text() and field.width() - 10 < room:
            cut.append((field.accessibleName(), field.text()))
    for scroller in bench.findChildren(Scroller):
        wide = scroller.widget().minimumSizeHint().width()
        if scroller.isVisible() and wide > scroller.viewport().width():
            cut.append(("wider than its card", wide, scroller.viewport().width()))
    more = bench.menuBar().findChild(QToolButton, "qt_menubar_ext_button")
    return [*cut, "menus"] if more is not None and more.isVisible() else cut


SIZES = {
    **{"small": (1024, 700), "usual": (1280, 800), "wide": (1366, 768), "low": (1280, 720)},
    **{"screen": (1920, 1080), "large text": (1280, 800), "larger text": (1366, 768)},
    **{"large and small": (1024, 700)},
}
TEXT = {"large text": 1.5, "larger text": 1.25, "large and small": 1.5}
"""How much larger text is than usual."""


@pytest.mark.parametrize("room", [(683, 467), (1024, 700), (1280, 800), (1920, 1080)])
def test_no_window_opens_larger_than_its_screen(desk, monkeypatch, room):
    screen = SimpleNamespace(availableSize=lambda: QSize(*room))
    at = desk(sample_sheet())
    finding = at.bench.finding or SimpleNamespace(behind=LeftBehind(), open=None, throw_away=None)
    for window in (HelpPage, FoundDialog, Shell):
        monkeypatch.setattr(window, "screen", lambda _window: screen)
    for dialog in (HelpPage(at.bench, "Keys", about_page()), FoundDialog(at.bench, finding)):
        assert dialog.size() == dialog.size().boundedTo(QSize(*room) - FRAME), dialog
    shell = Shell(theme.LIGHT_ROOM)
    shell.show_whole()
    assert shell.isMaximized() == (
        QSize(*SIZE) + FRAME != (QSize(*SIZE) + FRAME).boundedTo(QSize(*room))
    )


@pytest.mark.sample(1)
@pytest.mark.parametrize(
    ("size", "unit"),
    some(
        [
            ("small", "Inches"),
            ("large text", "Inches"),
            ("usual", "Millimetres"),
            ("usual", "Inches"),
            ("wide", "Centimetres"),
            ("low", "Inches"),
            ("screen", "Centimetres"),
            ("larger text", "Inches"),
            ("large and small", "Centimetres"),
        ],
        3,
    ),
)
def test_no_words_are_cut_on_any_tab_at_any_size(desk, monkeypatch, request, size, unit):
    if size in TEXT:
        set_size, app, usual = QFont.setPointSizeF, application(), application().font()
        monkeypatch.setattr(
            theme.QFont, "setPointSizeF", lambda f, pt: set_size(f, TEXT[size] * pt)
        )
        app.setFont(theme.font())
        request.addfinalizer(lambda: app.setFont(usual))
    blank = desk(Document())
    blank.bench.resize(*SIZES[size])
    blank.run(unit)
    assert cut_words(blank.bench) == [] and blank.board.rect().contains(
        blank.board.begin.geometry()
    )
    at = desk(take_stance(sample_sheet("red lamp"), LOOKING_DOWN))
    at.bench.resize(*SIZES[size])
    at.run(unit)
    for tab in PLACES:
        at.bench.open_place(tab.key)
        at.settle()
        card = at.bench.open_card
        for page in range(len(getattr(card, "LEAVES", ())) or 1):
            if hasattr(card, "open_page"):
                card.open_page(page)
            at.settle()
            assert cut_words(at.bench) + half_seen(at.bench) == [], (tab.key, page)
            assert at.bench.size() == QSize(*SIZES[size])
            foot = [one for one in at.board.findChildren(QPushButton) if one.parent() is at.board]
            assert not at.board.isVisible() or all(one.isVisible() for one in foot if one.text())
            assert at.bench.board.width() >= 320 and card.width() <= at.bench.column.width()


@pytest.mark.parametrize(
    "size,turned,usual,alone",
    [
        ((1280, 800), False, 0.45, 0.58),
        ((1280, 800), True, 0.25, 0.33),
        ((1024, 700), False, 0.36, 0.5),
    ],
)
def test_the_sheet_is_the_work(desk, size, turned, usual, alone):
    """How much of the window the paper takes, and that folding is remembered."""
    document = sample_sheet()
    paper = document.sheet
    if turned:
        paper = replace(paper, width_mm=paper.height_mm, height_mm=paper.width_mm)
    at = desk(replace(document, sheet=paper))
    at.bench.resize(*size)
    at.settle()

    def share():
        whole = at.board.view.rectangle(paper.paper)
        assert not any(flag.banner.intersects(whole) for flag in at.board.flags)
        return whole.width() * whole.height() / (size[0] * size[1])

    assert share() >= usual
    at.run("Column")
    assert share() >= alone and at.bench.strip.isVisible()
    other = desk()
    assert not other.bench.column.isVisible(), "what is folded stays folded"
    at.run("The sheet alone")
    assert not at.bench.strip.isVisible() and share() >= alone
    at.run("The sheet alone")
    assert share() >= usual and at.bench.strip.isVisible() and at.bench.column.isVisible()


def test_every_command_has_a_menu_a_sentence_and_every_part_a_name(desk):
    at = desk()
    menus = [a.menu() for a in at.bench.menuBar().actions()]
    lists = [a.menu() for menu in menus for a in menu.actions() if a.menu()]
    lists += [a.menu() for menu in lists for a in menu.actions() if a.menu()]
    in_menus = {a for menu in (*menus, *lists) for a in menu.actions()}
    for menu in (*menus, *lists):
        assert sum(not a.isSeparator() for a in menu.actions()) <= 16, menu.title()
    keys = [s.toString() for _, a in at.bench.actions_of for s in a.shortcuts()]
    assert len(keys) == len(set(keys))
    for command, action in at.bench.actions_of:
        assert action in in_menus
        assert action.toolTip().endswith(".") and command.tip[0].isupper()
    for widget in at.bench.findChildren(QWidget):
        if widget.isVisible() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus:
            said = widget.text() if isinstance(widget, QAbstractButton) else ""
            assert widget.accessibleName() or said, type(widget)
    for text in (keys_page(COMMANDS), about_page()):
        assert "None" not in text
    assert "not engineering" in about_page()
    assert all(key in keys_page(COMMANDS) for key in keys)


def test_the_type_is_the_shipped_one_and_never_too_small(desk):
    at = desk()
    for label in at.bench.findChildren(QLabel):
        assert QFontInfo(label.font()).family() == theme.FAMILY
        assert label.font().pointSizeF() >= 10.0


def luminance(colour):
    parts = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4
             for c in QColor(colour).getRgbF()[:3]]  # fmt: skip
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


def contrast(a, b):
    light, dark = sorted((luminance(a), luminance(b)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("room", theme.ROOMS.values(), ids=lambda r: r.name)
def test_words_stand_out_from_their_ground(room):
    pairs = [
        (room.ink, room.card),
        (room.soft_ink, room.card),
        (room.ink, room.field),
        (room.tab_ink, room.tab),
        (room.ink, room.bar),
        (room.felt_ink, room.felt),
        (room.felt_soft, room.felt),
        (room.level, room.card),
        (theme.FELT_PENCILS["level"], room.felt),
        (theme.FELT_PENCILS["left"], room.felt),
        ("#1f2426", theme.MARKER),
        ("#1f2426", room.lamp),
        ("#8f2b39", theme.PAPER),
        *(("#ffffff", colour) for colour in (theme.RUST, theme.TEAL, theme.PLUM)),
    ]
    for ink, ground in pairs:
        assert contrast(ink, ground) >= 4.5, (ink, ground)


def test_rooms_and_choices_are_switched_and_remembered(desk):
    at = desk()
    at.run("Dark room")
    assert at.bench.room is theme.DARK_ROOM
    at.press("Lines to VPs")
    at.press("See-through")
    assert not at.document.choices.fans and not at.document.choices.see_through
    at.key(Qt.Key.Key_H, Qt.KeyboardModifier.ControlModifier)
    assert at.document.choices.see_through
    assert desk().bench.room is theme.DARK_ROOM


def test_zoom_pan_and_fitting_keep_hold_of_the_sheet(desk):
    at = desk()
    fitted = at.board.view
    about = QPointF(300, 200)
    held = at.board.view.sheet(about)
    at.board.zoom(2.0, about)
    assert at.board.view.sheet(about) == pytest.approx(held, abs=1e-9)
    assert at.board.view.scale == pytest.approx(2 * fitted.scale)
    at.drag(QPointF(12, 300), (25, 10))
    assert at.board.view.point(held).toPoint() == QPointF(325, 210).toPoint()
    at.key(Qt.Key.Key_F3)
    paper, board = at.board.view, at.board.rect()
    assert all(board.contains(paper.point(h.place).toPoint()) for h in at.board.handles)
    assert at.board.flags == []
    at.key(Qt.Key.Key_F2)
    assert at.board.view == fitted


def test_what_is_clicked_is_read_in_the_sheets_own_unit(desk):
    at = desk()
    picture = at.bench.session.scene.pictures[0]
    middle = picture.sheet[[4, 5]].mean(axis=0)
    at.click(at.board.view.point(tuple(middle)).toPoint())
    assert at.bench.session.pick == EdgePick(0, 2)
    assert at.slip.title.text() == "Top near edge to VP right"
    assert "true length: 36 cm" in at.slip.accessibleDescription()
    at.run("Inches")
    assert "true length: 14 3/16 in" in at.slip.accessibleDescription()
    tin = at.bench.session.scene.pictures[1].sheet[[0, 1]].mean(axis=0)
    at.click(at.board.view.point(tuple(tin)).toPoint())
    assert at.document.volume.name == "Bench"
    at.click(QPointF(20, 560).toPoint())
    assert at.bench.session.pick is None
    at.board.fit_board()
    at.click(at.place("vp right"))
    assert at.slip.title.text().startswith("Right vanishing point")
    assert "measuring point" in at.slip.accessibleDescription()


def test_a_remark_shows_its_place_and_is_set_aside_and_called_back(desk):
    at = desk(sheet(case(), case(name="Tin", y_mm=3000.0, z_mm=0.0, key=1)))
    told = [remark.title for remark in at.bench.strip.remarks]
    at.press("As I want it")
    assert [remark.title for remark in at.bench.strip.remarks] == told[1:]
    at.bench.strip.open(True)
    at.press("1 set aside")
    assert [remark.title for remark in at.bench.strip.remarks] == told
    at.press("Show")
    before = image_of(at.board.grab())
    at.board.show_spot(None)
    assert (before != image_of(at.board.grab())).any()


def test_a_failure_of_the_program_rescues_the_sheet_and_is_reported_once(
    desk, state_place, monkeypatch
):
    at = desk()
    journalling = at.bench.keep_journal()
    at.run("Make it a cube")
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    hook = Rescue(at.bench.session, journalling).install()
    for _again in range(50):
        hook(RuntimeError, RuntimeError("a slip"), None)
    (journal,) = (state_place / "isometron/journal").glob("*.journal")
    assert read_head(journal).document == at.document
    (report,) = (state_place / "isometron/reports").glob("*.txt")
    assert "a slip" in report.read_text()
    assert "your sheet is safe" in at.board.plate.text()


def test_strange_views_are_painted_without_a_slip(desk):
    """Straight down, inside a box, behind us, far away: every picture paints, nothing is NaN."""
    views = [
        {"tilt_deg": -90.0},
        {"tilt_deg": 90.0},
        {"y_mm": 100.0, "x_mm": 100.0, "height_mm": 800.0},
        {"y_mm": 5000.0},
        {"station_distance_mm": 1e6},
        {"station_distance_mm": 1.0},
        {"centre_of_vision_mm": (1e6, -1e6)},
        {"x_mm": -1e6},
    ]
    at = desk()
    for change in views:
        odd = at.document.with_eye(replace(sample_sheet().eye, **change))
        at.bench.session.edit("look oddly", lambda _, odd=odd: odd)
        at.bench.open_place("stand")
        at.settle()
        for widget in (at.board, at.bench.plan, at.bench.side):
            assert not widget.grab().isNull()
        assert "nan" not in at.slip.accessibleDescription()
        at.board.fit_board()
        at.board.fit_sheet()
        QTest.mouseMove(at.board, at.board.rect().center())


def test_keys_do_what_a_hand_expects(desk):
    at = desk(sheet(case(), case(name="Tin", x_mm=900.0, key=1)))
    at.board.setFocus()
    start, view = at.document, at.board.view
    for keys in (Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.MetaModifier):
        at.key(Qt.Key.Key_Right, keys)
    assert at.document == start
    QTest.keyPress(at.board, Qt.Key.Key_Space)
    at.drag(at.board.view.point((210.0, 100.0)), (30, -20))
    QTest.keyRelease(at.board, Qt.Key.Key_Space)
    assert at.document == start and at.board.view.left == pytest.approx(view.left + 30)
    at.run("Choose all"), at.run("Group")
    assert len({v.group for v in at.document.volumes} - {""}) == 1
    at.run("Ungroup")
    assert {v.group for v in at.document.volumes} == {""}
    at.bench.wishes.choose(1)
    at.run("Cut")
    assert [v.name for v in at.document.volumes] == ["Eyepiece case"]
    at.run("Paste")
    assert [v.name for v in at.document.volumes] == ["Eyepiece case", "Tin"]


def test_the_menu_under_the_pointer_speaks_of_what_lies_there(desk, monkeypatch):
    monkeypatch.setattr(QMenu, "popup", lambda menu, at: None)
    at = desk(sheet(case(), case(name="Tin", x_mm=900.0, key=1)))
    at.bench.plan.grab()
    rows = at.bench.card("build").list
    places = {
        "board": (at.board, at.face_place(1, 2)),
        "list": (rows, rows.visualRect(rows.rows.index(1)).center()),
    }
    for where, (widget, place) in places.items():
        at.bench.wishes.choose(0)
        at.settle()
        widget.customContextMenuRequested.emit(place)
        assert at.document.selected == 1, where
        menu = at.bench.findChildren(QMenu)[-1]
        told = [action.text() for action in menu.actions() if not action.isSeparator()]
        assert {"Copy", "Group", "Ungroup"} <= set(told)
        menu.close()
    assert {key for some in CONTEXT.values() for key in some if key} <= {c.key for c in COMMANDS}


def test_two_things_are_measured_and_the_measure_pinned_dragged_and_taken_off(desk):
    at = desk(sheet(case(), case(name="Lid", key=1, z_mm=1300.0, height_mm=40.0)))
    at.press("Measure")
    assert at.board.armed is MEASURE
    picture = at.bench.session.scene.pictures[0]
    for corner in (4, 5):
        x, y = picture.sheet[corner].tolist()
        at.click(at.board.view.point((x, y)).toPoint())
    told = dict(at.slip.table.rows.told)
    assert told["true length"] == "36 cm" and at.board.armed is MEASURE
    at.press("Pin to the sheet")
    assert len(at.document.dimensions) == 1
    at.key(Qt.Key.Key_Escape)
    assert at.board.armed is None
    before = at.document.dimensions[0].off_mm
    at.drag(at.place("measure 0"), (0, -30))
    assert at.document.dimensions[0].off_mm != before
    at.click(at.place("measure 0"))
    at.run("Take the volume away")
    assert at.document.dimensions == () and len(at.document.volumes) == 2
    at.run("Undo")
    assert len(at.document.dimensions) == 1


def test_a_tool_stays_in_hand_until_escape_or_another_tool(desk):
    at = desk(sheet())
    at.press("Lay edges")
    at.drag(at.board.view.point((330.0, 60.0)), (0, -60))
    at.drag(at.board.view.point((60.0, 60.0)), (0, -60))
    assert len(at.document.volumes) == 3 and at.board.armed is LAY_EDGE
    at.run("Carry the height")
    at.click(at.board.view.point((200.0, 40.0)).toPoint())
    assert at.document.aids[-1].kind == "carried height" and at.board.armed is CARRY
    at.key(Qt.Key.Key_Escape)
    assert at.board.armed is None


@pytest.mark.parametrize("room", theme.ROOMS.values(), ids=lambda r: r.name)
def test_each_mark_has_one_meaning_and_focus_is_seen(room):
    assert len({room.lamp, room.tab, room.hover, room.focus, room.ink}) == 5
    for ground in (room.card, room.field, room.hover):
        assert contrast(room.focus, ground) >= 3.0
    for ring in (room.felt_focus, room.armed):
        assert contrast(ring, room.felt) >= 3.0


def test_no_remark_moves_under_the_pointer(desk, monkeypatch):
    at = desk(sheet(case(), case(name="Tin", y_mm=3000.0, z_mm=0.0, key=1)))
    strip = at.bench.strip
    told = [remark.title for remark in strip.remarks]
    monkeypatch.setattr(strip.list, "underMouse", lambda: True)
    at.press("As I want it")
    assert [remark.title for remark in strip.remarks] == told
    assert [bool(remark.rule) for remark in strip.remarks] == [False, *[True] * (len(told) - 1)]
    at.press("As I want it")  # a second press on the same spot meets no button of another remark
    assert [bool(remark.rule) for remark in strip.remarks] == [False, *[True] * (len(told) - 1)]
    monkeypatch.undo()
    strip.list.left.emit()
    assert [remark.title for remark in strip.remarks] == told[1:]


def test_no_sentence_takes_the_place_of_one_that_nobody_can_have_read(desk, monkeypatch):
    at = desk()
    plate, clock = at.bench.plate, [0]
    monkeypatch.setattr(plate, "_age", Clock(clock))
    at.bench.refuse("One thing cannot be done.")
    at.bench.tell("Another has been done.")
    assert plate.text() == "One thing cannot be done.\nAnother has been done."
    at.bench.session.edit("moved", lambda d: replace(d, yaw_deg=d.yaw_deg + 1.0))
    plate.hint("A handle.")
    assert plate.text().startswith("One thing cannot be done.") and "A handle." in plate.text()
    plate.clear_words()  # as when its time is over
    assert plate.text() == "A handle."
    plate.hint("")
    for second in (2, 4, 6):
        clock[0] = 1000 * second
        at.bench.tell(f"After {second} s.")
    assert plate.text() == "After 4 s.\nAfter 6 s.", "each stands for itself"
    clock[0] = 60_000
    at.bench.tell("A third.")
    assert plate.text() == "A third."
    clock[0] = 120_000
    at.bench.session.edit("moved", lambda d: replace(d, yaw_deg=d.yaw_deg + 1.0))
    assert "third" not in plate.text()
    at.bench.session.edit("moved", lambda d: d)
    assert plate.text() == "Nothing changes: it is so already."


class Clock:
    """Stands in for the time that passes."""

    def __init__(self, now):
        self.now = now

    def elapsed(self):
        return self.now[0]
