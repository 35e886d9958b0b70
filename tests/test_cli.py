import json
import re
import subprocess
import sys
from pathlib import Path

import pytest

from isometron import __version__
from isometron.cli import main
from isometron.files.sheet_file import SAMPLE_NAME, sample_sheet, sheet_as_text, write_sheet
from isometron.render.picture import MM_PER_INCH

pytestmark = pytest.mark.usefixtures("qapp")
"""A command that paints makes no application of its own: tests of the window could not use it."""

SAMPLE = Path(__file__).parents[1] / "src/isometron/samples" / f"{SAMPLE_NAME}.isometron"

WITHOUT_QT = """
import sys
class NoQt:
    def find_spec(self, name, *rest):
        if name.split(".")[0] == "PyQt6":
            raise ImportError("PyQt6 is absent here")
sys.meta_path.insert(0, NoQt())
from isometron.cli import main
raise SystemExit(main(sys.argv[1:]))
"""


def run(*arguments, program=("-m", "isometron"), text=None):
    return subprocess.run(
        [sys.executable, *program, *map(str, arguments)],
        capture_output=True,
        text=True,
        input=text,
        timeout=60,
        check=False,
    )


@pytest.mark.parametrize("kind", ["pdf", pytest.param("svg", marks=pytest.mark.full)])
def test_measuring_and_drawing_need_no_qt(tmp_path, kind):
    program = ("-c", WITHOUT_QT)
    measured = run("measure", "-", program=program, text=sheet_as_text(sample_sheet()))
    assert measured.returncode == 0 and measured.stderr == ""
    assert json.loads(measured.stdout)["volumes"][0]["name"] == "Eyepiece case"
    out = tmp_path / f"case.{kind}"
    drawn = run("draw", SAMPLE, "-o", out, program=program)
    assert (drawn.returncode, drawn.stdout, drawn.stderr) == (0, "", "")
    assert out.stat().st_size > 1000


@pytest.mark.parametrize("command", [("draw", "case.png", "--dpi", "72"), ("steps", "case.ora")])
@pytest.mark.sample(1)
def test_pictures_are_painted_from_the_command_line_without_a_display(tmp_path, command):
    verb, name, *more = command
    out = tmp_path / name
    painted = run(verb, SAMPLE, "-o", out, *more)
    assert (painted.returncode, painted.stderr) == (0, "")
    assert out.stat().st_size > 10_000


def test_png_is_drawn_at_the_resolution_asked_for(tmp_path, qapp):
    from PyQt6.QtGui import QColor, QImage

    out = tmp_path / "case.png"
    assert main(["draw", str(SAMPLE), "-o", str(out), "--dpi", "100", "--no-paper"]) == 0
    image = QImage(str(out))
    assert (image.width(), image.height()) == (1654, 1169)
    assert image.dotsPerMeterX() == round(100 / MM_PER_INCH * 1000)
    assert QColor(image.pixelColor(3, 3)).alpha() == 0
    # The foot of the near edge: graphite within a pixel of where the report says it is.
    corner = json.loads(run("measure", SAMPLE).stdout)["volumes"][0]["corners"][0]["sheet_mm"]
    x, y = corner[0] / 25.4 * 100, image.height() - corner[1] / 25.4 * 100
    assert image.pixelColor(round(x), round(y)).alpha() > 200


@pytest.mark.parametrize("command", [[], ["measure"], ["draw"]])
def test_help_and_version_are_everywhere(command, capsys):
    for flag, words in (("--help", "usage: isometron"), ("--version", __version__)):
        with pytest.raises(SystemExit) as left:
            main([*command, flag])
        assert left.value.code == 0
        assert words in capsys.readouterr().out


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["measure", "no such file"], "There is no file"),
        (["measure"], "required"),
        (["draw", SAMPLE], "-o/--out"),
        (["draw", SAMPLE, "-o", "OUT/case.txt"], r"\.pdf, \.svg, \.png"),
        (["draw", SAMPLE, "-o", "OUT/no/case.svg"], "folder does not exist"),
        (["draw", SAMPLE, "-o", "OUT/case.png", "--dpi", "1e6"], "choose fewer"),
        (["draw", SAMPLE, "-o", "OUT/case.png", "--dpi", "nan"], "choose fewer"),
        (["draw", SAMPLE, "-o", "OUT/case.png", "--dpi", "many"], "invalid float"),
        (["no such.isometron", "--picture", "OUT/bench.png"], "There is no file"),
        (["--wings"], "Unrecognized"),
        (["measure", "OUT"], "is a folder"),
    ],
)
def test_bad_input_gets_one_sentence_and_exit_code_two(arguments, words, tmp_path, capsys):
    given = [str(a).replace("OUT", str(tmp_path)) for a in arguments]
    try:
        code = main(given)
    except SystemExit as left:
        code = left.code
    told = capsys.readouterr()
    assert code == 2 and told.out == ""
    assert re.search(words, told.err) and told.err.count("\n") == 1
    assert told.err.startswith("isometron: ")
    assert list(tmp_path.iterdir()) == []


def test_a_reader_that_hangs_up_is_no_failure(tmp_path):
    path = tmp_path / "case.isometron"
    write_sheet(sample_sheet(), path)
    piped = subprocess.run(
        f'"{sys.executable}" -m isometron measure "{path}" | head -c 10',
        shell=True,
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert piped.stderr == "" and len(piped.stdout) == 10


def test_the_picture_of_the_bench_is_the_real_window(tmp_path):
    from PyQt6.QtGui import QImage

    out = tmp_path / "bench.png"
    done = run("--sample", "--picture", out)
    assert (done.returncode, done.stderr) == (0, "")
    image = QImage(str(out))
    assert (image.width(), image.height()) == (1280, 800)
    colours = {image.pixel(x, y) for x in range(0, 1280, 9) for y in range(0, 800, 9)}
    assert len(colours) > 30


def test_nothing_heavy_is_on_the_way_to_the_first_paint():
    watch = (
        "import sys, os; os.environ['QT_QPA_PLATFORM'] = 'offscreen'\n"
        "from isometron.files.sheet_file import sample_sheet\n"
        "from isometron.ui.bench.app import application\n"
        "from isometron.ui.bench.window import Bench\n"
        "app = application(); bench = Bench(sample_sheet()); bench.show(); app.processEvents()\n"
        "bench.settle(); app.processEvents()\n"
        "heavy = {'scipy', 'reportlab', 'jsonschema', 'PyQt6.QtPrintSupport', 'PyQt6.QtSvg'}\n"
        "heavy |= {f'isometron.{name}' for name in ('construction.order', 'reading.of_picture',\n"
        "    'ui.bench.commands.acts', 'ui.board.pictures.board', 'ui.cards.practice.card')}\n"
        "print(sorted(heavy & set(sys.modules)))\n"
    )
    assert run(program=("-c", watch)).stdout == "[]\n"


def test_a_window_is_shown_before_any_number_or_document_is_loaded():
    watch = (
        "import sys, os; os.environ['QT_QPA_PLATFORM'] = 'offscreen'\n"
        "from isometron.ui.bench import app\n"
        "def shown(settings):\n"
        "    real(settings)\n"
        "    late = 'numpy', 'scipy', 'PIL', 'isometron.document', 'isometron.framework'\n"
        "    print([name for name in late if name in sys.modules])\n"
        "    raise SystemExit(0)\n"
        "real, app.show_shell = app.show_shell, shown\n"
        "from isometron.cli import main\n"
        "main(sys.argv[1:])\n"
    )
    for asked in ((), ("--sample",)):
        assert run(program=("-c", watch, *asked)).stdout == "[]\n", asked
