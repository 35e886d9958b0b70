"""Courses, tiles, boards and ribs: by true size, on their surface, clipped at openings."""

from dataclasses import replace

import numpy as np
import pytest

from isometron.document.edits import choosing
from isometron.document.edits.faces import skinning
from isometron.document.edits.shapes import cutting, shaping
from isometron.drawing.scene import scene_of
from isometron.files.sheet_file import sheet_as_text, sheet_from_text
from isometron.framework.bent_sides import bent_numbers
from isometron.framework.bodies.body import DIVISION
from isometron.framework.kinds.block import BLOCK
from isometron.framework.kinds.taper import Taper
from isometron.framework.kinds.turned import CONE, CYLINDER, DOME, SPHERE
from isometron.framework.placing import Mirrored
from isometron.framework.settling import settle
from isometron.framework.skins import PATTERNS, Skin, lines_of
from isometron.perspective.conics import points_at
from isometron.perspective.errors import VolumeError
from tests.framework.test_openings import opened
from tests.kinds import SOLID, name, volume
from tests.scenes import sheet

MORE = [(kind, (120.0, 120.0, 120.0)) for kind in (CYLINDER, DOME, SPHERE)]
WALL = volume(BLOCK, (400.0, 300.0, 200.0))


def lengths(laid, axis):
    """Total length of the straight lines along an own axis."""
    run = np.abs(laid.ends - laid.starts)
    along = run.argmax(axis=1) == axis
    return run[along, axis].sum()


@pytest.mark.parametrize("joint", [0.0, 4.0])
def test_courses_take_their_true_heights_and_stop_at_openings(joint):
    skin = Skin(2, "courses", 30.0, 80.0, joint)
    whole = lines_of(skin, WALL.bare)
    lines = 2 if joint else 1
    assert lengths(whole, 0) == pytest.approx(lines * 6 * 400.0)  # at 30, 60 … 180 of 200
    level = np.abs(whole.ends - whole.starts)[:, 2] < 1e-9
    heights = sorted(set(np.round(whole.starts[level, 2], 9)))
    assert heights == sorted({30.0 * n + d * joint / 2 for n in range(1, 7) for d in (-1, 1)})
    # a hole of 90 × 90 in the middle of the face takes what crosses it away
    pierced = opened(WALL, 2, "square", 0.45, through=True)
    rows = [h for h in heights if 55.0 < h < 145.0]
    assert lengths(lines_of(skin, pierced.bare), 0) == pytest.approx(
        lines * 6 * 400.0 - 90.0 * len(rows)
    )


@pytest.mark.sample(16)
@pytest.mark.parametrize("pattern", PATTERNS)
@pytest.mark.parametrize(("kind", "sides"), [*SOLID, *MORE], ids=name)
def test_every_line_lies_on_its_surface(kind, sides, pattern):
    one = volume(kind, sides)
    body = one.bare
    for surface in [*range(body.faces), *set(bent_numbers(body).values())]:
        laid = lines_of(Skin(surface, pattern, 17.0, 11.0, 0.0, False, True), body)
        if surface >= 0:
            ends = np.concatenate([laid.starts, laid.ends])
            off = ends @ body.normals[surface] - body.offsets[surface]
            assert np.abs(off).max(initial=0.0) < 1e-9
            continue
        for share in (0.0, 0.3, 1.0):
            straight = laid.starts + share * (laid.ends - laid.starts)
            bent = points_at(laid.arcs, np.full(len(laid.arcs), share))
            places = np.concatenate([straight, bent])
            x = np.concatenate([places, np.ones((len(places), 1))], axis=1)
            forms = body.surfaces.forms[np.concatenate([laid.surfaces, laid.arc_surfaces])]
            off = np.abs(np.einsum("ni,nij,nj->n", x, forms, x))
            assert off.max(initial=0.0) < 1e-7 * max(sides) ** 2


def test_tiles_round_a_drum_close_and_boards_up_a_cone_run_to_its_tip():
    drum = volume(CYLINDER, (100.0, 100.0, 90.0))
    laid = lines_of(Skin(-1, "tiles", 30.0, 20.0), drum.bare)
    turns = np.degrees(np.arctan2(*(laid.starts[:, :2] - 50.0).T)) % 360
    assert len(set(np.round(turns, 6))) == round(np.pi * 100 / 20) == 16
    assert len(laid.arcs) == 2 * 4, "two rings of four quarters"
    cone = volume(CONE, (100.0, 100.0, 120.0))
    up = lines_of(Skin(-1, "boards", 20.0, 20.0, 0.0, True), cone.bare)
    assert up.ends == pytest.approx(np.tile([50.0, 50.0, 120.0], (len(up.ends), 1)))
    assert np.linalg.norm(up.ends - up.starts, axis=1) == pytest.approx(
        [np.hypot(50.0, 120.0)] * len(up.ends)
    )


def test_skins_follow_their_faces_through_cuts_leans_twins_and_files():
    document = sheet(replace(WALL, key=0))
    skin = Skin(0, "courses", 30.0, 80.0, object_lines=True)
    document = skinning.lay_skins(document, skinning.surfaces_of(WALL, "upright"), skin)
    assert [one.surface for one in document.volume.skins] == [0, 1, 2, 3]
    stepped = cutting.step_cut(document, "left", upper=True, inward=0.2, deep=0.5).volume
    for one in stepped.skins:
        laid = lines_of(one, stepped.bare)
        assert len(laid.starts) and laid.starts.min() >= -1e-9
    leaning = shaping.lean(document, "front", 30.0).volume
    assert isinstance(leaning.shape, Taper) and len(leaning.skins) == 4
    twin = replace(WALL, name="Twin", key=1, like=Mirrored(0, 0, 1))
    both, _ = settle((*document.volumes, twin), ())
    assert sorted(one.surface for one in both[1].skins) == [0, 1, 2, 3]
    kept = sheet(*both)
    assert sheet_from_text(sheet_as_text(kept).encode(), "it").volumes == kept.volumes
    bare = skinning.strip(choosing.select(kept, 0))
    assert not any(one.skins for one in bare.volumes), "the twin follows"


def test_of_a_skin_only_the_seen_part_is_drawn():
    document = sheet(
        replace(
            WALL, skins=tuple(Skin(n, "boards", 20.0, 20.0, object_lines=True) for n in range(6))
        )
    )
    (picture,) = scene_of(document).pictures
    plain = scene_of(sheet(WALL)).pictures[0]
    assert len(picture.hidden_lines) == len(plain.hidden_lines)
    turned = picture.shown.sum()
    per_face = [len(lines_of(one, WALL.bare).starts) for one in document.volume.skins]
    shown = sum(n for n, face in zip(per_face, picture.shown, strict=True) if face)
    assert len(picture.seen_lines) - len(plain.seen_lines) == shown and 0 < turned < 4


def test_a_skin_of_arcs_only_is_drawn_too():
    dome = volume(DOME, (120.0, 120.0, 120.0), skins=(Skin(-1, "courses", 30.0, 40.0),))
    (picture,) = scene_of(sheet(dome)).pictures
    assert len(picture.curves_drawn("division")) > 6
    bare = volume(BLOCK, (120.0, 120.0, 120.0), skins=(Skin(-1, "courses", 30.0, 40.0),))
    assert len(scene_of(sheet(bare)).pictures[0].mark_lines(DIVISION)) == 0


@pytest.mark.parametrize(
    ("how", "words"),
    [
        ({"pattern": "scales"}, "courses, tiles"),
        ({"high_mm": 0.0}, "above 0"),
        ({"joint_mm": 90.0}, "narrower than what"),
        ({"pattern": "ribs", "high_mm": 20.0}, "stand apart"),
        ({"high_mm": 0.02}, "tone"),
    ],
)
def test_a_skin_that_cannot_be_says_why(how, words):
    usual = {"surface": 2, "pattern": "courses", "high_mm": 30.0, "long_mm": 80.0}
    with pytest.raises(VolumeError, match=words):
        lines_of(Skin(**{**usual, **how}), WALL.bare)
