"""What comes in together is a batch; results are named where they are now."""

import django.db.models.deletion
from django.db import migrations, models


def _named(name):
    return models.ForeignKey(
        "results.Result",
        null=True,
        on_delete=django.db.models.deletion.DO_NOTHING,
        db_constraint=False,
        related_name=name,
    )


class Migration(migrations.Migration):
    dependencies = [
        ("stacks", "0004_terms"),
        ("results", "0001_from_engine"),
        ("capture", "0002_slips_and_watched_folders"),
        ("documents", "0001_initial"),
    ]

    operations = [
        migrations.RemoveConstraint("source", "one_file_a_place"),
        migrations.RemoveConstraint("upload", "one_upload_a_place"),
        migrations.RenameModel("Load", "Batch"),
        migrations.RenameField("source", "load", "batch"),
        migrations.RenameField("upload", "load", "batch"),
        migrations.RenameField("change", "load", "batch"),
        migrations.AlterField(
            "batch",
            "stack",
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="batches", to="stacks.stack"),
        ),
        migrations.AddConstraint(
            "source", models.UniqueConstraint(fields=["batch", "index", "part"], name="one_file_a_place")
        ),
        migrations.AddConstraint(
            "upload", models.UniqueConstraint(fields=["batch", "index"], name="one_upload_a_place")
        ),
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField("page", "opened", _named("pages_opened")),
                migrations.AlterField("page", "measured", _named("pages_measured")),
                migrations.AlterField("page", "rendered", _named("pages_rendered")),
                migrations.AlterField("page", "reading", _named("pages_read")),
            ]
        ),
    ]
