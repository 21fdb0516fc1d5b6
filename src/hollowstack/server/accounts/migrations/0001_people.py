"""People's roles, invitations, tokens, and the record."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def forward(apps, schema_editor):
    """Whoever could sign in before may do now what they could do then; the first of them looks after the others."""
    users = apps.get_model("auth", "User").objects.order_by("pk")
    for place, user in enumerate(users):
        role = "administrator" if user.is_superuser or place == 0 else "technician"
        apps.get_model("accounts", "Person").objects.create(user=user, role=role)


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Entry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
                ('who', models.CharField(blank=True, max_length=150)),
                ('what', models.CharField(max_length=40)),
                ('about', models.CharField(blank=True, max_length=300)),
                ('before', models.CharField(blank=True, max_length=64)),
                ('digest', models.CharField(max_length=64)),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='Invitation',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('digest', models.CharField(max_length=64, unique=True)),
                ('role', models.CharField(choices=[('reader', 'reader'), ('inspector', 'inspector'), ('technician', 'technician'), ('administrator', 'administrator')], max_length=20)),
                ('ends_at', models.DateTimeField()),
                ('used_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='Person',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('role', models.CharField(choices=[('reader', 'reader'), ('inspector', 'inspector'), ('technician', 'technician'), ('administrator', 'administrator')], max_length=20)),
                ('sessions', models.PositiveIntegerField(default=0)),
                ('user', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='person', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='Token',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('digest', models.CharField(max_length=64, unique=True)),
                ('name', models.CharField(max_length=80)),
                ('role', models.CharField(choices=[('reader', 'reader'), ('inspector', 'inspector'), ('technician', 'technician'), ('administrator', 'administrator')], max_length=20)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('ends_at', models.DateTimeField()),
                ('used_at', models.DateTimeField(null=True)),
                ('withdrawn_at', models.DateTimeField(null=True)),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='tokens', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.RunPython(forward, migrations.RunPython.noop),
    ]
