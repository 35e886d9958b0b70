"""Asking for a printer."""

from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import QDialog

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.perspective.errors import IsometronError
from isometron.render.printing import layout_of, print_sheet
from isometron.ui.bench.waiting import patiently
from isometron.words import _


def ask_and_print(document: Document, scene: Scene) -> str:
    """Ask for a printer and print at true size; gives the sentence to show ("" when called off)."""
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setPageLayout(layout_of((document.sheet.width_mm, document.sheet.height_mm)))
    printer.setDocName(_("Isometron sheet"))
    dialog = QPrintDialog(printer)
    if dialog.exec() != QDialog.DialogCode.Accepted:
        return ""
    try:
        pages = patiently(lambda: print_sheet(document, scene, printer), _("Printing…"))
    except IsometronError as error:
        return str(error)
    if pages == 1:
        return _("Printed at true size.")
    return _(
        "Printed at true size on {pages} pages: trim one and join them at the crosses."
    ).format(pages=pages)
