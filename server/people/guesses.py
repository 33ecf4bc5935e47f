"""Guessing passwords is slowed down: by person and address together, so that nobody is locked out from
elsewhere, and by address. Each try is a row, written before the password is looked at, so that tries at one
time all count."""

from __future__ import annotations

import hashlib
from datetime import timedelta

from django.utils import timezone

from people.models import SignInTry

_WHILE = timedelta(minutes=1)
_OF_ONE, _FROM_ONE = 10, 30


def too_many(name: str, address: str) -> bool:
    """Note a try to sign in; True past what is allowed in a minute."""
    now = timezone.now()
    digest = hashlib.sha256(name.encode(errors="replace")).hexdigest()
    SignInTry.objects.filter(at__lt=now - 60 * _WHILE).delete()
    SignInTry.objects.create(name=digest, address=address[:64])
    tries = SignInTry.objects.filter(at__gt=now - _WHILE, address=address[:64])
    return tries.filter(name=digest).count() > _OF_ONE or tries.count() > _FROM_ONE
