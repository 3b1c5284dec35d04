"""A line gauge: one reading a line as plain text, over a serial port, a pseudo-terminal or a local network port.

The reader runs in its own thread and hands on events; whatever comes down the line, it neither blocks nor guesses. A
line that is not a reading is reported as such; a gauge that floods is not listened to until it has been quiet.
"""

import contextlib
import re
import threading
import time
from collections import deque
from collections.abc import Callable
from typing import Any

from bicentra.core.base.errors import QuantityError
from bicentra.core.base.records import Record

_NUMBER = r"(?P<value>[+\-−]?\s*(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(?P<unit>mm|in|inch|\")?"
STYLES: dict[str, tuple[str, re.Pattern[str]]] = {
    "number": ("a number, with or without its unit: 12.34 mm", re.compile(_NUMBER)),
    "label": (
        "a name before the number: CH1:+12.34 mm",
        re.compile(rf"[A-Za-z][A-Za-z0-9]{{0,15}}\s?[:=+\- ]\s?{_NUMBER}"),
    ),
    "last field": (
        "several fields, the reading last: 7;OK;12.34",
        re.compile(rf"(?:[^,;]{{0,40}}[;,]){{1,8}}\s?{_NUMBER}"),
    ),
}
"""How a gauge's lines look, by name: words and a pattern that takes time in proportion to a line's length."""
PORT = re.compile(r"socket://[A-Za-z0-9_.:\[\]-]{1,200}:\d{1,5}|(?!.*://)[A-Za-z0-9_./\\-]{1,200}")
"""What a gauge may be connected by: a device's name or a socket; other addresses can write files or run what they like."""
BAUD_RATES = (1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200)
PLAYED = " simulated"
"""How every line of the simulated gauge ends: what it plays is known for what it is at the other end of any wire."""
LONGEST_LINE, MOST_MM = 120, 2000.0
RETRY_S, WAIT_S, QUIET_S = 1.0, 0.1, 8.0
FLOOD_LINES, FLOOD_S, LEAST_GAP_S = 8, 2.0, 0.06
"""More lines than this in that time, or two closer together, and nobody is measuring: the gauge floods."""
UNIT_MM = {"mm": 1.0, "in": 25.4, "inch": 25.4, '"': 25.4}


class GaugeSettings(Record, frozen=True):
    """Where the gauge is and how it speaks. ``unit`` is taken where a line names none."""

    port: str
    baud: int = 9600
    style: str = "number"
    unit: str = "mm"


class GaugeEvent(Record, frozen=True):
    """What the gauge did: ``kind`` is reading, garbled, connected, lost, quiet, flooding or calm.

    ``simulated`` readings were played by the simulated gauge, whatever port they came in by.
    """

    kind: str
    text: str
    value_mm: float = 0.0
    simulated: bool = False


def parse_line(line: str, pattern: re.Pattern[str], unit: str = "mm") -> float:
    """Return the reading in ``line`` [mm]; ``unit`` is taken where it names none. The whole line has to fit.

    Raises ``QuantityError`` for anything else: a part of a line is never taken for a reading.
    """
    text = line.strip()
    match = pattern.fullmatch(text) if len(text) <= LONGEST_LINE else None
    if match is None:
        raise QuantityError(line, f"“{text[:40]}”", "one reading such as 12.34, 12.34 mm or +0.4863 in")
    number = match["value"].replace("−", "-").replace(",", ".").replace(" ", "")
    named = match.groupdict().get("unit") or unit
    try:
        value = float(number) * UNIT_MM[named]
    except (ValueError, KeyError):
        raise QuantityError(line, f"“{text[:40]}”", "a number with mm, in or no unit") from None
    if not abs(value) <= MOST_MM:
        raise QuantityError(line, f"“{text[:40]}”", f"a reading of at most {MOST_MM:.0f} mm")
    return value


class LineGauge:
    """Reads a gauge in a thread until ``stop``. ``heard`` is called there with each event."""

    def __init__(self, settings: GaugeSettings, heard: Callable[[GaugeEvent], None]) -> None:
        self.settings, self._heard = settings, heard
        self._pattern = STYLES.get(settings.style, STYLES["number"])[1]
        self._overlong = False
        self._over = threading.Event()
        self._recent: deque[float] = deque(maxlen=FLOOD_LINES)
        self._flooding = False
        self._thread = threading.Thread(target=self._run, name="gauge", daemon=True)

    def start(self) -> None:
        """Begin to listen."""
        self._thread.start()

    def stop(self) -> None:
        """Stop listening and let go of the port."""
        self._over.set()
        if self._thread.is_alive() and self._thread is not threading.current_thread():
            self._thread.join(timeout=2.0)

    @property
    def listening(self) -> bool:
        """Whether the thread still runs."""
        return self._thread.is_alive()

    def _run(self) -> None:
        """Listen until told to stop; a reader that dies says so."""
        try:
            self._read_on()
        except Exception as error:
            self._tell("lost", f"the reader has stopped ({_plain(error)}): let the gauge go and connect it again")

    def _read_on(self) -> None:
        """Open the port, read it, open it again when it is lost."""
        text = ""
        while not self._over.is_set():
            try:
                port = self._open()
            except (OSError, ValueError) as error:
                why = f"gauge not found at {self.settings.port}: {_plain(error)}; it is looked for again every second"
                if why != text:
                    self._tell("lost", why)
                text = why
                self._over.wait(RETRY_S)
                continue
            text = ""
            self._tell("connected", f"gauge connected at {self.settings.port}")
            with contextlib.suppress(OSError, TypeError), port:
                self._listen(port)
            if not self._over.is_set():
                self._tell("lost", "the gauge was lost; it is looked for again every second")
                self._over.wait(RETRY_S)

    def _open(self) -> Any:
        import serial

        if not PORT.fullmatch(self.settings.port):
            raise ValueError("expected a device such as /dev/ttyUSB0 or COM3, or socket://host:port")
        port = serial.serial_for_url(self.settings.port, baudrate=self.settings.baud, timeout=WAIT_S)
        with contextlib.suppress(OSError, AttributeError):
            port.reset_input_buffer()  # what was sent before anybody listened belongs to no question
        return port

    def _listen(self, port: Any) -> None:
        buffer, last, quiet = b"", time.monotonic(), False
        while not self._over.is_set():
            data = port.read(max(1, min(int(getattr(port, "in_waiting", 1) or 1), 4096)))
            now = time.monotonic()
            if data:
                last, quiet = now, False
                buffer = self._take(buffer + data, now)
            elif now - last > QUIET_S and not quiet:
                quiet = True
                self._tell("quiet", f"nothing from the gauge for {QUIET_S:.0f} seconds; it is still connected")
            if self._flooding and now - last > FLOOD_S:
                self._flooding = False
                self._recent.clear()
                self._tell("calm", "the gauge is quiet again: readings are taken from now on")

    def _take(self, buffer: bytes, now: float) -> bytes:
        """Hand on every whole line of ``buffer``; returns what is left of it."""
        *lines, rest = re.split(rb"[\r\n]+", buffer)
        for line in lines:
            tail, self._overlong = self._overlong, False
            if line.strip() and not tail:  # the tail of a line that was too long is no reading
                self._line(line.decode("utf-8", "replace"), now)
        if len(rest) > LONGEST_LINE:
            if not self._overlong:
                self._line(rest[:LONGEST_LINE].decode("utf-8", "replace") + "…", now)
            self._overlong = True
            return b""
        return rest

    def _line(self, line: str, now: float) -> None:
        flood = bool(self._recent) and now - self._recent[-1] < LEAST_GAP_S
        self._recent.append(now)
        flood = flood or (len(self._recent) == FLOOD_LINES and now - self._recent[0] < FLOOD_S)
        if flood and not self._flooding:
            self._flooding = True
            self._tell(
                "flooding", "the gauge sends more lines than anybody can measure: nothing is taken until it is quiet"
            )
        if self._flooding:
            return
        try:
            value = parse_line(line.rstrip().removesuffix(PLAYED), self._pattern, self.settings.unit)
        except QuantityError as error:
            self._tell("garbled", f"not a reading: {error}")
            return
        self._heard(GaugeEvent("reading", line.strip(), value, line.rstrip().endswith(PLAYED)))

    def _tell(self, kind: str, text: str) -> None:
        self._heard(GaugeEvent(kind, text))


def _plain(error: Exception) -> str:
    number = getattr(error, "errno", None)
    known = {
        2: "there is no such port",
        13: "no permission to use it",
        16: "another program uses it",
        111: "no answer",
    }
    return known.get(number or 0, " ".join(str(error).split())[:80])


def ports() -> tuple[str, ...]:
    """Return the serial ports of this machine."""
    from serial.tools import list_ports

    return tuple(sorted(port.device for port in list_ports.comports()))
