"""manage.py backup FILE"""

from argparse import ArgumentParser
from pathlib import Path

from django.conf import settings
from django.core.management import BaseCommand, CommandError

from metaspira_server.keeping import back_up


class Command(BaseCommand):
    help = "Keep the database, the secret and the files of jobs as one file (.tar.gz), while people work."
    requires_system_checks = ()

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, **options: Path) -> None:
        try:
            back_up(settings.DATA, options["file"])
        except OSError as error:
            raise CommandError(f"{options['file']}: {error.strerror or error}") from None
        self.stdout.write(f"{options['file']}: {options['file'].stat().st_size} bytes")
