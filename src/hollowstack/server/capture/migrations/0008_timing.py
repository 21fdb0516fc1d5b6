
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0007_single_sheets'),
    ]

    operations = [
        migrations.AddField(
            model_name='run',
            name='jobs',
            field=models.PositiveIntegerField(default=0),
        ),
        migrations.AddField(
            model_name='run',
            name='seconds',
            field=models.FloatField(default=0.0),
        ),
    ]
