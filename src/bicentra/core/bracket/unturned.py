"""What does not turn with the caliper is not worked out again while only the clock angle changes."""

from collections.abc import Callable
from functools import wraps
from typing import Concatenate, ParamSpec, TypeVar

from bicentra.core.base.cache import IdentityCache
from bicentra.core.bracket.assembly import Assembly

P = ParamSpec("P")
R = TypeVar("R")


def unturned(step: Callable[Concatenate[Assembly, P], R]) -> Callable[Concatenate[Assembly, P], R]:
    """Return a step of the work whose answer does not depend on the clock angle, so that it keeps its last answers.

    A property of the tests holds every step so marked to its own plain answer.
    """
    kept = IdentityCache[R]()

    @wraps(step)
    def ask(assembly: Assembly, /, *args: P.args, **kwargs: P.kwargs) -> R:
        key = assembly.unturned
        if key is None:
            return step(assembly, *args, **kwargs)
        return kept.answer((key, args, tuple(kwargs.items())), lambda: step(assembly, *args, **kwargs))

    return ask
