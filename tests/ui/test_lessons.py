"""The first lessons in counted actions, and the numbers on the finished sheets."""

import numpy as np
import pypdf
import pytest

from isometron.document.document import Document
from isometron.drawing.measures import kind_of_sheet
from isometron.drawing.scene import scene_of
from isometron.perspective.eye import eye_level
from isometron.perspective.projection import project
from tests.ui.lessons import LESSONS, Hands


def on_paper(document):
    """Whether all that is drawn lies on the paper."""
    paper = document.sheet.paper
    extents = np.array([picture.extent for picture in scene_of(document).pictures])
    low, high = extents[:, :2].min(axis=0), extents[:, 2:].max(axis=0)
    return (low >= paper[:2]).all() and (high <= paper[2:]).all()


def three_crates(document):
    assert kind_of_sheet(document) == "one-point" and len(document.volumes) == 3
    level = eye_level(document.eye)
    spans = [project(document.eye, v.corners()).sheet[:, 1] for v in document.volumes]
    under, across, above = ((s.min() - level, s.max() - level) for s in spans)
    assert under[1] < 0 and across[0] < 0 < across[1] and above[0] > 0
    assert document.volumes[0].z_mm == pytest.approx(0.0, abs=1e-9)
    assert max(max(v.sides) for v in document.volumes) < 1500.0


def plinth(document):
    width, depth, height = document.volume.sides
    assert (width, depth, height) == pytest.approx((1500.0, 900.0, 600.0))
    opening = 0.4 * 0.7 * width * depth * height
    assert document.volume.contents_mm3 == pytest.approx(width * depth * height - opening)


def fence(document):
    along = document.volumes[0].pose[1][0]
    reach = np.array([v.reach_along(along) for v in document.volumes])
    assert len(reach) == 9 and reach[:, 1].max() - reach[:, 0].min() == pytest.approx(12000.0)
    assert document.volumes[8].sides == pytest.approx((100.0, 100.0, 1200.0))
    assert np.diff(reach[:, 0]) == pytest.approx([(12000.0 - 100.0) / 8] * 8)


CHECKS = {"three crates": three_crates, "plinth": plinth, "fence posts": fence}


@pytest.mark.parametrize("name", LESSONS)
def test_a_lesson_is_done_in_its_actions_and_its_numbers_are_right(desk, tmp_path, name):
    lesson, most = LESSONS[name]
    hands = Hands(desk(Document()))
    lesson(hands)
    CHECKS[name](hands.at.document)
    assert on_paper(hands.at.document)
    hands.print_to(tmp_path / "page.pdf")
    assert hands.actions <= most
    page = pypdf.PdfReader(tmp_path / "page.pdf").pages[0].mediabox
    assert float(page.width) / 72 * 25.4 == pytest.approx(420.0, abs=0.01)
    hands.at.run("Undo")
    assert len(hands.at.document.volumes) <= 3 or hands.at.bench.session.redo_name
