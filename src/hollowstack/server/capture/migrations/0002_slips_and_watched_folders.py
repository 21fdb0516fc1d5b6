
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0001_initial'),
        ('stacks', '0002_uploads'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='run',
            name='bind_as',
            field=models.CharField(blank=True, max_length=200),
        ),
        migrations.CreateModel(
            name='OrderSlip',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80, unique=True)),
                ('settings', models.JSONField()),
                ('treatment', models.CharField(max_length=80)),
                ('new_document_after', models.CharField(max_length=20)),
                ('naming', models.CharField(max_length=120)),
                ('used', models.PositiveIntegerField(default=0)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('station', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='slips', to='capture.station')),
            ],
            options={
                'ordering': ['name'],
            },
        ),
        migrations.CreateModel(
            name='Watch',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('on', models.BooleanField(default=False)),
                ('taken', models.PositiveIntegerField(default=0)),
                ('notes', models.JSONField(default=list)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('load', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to='stacks.load')),
                ('stack', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='watch', to='stacks.stack')),
            ],
        ),
    ]
