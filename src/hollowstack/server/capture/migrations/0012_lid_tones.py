
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0011_slips_as_things'),
    ]

    operations = [
        migrations.AddField(
            model_name='station',
            name='lid_tones',
            field=models.JSONField(default=list),
        ),
    ]
