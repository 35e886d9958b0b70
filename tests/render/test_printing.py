import io

import pypdf
import pytest
from PyQt6.QtCore import QMarginsF
from PyQt6.QtGui import QPageLayout, QPageSize
from PyQt6.QtPrintSupport import QPrinter

from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sample_sheet
from isometron.render.printing import OVERLAP_MM, layout_of, print_sheet


def printed(path, layout):
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(path))
    printer.setPageLayout(layout)
    document = sample_sheet()
    count = print_sheet(document, scene_of(document), printer)
    return count, pypdf.PdfReader(io.BytesIO(path.read_bytes())).pages


def test_the_printer_gets_the_sheet_at_true_size(qapp, tmp_path):
    count, pages = printed(tmp_path / "a3.pdf", layout_of((420.0, 297.0)))
    assert count == len(pages) == 1
    box = pages[0].mediabox
    assert float(box.width) * 25.4 / 72 == pytest.approx(420.0, abs=0.2)


def test_a_smaller_paper_gets_the_sheet_on_several_pages_that_overlap(qapp, tmp_path):
    margins = QMarginsF(8, 8, 8, 8)
    layout = QPageLayout(
        QPageSize(QPageSize.PageSizeId.A4),
        QPageLayout.Orientation.Portrait,
        margins,
        QPageLayout.Unit.Millimeter,
    )
    count, pages = printed(tmp_path / "tiles.pdf", layout)
    # 194 × 281 mm can be printed on; pages share 10 mm: 420 needs 3 across, 297 needs 2 up.
    reach = [(194 - OVERLAP_MM, 420 - OVERLAP_MM), (281 - OVERLAP_MM, 297 - OVERLAP_MM)]
    across, up = (-(-need // step) for step, need in reach)
    assert count == len(pages) == across * up == 6
