import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from isometron.hiding.pieces import _swept
from tests.scenes import floats

covers = st.lists(st.tuples(st.integers(0, 3), floats(-0.2, 1.2), floats(-0.2, 1.2)), max_size=25)


@given(covers, st.lists(st.tuples(floats(0, 0.4), floats(0.5, 1)), min_size=4, max_size=4))
def test_lines_split_all_at_once_are_covered_just_where_some_cover_lies(found, wholes):
    line = np.array([c[0] for c in found], dtype=np.intp)
    spans = np.array([c[1:] for c in found]).reshape(-1, 2)
    whole = np.array(wholes)
    none = np.empty(0, dtype=np.intp), np.empty((0, 2))
    shut = spans[:, 0] < 0.3
    parts = _swept((np.arange(4), whole), (line, np.sort(spans), shut), none)
    item, low, high, covered, thick = parts
    for number in set(line.tolist()):
        own = item == number
        for t in np.linspace(whole[number, 0] + 1e-6, whole[number, 1] - 1e-6, 60):
            ends = np.concatenate([spans[line == number].ravel(), whole[number]])
            if np.abs(ends - t).min() < 1e-7:
                continue
            inside = own & (low < t) & (t < high)
            assert inside.sum() == 1
            over = (line == number) & (np.sort(spans)[:, 0] < t) & (t < np.sort(spans)[:, 1])
            assert covered[inside][0] == over.any() and thick[inside][0] == (over & shut).any()
