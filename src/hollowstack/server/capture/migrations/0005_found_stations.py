from itertools import count

from django.db import migrations, models


def tell_apart(apps, schema_editor):
    """No two stations go by one name: the later ones are numbered."""
    taken = set()
    for station in apps.get_model("capture", "Station").objects.order_by("pk"):
        numbered = (f"{station.name[:76]} {number}" for number in count(2))
        if station.name in taken:
            station.name = next(one for one in numbered if one not in taken)
            station.save(update_fields=["name"])
        taken.add(station.name)


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0004_claims'),
    ]

    operations = [
        migrations.CreateModel(
            name='FoundStation',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('service', models.CharField(max_length=255, unique=True)),
                ('name', models.CharField(max_length=80)),
                ('place', models.CharField(blank=True, max_length=80)),
                ('uuid', models.CharField(blank=True, max_length=80)),
                ('address', models.CharField(max_length=200)),
                ('capabilities', models.JSONField(null=True)),
                ('problem', models.CharField(blank=True, max_length=300)),
            ],
            options={'ordering': ['name', 'service']},
        ),
        migrations.AddField(
            model_name='station',
            name='place',
            field=models.CharField(blank=True, max_length=80),
        ),
        migrations.AddField(
            model_name='station',
            name='uuid',
            field=models.CharField(blank=True, max_length=80),
        ),
        migrations.RunPython(tell_apart, migrations.RunPython.noop),
        migrations.AlterField(
            model_name='station',
            name='name',
            field=models.CharField(max_length=80, unique=True),
        ),
    ]
