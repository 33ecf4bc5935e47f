"""Linear algebra keeps to one thread: the matrices of this job are small, and on a busy machine threads that
wait for each other take ten times as long."""

import os


def on_one_thread() -> None:
    """For this process and those that it starts, unless their environment says otherwise; before NumPy is
    loaded."""
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
