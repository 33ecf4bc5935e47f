"""`manage.py person NAME`: add a person to the team, or give one a new password, read from standard input."""

import getpass
import sys
from argparse import ArgumentParser

from designs.models import Design
from django.contrib.auth import get_user_model
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError

from people.models import Role, Share


class Command(BaseCommand):
    help = (
        "Add a person to the team, or give one a new password. The first one owns the designs that "
        "nobody owns."
    )

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--administrator", action="store_true", help="they may use /admin/")

    def handle(self, *args: object, **options: object) -> None:
        name = str(options["name"])
        password = getpass.getpass() if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
        people = get_user_model()
        person = people.objects.filter(username=name).first() or people(username=name)
        try:
            person.full_clean(exclude=["password"])
            validate_password(password, person)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        person.set_password(password)
        if options["administrator"]:
            person.is_staff = person.is_superuser = True
        person.save()
        orphans = Design.objects.filter(shares=None)
        Share.objects.bulk_create(Share(design=design, person=person, role=Role.OWN) for design in orphans)
        self.stdout.write(f"{name} can sign in")
