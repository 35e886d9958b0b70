"""Everything runs without a display, and leaves the person's own settings alone."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # every core has a worker of its own

import pytest
from hypothesis import settings

for name, examples in (("usual", 12), ("full", 100)):
    settings.register_profile(name, deadline=None, max_examples=examples, derandomize=True)


def pytest_addoption(parser):
    parser.addoption("--full", action="store_true", help="every example, seed and deed")


def pytest_collection_modifyitems(config, items):
    if config.getoption("--full"):
        return
    cases = {}
    for item in items:
        if item.get_closest_marker("full") is None and item.get_closest_marker("sample"):
            cases.setdefault((item.path, item.originalname), []).append(item)
    left = set()
    for every in cases.values():
        count = min(every[0].get_closest_marker("sample").args[0], len(every))
        tried = {(2 * n + 1) * len(every) // (2 * count) for n in range(count)}
        left |= {item.nodeid for n, item in enumerate(every) if n not in tried}
    rare = [i for i in items if i.get_closest_marker("full") or i.nodeid in left]
    if rare:
        config.hook.pytest_deselected(items=rare)
        gone = {item.nodeid for item in rare}
        items[:] = [item for item in items if item.nodeid not in gone]


def pytest_configure(config):
    config.addinivalue_line("markers", "full: tried with --full only")
    config.addinivalue_line("markers", "sample(n): n of its cases are tried, all with --full")
    settings.load_profile("full" if config.getoption("--full") else "usual")


@pytest.fixture(autouse=True)
def state_place(tmp_path_factory, monkeypatch):
    """Journals and reports go to a place of the test."""
    place = tmp_path_factory.mktemp("state")
    monkeypatch.setenv("XDG_STATE_HOME", str(place))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(place / "config"))
    monkeypatch.setenv("XDG_DATA_HOME", str(place / "data"))
    return place


@pytest.fixture(scope="session")
def many(request):
    """How many of something that is usually tried less often: `many(usually, in full)`."""
    full = request.config.getoption("--full")
    return lambda usually, every: every if full else usually
