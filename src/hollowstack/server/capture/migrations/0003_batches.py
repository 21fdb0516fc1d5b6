"""What comes in together is a batch."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("capture", "0002_slips_and_watched_folders"), ("stacks", "0005_batches")]

    operations = [
        migrations.RenameField("run", "load", "batch"),
        migrations.RenameField("watch", "load", "batch"),
    ]
