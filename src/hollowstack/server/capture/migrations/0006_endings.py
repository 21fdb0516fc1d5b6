
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0005_found_stations'),
    ]

    operations = [
        migrations.AddField(
            model_name='run',
            name='outcome',
            field=models.CharField(blank=True, max_length=300),
        ),
        migrations.AlterField(
            model_name='run',
            name='state',
            field=models.CharField(choices=[('wanted', 'Wanted'), ('running', 'Running'), ('pausing', 'Pausing'), ('stopped', 'Stopped'), ('finishing', 'Finishing'), ('cancelling', 'Cancelling'), ('cancelled', 'Cancelled'), ('done', 'Done')], default='wanted', max_length=12),
        ),
    ]
