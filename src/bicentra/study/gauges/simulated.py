"""A simulated line gauge: plays the demo corner's readings on a pseudo-terminal or a local port, with faults from a seed.

It stands in for a gauge nobody has at hand; the program talks to it by the same code as to a real one.
"""

import contextlib
import math
import os
import random
import socket
import threading
import time
from collections.abc import Callable, Iterator

import numpy as np

from bicentra.core.base.errors import GaugeError
from bicentra.core.base.records import replace
from bicentra.core.survey.corner import survey_corner
from bicentra.core.survey.network import SENSE_SIGNS
from bicentra.core.survey.record import set_aside
from bicentra.study.desks.survey import ReadingAsk
from bicentra.study.gauges.gauge import PLAYED

NOISE_MM, DRIFT_MM, WRONG_EVERY, DROP_EVERY = 0.02, 0.0005, 23, 17
SWEEP_NOISE_MM, WRONG_TIMES, PATIENCE = 0.003, 40.0, 4
"""Noise of an indicator, and how many times the noise a wrong reading is off: 0.8 mm for a caliper;
turns before a question is answered once more."""
Played = tuple[float, float]
"""A true value and the noise to play it with [mm]."""


class DemoCorner:
    """The demo's own corner as it truly is: what all its readings together make of it, the wrong one left out."""

    def __init__(self) -> None:
        from bicentra.study.document.starting import demo_job

        job = demo_job()
        survey = job.survey[job.corner]
        first = survey_corner(job, job.corner).adjusted
        self.doubtful = tuple(first.readings[k] for k in first.suspects) if first is not None else ()
        for reading in self.doubtful:
            survey = set_aside(survey, reading.list, reading.index, "wrong")
        self.survey = survey
        self._done = survey_corner(replace(job, survey={job.corner: survey}), job.corner)

    def value_of(self, ask: ReadingAsk) -> Played | None:
        """Return what a gauge would read for ``ask`` and its noise; ``None`` for what this corner has not."""
        if ask.kind == "gap":  # a slot 3 mm wider than its rotor, the caliper 0.3 too far inboard
            return 1.5 + (-0.3 if ask.ends[0].endswith("outboard") else 0.3), NOISE_MM
        if ask.kind == "straightedge":
            thick = self._done.survey.straightedge_thickness_mm
            return None if thick is None else (thick, NOISE_MM)
        if ask.kind == "depth":
            return self._depth(ask)
        if ask.kind == "sweep":
            sweep = self._done.sweep(ask.ends[0])
            angle = np.array([math.radians(ask.at_deg)])
            return None if sweep is None or sweep.fault else (float(sweep.curve(angle)[0]), SWEEP_NOISE_MM)
        return None if ask.is_angle else self._length(ask)

    def _depth(self, ask: ReadingAsk) -> Played | None:
        face, thick = self._done.face(ask.ends[0]), self._done.survey.straightedge_thickness_mm
        if face is None or face.fault or thick is None or ask.radius_mm is None:
            return None
        at = math.radians(ask.at_deg)
        return thick - face.height_at(ask.radius_mm * math.cos(at), ask.radius_mm * math.sin(at)), NOISE_MM

    def _length(self, ask: ReadingAsk) -> Played | None:
        adjusted = self._done.adjusted
        if adjusted is None or any(name not in adjusted.network.features for name in ask.ends):
            return None
        sizes = [adjusted.diameter(name) or 0.0 for name in ask.ends]
        if len(ask.ends) == 1:
            return sizes[0], NOISE_MM
        signs = SENSE_SIGNS[ask.sense]
        apart = math.dist(adjusted.place(ask.ends[0]), adjusted.place(ask.ends[1]))
        return apart + (signs[0] * sizes[0] + signs[1] * sizes[1]) / 2, NOISE_MM


def demo_values() -> Iterator[Played | None]:
    """Yield the demo corner's lengths for ever, in the order its bench asks: the doubtful reading first, put right."""
    corner = DemoCorner()
    survey = corner.survey
    asks = [ReadingAsk("again", r.ends, r.sense, r.list, r.index) for r in corner.doubtful]
    asks += [ReadingAsk("diameter", (feature.name,)) for feature in survey.features]
    asks += [ReadingAsk("distance", (d.from_, d.to), d.sense) for d in survey.distances]
    while True:
        yield from (corner.value_of(ask) for ask in asks)


def gauge_values(current_ask: Callable[[], ReadingAsk | None]) -> Iterator[Played | None]:
    """Yield for ever what the demo corner has for whatever ``current_ask`` returns at that moment, as a person measures.

    A question that stands is answered again only after a few turns: its answer may still be on its way.
    """
    corner = DemoCorner()
    answered: ReadingAsk | None = None
    waited = 0
    while True:
        ask = current_ask()
        waited = waited + 1 if ask == answered else PATIENCE
        if ask is None or waited < PATIENCE:
            yield None
        else:
            answered, waited = ask, 0
            yield corner.value_of(ask)


def lines(seed: int, values: Iterator[Played | None] | None = None) -> Iterator[str]:
    """Yield one line after another: noise, a slow drift, now and then half a line or a wrong reading; empty for nothing."""
    chance = random.Random(seed)
    drop, wrong = chance.randrange(3, DROP_EVERY), chance.randrange(3, WRONG_EVERY)
    count = 0
    for played in values if values is not None else demo_values():
        if played is None:
            yield ""
            continue
        value, noise = played
        read = value + chance.gauss(0, noise) + DRIFT_MM * count * noise / NOISE_MM
        if count % WRONG_EVERY == wrong:
            read += chance.choice((-WRONG_TIMES, WRONG_TIMES)) * noise
        digits = 3 if noise < NOISE_MM else 2
        dropped = count % DROP_EVERY == drop
        unit = " mm" if count % 3 else ""
        yield f"{value:.2f}"[:2] + "#" if dropped else f"{read:.{digits}f}{unit}"
        count += 1


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
            if line:
                self.send(line)

    def send(self, line: str) -> None:
        """Send one line now; nobody reads: a gauge does not care."""
        with contextlib.suppress(BlockingIOError, OSError):
            os.write(self._near, f"{line}{PLAYED}\r\n".encode())

    def stop(self) -> None:
        """Stop sending and take the pseudo-terminal away, as when a plug is pulled."""
        if not self._over.is_set():
            self._over.set()
            self._thread.join(timeout=self.every + 1.0)
            for end in (self._near, self._far):
                with contextlib.suppress(OSError):
                    os.close(end)


def _say(text: str) -> None:
    print(text, flush=True)  # whoever waits for the port's name at the other end of a pipe gets it at once


def play_readings(seed: int, tcp: int | None, every: float, count: int, say: Callable[[str], None] = _say) -> int:
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
                    connection.sendall(f"{line}{PLAYED}\r\n".encode())
                    sent += 1
                    if count and sent >= count:
                        return
                    time.sleep(every)
