
import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('documents', '0008_copies'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Destination',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('place', models.JSONField()),
                ('secret', models.TextField(blank=True)),
                ('pattern', models.CharField(default='{title}', max_length=300)),
                ('clash', models.CharField(default='number', max_length=10)),
                ('takes', models.JSONField(default=list)),
                ('counter', models.PositiveIntegerField(default=0)),
                ('tried_at', models.DateTimeField(null=True)),
                ('tried_said', models.TextField(blank=True)),
                ('removed_at', models.DateTimeField(null=True)),
            ],
            options={
                'ordering': ['name', 'pk'],
                'constraints': [models.UniqueConstraint(condition=models.Q(('removed_at', None)), fields=('name',), name='one_destination_a_name')],
            },
        ),
        migrations.CreateModel(
            name='Delivery',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('mark', models.UUIDField(default=uuid.uuid4, unique=True)),
                ('title', models.CharField(max_length=200)),
                ('stack_name', models.CharField(max_length=200)),
                ('asked_at', models.DateTimeField()),
                ('pattern', models.CharField(max_length=300)),
                ('number', models.PositiveIntegerField(default=1)),
                ('counter', models.PositiveIntegerField(default=1)),
                ('name', models.TextField(blank=True)),
                ('message', models.JSONField(default=dict)),
                ('state', models.CharField(db_index=True, default='waiting', max_length=10)),
                ('tries', models.PositiveIntegerField(default=0)),
                ('due', models.FloatField(default=0)),
                ('held', models.BooleanField(default=False)),
                ('said', models.TextField(blank=True)),
                ('sha256', models.CharField(blank=True, max_length=64)),
                ('bytes', models.PositiveBigIntegerField(default=0)),
                ('where', models.TextField(blank=True)),
                ('proof', models.CharField(blank=True, max_length=10)),
                ('answer', models.TextField(blank=True)),
                ('arrived_at', models.DateTimeField(null=True)),
                ('check_due', models.FloatField(default=0)),
                ('check_said', models.TextField(blank=True)),
                ('checked_at', models.DateTimeField(null=True)),
                ('missing', models.TextField(blank=True)),
                ('asked_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('document', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='deliveries', to='documents.document')),
                ('destination', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='deliveries', to='dispatch.destination')),
            ],
            options={
                'ordering': ['-pk'],
            },
        ),
    ]
