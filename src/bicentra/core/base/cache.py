"""Answers kept: what is asked again of the very same records is not worked out again. All of it is for pure functions.

``cached_property``: once for each record. ``cached_by_identity``: the last answers of a function, by what it was given.
``IdentityCache``: the same where the question is made by hand. By value, ``functools.lru_cache`` serves.
"""

import functools
import operator
from collections.abc import Callable
from functools import partial, wraps
from typing import TYPE_CHECKING, Any, Generic, ParamSpec, TypeVar

if TYPE_CHECKING:
    from functools import cached_property as cached_property
else:

    class cached_property(functools.cached_property):  # noqa: N801 - it stands in for the standard one
        """As the standard one, for pure functions of frozen records."""

        def __get__(self, instance: object, owner: type | None = None) -> Any:
            """Return the value, worked out and kept the first time."""
            if instance is None:
                return self
            value = instance.__dict__[self.attrname] = self.func(instance)
            return value


__all__ = ["IdentityCache", "cached_by_identity", "cached_by_identity_of", "cached_property"]
P = ParamSpec("P")
R = TypeVar("R")
SLOTS = 4
"""Answers that are kept of each step: a bench shows two corners, each as it is and as it is looked at."""


class IdentityCache(Generic[R]):
    """The last few answers of one step, found by what they were made from: by identity first, where that differs by equality.

    Only for pure functions of frozen records. Questions and answers are stored in one step: another thread finds both or neither.
    """

    def __init__(self) -> None:
        self._rows: tuple[tuple[tuple[object, ...], R], ...] = ()

    def answer(self, key: tuple[object, ...], make: Callable[[], R]) -> R:
        """Return what ``make`` gives for ``key``; made again only where ``key`` is none of the last few."""
        for held, value in self._rows:
            if held == key:
                return value
        made = make()
        self._rows = ((key, made), *self._rows[: SLOTS - 1])
        return made


def cached_by_identity(function: Callable[P, R]) -> Callable[P, R]:
    """Return ``function`` keeping its last answer by *identity* of its positional arguments, never by looking into it.

    What was given is held, so that no other record can take its identity.
    """
    return cached_by_identity_of(1)(function)


def cached_by_identity_of(many: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Return what makes a function keep its last ``many`` answers, as ``cached_by_identity`` does its last."""
    return partial(_keeping, many)


def _keeping(many: int, function: Callable[P, R]) -> Callable[P, R]:
    last: list[tuple[tuple[object, ...], R]] = []

    @wraps(function)
    def ask(*args: P.args, **kwargs: P.kwargs) -> R:
        if kwargs:
            return function(*args, **kwargs)
        for before, answer in tuple(last):
            if len(before) == len(args) and all(map(operator.is_, before, args)):
                return answer
        answer = function(*args, **kwargs)
        last[:] = [(args, answer), *last[: many - 1]]
        return answer

    return ask
