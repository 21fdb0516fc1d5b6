import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('results', '0002_faults'),
        ('stacks', '0012_languages'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Verdict',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=40)),
                ('judged', models.CharField(max_length=64)),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.AddField(
            model_name='page',
            name='open_findings',
            field=models.PositiveSmallIntegerField(default=0),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(condition=models.Q(('open_findings__gt', 0), ('removed', False)), fields=['stack'], name='pages_to_inspect'),
        ),
        migrations.AddField(
            model_name='verdict',
            name='by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='verdict',
            name='page',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='verdicts', to='stacks.page'),
        ),
        migrations.AddField(
            model_name='verdict',
            name='stack',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='verdicts', to='stacks.stack'),
        ),
        migrations.AddConstraint(
            model_name='verdict',
            constraint=models.UniqueConstraint(fields=('stack', 'page', 'kind', 'judged'), name='one_verdict_a_finding'),
        ),
    ]
