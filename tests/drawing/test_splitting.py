import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from isometron.drawing.splitting import split
from tests.scenes import floats

covers = st.lists(st.tuples(st.integers(0, 3), floats(-0.2, 1.2), floats(-0.2, 1.2)), max_size=25)


@given(covers, st.lists(st.tuples(floats(0, 0.4), floats(0.5, 1)), min_size=4, max_size=4))
def test_lines_split_all_at_once_are_covered_just_where_some_cover_lies(found, wholes):
    line = np.array([c[0] for c in found], dtype=np.intp)
    spans = np.array([c[1:] for c in found]).reshape(-1, 2)
    whole = np.array(wholes)
    parts = split(line, spans, whole[:, 0], whole[:, 1])
    for number in set(line.tolist()):
        own = parts.line == number
        for t in np.linspace(whole[number, 0] + 1e-6, whole[number, 1] - 1e-6, 60):
            ends = np.concatenate([spans[line == number].ravel(), whole[number]])
            if np.abs(ends - t).min() < 1e-7:
                continue
            inside = own & (parts.span[:, 0] < t) & (t < parts.span[:, 1])
            assert inside.sum() == 1
            mine = spans[line == number]
            covered = ((mine[:, 0] < t) & (t < mine[:, 1])).any()
            assert bool(parts.free[inside][0]) != covered
