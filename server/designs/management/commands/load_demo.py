"""`manage.py load_demo`: the sample designs, for a shelf that never had a design."""

import json

from django.conf import settings
from django.core.management.base import BaseCommand

from designs import services
from designs.models import Design


class Command(BaseCommand):
    help = "Put the sample designs of Skerry Point Lamp Works on an empty shelf."

    def handle(self, *args: object, **options: object) -> None:
        if Design.objects.exists():
            return
        for file in sorted((settings.ROOT / "demo").glob("*.spira.json"), reverse=True):
            services.create(json.loads(file.read_text()))
