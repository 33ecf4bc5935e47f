"""A property that is worked out once for each object, without a lock.

`functools.cached_property` of Python 3.11 holds one lock for all objects of a class while one of them works,
so that two threads whose properties need each other's classes wait for ever. From 3.12 on it holds none; this
is the same for every version.
"""

from __future__ import annotations

import sys
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING or sys.version_info >= (3, 12):
    from functools import cached_property
else:

    class cached_property:  # noqa: N801
        """Two threads that ask at one time may both work it out; the first answer stays."""

        def __init__(self, work: Any) -> None:
            self.work, self.__doc__ = work, work.__doc__

        def __set_name__(self, owner: type, name: str) -> None:
            self.name = name

        def __get__(self, instance: Any, owner: type | None = None) -> Any:
            if instance is None:
                return self
            known = instance.__dict__
            return (
                known[self.name] if self.name in known else known.setdefault(self.name, self.work(instance))
            )


__all__ = ["cached_property"]
