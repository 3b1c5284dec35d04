"""Photos read in a thread, one after the other, and made small there: a stranger's picture never stops the window."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QThreadPool
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from bicentra.app import workers
from bicentra.study.document.photos import Picture, small_picture

_pool = QThreadPool()
_pool.setMaxThreadCount(1)
"""One at a time: the memory that a large picture takes while it is read is taken once."""


def show_small(owner: QWidget, path: Path, most: tuple[int, int], take: Callable[[QPixmap], None]) -> None:
    """Have ``take`` given the photo at ``path``, no larger than ``most`` [px], as long as ``owner`` is there; an empty
    one for what is no picture.
    """
    task = workers.Task("Photo", lambda _: small_picture(path, *most))
    task.signals.finished.connect(partial(_hand_over, owner, take))
    task.signals.failed.connect(partial(_hand_over, owner, take, None))
    workers.start(task, _pool)


def wait(milliseconds: int = 5000) -> bool:
    """Wait until no photo is being read any more."""
    return bool(_pool.waitForDone(milliseconds))


def _hand_over(owner: QWidget, take: Callable[[QPixmap], None], found: object, *_: object) -> None:
    if not isValid(owner):
        return
    if isinstance(found, Picture):
        image = QImage(found.dots, found.wide, found.high, 3 * found.wide, QImage.Format.Format_RGB888)
        take(QPixmap.fromImage(image.copy()))
    else:
        take(QPixmap())
