"""Work that is spread over processes: in order, ended when told to, and never silent."""

import os
import signal
import time

import pytest
from metaspira.problems import Cancelled, Interrupted
from metaspira.processes import spread

HERE = __name__


def _square(number: int) -> int:
    time.sleep(0.02 * (number % 3))
    return number * number


def _fails_at_five(number: int) -> int:
    if number == 5:
        raise ValueError("five")
    return number


def _stopped_at_five(number: int) -> int:
    if number == 5:
        os.kill(os.getpid(), signal.SIGKILL)
    return number


def _process(number: int) -> int:
    time.sleep(0.1)
    return os.getpid()


def _long(number: int) -> int:
    time.sleep(60)
    return number


def never() -> bool:
    return False


def test_answers_come_in_the_order_of_what_is_given():
    assert list(spread(_square, range(20), never, HERE)) == [n * n for n in range(20)]
    assert list(spread(_square, [7], never, HERE)) == [49]
    assert list(spread(_square, [], never, HERE)) == []


def test_every_processor_works():
    at_work = set(spread(_process, range(12), never, HERE))
    assert len(at_work) == len(os.sched_getaffinity(0))
    assert os.getpid() not in at_work or len(at_work) == 1


def test_what_fails_is_raised_where_it_stands():
    found = spread(_fails_at_five, range(9), never, HERE)
    assert [next(found) for _ in range(5)] == [0, 1, 2, 3, 4]
    with pytest.raises(ValueError, match="five"):
        next(found)


def test_it_ends_where_it_is_told_to_and_leaves_no_process():
    begun = time.monotonic()
    with pytest.raises(Cancelled):
        list(spread(_long, range(4), lambda: time.monotonic() - begun > 1, HERE))
    assert time.monotonic() - begun < 30


def test_a_child_that_is_stopped_is_told():
    with pytest.raises(Interrupted):
        list(spread(_stopped_at_five, range(9), never, HERE))
