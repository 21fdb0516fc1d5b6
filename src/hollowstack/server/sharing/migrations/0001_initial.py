import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('documents', '0009_identifier_patterns'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Share',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('right', models.CharField(choices=[('look', 'Look'), ('take', 'Take')], max_length=10)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('whom', models.CharField(blank=True, max_length=200)),
                ('password', models.CharField(blank=True, max_length=200)),
                ('ends_at', models.DateTimeField(null=True)),
                ('withdrawn_at', models.DateTimeField(null=True)),
                ('wrong', models.PositiveIntegerField(default=0)),
                ('wrong_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('document', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='shares', to='documents.document')),
            ],
        ),
        migrations.CreateModel(
            name='Use',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('what', models.CharField(choices=[('opened', 'Opened'), ('taken', 'Taken')], max_length=10)),
                ('share', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='uses', to='sharing.share')),
            ],
            options={
                'ordering': ['-pk'],
            },
        ),
    ]
