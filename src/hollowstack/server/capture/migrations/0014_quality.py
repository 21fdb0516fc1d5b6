import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0013_leaving'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='QualityCheck',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
                ('master', models.CharField(max_length=64)),
                ('kind', models.CharField(max_length=40)),
                ('quality', models.JSONField()),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('station', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='quality', to='capture.station')),
            ],
            options={
                'ordering': ['at', 'pk'],
                'constraints': [models.UniqueConstraint(fields=('station', 'master'), name='one_check_an_image')],
            },
        ),
    ]
