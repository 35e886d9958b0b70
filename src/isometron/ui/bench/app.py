"""Starting the bench: on a screen, or offscreen for a picture of it."""

import sys
import threading
from pathlib import Path

from PyQt6 import sip
from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QTimer, qInstallMessageHandler
from PyQt6.QtWidgets import QApplication

from isometron.document.document import Document
from isometron.ui.bench.rescue import Rescue
from isometron.ui.bench.window import SIZE, Bench
from isometron.ui.parts.theme import font, load_fonts

DRESSED = "isometron dressed"


def application() -> QApplication:
    """The one Qt application, with the shipped type family."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(["isometron"])
    if not app.property(DRESSED):
        app.setApplicationName("isometron")
        app.setApplicationDisplayName("Isometron")
        app.setStyle("Fusion")
        load_fonts()
        app.setFont(font())
        app.setProperty(DRESSED, True)
    return app


def run_bench(document: Document | None, path: Path | None, *, called: str = "") -> int:
    """Open the bench and work until the person leaves; `called` names a sheet without a file."""
    app = application()
    bench = Bench(document or Document(), path, called=called)
    Rescue(bench.session).install()
    bench.show()
    if path is not None:
        bench.keeping.remember(path)
    QTimer.singleShot(300, lambda: threading.Thread(target=_warm_up, daemon=True).start())
    left = int(app.exec())
    put_away(bench)
    return left


def put_away(bench: Bench) -> None:
    """Take a window apart while the application is still there."""
    bench.settings.sync()
    sip.delete(bench)


def _warm_up() -> None:
    """Load, after the first paint, what the first remedy will need."""
    import scipy.optimize  # noqa: F401


def _only_what_matters(_kind: object, _where: object, words: str | None) -> None:
    """Qt's offscreen platform remarks on every window that it has no size hints; nobody asked."""
    if words and "propagateSizeHints" not in words:
        print(f"isometron: {words}", file=sys.stderr)


def picture_of_bench(
    document: Document | None, path: Path | None, out: Path, *, called: str = ""
) -> None:
    """Open the same window offscreen at 1280 × 800 and write its picture. Raises FileError."""
    from isometron.files.atomic import write_whole

    qInstallMessageHandler(_only_what_matters)
    app = application()
    bench = Bench(document or Document(), path, called=called)
    bench.resize(*SIZE)
    bench.show()
    app.processEvents()
    bench.settle()
    app.processEvents()
    content = QByteArray()
    buffer = QBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    bench.grab().save(buffer, "PNG")
    put_away(bench)
    write_whole(out, content.data())
