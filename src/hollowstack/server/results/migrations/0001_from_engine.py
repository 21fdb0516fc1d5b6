"""Results get a place below stacks and engine; their table is the one that the engine made."""

from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True

    dependencies = [("engine", "0001_initial"), ("stacks", "0004_terms")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="Result",
                    fields=[
                        ("key", models.CharField(max_length=64, primary_key=True, serialize=False)),
                        ("step", models.CharField(max_length=10)),
                        ("body", models.JSONField(null=True)),
                        ("error", models.TextField(blank=True)),
                        ("made_at", models.DateTimeField(auto_now_add=True)),
                    ],
                    options={"db_table": "engine_result"},
                ),
            ],
        ),
    ]
