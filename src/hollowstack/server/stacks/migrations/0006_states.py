"""Where a page stands is kept with it; what people look at is a table of its own; plans may be marked as of before."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

_THERE = "EXISTS (SELECT 1 FROM results_result WHERE key = {}_id)"
_STATE = """
UPDATE stacks_page SET
 state = CASE WHEN measured_id IS NULL OR NOT {opened} THEN 'open' WHEN NOT {measured} THEN 'measure'
  WHEN NOT {rendered} THEN 'correct' WHEN aside <> '' THEN 'aside' WHEN {reading} THEN 'ready' ELSE 'read' END,
 passed = CASE WHEN measured_id IS NULL OR NOT {opened} THEN 0 WHEN NOT {measured} THEN 1 WHEN NOT {rendered} THEN 2
  WHEN NOT {reading} THEN 3 ELSE 4 END
"""


def forward(apps, schema_editor):
    # What failed may have failed by the machine's fault: it is tried again.
    apps.get_model("results", "Result").objects.filter(body=None).delete()
    there = {name: _THERE.format(name) for name in ("opened", "measured", "rendered", "reading")}
    schema_editor.execute(_STATE.format(**there))


class Migration(migrations.Migration):

    dependencies = [
        ('results', '0002_faults'),
        ('stacks', '0005_batches'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Viewing',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.RemoveField(
            model_name='stack',
            name='open_page',
        ),
        migrations.AddField(
            model_name='page',
            name='passed',
            field=models.PositiveSmallIntegerField(default=0),
        ),
        migrations.AddField(
            model_name='page',
            name='state',
            field=models.CharField(choices=[('open', 'Open'), ('measure', 'Measure'), ('correct', 'Correct'), ('read', 'Read'), ('ready', 'Ready'), ('aside', 'Aside'), ('failed', 'Failed')], default='open', max_length=10),
        ),
        migrations.AddField(
            model_name='page',
            name='to_plan',
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name='stack',
            name='regroup',
            field=models.CharField(blank=True, max_length=10),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(fields=['stack', 'removed', 'state', 'passed'], name='pages_counted'),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(condition=models.Q(('removed', False), ('state__in', ['open', 'measure', 'correct', 'read'])), fields=['stack', 'position'], name='pages_waiting'),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(condition=models.Q(('to_plan', True)), fields=['stack'], name='pages_to_plan'),
        ),
        migrations.AddField(
            model_name='viewing',
            name='by',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='viewing',
            name='page',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='viewings', to='stacks.page'),
        ),
        migrations.AddField(
            model_name='viewing',
            name='stack',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='viewings', to='stacks.stack'),
        ),
        migrations.AddConstraint(
            model_name='viewing',
            constraint=models.UniqueConstraint(fields=('by', 'stack'), name='one_viewing_a_person'),
        ),
        migrations.RunPython(forward, migrations.RunPython.noop),
    ]
