import io
import json
import struct

import ezdxf
import numpy as np
import pytest
import trimesh
from scipy.spatial import ConvexHull

from isometron.cli import main
from isometron.document.edits.starters import SEAT, with_starter
from isometron.drawing.scene import scene_of
from isometron.drawing.strokes import sheet_strokes
from isometron.files.dxf import dxf_of
from isometron.files.mesh import mesh_of
from isometron.files.report import report_text
from isometron.files.sheet_file import (
    SAMPLES,
    read_sheet,
    sample_sheet,
    sheet_as_text,
    sheet_from_text,
    volumes_as_text,
    volumes_from_text,
    write_sheet,
)
from isometron.files.table import table_of, take_table
from isometron.framework.bodies.cuts import Cut
from isometron.perspective.errors import FileError
from tests.published import checker
from tests.scenes import bare, case, sheet


@pytest.mark.parametrize("name", SAMPLES)
def test_every_sample_reads_back_unchanged_and_its_table_changes_nothing(name):
    document = sample_sheet(name)
    assert sheet_from_text(sheet_as_text(document).encode(), name) == document
    assert take_table(document, table_of(document), name) == document
    assert volumes_from_text(volumes_as_text(document.volumes))[0] == list(document.volumes)


def test_a_sheet_of_version_1_opens_as_it_was():
    old = sheet_as_text(sheet()).replace('"isometron": 2', '"isometron": 1')
    old = old.replace(',\n   "key": 0', "")
    assert sheet_from_text(old.encode(), "old") == sheet()


def test_a_table_changes_and_adds_volumes_by_name():
    table = b"name;width_mm;depth_mm;height_mm\nEyepiece case;400,5;;\nLid;400;240;20\n"
    taken = take_table(sheet(), table, "table")
    assert taken.volumes[0].sides == pytest.approx((400.5, 240.0, 180.0))
    assert taken.volumes[1].name == "Lid" and taken.volumes[1].sides == (400.0, 240.0, 20.0)


@pytest.mark.parametrize(
    ("table", "words"),
    [
        (b"", "not a table"),
        (b"\xff\xfe\x00", "not a table"),
        (b"a,b\n1,2\n", "first row must name"),
        (b"name,width_mm\nEyepiece case,wide\n", "row 2: “wide” under width_mm is no number"),
        (b"name,width_mm\nEyepiece case,nan\n", "no number"),
        (b"name,width_mm\nEyepiece case,-4\n", "row 2: A width of -4 mm"),
        (b"name,width_mm\nLid,4\n", "row 2: a new volume needs"),
        (b'name,width_mm\n"Lid,4\n', "not a table"),
    ],
)
def test_a_bad_table_gets_one_sentence_naming_the_row(table, words):
    with pytest.raises(FileError, match=words):
        take_table(sheet(), table, "table")


def test_meshes_hold_the_true_volumes_as_another_reader_sees_them():
    cut = case(cuts=(Cut((0.5, 0.0, 0.5), (1.0, 1.0, 1.0)),))
    document = sheet(
        cut, case(name="Tin lid", x_mm=900.0, key=1), case(name="Away", shown=False, key=2)
    )
    wanted = 0.75 * 360 * 240 * 180
    content = mesh_of(document, ".obj").decode()
    assert [line for line in content.splitlines() if line.startswith("o ")] == [
        "o 001_Eyepiece_case",
        "o 002_Tin_lid",
    ]
    stl = trimesh.load(io.BytesIO(mesh_of(document, ".stl")), file_type="stl")
    assert stl.is_watertight and stl.volume == pytest.approx(wanted + 360 * 240 * 180, rel=1e-5)
    low, high = np.concatenate([v.world() for v in document.volumes[:2]]).min(axis=0), stl.bounds[1]
    assert stl.bounds[0] == pytest.approx(low, rel=1e-5) and high[2] == pytest.approx(1180.0)
    glb = mesh_of(document, ".glb")
    assert glb[:4] == b"glTF" and struct.unpack("<I", glb[8:12])[0] == len(glb)
    scene = trimesh.load(io.BytesIO(glb), file_type="glb")
    assert scene.bounds[1][1] == pytest.approx(1.18) and len(scene.geometry) == 2  # metres, Y up
    with pytest.raises(FileError, match="no volume"):
        mesh_of(bare(), ".obj")


def test_dxf_holds_every_line_in_true_millimetres_on_its_layer():
    document = with_starter(bare(), SEAT, SEAT.proposal)
    strokes = sheet_strokes(document, scene_of(document))
    drawing = ezdxf.read(io.StringIO(dxf_of(document).decode()))
    assert not drawing.audit().has_errors and drawing.units == ezdxf.units.MM
    for layer in strokes:
        lines = drawing.modelspace().query(f'LINE[layer=="{layer.layer.name}"]')
        drawn = np.array([[*line.dxf.start.vec2, *line.dxf.end.vec2] for line in lines])
        assert np.abs(drawn - layer.lines).max() < 1e-9


def test_the_command_line_sends_and_takes(tmp_path, capsys):
    path, table, out = (tmp_path / n for n in ("case.isometron", "t.csv", "new.isometron"))
    write_sheet(sheet(), path)
    assert main(["dimensions", str(path)]) == 0
    text = capsys.readouterr().out
    table.write_text(text.replace("360.0", "300.0"))
    assert main(["dimensions", str(path), "--take", str(table), "-o", str(out)]) == 0
    assert read_sheet(out).volumes[0].width_mm == 300.0
    assert main(["mesh", str(path), "-o", str(tmp_path / "case.stl")]) == 0
    assert main(["draw", str(path), "-o", str(tmp_path / "case.dxf")]) == 0
    for wrong in (
        ["mesh", str(path), "-o", str(tmp_path / "case.step")],
        ["dimensions", str(path), "--take", str(tmp_path / "none.csv"), "-o", str(out)],
        ["dimensions", str(path), "--take", str(table)],
    ):
        assert main(wrong) == 2
        assert capsys.readouterr().err.count("\n") == 1
    assert not (tmp_path / "case.step").exists()


def test_what_is_not_copied_volumes_is_not_pasted():
    for text in ("", "hello", "{}", '{"volumes": [{"kind": "box"}]}', '{"volumes": 3}', "[1]"):
        with pytest.raises(FileError):
            volumes_from_text(text)


@pytest.mark.sample(2)
@pytest.mark.parametrize("name", SAMPLES)
def test_the_report_of_every_sample_keeps_to_its_schema_and_gives_every_corner(name):
    document = sample_sheet(name)
    report = json.loads(report_text(document))
    checker("report")(report)
    for volume, told in zip(document.volumes, report["volumes"], strict=True):
        corners = np.array([corner["world_mm"] for corner in told["corners"]]).reshape(-1, 3)
        assert np.array_equal(corners, volume.world())
        lengths = [np.linalg.norm(corners[e["to"]] - corners[e["from"]]) for e in told["edges"]]
        assert lengths == pytest.approx([e["true_mm"] for e in told["edges"]])
        hull = ConvexHull(volume.enclosing()).volume
        assert 0 < told["contents_mm3"] <= hull * (1 + 1e-9)
        assert volume.body.bent or told["contents_mm3"] == pytest.approx(hull)
