
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0006_endings'),
    ]

    operations = [
        migrations.AddField(
            model_name='run',
            name='single',
            field=models.JSONField(default=list),
        ),
    ]
