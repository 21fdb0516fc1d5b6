
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0008_timing'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='WaitingSlip',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('seen', models.CharField(blank=True, choices=[('', 'Nothing'), ('paper', 'Paper'), ('started', 'Started')], max_length=8)),
                ('keys', models.PositiveIntegerField(null=True)),
                ('problem', models.CharField(blank=True, max_length=300)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('slip', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='waiting', to='capture.orderslip')),
                ('station', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='waiting', to='capture.station')),
            ],
        ),
    ]
