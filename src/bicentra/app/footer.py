"""The foot of the window: what to do next with a button that does it, messages, the progress of long work."""

from functools import partial
from html import escape

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QSizePolicy, QWidget

from bicentra.app import workers
from bicentra.app.widgets.basics import rename
from bicentra.app.widgets.plain import plain_label, rich_label
from bicentra.study.document.next_step import NextStep

MESSAGE_MS = 9000


class Footer(QWidget):
    """The foot. ``wanted`` carries the step whose button was pressed."""

    wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._watched: list[workers.Task] = []
        self._step = NextStep("")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        self.message = plain_label()
        self.message.setObjectName("wrong")
        self.message.setWordWrap(True)
        self.message.hide()
        self.next_label = rich_label()
        self.next_label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.next_label.setWordWrap(True)
        self.next_label.setAccessibleName("What to do next")
        self.next_button = QPushButton("Do it")
        self.next_button.setObjectName("primary")
        self.next_button.clicked.connect(lambda: self.wanted.emit(self._step))
        self.other_button = QPushButton()
        self.other_button.clicked.connect(lambda: self.wanted.emit(self._step.then))
        self.other_button.hide()
        self.progress = QProgressBar()
        self.progress.setFixedWidth(190)
        self.progress.hide()
        self.cancel_button = QPushButton("Cancel")
        self.cancel_button.hide()
        self.cancel_button.clicked.connect(self._cancel)
        row.addWidget(self.next_label, 3)
        row.addWidget(self.message, 2)
        row.addWidget(self.progress)
        row.addWidget(self.cancel_button)
        row.addWidget(self.other_button)
        row.addWidget(self.next_button)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(lambda: self.say(""))

    def show_next(self, step: NextStep) -> None:
        """Show what comes next; without a sentence nothing can be pressed."""
        self._step = step
        said = f"<span style='font-weight:600'>Next:</span> {escape(step.sentence)}" if step.sentence else ""
        self.next_label.setText(said)
        self.next_button.setText(step.button)
        self.next_button.setVisible(bool(step.sentence))
        self.other_button.setVisible(step.then is not None)
        if step.then is not None:
            self.other_button.setText(step.then.button)

    def say(self, message: str, wrong: bool = True) -> None:
        """Show a message for a while; one that tells of nothing ``wrong`` is calm."""
        rename(self.message, "wrong" if wrong else "faint")
        self.message.setText(message)
        self.message.setVisible(bool(message))
        if message:
            self._timer.start(MESSAGE_MS)

    def watch(self, task: workers.Task) -> None:
        """Show the progress of a task with a button to cancel it, and start it."""
        self.progress.setRange(0, 100)
        self.progress.setValue(0)
        self.progress.setFormat(task.label)
        self.progress.show()
        self.cancel_button.show()
        self._watched.append(task)
        task.signals.progressed.connect(self._progressed)
        for over in (task.signals.finished, task.signals.failed, task.signals.stopped):
            over.connect(partial(self._over, task))
        task.signals.failed.connect(self.say)
        workers.start(task)

    def _progressed(self, part: float, text: str) -> None:
        self.progress.setValue(int(part * 100))
        if text:
            self.progress.setFormat(text)

    def _cancel(self) -> None:
        for task in self._watched:
            task.cancel()

    def _over(self, task: workers.Task, *_: object) -> None:
        self._watched = [one for one in self._watched if one is not task]
        self.progress.setVisible(bool(self._watched))
        self.cancel_button.setVisible(bool(self._watched))
