"""Functions compiled by Numba: ahead of time into one library, so that nothing waits for a compiler.

`build` makes the library, beside this file. Where there is none that fits the machine, or a function has
changed since, each is compiled when it is first called, about a minute in all, and kept in Numba's own cache.
"""

from __future__ import annotations

import hashlib
import importlib
from collections.abc import Callable
from importlib.machinery import EXTENSION_SUFFIXES, ExtensionFileLoader
from importlib.util import module_from_spec, spec_from_file_location
from pathlib import Path
from types import ModuleType
from typing import Any, TypeAlias, cast

import numpy as np

MODULES = (
    "drawings.seen", "formats.raster", "gaps.bends", "gaps.hulls", "gaps.inside", "gaps.nodes",
    "gaps.reach", "gaps.screws", "gaps.search", "gaps.separation", "numbers.nearest",
    "numbers.quadrature", "numbers.taylor", "numbers.vectors", "paths.helix", "paths.path",
    "paths.transport", "sweep.frames", "sweep.ground", "threads.air",
)  # fmt: skip
"""Where there are such functions, or constants that they hold."""

Argument: TypeAlias = str | tuple[Any, ...]
"""A type as Numba writes it, of arrays in C order only; or a named tuple's class and those of its fields."""

_HERE = Path(__file__).parent
_DTYPES = {name: np.dtype(name) for name in ("f8", "i4", "i8", "u1")}
_EXPORTED: dict[str, tuple[Callable[..., Any], tuple[Argument, ...]]] = {}


def compiled(*arguments: Argument) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Compile a function of numbers and arrays that has these arguments; without any it is for other compiled
    functions to call."""

    def made(function: Callable[..., Any]) -> Callable[..., Any]:
        name = f"{function.__module__}.{function.__name__}".replace(".", "_")
        if _LIBRARY is None:
            from numba import njit

            if arguments:
                _EXPORTED[name] = function, arguments
            inner = not arguments
            jit = njit(cache=True, no_cpython_wrapper=inner, no_cfunc_wrapper=inner)
            return cast(Callable[..., Any], jit(function))
        return _demanding(getattr(_LIBRARY, name), arguments) if arguments else function

    return made


def is_ahead() -> bool:
    """Whether they are compiled already, in a library that fits."""
    return _LIBRARY is not None


def library() -> Path:
    """Where the library of the functions as they are is, if it was made."""
    state = hashlib.sha256()
    for name in MODULES:
        state.update((_HERE.parent / f"{name.replace('.', '/')}.py").read_bytes())
    return _HERE / f"_compiled_{state.hexdigest()[:16]}{EXTENSION_SUFFIXES[0]}"


def build() -> None:
    """Make the library in place of any before; that takes Numba and a C compiler."""
    from numba.pycc import CC

    file = library()
    if file.is_file():
        return
    for name in MODULES:
        importlib.import_module(f"metaspira.{name}")
    compiler = CC(file.name.split(".")[0])
    compiler.output_dir = str(_HERE)
    for name, (function, arguments) in _EXPORTED.items():
        compiler.export(name, tuple(_type(one) for one in arguments))(function)
    compiler.compile()
    for old in _HERE.glob("_compiled_*"):
        if old != file:
            old.unlink()


def _type(argument: Argument) -> Any:
    from numba.core import sigutils
    from numba.core.types.containers import NamedTuple

    if isinstance(argument, str):
        return sigutils.normalize_signature(f"({argument},)")[0][0]
    of, *fields = argument
    return NamedTuple([_type(one) for one in fields], of)


def _demanding(run: Callable[..., Any], arguments: tuple[Argument, ...]) -> Callable[..., Any]:
    """A function of the library with the arrays that it was made for; it does not look at them itself. Those
    of a named tuple are right where that is made."""
    arrays = [
        (k, _DTYPES[one[:2]], one.count(",") + 1)
        for k, one in enumerate(arguments)
        if isinstance(one, str) and "[" in one
    ]

    def called(*given: Any) -> Any:
        handed = list(given)
        for k, dtype, axes in arrays:
            one = handed[k]
            if one.ndim != axes:
                raise TypeError(f"{arguments[k]} is wanted, not {one.ndim} axes")
            if one.dtype is not dtype or not one.flags.c_contiguous:
                handed[k] = np.ascontiguousarray(one, dtype)
        return run(*handed)

    return called


def _loaded() -> ModuleType | None:
    file = library()
    if not file.is_file():
        return None
    name = file.name.split(".")[0]
    spec = spec_from_file_location(name, file, loader=ExtensionFileLoader(name, str(file)))
    assert spec is not None and spec.loader is not None
    try:
        module = module_from_spec(spec)
        spec.loader.exec_module(module)
    except ImportError:
        return None
    return module


_LIBRARY = _loaded()
