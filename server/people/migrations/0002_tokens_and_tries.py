"""Tokens read or edit, and end; those of before may edit for ninety more days. Tries to sign in are rows."""

from datetime import datetime, timedelta

from django.db import migrations, models
from django.utils import timezone


def _in_ninety_days() -> datetime:
    return timezone.now() + timedelta(days=90)


class Migration(migrations.Migration):
    dependencies = [("people", "0001_initial")]
    operations = [
        migrations.CreateModel(
            name="SignInTry",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("at", models.DateTimeField(auto_now_add=True, db_index=True)),
                ("name", models.CharField(max_length=64)),
                ("address", models.CharField(max_length=64)),
            ],
        ),
        migrations.AddField(
            model_name="token",
            name="expires",
            field=models.DateTimeField(default=_in_ninety_days),
            preserve_default=False,
        ),
        migrations.AddField(
            model_name="token",
            name="may_edit",
            field=models.BooleanField(default=True),
        ),
        migrations.AlterField(
            model_name="token",
            name="may_edit",
            field=models.BooleanField(default=False),
        ),
    ]
