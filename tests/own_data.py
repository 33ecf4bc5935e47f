"""Each process that runs tests has data of its own: database, queue, caches and built files."""

import atexit
import os
import shutil
import tempfile

FOLDER = tempfile.mkdtemp(prefix="metaspira-tests-")
os.environ["METASPIRA_DATA"] = FOLDER
atexit.register(shutil.rmtree, FOLDER, ignore_errors=True)
