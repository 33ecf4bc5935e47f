import hashlib
import json
from typing import Any

from django.db import migrations, models


def name_meshes(apps: Any, schema_editor: Any) -> None:
    """Keep each mesh once, and name it in the recipes."""
    Mesh, Revision = apps.get_model("designs", "Mesh"), apps.get_model("designs", "Revision")
    for key in Revision.objects.values_list("pk", flat=True):
        kept = Revision.objects.values_list("kept", flat=True).get(pk=key)
        fit = kept.get("fit") if isinstance(kept, dict) else None
        bodies = fit.get("bodies") if isinstance(fit, dict) else None
        changed = False
        for body in bodies if isinstance(bodies, list) else ():
            mesh = body.get("mesh") if isinstance(body, dict) else None
            if isinstance(mesh, dict) and set(mesh) == {"vertices", "faces"}:
                text = json.dumps(mesh, sort_keys=True, separators=(",", ":"))
                digest = hashlib.sha256(text.encode()).hexdigest()
                Mesh.objects.get_or_create(digest=digest, defaults={"triangles": mesh})
                body["mesh"], changed = {"sha256": digest}, True
        if changed:
            Revision.objects.filter(pk=key).update(kept=kept)


class Migration(migrations.Migration):
    dependencies = [("designs", "0001_initial")]

    operations = [
        migrations.CreateModel(
            name="Mesh",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("digest", models.CharField(max_length=64, unique=True)),
                ("triangles", models.JSONField()),
            ],
        ),
        migrations.RenameField(model_name="revision", old_name="recipe", new_name="kept"),
        migrations.RunPython(name_meshes, migrations.RunPython.noop),
    ]
