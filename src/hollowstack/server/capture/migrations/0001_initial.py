
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('stacks', '0001_initial'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Station',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('address', models.CharField(max_length=200, unique=True)),
                ('capabilities', models.JSONField()),
            ],
        ),
        migrations.CreateModel(
            name='Run',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('settings', models.JSONField()),
                ('started_at', models.DateTimeField(auto_now_add=True)),
                ('ended_at', models.DateTimeField(null=True)),
                ('state', models.CharField(choices=[('wanted', 'Wanted'), ('running', 'Running'), ('stopped', 'Stopped'), ('cancelling', 'Cancelling'), ('cancelled', 'Cancelled'), ('done', 'Done')], default='wanted', max_length=12)),
                ('problem', models.CharField(blank=True, max_length=300)),
                ('job', models.CharField(blank=True, max_length=300)),
                ('received', models.PositiveIntegerField(default=0)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('load', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to='stacks.load')),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='runs', to='stacks.stack')),
                ('station', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to='capture.station')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
    ]
