"""Findings that are worked out when they are first asked for, step by step of the judging."""

from collections.abc import Callable, Iterable, Iterator
from functools import partial

from bicentra.core.base.finding import Finding
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of


class LazyStep(Record, frozen=True):
    """One step of the judging: the ``groups`` of the registry that all its findings belong to, and how it is asked."""

    groups: frozenset[str]
    ask: Callable[[], Iterable[Finding]]


def step(groups: str, ask: Callable[[], Iterable[Finding]]) -> LazyStep:
    """Return a step whose findings belong to ``groups``, with spaces between them."""
    return LazyStep(frozenset(groups.split()), ask)


class LazyFindings:
    """The findings of several steps. Each step is asked once, when somebody first wants one of its findings, or all.

    Two threads may ask the same step at once; both get the same answer.
    """

    def __init__(self, steps: Iterable[LazyStep]) -> None:
        self.steps = tuple(steps)
        self._known: dict[LazyStep, tuple[Finding, ...]] = {}

    def one(self, id: str) -> Finding | None:
        """Return the finding called ``id``; ``None`` when it is not asked. Only the steps of its group are."""
        group = kind_of(id).group
        for here in self.steps:
            if group in here.groups:
                found = next((finding for finding in self._of(here) if finding.id == id), None)
                if found is not None:
                    return found
        return None

    def of_groups(self, groups: frozenset[str], alone: bool = False) -> tuple[Finding, ...]:
        """Return the findings of the steps that ask in any of ``groups`` of the registry, or in those ``alone``."""
        wanted = (here for here in self.steps if (here.groups <= groups if alone else here.groups & groups))
        return tuple(finding for here in wanted for finding in self._of(here))

    def every(self) -> tuple[Finding, ...]:
        """Return the findings of all steps, in their order."""
        return tuple(finding for here in self.steps for finding in self._of(here))

    def one_by_one(self, first: str = "", last: str = "") -> Iterator[tuple[Finding, ...]]:
        """Yield the findings step by step, asked as they are taken; steps of the group called ``first`` before all
        others, those of the group called ``last`` at the end.
        """
        for here in sorted(self.steps, key=lambda here: (last in here.groups) - (first in here.groups)):
            yield self._of(here)

    def with_step(self, more: LazyStep) -> "LazyFindings":
        """Return the same with one step more; what is known already stays known."""
        made = LazyFindings((*self.steps, more))
        made._known = self._known  # by step: what one of the two works out, both know
        return made

    def over(self, change: Callable[[Finding], Finding]) -> "LazyFindings":
        """Return the same with each finding as ``change`` makes it, when it is asked; what is known here is not asked again."""
        return LazyFindings(replace(here, ask=partial(self._changed, here, change)) for here in self.steps)

    def _changed(self, here: LazyStep, change: Callable[[Finding], Finding]) -> Iterator[Finding]:
        return map(change, self._of(here))

    def _of(self, here: LazyStep) -> tuple[Finding, ...]:
        known = self._known.get(here)
        if known is None:
            known = self._known[here] = tuple(here.ask())
        return known
