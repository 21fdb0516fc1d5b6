"""What the last engine worked by."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("engine", "0001_initial")]

    operations = [
        migrations.AddField("heartbeat", "versions", models.CharField(max_length=40, default="", blank=True)),
    ]
