import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
    ]

    operations = [
        migrations.CreateModel(
            name='Collection',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=200)),
                ('level', models.CharField(blank=True, choices=[('', 'None'), ('fonds', 'Fonds'), ('series', 'Series'), ('box', 'Box'), ('folder', 'Folder')], max_length=10)),
                ('identifier', models.CharField(blank=True, max_length=80)),
                ('path', models.CharField(blank=True, db_index=True, max_length=200)),
                ('parent', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='parts', to='collections.collection')),
            ],
        ),
    ]
