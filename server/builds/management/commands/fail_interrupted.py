"""`manage.py fail_interrupted`: run before the worker starts, when no build can be running."""

from django.core.management.base import BaseCommand

from builds import services


class Command(BaseCommand):
    help = "Mark the builds that an earlier worker left in the middle."

    def handle(self, *args: object, **options: object) -> None:
        services.fail_interrupted()
