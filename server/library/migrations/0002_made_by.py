"""A form belongs to whoever put it into the library."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("library", "0001_initial")]
    operations = [
        migrations.AddField(
            model_name="threadform",
            name="made_by",
            field=models.CharField(default="", max_length=40),
        ),
    ]
