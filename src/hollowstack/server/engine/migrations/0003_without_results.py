"""Results have gone to a place of their own."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("engine", "0002_versions"), ("stacks", "0005_batches")]

    operations = [migrations.SeparateDatabaseAndState(state_operations=[migrations.DeleteModel("Result")])]
