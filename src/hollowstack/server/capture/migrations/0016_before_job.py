from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0015_send_to'),
    ]

    operations = [
        migrations.AddField(
            model_name='run',
            name='before_job',
            field=models.PositiveIntegerField(default=0),
        ),
    ]
