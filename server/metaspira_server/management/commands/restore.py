"""manage.py restore FILE"""

from argparse import ArgumentParser
from pathlib import Path

from django.conf import settings
from django.core.management import BaseCommand, CommandError

from metaspira_server.keeping import NoBackup, restore


class Command(BaseCommand):
    help = "Put a backup in the place of all data here."
    requires_system_checks = ()

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, **options: Path) -> None:
        try:
            restore(settings.DATA, options["file"])
        except NoBackup as error:
            raise CommandError(str(error)) from None
        self.stdout.write("restored; start the server again where the secret was another one")
