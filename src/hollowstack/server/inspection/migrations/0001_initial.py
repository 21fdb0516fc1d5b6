import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('stacks', '0013_verdicts'),
    ]

    operations = [
        migrations.CreateModel(
            name='PageFacts',
            fields=[
                ('page', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='facts', serialize=False, to='stacks.page')),
                ('checked', models.PositiveBigIntegerField()),
                ('image', models.CharField(blank=True, max_length=100)),
                ('bits', models.CharField(blank=True, max_length=128)),
                ('sketch', models.CharField(blank=True, max_length=512)),
                ('numbers', models.JSONField(default=list)),
                ('size_mm', models.JSONField(null=True)),
                ('turn', models.PositiveSmallIntegerField(null=True)),
                ('asks_turn', models.BooleanField(default=False)),
            ],
        ),
        migrations.CreateModel(
            name='StackCheck',
            fields=[
                ('stack', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='checked_together', serialize=False, to='stacks.stack')),
                ('wanted', models.PositiveBigIntegerField(default=0)),
                ('done', models.PositiveBigIntegerField(default=0)),
            ],
        ),
        migrations.CreateModel(
            name='Finding',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=40)),
                ('verdict', models.CharField(max_length=6)),
                ('value', models.FloatField(null=True)),
                ('limit', models.FloatField(null=True)),
                ('message', models.CharField(max_length=400)),
                ('spot', models.JSONField(null=True)),
                ('clean_spot', models.JSONField(null=True)),
                ('judged', models.CharField(max_length=64)),
                ('together', models.BooleanField(default=False)),
                ('page', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='findings', to='stacks.page')),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='findings', to='stacks.stack')),
            ],
            options={
                'indexes': [models.Index(fields=['stack', 'page'], name='findings_of_stacks')],
            },
        ),
    ]
