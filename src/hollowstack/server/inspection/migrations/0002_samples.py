import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('inspection', '0001_initial'),
        ('stacks', '0014_signed'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Sample',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('first', models.PositiveBigIntegerField(null=True)),
                ('source', models.CharField(max_length=400)),
                ('level', models.CharField(max_length=3)),
                ('aql', models.CharField(max_length=4)),
                ('severity', models.CharField(max_length=10)),
                ('letter', models.CharField(blank=True, max_length=1)),
                ('accept', models.PositiveIntegerField()),
                ('reject', models.PositiveIntegerField()),
                ('seed', models.PositiveBigIntegerField()),
                ('lot', models.JSONField()),
                ('drawn', models.JSONField()),
                ('everything', models.BooleanField(default=False)),
                ('state', models.CharField(choices=[('open', 'Open'), ('accepted', 'Accepted'), ('rejected', 'Rejected'), ('withdrawn', 'Withdrawn')], default='open', max_length=10)),
                ('returned', models.BooleanField(default=False)),
                ('decided_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('decided_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='samples', to='stacks.stack')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='Look',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('worst', models.CharField(blank=True, max_length=8)),
                ('note', models.CharField(blank=True, max_length=400)),
                ('judged', models.CharField(max_length=64)),
                ('at', models.DateTimeField(auto_now=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('page', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='looks', to='stacks.page')),
                ('sample', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='looks', to='inspection.sample')),
            ],
        ),
        migrations.CreateModel(
            name='Signature',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('by', models.CharField(max_length=150)),
                ('at', models.DateTimeField()),
                ('record', models.JSONField()),
                ('reopened_at', models.DateTimeField(null=True)),
                ('reopened_by', models.CharField(blank=True, max_length=150)),
                ('reopened_why', models.CharField(blank=True, max_length=400)),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='signatures', to='stacks.stack')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.AddConstraint(
            model_name='sample',
            constraint=models.UniqueConstraint(condition=models.Q(('state', 'open')), fields=('stack',), name='one_open_sample_a_stack'),
        ),
        migrations.AddConstraint(
            model_name='look',
            constraint=models.UniqueConstraint(fields=('sample', 'page'), name='one_look_a_page'),
        ),
    ]
