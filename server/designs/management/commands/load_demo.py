"""`manage.py load_demo`: the sample designs, for a shelf that never had a design."""

import json

from django.conf import settings
from django.core.management.base import BaseCommand
from library.services import keep_form

from designs import services
from designs.models import Design


class Command(BaseCommand):
    help = "Put the sample designs of Skerry Point Lamp Works on an empty shelf."

    def handle(self, *args: object, **options: object) -> None:
        if Design.objects.exists():
            return
        for file in sorted((settings.ROOT / "demo").glob("*.spira.json"), reverse=True):
            services.create(json.loads(file.read_text()))
        for file in sorted((settings.ROOT / "demo" / "forms").glob("*.json")):
            keep_form(**json.loads(file.read_text()), made_by="")
