"""Results remembered on the very value they were worked out of, so that they go when it goes.

Values here never change, so what was worked out of one stays true as long as it lives. A cache of
its own beside them would keep every value ever drawn alive.
"""

import functools
from collections.abc import Callable
from typing import Any, TypeVar, cast

W = TypeVar("W", bound=Callable[..., Any])

MOST = 64
"""Results kept of one function on one value; then it begins anew."""

_SHELF = "_remembered"


def remembered(on: int = 0, most: int = MOST) -> Callable[[W], W]:
    """A function that keeps its results in the value it gets as argument number `on`: a frozen
    dataclass without slots. The other arguments, which must be hashable, tell results apart."""

    def with_memory(work: W) -> W:
        name = work.__qualname__

        @functools.wraps(work)
        def told(*given: Any) -> Any:
            shelf = vars(given[on]).setdefault(_SHELF, {}).setdefault(name, {})
            key = (*given[:on], *given[on + 1 :])
            if key in shelf:
                return shelf[key]
            found = work(*given)
            if len(shelf) >= most:
                shelf.clear()
            shelf[key] = found
            return found

        vars(told).update(kept_on=on, most=most)
        return cast(W, told)

    return with_memory


def forget(value: Any, *names: str) -> None:
    """Let go of all that is remembered on a value, and of its cached properties of those names."""
    for name in (_SHELF, *names):
        vars(value).pop(name, None)
