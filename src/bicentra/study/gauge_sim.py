"""A simulated line gauge: plays the demo corner's readings on a pseudo-terminal or a local port, with faults from a seed.

It stands in for a gauge nobody has at hand; the program talks to it by the same code as to a real one.
"""

import contextlib
import os
import random
import socket
import threading
import time
from collections.abc import Callable, Iterator

from bicentra.core.base.errors import GaugeError

NOISE_MM, DRIFT_MM, WRONG_MM, WRONG_EVERY, DROP_EVERY = 0.02, 0.0005, 0.8, 23, 17


def demo_values() -> tuple[float, ...]:
    """Return what a gauge would read on the demo's corner, in the order the bench asks: the doubtful reading first.

    Each value is what all readings together make of it (the adjusted one), so the doubtful one comes out right.
    """
    from bicentra.core.survey.corner import survey_corner
    from bicentra.study.starting import demo_job

    job = demo_job()
    adjusted = survey_corner(job, job.corner).adjusted
    if adjusted is None:
        return ()
    order = sorted(
        range(len(adjusted.readings)),
        key=lambda k: (k not in adjusted.suspects, adjusted.readings[k].list != "features"),
    )
    wrong = {k: float(adjusted.residuals[k] / adjusted.redundancy[k]) for k in adjusted.suspects}
    lengths = [k for k in order if "direction" not in adjusted.readings[k].kind]
    return tuple(adjusted.readings[k].value - wrong.get(k, 0.0) for k in lengths)


def lines(seed: int, values: tuple[float, ...] | None = None) -> Iterator[str]:
    """Yield one line after another for ever: noise, a slow drift, now and then half a line or a wrong reading."""
    chance = random.Random(seed)
    played = demo_values() if values is None else values
    drop, wrong = chance.randrange(3, DROP_EVERY), chance.randrange(3, WRONG_EVERY)
    for count, value in enumerate(v for _ in iter(int, 1) for v in played):
        if count % DROP_EVERY == drop:
            yield f"{value:.2f}"[:2] + "#"
            continue
        read = value + chance.gauss(0, NOISE_MM) + DRIFT_MM * count
        if count % WRONG_EVERY == wrong:
            read += chance.choice((-WRONG_MM, WRONG_MM))
        yield f"{read:.2f} mm" if count % 3 else f"{read:.2f}"


class SimulatedGauge:
    """A pseudo-terminal that sends a line every ``every`` seconds; ``port`` is what to connect to."""

    def __init__(self, seed: int = 1, every: float = 1.0, script: Iterator[str] | None = None) -> None:
        import tty

        try:
            self._near, self._far = os.openpty()
        except OSError as error:
            raise GaugeError(f"no pseudo-terminal to simulate a gauge on: {error.strerror or error}") from error
        tty.setraw(self._far)
        os.set_blocking(self._near, False)
        self.port, self.every = os.ttyname(self._far), every
        self._script = script if script is not None else lines(seed)
        self._over = threading.Event()
        self._thread = threading.Thread(target=self._play, name="simulated gauge", daemon=True)
        self._thread.start()

    def _play(self) -> None:
        for line in self._script:
            if self._over.wait(self.every):
                return
            with contextlib.suppress(BlockingIOError, OSError):  # nobody reads: a gauge does not care
                os.write(self._near, f"{line}\r\n".encode())

    def send(self, line: str) -> None:
        """Send one line now."""
        with contextlib.suppress(BlockingIOError, OSError):
            os.write(self._near, f"{line}\r\n".encode())

    def stop(self) -> None:
        """Stop sending and take the pseudo-terminal away, as when a plug is pulled."""
        if not self._over.is_set():
            self._over.set()
            self._thread.join(timeout=self.every + 1.0)
            for end in (self._near, self._far):
                with contextlib.suppress(OSError):
                    os.close(end)


def play(seed: int, tcp: int | None, every: float, count: int, say: Callable[[str], None] = print) -> int:
    """Run the simulated gauge until it is stopped or has sent ``count`` lines; returns the exit code."""
    say(f"simulated gauge, seed {seed}: invented readings, for trying out only")
    with contextlib.suppress(KeyboardInterrupt):
        if tcp is not None:
            _serve(seed, tcp, every, count, say)
        else:
            gauge = SimulatedGauge(seed, every)
            say(f"listening end: {gauge.port}   (Survey bench, Gauge…, put this in as the port; Ctrl+C stops)")
            sent = 0
            while not count or sent < count:
                time.sleep(every)
                sent += 1
            gauge.stop()
    return 0


def _serve(seed: int, port: int, every: float, count: int, say: Callable[[str], None]) -> None:
    """Play to one listener after another on a port of this machine only."""
    try:
        server = socket.create_server(("127.0.0.1", port))
    except OSError as error:
        raise GaugeError(f"port {port}: {error.strerror or error}; choose another one") from error
    with server:
        say(f"listening end: socket://127.0.0.1:{server.getsockname()[1]}   (Ctrl+C stops)")
        sent, script = 0, lines(seed)
        while not count or sent < count:
            connection, _ = server.accept()
            with connection, contextlib.suppress(OSError):
                for line in script:
                    connection.sendall(f"{line}\r\n".encode())
                    sent += 1
                    if count and sent >= count:
                        return
                    time.sleep(every)
