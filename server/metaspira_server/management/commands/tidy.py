"""manage.py tidy [--every HOURS]"""

import time
from argparse import ArgumentParser

from django.core.management import BaseCommand
from django.utils import timezone

from metaspira_server.health import disk_use
from metaspira_server.tidying import tidy


class Command(BaseCommand):
    help = "Take out what is no longer needed, and say how the disk is used."
    requires_system_checks = ()

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--every", type=float, metavar="HOURS", help="again and again")

    def handle(self, *args: object, **options: float | None) -> None:
        while True:
            taken = tidy(timezone.now())
            self.stdout.write("taken out: " + ", ".join(f"{n} {what}" for what, n in taken.items()))
            for what, size in disk_use().items():
                self.stdout.write(f"{what:10} {size / 1e6:10.1f} MB")
            if options["every"] is None:
                return
            time.sleep(options["every"] * 3600)
