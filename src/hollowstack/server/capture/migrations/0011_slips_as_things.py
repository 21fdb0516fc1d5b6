
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0010_paper'),
    ]

    operations = [
        migrations.AlterModelOptions(
            name='orderslip',
            options={'ordering': ['position', 'name']},
        ),
        migrations.AddField(
            model_name='orderslip',
            name='asks',
            field=models.JSONField(default=list),
        ),
        migrations.AddField(
            model_name='orderslip',
            name='original',
            field=models.JSONField(default=dict),
        ),
        migrations.AddField(
            model_name='orderslip',
            name='pages_a_document',
            field=models.PositiveIntegerField(default=1),
        ),
        migrations.AddField(
            model_name='orderslip',
            name='position',
            field=models.PositiveIntegerField(default=0),
        ),
        migrations.AddField(
            model_name='orderslip',
            name='shared',
            field=models.BooleanField(default=True),
        ),
        migrations.AddField(
            model_name='waitingslip',
            name='answers',
            field=models.JSONField(default=dict),
        ),
    ]
