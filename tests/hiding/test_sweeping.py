import numpy as np
import pytest

from isometron.hiding import sweeping


@pytest.mark.parametrize("axes", [2, 3])
@pytest.mark.parametrize("sizes", [(1, 1), (0, 7), (90, 130), (300, 40)])
def test_a_sweep_finds_just_the_pairs_that_overlap(axes, sizes, monkeypatch):
    monkeypatch.setattr(sweeping, "FEW", 0)
    monkeypatch.setattr(sweeping, "MOST", 500)
    rng = np.random.default_rng(axes * 1000 + sizes[0])
    lows = [np.round(rng.uniform(0, 20, (n, axes))) for n in sizes]  # many ends fall together
    sides = [np.round(rng.exponential(2.0, low.shape)) for low in lows]
    a, b = (
        np.concatenate([low, low + side], axis=1) for low, side in zip(lows, sides, strict=True)
    )
    if len(a):
        a[0] = [-np.inf] * axes + [np.inf] * axes
    first, second = sweeping.overlapping(a, b)
    brute = [
        (i, j)
        for i in range(len(a))
        for j in range(len(b))
        if all(a[i, k] <= b[j, k + axes] and b[j, k] <= a[i, k + axes] for k in range(axes))
    ]
    assert list(zip(first.tolist(), second.tolist(), strict=True)) == brute
    among = sweeping.overlapping_among(b)
    own = sweeping.overlapping(b, b)
    assert list(zip(*(some.tolist() for some in among), strict=True)) == [
        pair for pair in zip(*(some.tolist() for some in own), strict=True) if pair[0] < pair[1]
    ]
