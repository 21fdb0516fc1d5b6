
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('stacks', '0011_words'),
    ]

    operations = [
        migrations.CreateModel(
            name='PageWords',
            fields=[
                ('page', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='text', serialize=False, to='stacks.page')),
                ('words', models.PositiveIntegerField()),
                ('characters', models.PositiveIntegerField()),
                ('errors', models.FloatField()),
                ('spread', models.FloatField()),
                ('counts', models.JSONField(default=dict)),
                ('lost', models.JSONField(default=list)),
            ],
        ),
        migrations.CreateModel(
            name='Doubt',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('text', models.CharField(max_length=400)),
                ('plain', models.CharField(max_length=400)),
                ('doubt', models.FloatField()),
                ('box', models.JSONField()),
                ('alternatives', models.JSONField(default=list)),
                ('known', models.BooleanField(default=False)),
                ('page', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='doubts', to='stacks.page')),
                ('stack', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='stacks.stack')),
            ],
            options={
                'indexes': [models.Index(condition=models.Q(('known', False)), fields=['stack', '-doubt', 'page', 'place'], name='doubts_worst_first'), models.Index(fields=['stack', 'plain'], name='doubts_by_word')],
            },
        ),
        migrations.CreateModel(
            name='StackWord',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('word', models.CharField(max_length=400)),
                ('written', models.CharField(max_length=400)),
                ('count', models.PositiveIntegerField(default=0)),
                ('listed', models.BooleanField(default=False)),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='stacks.stack')),
            ],
            options={
                'indexes': [models.Index(condition=models.Q(('listed', True)), fields=['stack', 'word'], name='words_listed')],
                'constraints': [models.UniqueConstraint(fields=('stack', 'word'), name='one_row_a_word')],
            },
        ),
        # Rows by the page's id: its words, and what else the doubtful ones may be.
        migrations.RunSQL(
            """CREATE VIRTUAL TABLE reading_search USING fts5(words, others, tokenize="unicode61 remove_diacritics 2")""",
            "DROP TABLE reading_search",
        ),
    ]
