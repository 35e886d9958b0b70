"""What a large picture costs: memory with its steps of undo, and the time until it is read, against
the detector alone.

.venv/bin/python benchmarks/pictures.py [MEGAPIXELS]
"""

import math
import os
import resource
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QSettings

from isometron.document.document import Document
from isometron.document.edits.pictures import marking
from isometron.files.sheet_file import sample_sheet
from isometron.reading.pictures import read_picture
from isometron.stand_ins.camera import Camera, photograph
from isometron.ui.bench.app import application
from isometron.ui.bench.window import Bench

STEPS = 50


def resident() -> float:
    """MB in memory now."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * resource.getpagesize() / 1e6


def detector_alone(content: bytes) -> float:
    """Seconds the library's detector takes for the whole picture."""
    import cv2

    grey = read_picture(content, "").grey
    detector = cv2.createLineSegmentDetector()
    begin = time.perf_counter()
    detector.detect(grey)
    return time.perf_counter() - begin


def main() -> None:
    """Bring a picture in, mark it, and say what it took."""
    megapixels = float(sys.argv[1]) if len(sys.argv) > 1 else 24.0
    wide = round(math.sqrt(megapixels * 1e6 * 420 / 297))
    place = Path(tempfile.mkdtemp()) / "crawler.jpg"
    pid = os.fork()  # taking the photograph must not count
    if pid == 0:
        camera = Camera(width_px=wide)
        place.write_bytes(photograph(sample_sheet("supply crawler"), camera))
        os._exit(0)
    os.waitpid(pid, 0)
    app = application()
    settings = QSettings(str(place.with_suffix(".ini")), QSettings.Format.IniFormat)
    bench = Bench(Document(), settings=settings)
    bench.show()
    bench.open_place("picture")
    bench.settle()
    empty = resident()
    begin = time.perf_counter()
    bench.keeping.bring_picture(place)
    bench.settle()
    app.processEvents()
    whole = time.perf_counter() - begin
    for step in range(STEPS):
        bench.session.edit("mark", lambda d, x=float(step): marking.add_spot(d, (x, 20.0)))  # type: ignore[misc]
        app.processEvents()
    bench.settle()
    bench.grab()
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e3
    picture = bench.session.document.photograph
    assert picture is not None
    print(f"{picture.width} × {picture.height} px, {len(picture.edges)} lines")
    print(f"empty {empty:.0f} MB; with the picture and {STEPS} steps {resident():.0f} MB")
    print(f"at the most {most:.0f} MB (aim 600)")
    alone = detector_alone(place.read_bytes())
    print(f"in, found and read in {whole:.2f} s: {whole / alone:.2f} × the detector alone")
    bench.session.mark_saved(place, "", bench.session.stamp)  # type: ignore[arg-type]
    bench.close()


if __name__ == "__main__":
    main()
