"""A file that a part can become: what it is called, which parts it fits, and how it is made."""

from __future__ import annotations

import importlib
from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path as FilePath
from typing import Any, ClassVar

from metaspira.parts import AnyPart, Part
from metaspira.problems import Problem, RecipeError
from metaspira.processes import Progress
from metaspira.solids.proof import Proof


def any_part(part: AnyPart) -> Problem | None:
    """What fits every part."""
    return None


def wound_only(reason: str, remedy: str) -> Callable[[AnyPart], Problem | None]:
    """What does not fit a thread."""
    return lambda part: None if isinstance(part, Part) else Problem("/thread", reason, remedy)


def written_by(module: str) -> Callable[[AnyPart, FilePath, float, Progress], Proof]:
    """`write` of a module that is slow to import, and is imported when something is written."""

    def write(part: AnyPart, file: FilePath, chord_error: float, progress: Progress) -> Proof:
        found: Proof = importlib.import_module(module).write(part, file, chord_error, progress)
        return found

    return write


@dataclass(frozen=True)
class Output(ABC):
    """`key` is how a file's name ends, such as “path.csv”; outputs with the same `what` stand together; `use`
    says what one is for. `misfit` says why a part cannot become one."""

    key: str
    what: str
    title: str
    use: str
    media: str
    misfit: Callable[[AnyPart], Problem | None]
    built: ClassVar[bool]
    """Whether it is built in a child process, with a chord error, and takes its time."""

    @property
    def suffix(self) -> str:
        """Of its file: the format's own, and the whole key where it is built."""
        return "." + (self.key if self.built else self.key.rpartition(".")[2])

    def demand_fit(self, part: AnyPart) -> None:
        """Raises RecipeError where the part cannot become one."""
        problem = self.misfit(part)
        if problem is not None:
            raise RecipeError(problem)

    def save(
        self,
        part: AnyPart,
        file: FilePath,
        chord_error: float | None = None,
        progress: Progress = lambda share, step: None,
    ) -> dict[str, Any]:
        """Write the file, and give what was measured on it as read back: its `relative_error`, where it has
        one, and the rest. Raises RecipeError, BuildError, OSError."""
        self.demand_fit(part)
        return self._saved(part, file, chord_error, progress)

    @abstractmethod
    def _saved(
        self, part: AnyPart, file: FilePath, chord_error: float | None, progress: Progress
    ) -> dict[str, Any]:
        """The same of a part that it fits."""


@dataclass(frozen=True)
class Built(Output):
    """`write(part, file, chord_error, progress)` proves what it wrote; it runs in a child process, and
    imports what is slow to import only there."""

    write: Callable[[AnyPart, FilePath, float, Progress], Proof]
    built = True

    def _saved(
        self, part: AnyPart, file: FilePath, chord_error: float | None, progress: Progress
    ) -> dict[str, Any]:
        from metaspira.outputs.building import build_files

        return build_files(part, [file], chord_error, progress)[self.suffix]


@dataclass(frozen=True)
class Made(Output):
    """`make(part)` gives the file's bytes, and what was measured on them as read back."""

    make: Callable[[AnyPart], tuple[bytes, dict[str, Any]]]
    built = False

    def _saved(
        self, part: AnyPart, file: FilePath, chord_error: float | None, progress: Progress
    ) -> dict[str, Any]:
        data, proof = self.make(part)
        file.write_bytes(data)
        return proof

    def bytes_of(self, part: AnyPart) -> tuple[bytes, dict[str, Any]]:
        """The file, and what was measured on it as read back. Raises RecipeError."""
        self.demand_fit(part)
        return self.make(part)


def _in(
    make: Callable[[AnyPart, str], tuple[bytes, dict[str, Any]]], suffix: str
) -> Callable[[AnyPart], tuple[bytes, dict[str, Any]]]:
    return lambda part: make(part, suffix)


def made_in(
    formats: Mapping[str, str],
    key: str,
    what: str,
    use: str,
    misfit: Callable[[AnyPart], Problem | None],
    make: Callable[[AnyPart, str], tuple[bytes, dict[str, Any]]],
) -> tuple[Made, ...]:
    """The same thing in several `formats`, media types by suffix without its dot, which `make` is given."""
    return tuple(
        Made(f"{key}.{suffix}", what, suffix.upper(), use, media, misfit, _in(make, suffix))
        for suffix, media in formats.items()
    )
