"""The gauge's place on the bench: connected, watched, let go."""

from collections.abc import Callable

from PySide6.QtCore import QObject, QSettings, Qt, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.errors import GaugeError
from bicentra.study.desks.survey import ReadingAsk
from bicentra.study.gauges.gauge import BAUD_RATES, PORT, STYLES, GaugeEvent, GaugeSettings, LineGauge, ports
from bicentra.study.gauges.simulated import SimulatedGauge, gauge_values, lines

SIMULATED_S, SEED, BAUD = 2.0, 1, 9600
STATES = {"lost": "!", "garbled": "!", "flooding": "!"}


class GaugeBox(QObject):
    """Owns the gauge and the simulated one. Events come from another thread; Qt brings them over."""

    reading = Signal(float, str, bool)
    state = Signal(str, str)
    _came = Signal(object)

    def __init__(self, parent: QObject, settings: QSettings) -> None:
        super().__init__(parent)
        self._settings = settings
        self._gauge: LineGauge | None = None
        self.simulated: SimulatedGauge | None = None
        self._came.connect(self._heard, Qt.ConnectionType.QueuedConnection)

    @property
    def connected(self) -> bool:
        """Whether a gauge is listened to (or looked for)."""
        return self._gauge is not None

    def last_settings(self) -> GaugeSettings:
        """Return the settings last used."""
        value = self._settings.value
        baud = str(value("gauge/baud", BAUD))
        return GaugeSettings(
            str(value("gauge/port", "")),
            int(baud) if baud.isascii() and baud.isdigit() and int(baud[:7]) in BAUD_RATES else BAUD,
            str(value("gauge/style", "number")),
            str(value("gauge/unit", "mm")),
        )

    def connect_to(self, settings: GaugeSettings, keep: bool = True) -> None:
        """Listen to the gauge of ``settings``."""
        self.stop()
        if keep:
            for name in ("port", "baud", "style", "unit"):
                self._settings.setValue(f"gauge/{name}", getattr(settings, name))
        self._gauge = LineGauge(settings, self._came.emit)
        self._gauge.start()

    def simulate(
        self, current_ask: Callable[[], ReadingAsk | None], seed: int = SEED, every: float = SIMULATED_S
    ) -> None:
        """Start the simulated gauge and listen to it by the same way as to a real one. Raises ``GaugeError``.

        It plays what ``current_ask`` returns at that moment, as the demo's corner has it; silent for what it has not.
        """
        self.stop()
        self.simulated = SimulatedGauge(seed, every, lines(seed, gauge_values(current_ask)))
        self.connect_to(GaugeSettings(self.simulated.port), keep=False)

    def stop(self) -> None:
        """Disconnect the gauge."""
        gauge, self._gauge = self._gauge, None
        if gauge is not None:
            gauge.stop()
        if self.simulated is not None and gauge is not None:
            self.simulated.stop()
            self.simulated = None
        self.state.emit("off", "")

    def _heard(self, event: GaugeEvent) -> None:
        if self._gauge is None:
            return  # came after the gauge was let go
        self.state.emit(event.kind, event.text)
        if event.kind == "reading":  # what is made of it is told last: it stays in sight
            self.reading.emit(event.value_mm, event.text, event.simulated)


class GaugeDialog(QDialog):
    """Where the gauge is and how it speaks."""

    def __init__(self, parent: QWidget, settings: GaugeSettings) -> None:
        super().__init__(parent)
        self.setWindowTitle("Gauge")
        self.settings: GaugeSettings | None = None
        self.simulate = False
        column = QVBoxLayout(self)
        form = QFormLayout()
        self.port = QComboBox()
        self.port.setEditable(True)
        self.port.addItems(list(ports()))
        self.port.setCurrentText(settings.port)
        self.baud = QComboBox()
        self.baud.addItems([str(rate) for rate in BAUD_RATES])
        self.baud.setCurrentText(str(settings.baud))
        self.unit = QComboBox()
        self.unit.addItems(["mm", "in"])
        self.unit.setCurrentText(settings.unit)
        self.style_of_line = QComboBox()
        for name, (words, _) in STYLES.items():
            self.style_of_line.addItem(words, name)
        self.style_of_line.setCurrentIndex(max(self.style_of_line.findData(settings.style), 0))
        for text, widget in (("Port, or socket://host:port", self.port), ("Baud rate", self.baud),
                             ("Unit if a line has none", self.unit), ("Format of its lines", self.style_of_line)):  # fmt: skip
            form.addRow(text, widget)
        column.addLayout(form)
        self.wrong = plain_label(
            "A gauge that types like a keyboard needs none of this: it fills the field and presses Enter."
        )
        self.wrong.setWordWrap(True)
        column.addWidget(self.wrong)
        row = QHBoxLayout()
        for text, call in (("Connect", self._connect), ("Simulated gauge", self._simulate), ("Cancel", self.reject)):
            button = QPushButton(text)
            button.clicked.connect(call)
            row.addWidget(button)
        column.addLayout(row)

    def _connect(self) -> None:
        made = GaugeSettings(
            self.port.currentText().strip(), int(self.baud.currentText()), self.style_of_line.currentData(),
            self.unit.currentText(),
        )  # fmt: skip
        if made.port and not PORT.fullmatch(made.port):
            self.wrong.setText("A port is a device such as /dev/ttyUSB0 or COM3, or socket://host:port.")
            return
        if not made.port:
            self.wrong.setText("Name the port first, such as /dev/ttyUSB0 or socket://127.0.0.1:5000.")
            return
        self.settings = made
        self.accept()

    def _simulate(self) -> None:
        self.simulate = True
        self.accept()


WRONG = ("lost", "garbled", "flooding")


class GaugeStrip(QWidget):
    """``reading`` carries a value [mm], its line and whether it was simulated. ``current_ask`` tells the simulated
    gauge what to play.
    """

    reading = Signal(float, str, bool)

    def __init__(self, settings: QSettings, current_ask: Callable[[], ReadingAsk | None]) -> None:
        super().__init__()
        self._current_ask = current_ask
        self.box = GaugeBox(self, settings)
        self.box.reading.connect(self.reading)
        self.box.state.connect(self.tell)
        self.button = QPushButton("Gauge…")
        self.button.setToolTip("A gauge that sends lines of text; one that types like a keyboard needs no setting")
        self.button.clicked.connect(self.choose)
        self.state = plain_label("no gauge")
        self.state.setObjectName("faint")
        self.state.setWordWrap(True)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.button)
        row.addWidget(self.state, 1)

    def choose(self) -> None:
        """Connect a gauge, or let the connected one go."""
        if self.box.connected:
            self.box.stop()
            return
        dialog = GaugeDialog(self, self.box.last_settings())
        if not dialog.exec():
            return
        if dialog.simulate:
            self.simulate()
        elif dialog.settings is not None:
            self.box.connect_to(dialog.settings)

    def simulate(self) -> None:
        """Start the simulated gauge and listen to it."""
        try:
            self.box.simulate(self._current_ask)
        except GaugeError as error:
            self.tell("lost", str(error))

    def tell(self, kind: str, text: str) -> None:
        """Show the gauge's state."""
        self.button.setText("Disconnect the gauge" if self.box.connected else "Gauge…")
        played = "simulated: " if self.box.simulated is not None else ""
        self.state.setText(f"{STATES.get(kind, '')} {played}{text}".strip() if kind != "off" else "no gauge")
        self.state.setObjectName("wrong" if kind in WRONG else "faint")
        self.state.style().unpolish(self.state)
        self.state.style().polish(self.state)

    def close_gauge(self) -> None:
        """Disconnect the gauge: no thread is left behind."""
        self.box.stop()
