"""The gauge's place on the bench: a button to connect it or let it go, and its state in words."""

from collections.abc import Callable

from PySide6.QtCore import QSettings, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from bicentra.app.gauges.box import STATES, GaugeBox, GaugeDialog
from bicentra.app.widgets.plain import plain_label
from bicentra.core.base.errors import GaugeError
from bicentra.study.desks.survey import ReadingAsk

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
