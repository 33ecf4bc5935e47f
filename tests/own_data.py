"""Each process that runs tests has data of its own, database, queue, caches and built files; and calculates
as the server does."""

import atexit
import os
import shutil
import tempfile

from metaspira.blas import on_one_thread

on_one_thread()
FOLDER = tempfile.mkdtemp(prefix="metaspira-tests-")
os.environ["METASPIRA_DATA"] = FOLDER
atexit.register(shutil.rmtree, FOLDER, ignore_errors=True)
