
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0009_waiting_slips'),
    ]

    operations = [
        migrations.AddField(
            model_name='station',
            name='paper',
            field=models.JSONField(default=dict),
        ),
    ]
