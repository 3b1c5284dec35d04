"""Gauges: lines read or refused, ports lost and found, floods held back, the simulated one talked to as to a real one."""

import itertools
import socket
import threading
import time
from collections.abc import Callable

import pytest

from bicentra.core.base.errors import GaugeError, QuantityError
from bicentra.study.desks.survey import ReadingAsk
from bicentra.study.gauges import gauge as module
from bicentra.study.gauges.gauge import STYLES, GaugeEvent, GaugeSettings, LineGauge, parse_line
from bicentra.study.gauges.simulated import DemoCorner, SimulatedGauge, demo_values, gauge_values, lines, play_readings

PLAIN = STYLES["number"][1]


@pytest.mark.parametrize(
    ("line", "unit", "value"),
    [("12.34", "mm", 12.34), ("12.34 mm", "in", 12.34), ("+0.4863 in", "mm", 12.35202), (" -0.05\r", "mm", -0.05), ("12,34mm", "mm", 12.34),
     ("0.4863", "in", 12.35202), ('.5"', "mm", 12.7), ("+ 3.0 mm", "mm", 3.0), ("7", "mm", 7.0)],
)  # fmt: skip
def test_lines_that_are_readings(line: str, unit: str, value: float) -> None:
    """Sign, decimals, unit or none: as gauges send them."""
    assert parse_line(line, PLAIN, unit) == pytest.approx(value)


@pytest.mark.parametrize(
    "line",
    ["12#", "", "mm", "1.2.3", "12.34 furlong", "1e5", "ERR", "12.34 56.78", "9" * 200, "99999 in", "nan", "12.3 m"],
)
def test_lines_that_are_none(line: str) -> None:
    """Half a line, two numbers, another unit, an error word: refused whole, never guessed."""
    with pytest.raises(QuantityError):
        parse_line(line, PLAIN)


def test_how_lines_look_is_chosen_from_a_few() -> None:
    """A pattern of one's own froze the window for minutes on thirty digits; each of the choices answers at once."""
    rows = (("label", "CH1:+1.250mm", 1.25), ("label", "D 12.5 mm", 12.5), ("last field", "7;OK;12.34", 12.34))
    for style, line, value in rows:
        assert parse_line(line, STYLES[style][1]) == pytest.approx(value)
    for _, pattern in STYLES.values():
        for line in ("1" * 120, "a" * 120, "1;" * 60, " " * 120, "+" * 120):
            assert pattern.fullmatch(line + "!") is None


def test_the_tail_of_a_long_line_is_no_reading() -> None:
    """What came after the first 120 bytes of a line was taken for a line of its own."""
    heard: list[GaugeEvent] = []
    gauge = LineGauge(GaugeSettings("loop://"), heard.append)
    rest = gauge._take(b"9" * 130, 1.0)
    rest = gauge._take(rest + b"8" * 130, 2.0)
    rest = gauge._take(rest + b" 12.5\n", 3.0)
    assert [e.kind for e in heard] == ["garbled"] and rest == b""
    gauge._take(b"12.5\n", 9.0)
    assert heard[-1].kind == "reading" and heard[-1].value_mm == 12.5


def test_a_reader_that_dies_says_so(monkeypatch: pytest.MonkeyPatch) -> None:
    """An error nobody thought of ended the thread without a word."""
    heard: list[GaugeEvent] = []
    gauge = LineGauge(GaugeSettings("loop://"), heard.append)
    monkeypatch.setattr(gauge, "_open", lambda: 1 / 0)
    gauge._run()
    assert heard[-1].kind == "lost" and "the reader has stopped" in heard[-1].text


class Heard:
    """Collects events and waits for them."""

    def __init__(self) -> None:
        self.events: list[GaugeEvent] = []

    def __call__(self, event: GaugeEvent) -> None:
        """Note one event."""
        self.events.append(event)

    def wait(self, right: Callable[[list[GaugeEvent]], bool], seconds: float = 60.0) -> None:
        """Wait until ``right`` is so."""
        end = time.monotonic() + seconds
        while not right(self.events):
            assert time.monotonic() < end, [(e.kind, e.text) for e in self.events]
            time.sleep(0.01)

    def kinds(self) -> list[str]:
        """The kinds heard so far."""
        return [e.kind for e in self.events]


def test_the_simulated_gauge_is_talked_to_as_to_a_real_one() -> None:
    """Readings over a pseudo-terminal, a garbled line told, a pulled plug noticed, and the thread gone at the end."""
    heard = Heard()
    sim = SimulatedGauge(every=30.0)
    gauge = LineGauge(GaugeSettings(sim.port), heard)
    gauge.start()
    heard.wait(lambda e: any(x.kind == "connected" for x in e))
    for text in ("12.34", "0.5 in", "12#"):
        sim.send(text)
        time.sleep(0.12)
    heard.wait(lambda e: len(e) >= 4)
    assert [(e.kind, round(e.value_mm, 3), e.simulated) for e in heard.events[1:3]] == [
        ("reading", 12.34, True), ("reading", 12.7, True)]  # fmt: skip
    assert heard.events[3].kind == "garbled" and "12#" in heard.events[3].text
    sim._over.set()
    import os

    os.close(sim._near)
    heard.wait(lambda e: e[-1].kind == "lost")
    gauge.stop()
    assert not gauge.listening


def test_a_flood_is_not_taken_and_ends(monkeypatch: pytest.MonkeyPatch) -> None:
    """Hundreds of lines at once give one reading at most, one clear state, and calm afterwards."""
    monkeypatch.setattr(module, "FLOOD_S", 0.3)
    heard = Heard()
    sim = SimulatedGauge(every=30.0)
    gauge = LineGauge(GaugeSettings(sim.port), heard)
    gauge.start()
    heard.wait(lambda e: len(e) == 1)
    for _ in range(300):
        sim.send("5.00")
    heard.wait(lambda e: "calm" in [x.kind for x in e])
    assert heard.kinds().count("reading") <= 1 and heard.kinds().count("flooding") == 1
    time.sleep(0.1)
    sim.send("6.00")
    heard.wait(lambda e: e[-1].kind == "reading" and e[-1].value_mm == 6.0)
    sim.send("x" * 5000)
    heard.wait(lambda e: e[-1].kind in ("garbled", "flooding"))
    gauge.stop()
    sim.stop()


def test_a_network_gauge_is_found_again_after_it_was_lost() -> None:
    """Nobody answers, then somebody does, hangs up, and comes back."""
    with socket.create_server(("127.0.0.1", 0)) as probe:
        port = probe.getsockname()[1]
    heard = Heard()
    gauge = LineGauge(GaugeSettings(f"socket://127.0.0.1:{port}"), heard)
    gauge.start()
    heard.wait(lambda e: e and e[0].kind == "lost")
    with socket.create_server(("127.0.0.1", port)) as server:
        for value in (b"1.25\n", b"2.50 mm\n"):
            connection, _ = server.accept()
            time.sleep(0.3)  # what comes at once belongs to no question
            connection.sendall(value)
            heard.wait(lambda e, value=value: any(x.text.encode() == value.strip() for x in e))
            connection.close()
    gauge.stop()
    assert [e.value_mm for e in heard.events if e.kind == "reading"] == [1.25, 2.5]


def test_the_simulation_repeats_and_has_its_faults() -> None:
    """The same seed plays the same lines: noise and drift about the demo's values, a dropped line, a wrong reading."""
    values = [v for v, _ in itertools.islice(demo_values(), 60)]
    first = list(itertools.islice(lines(7), 60))
    assert first == list(itertools.islice(lines(7), 60)) != list(itertools.islice(lines(8), 60))
    assert any("#" in line for line in first)
    off = [parse_line(line, PLAIN) - value for line, value in zip(first, values) if "#" not in line]
    wrong = [o for o in off if abs(o) > 0.5]
    assert 1 <= len(wrong) <= 4 and max(abs(o) for o in off if o not in wrong) < 0.15
    assert values[0] == pytest.approx(38.97, abs=0.1)  # the demo's doubtful reading comes first, put right


@pytest.mark.parametrize(
    ("ask", "value"),
    [(ReadingAsk("distance", ("upper lug", "lower lug"), "centres"), 80.07), (ReadingAsk("diameter", ("pilot",)), 57.0), (ReadingAsk("straightedge"), 9.52),
     (ReadingAsk("depth", ("upper lug",), at_deg=45.0, radius_mm=10.5), 83.2), (ReadingAsk("again", ("pilot", "lower lug"), "near-near", "distances", 2), 38.97)],
)  # fmt: skip
def test_the_simulation_plays_what_is_asked(ask: ReadingAsk, value: float) -> None:
    """Whatever is asked of the demo's corner is answered from its geometry; an angle or a stranger is not."""
    corner = DemoCorner()
    played = corner.value_of(ask)
    assert played is not None and played[0] == pytest.approx(value, abs=0.15)
    assert 0.2 < corner.value_of(ReadingAsk("sweep", ("hub-face",), at_deg=70.0))[0] < 0.3
    assert corner.value_of(ReadingAsk("direction", ("pilot", "upper lug"))) is None
    assert corner.value_of(ReadingAsk("distance", ("pilot", "a stranger"))) is None
    assert list(itertools.islice(lines(1, gauge_values(lambda: None)), 2)) == ["", ""]


def test_the_command_plays_on_a_port_and_on_a_terminal() -> None:
    """``gauge-sim --tcp`` serves lines to whoever connects; without it it names a pseudo-terminal; both stop after N."""
    said: list[str] = []
    thread = threading.Thread(target=play_readings, args=(1, 0, 0.01, 3, said.append))
    thread.start()
    while len(said) < 2:
        time.sleep(0.01)
    port = int(said[1].split(":")[-1].split()[0])
    with socket.create_connection(("127.0.0.1", port)) as connection:
        data = b""
        while chunk := connection.recv(100):
            data += chunk
    thread.join(timeout=60)
    assert data.count(b" simulated\r\n") == 3
    assert play_readings(1, None, 0.01, 2, said.append) == 0 and "/dev/" in said[-1]
    with socket.create_server(("127.0.0.1", 0)) as taken, pytest.raises(GaugeError, match="choose another"):
        play_readings(1, taken.getsockname()[1], 0.01, 1, said.append)
