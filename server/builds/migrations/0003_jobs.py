from typing import Any

from django.db import migrations, models


def forward(apps: Any, schema_editor: Any) -> None:
    """What a build gave stands in its result; its files keep their place."""
    for build in apps.get_model("builds", "Build").objects.all():
        suffixes = list(build.result)
        build.result = {
            "proofs": build.result,
            "files": {suffix: f"{build.pk}/part{suffix}" for suffix in suffixes},
            "sizes": {suffix: 0 for suffix in suffixes},
        } if suffixes else {}
        if build.state in ("queued", "running"):
            build.state, build.error = "failed", "Metaspira was renewed meanwhile; build again"
        build.save()


class Migration(migrations.Migration):

    dependencies = [
        ('builds', '0002_formats'),
    ]

    operations = [
        migrations.RenameField(model_name='build', old_name='proofs', new_name='result'),
        migrations.RemoveField(model_name='build', name='cancel_wanted'),
        migrations.AddField(model_name='build', name='attempt', field=models.PositiveIntegerField(default=0)),
        migrations.AddField(model_name='build', name='beat', field=models.PositiveIntegerField(default=0)),
        migrations.AddField(model_name='build', name='beat_seen', field=models.DateTimeField(null=True)),
        migrations.RunPython(forward, migrations.RunPython.noop),
    ]
