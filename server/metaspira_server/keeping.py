"""The whole data as one file, while people work: out and in.

The database goes through SQLite's own backup, which takes what was committed at one moment (its main file
copied alone lacks what stands in the write-ahead log). Files of jobs are written once and never changed.
"""

from __future__ import annotations

import shutil
import sqlite3
import tarfile
import tempfile
from pathlib import Path

_DATABASE, _SECRET, _FILES = "metaspira.sqlite3", "secret", "builds"


class NoBackup(Exception):
    """A file that holds no backup, or not a whole one."""


def back_up(data: Path, out: Path) -> None:
    """The data of a folder as a tar file, readable by its owner alone; written beside it first and then put
    in its place."""
    draft = out.with_name(f".{out.name}.part")
    with tempfile.TemporaryDirectory(prefix="metaspira-") as folder:
        copy = Path(folder) / _DATABASE
        _copied(data / _DATABASE, copy)
        draft.touch(mode=0o600)
        with tarfile.open(draft, "w:gz") as file:
            file.add(copy, _DATABASE)
            file.add(data / _SECRET, _SECRET)
            if (data / _FILES).exists():
                file.add(data / _FILES, _FILES)
    draft.replace(out)


def restore(data: Path, source: Path) -> None:
    """Put a backup in the place of a folder's data, whole or not at all; a server that runs goes on with it.
    Raises NoBackup."""
    with tempfile.TemporaryDirectory(prefix="metaspira-", dir=data) as name:
        folder = Path(name)
        try:
            with tarfile.open(source) as file:
                file.extractall(folder, filter="data")
            _demand_whole(folder / _DATABASE)
        except (tarfile.TarError, OSError, EOFError, sqlite3.Error) as error:
            raise NoBackup(f"{source}: no whole backup ({error})") from None
        if (folder / _FILES).exists():
            shutil.copytree(folder / _FILES, data / _FILES, dirs_exist_ok=True)
        _copied(folder / _DATABASE, data / _DATABASE)
        if (folder / _SECRET).exists():
            (folder / _SECRET).replace(data / _SECRET)


def _copied(source: Path, target: Path) -> None:
    target.touch(mode=0o600)
    one, two = sqlite3.connect(source, timeout=60), sqlite3.connect(target, timeout=60)
    try:
        one.backup(two)
    finally:
        one.close()
        two.close()


def _demand_whole(file: Path) -> None:
    if not file.exists():
        raise OSError("it holds no database")
    database = sqlite3.connect(f"file:{file}?mode=ro", uri=True)
    try:
        (told,) = database.execute("PRAGMA quick_check").fetchone()
        if told != "ok":
            raise OSError(told)
        database.execute("SELECT count(*) FROM designs_revision")
    finally:
        database.close()
