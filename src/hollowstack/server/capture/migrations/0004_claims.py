
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0003_batches'),
    ]

    operations = [
        migrations.AddField(
            model_name='run',
            name='claimed_by',
            field=models.CharField(blank=True, max_length=32),
        ),
    ]
