
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('results', '0002_faults'),
        ('stacks', '0010_original'),
    ]

    operations = [
        migrations.AddField(
            model_name='page',
            name='indexed',
            field=models.CharField(blank=True, max_length=64),
        ),
        migrations.AddField(
            model_name='page',
            name='words',
            field=models.JSONField(default=dict),
        ),
        migrations.AddField(
            model_name='stack',
            name='word_list',
            field=models.JSONField(default=list),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(condition=models.Q(('removed', False), ('state', 'ready'), models.Q(('indexed', models.F('reading')), _negated=True)), fields=['stack'], name='pages_to_index'),
        ),
    ]
