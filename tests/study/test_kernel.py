"""The solid kernel's processes: kept for the next order, never in the way of it, gone when nobody needs them."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

import pytest

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import replace
from bicentra.core.parts.job import Job
from bicentra.formats.solid_worker import Order
from bicentra.study.papers import solids
from bicentra.study.papers.solids import carried_out, end_all, parts_to_make


@pytest.fixture(autouse=True)
def _none_before() -> Iterator[None]:
    end_all()
    yield
    end_all()


def go_on(done: float, text: str) -> bool:
    """Never cancel."""
    return 0.0 <= done <= 1.0 and bool(text)


def waiting() -> list[int]:
    """The processes that wait for an order."""
    return [worker._process.pid for worker in solids._waiting]


def alive(process: int) -> bool:
    """Whether a process is there, not only its place in the table."""
    try:
        with open(f"/proc/{process}/stat") as text:
            return text.read().rsplit(")", 1)[1].split()[0] != "Z"
    except OSError:
        return False


def test_one_process_makes_the_same_again(good: Job) -> None:
    """The next order finds the kernel loaded and nothing of the one before: the same bytes; two at once have one each."""
    order = Order("step", parts_to_make(good), False, "")
    first = carried_out(order, go_on)
    (process,) = waiting()
    assert (
        carried_out(replace(order, kind="stl"), go_on) and carried_out(order, go_on) == first and waiting() == [process]
    )
    with ThreadPoolExecutor(2) as pool:
        assert list(pool.map(lambda _: carried_out(order, go_on), range(4))) == [first] * 4
    assert process in waiting() and len(waiting()) <= 2
    ended = waiting()
    end_all()
    assert not any(map(alive, ended)) and not waiting()


def test_a_fault_is_one_line_and_a_lost_process_no_fault(good: Job) -> None:
    """A wrong order is told and the process kept; one that went while it waited is replaced unseen; cancelled it is ended."""
    order = Order("step", parts_to_make(good), False, "")
    with pytest.raises(ExportError) as text:
        carried_out(replace(order, parts=(replace(order.parts[0], thickness=float("nan")),)), go_on)
    (process,) = waiting()
    assert "thickness" in str(text.value) and "\n" not in str(text.value)
    os.kill(process, signal.SIGKILL)
    assert carried_out(order, go_on) and process not in waiting()
    (process,) = waiting()
    slow = replace(order, kind="views", parts=order.parts * 40)
    assert carried_out(slow, lambda done, _: done == 0.1) == b"" and not waiting() and not alive(process)
    with pytest.raises(ExportError, match="without an answer"):  # a new one that dies at its first order is a fault
        carried_out(slow, lambda done, _: done == 0.1 or not os.kill(_youngest(), signal.SIGKILL))


def test_one_that_does_not_answer_is_never_asked_again(good: Job, monkeypatch: pytest.MonkeyPatch) -> None:
    """Given up while it is at an order it is ended, used before or not: its late answer is nobody's."""
    order = Order("step", parts_to_make(good), False, "")
    assert carried_out(order, go_on)
    (process,) = waiting()
    monkeypatch.setattr(solids, "MOST_S", 0.05)
    with pytest.raises(ExportError, match="did not answer"):
        carried_out(replace(order, kind="views", parts=order.parts * 40), go_on)
    assert not waiting() and not alive(process)


def _youngest() -> int:
    with open(f"/proc/{os.getpid()}/task/{os.getpid()}/children") as text:
        return int(text.read().split()[-1])


def test_it_ends_with_the_program() -> None:
    """A program that ends, or is killed, leaves no process behind."""
    asks = (
        "import sys, os; from bicentra.study.papers import solids; from bicentra.study.papers.solids import Worker;"
        "solids._waiting.append(Worker()); print(solids._waiting[0]._process.pid, flush=True); sys.stdin.read()"
    )
    for kill in (False, True):
        with subprocess.Popen(
            [sys.executable, "-c", asks], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        ) as program:
            assert program.stdout is not None and program.stdin is not None
            process = int(program.stdout.readline())
            program.kill() if kill else program.stdin.close()
            program.wait(60)
        for _ in range(600):
            if not alive(process):
                break
            time.sleep(0.1)
        assert not alive(process)


def test_a_copy_that_crashes_is_told() -> None:
    """What ends without a word has made no file: the signal is named."""
    asks = (
        "import os, signal; from bicentra.formats import solid_worker as w;"
        "w.carry_out = lambda order: os.kill(os.getpid(), signal.SIGKILL); print(w._in_a_copy(w.Order('step', (), False, '')))"
    )
    done = subprocess.run([sys.executable, "-c", asks], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "the solid worker ended with -9"
