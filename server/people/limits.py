"""How often somebody may ask."""

from __future__ import annotations

import hashlib
import time

from django.conf import settings
from django.core.cache import caches
from django.http import HttpRequest
from ninja.throttling import SimpleRateThrottle

from people.access import person_of


class MinuteThrottle(SimpleRateThrottle):
    """So many requests a minute of a person, or from an address where nobody is known. A request counts in
    one step, so that those at one time all count; a count that is cleared meanwhile begins anew."""

    cache = caches["limits"]
    scope = "minute"

    def get_rate(self) -> str:
        return f"{settings.RATE}/min"

    def get_cache_key(self, request: HttpRequest) -> str:
        person = person_of(request)
        who = f"person {person.pk}" if person else f"address {self.get_ident(request)}"
        ident = hashlib.sha256(who.encode(errors="replace")).hexdigest()
        return self.cache_format % {"scope": self.scope, "ident": f"{ident}_{int(time.time() // 60)}"}

    def allow_request(self, request: HttpRequest) -> bool:
        key = self.get_cache_key(request)
        self.cache.add(key, 0, 120)
        try:
            return bool(self.cache.incr(key) <= settings.RATE)
        except ValueError:
            return True

    def wait(self) -> float:
        return 60 - time.time() % 60
