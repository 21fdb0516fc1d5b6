
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('documents', '0004_original'),
    ]

    operations = [
        migrations.AddField(
            model_name='documentpage',
            name='words',
            field=models.JSONField(default=dict),
        ),
    ]
