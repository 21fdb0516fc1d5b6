
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('documents', '0006_language'),
        ('stacks', '0014_signed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Draft',
            fields=[
                ('stack', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='draft', serialize=False, to='stacks.stack')),
                ('body', models.JSONField(default=dict)),
                ('samples', models.JSONField(default=list)),
            ],
        ),
        migrations.AddField(
            model_name='document',
            name='order',
            field=models.JSONField(default=dict),
        ),
        migrations.AddField(
            model_name='documentpage',
            name='frame',
            field=models.PositiveIntegerField(default=0),
        ),
        migrations.AddField(
            model_name='documentpage',
            name='master',
            field=models.CharField(blank=True, max_length=64),
        ),
        migrations.AddField(
            model_name='documentpage',
            name='page',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='stacks.page'),
        ),
        migrations.AddField(
            model_name='documentpage',
            name='plan',
            field=models.JSONField(null=True),
        ),
        migrations.AddField(
            model_name='documentpage',
            name='read_on',
            field=models.JSONField(default=dict),
        ),
    ]
