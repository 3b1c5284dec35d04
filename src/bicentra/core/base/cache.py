"""Answers kept: a step asked again with the very same records does not work them out again."""

import operator
from collections.abc import Callable
from functools import partial, wraps
from typing import Generic, ParamSpec, TypeVar

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
