"""Time told in plain loops: a fixed piece of plain work follows each sample, so that a slow or busy machine tells the same."""

import statistics
import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass


def plain_loop() -> float:
    """A fixed piece of plain work, 1.2 to 1.9 ms on an undisturbed machine of the workplace."""
    total = 0.0
    for k in range(40_000):
        total += k * 0.5
    return total


@dataclass(frozen=True)
class Timed:
    """Samples of one piece of work: in plain loops and in ms, shortest first."""

    loops: tuple[float, ...]
    ms: tuple[float, ...]

    @property
    def median(self) -> float:
        """The median in plain loops."""
        return statistics.median(self.loops)

    @property
    def late(self) -> float:
        """The 95th percentile in plain loops."""
        return self.loops[int(len(self.loops) * 0.95)]

    @property
    def median_ms(self) -> float:
        """The median in ms, as it was on this machine now."""
        return statistics.median(self.ms)


def in_loops(calls: Iterable[Callable[[], object]], warm: int = 3) -> Timed:
    """Return what each of ``calls`` takes; the first ``warm`` of them are not counted."""
    rows = []
    for number, call in enumerate(calls):
        began = time.perf_counter()
        call()
        ended = time.perf_counter()
        plain_loop()
        if number >= warm:
            rows.append(((ended - began) / (time.perf_counter() - ended), (ended - began) * 1e3))
    return Timed(tuple(sorted(row[0] for row in rows)), tuple(sorted(row[1] for row in rows)))


def line(what: str, figure: float, unit: str, target: float, at_most: bool = True, more: str = "") -> dict[str, object]:
    """Print one result and return it."""
    met = figure <= target if at_most else figure >= target
    wanted = f"{'≤' if at_most else '≥'} {target:g}"
    print(f"{what:<52} {figure:9.2f} {unit:<5} wanted {wanted:<6} {'met' if met else 'MISSED'}  {more}", flush=True)
    return {"what": what, "figure": figure, "unit": unit, "target": target, "met": met}


def text(what: str, timed: Timed, target: float) -> dict[str, object]:
    """Print a median in plain loops and return it."""
    return line(what, timed.median, "loops", target, more=f"({timed.median_ms:.1f} ms here and now)")
