import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('documents', '0008_copies'),
        ('stacks', '0014_signed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Indexed',
            fields=[
                ('stack', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='things_of', serialize=False, to='stacks.stack')),
                ('change', models.PositiveBigIntegerField()),
            ],
        ),
        migrations.CreateModel(
            name='Thing',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('stack', 'Stack'), ('document', 'Document'), ('planned', 'Planned')], max_length=10)),
                ('title', models.CharField(max_length=200)),
                ('said', models.JSONField(default=list)),
                ('first_year', models.IntegerField(null=True)),
                ('last_year', models.IntegerField(null=True)),
                ('document', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='documents.document')),
                ('page', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='stacks.page')),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='things', to='stacks.stack')),
            ],
        ),
        # Rows by the thing's id; words as they are compared (core.find).
        migrations.RunSQL(
            """CREATE VIRTUAL TABLE search_things USING fts5(
                title, said, tokenize="unicode61 remove_diacritics 0 categories 'L* N* Co M*'"
            )""",
            "DROP TABLE search_things",
        ),
    ]
