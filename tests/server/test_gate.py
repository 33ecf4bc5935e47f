"""How many threads may wait for the database's one writer."""

import threading
from types import SimpleNamespace

import pytest
from django.db import OperationalError
from metaspira_server.faults import told_of
from metaspira_server.gate import MOST_WAITING, Busy, passed

FREE = {"connection": SimpleNamespace(in_atomic_block=False)}
INSIDE = {"connection": SimpleNamespace(in_atomic_block=True)}


def answered(sql, params, many, context):
    return sql


@pytest.fixture
def waiting():
    """As many writes as may wait, waiting until the test has ended."""
    held, inside = threading.Event(), threading.Semaphore(0)

    def wait(sql, params, many, context):
        inside.release()
        held.wait(30)

    writers = [
        threading.Thread(target=passed, args=(wait, "BEGIN IMMEDIATE", None, False, FREE))
        for _ in range(MOST_WAITING)
    ]
    for writer in writers:
        writer.start()
    for _ in writers:
        inside.acquire()
    yield
    held.set()
    for writer in writers:
        writer.join()
    assert passed(answered, "BEGIN IMMEDIATE", None, False, FREE) == "BEGIN IMMEDIATE"


@pytest.mark.parametrize(
    "sql", ["BEGIN IMMEDIATE", "INSERT INTO a VALUES (1)", " update a SET b = 1", "DELETE FROM a"]
)
def test_one_more_write_is_told_to_come_again(waiting, sql):
    with pytest.raises(OperationalError) as caught:
        passed(answered, sql, None, False, FREE)
    assert isinstance(caught.value, Busy)
    assert told_of(caught.value)[0] == 503


def test_reads_and_writes_within_a_transaction_pass(waiting):
    assert passed(answered, "SELECT 1", None, False, FREE) == "SELECT 1"
    assert passed(answered, "INSERT INTO a VALUES (1)", None, False, INSIDE)
