
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0012_lid_tones'),
    ]

    operations = [
        migrations.AlterField(
            model_name='waitingslip',
            name='seen',
            field=models.CharField(blank=True, choices=[('', 'Nothing'), ('paper', 'Paper'), ('started', 'Started'), ('leaving', 'Leaving')], max_length=8),
        ),
    ]
