"""A threaded hole that was measured too wide for its thread, or too narrow to have been tapped."""

from collections.abc import Iterator

from bicentra.core.base.wording import LengthFormat
from bicentra.core.consistency.conflict import Conflict
from bicentra.core.parts.threads import find_thread

OPEN_SHARE, CLOSED_SHARE = 0.7, 0.6
"""A hole measured wider than this share of the way from the minor to the major diameter has lost its thread (a tap drill leaves
about a quarter); one narrower than the minor diameter by this many pitches was never tapped. Our judgement."""


def drilled_out(what: str, name: str | None, hole: float | None, lengths: LengthFormat) -> Iterator[Conflict]:
    """Yield what is wrong with a ``hole`` [mm] of ``what`` that is said to have the thread called ``name``."""
    thread = find_thread(name) if name else None
    if thread is None or hole is None:
        return
    if hole > thread.minor + OPEN_SHARE * (thread.major - thread.minor):
        yield Conflict(
            f"{what}: a hole of {lengths.size(hole)} leaves next to nothing of an {thread.name} thread: it is drilled out. "
            "Clear the thread and use a nut, or enter the hole as tapped."
        )
    elif hole < thread.minor - CLOSED_SHARE * thread.pitch:
        yield Conflict(
            f"{what}: a hole of {lengths.size(hole)} is too small for an {thread.name} thread, which needs "
            f"{lengths.size(thread.minor)}.",
            stop=False,
        )
