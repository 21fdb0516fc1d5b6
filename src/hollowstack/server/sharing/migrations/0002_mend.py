from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('sharing', '0001_initial'),
    ]

    operations = [
        migrations.AlterField(
            model_name='share',
            name='right',
            field=models.CharField(choices=[('look', 'Look'), ('take', 'Take'), ('mend', 'Mend')], max_length=10),
        ),
        migrations.AlterField(
            model_name='use',
            name='what',
            field=models.CharField(choices=[('opened', 'Opened'), ('taken', 'Taken'), ('mended', 'Mended')], max_length=10),
        ),
    ]
