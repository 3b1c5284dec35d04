"""A step that keeps its last answer: asked again with the very same records, it does not work it out anew."""

import operator
from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")


def kept(function: Callable[P, R]) -> Callable[P, R]:
    """Return ``function`` keeping its last answer by *identity* of its positional arguments, never by looking into it.

    Only for pure functions of frozen records: what was given is held, so that no other record can take its identity. Question
    and answer are stored in one step: another thread finds both or neither.
    """
    last: list[tuple[tuple[object, ...], R]] = []

    @wraps(function)
    def ask(*args: P.args, **kwargs: P.kwargs) -> R:
        if kwargs:
            return function(*args, **kwargs)
        for before, answer in last[:1]:
            if len(before) == len(args) and all(map(operator.is_, before, args)):
                return answer
        answer = function(*args, **kwargs)
        last[:] = [(args, answer)]
        return answer

    return ask
