"""A cache in Redis that is empty, not an error, while Redis cannot be reached."""

from __future__ import annotations

import logging
from typing import Any

from django.core.cache.backends.redis import RedisCache
from redis.exceptions import RedisError


class SteadyRedisCache(RedisCache):
    """Finds nothing and keeps nothing where Redis does not answer."""

    def get(self, key: Any, default: Any = None, version: int | None = None) -> Any:
        try:
            return super().get(key, default, version)
        except RedisError:
            return _missed(default)

    def set(self, key: Any, value: Any, timeout: Any = 300, version: int | None = None) -> None:
        try:
            super().set(key, value, timeout, version)
        except RedisError:
            _missed(None)

    def add(self, key: Any, value: Any, timeout: Any = 300, version: int | None = None) -> bool:
        try:
            return bool(super().add(key, value, timeout, version))
        except RedisError:
            return bool(_missed(False))

    def delete(self, key: Any, version: int | None = None) -> bool:
        try:
            return bool(super().delete(key, version))
        except RedisError:
            return bool(_missed(False))

    def incr(self, key: Any, delta: int = 1, version: int | None = None) -> int:
        try:
            return int(super().incr(key, delta, version))
        except (RedisError, ValueError):
            return int(_missed(0))


def _missed(instead: Any) -> Any:
    logging.getLogger(__name__).warning("Redis does not answer")
    return instead
