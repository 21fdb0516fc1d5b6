import zlib

from django.db import migrations, models

from hollowstack.core.find import tokens


def taken_over(apps, schema_editor):
    """Pages can be found as before; they are gathered anew one by one, with words that were parted between lines."""
    Page = apps.get_model("stacks", "Page")
    kept = apps.get_model("reading", "IndexedText")
    names = dict(Page.objects.exclude(indexed="").values_list("pk", "source__name"))
    with schema_editor.connection.cursor() as cursor:
        cursor.execute("SELECT rowid, words, others FROM reading_search_before")
        while rows := cursor.fetchmany(500):
            given = [
                [page, " ".join(tokens(words)), "", " ".join(tokens(others)), " ".join(tokens(names.get(page, "")))]
                for page, words, others in rows
            ]
            with schema_editor.connection.cursor() as writing:
                writing.executemany(
                    "INSERT INTO reading_search (rowid, words, parts, others, name) VALUES (%s, %s, %s, %s, %s)", given
                )
            kept.objects.bulk_create(kept(page_id=page, packed=zlib.compress("\n".join(texts).encode())) for page, *texts in given)
        cursor.execute("DROP TABLE reading_search_before")
    Page.objects.exclude(indexed="").update(indexed="")


class Migration(migrations.Migration):

    dependencies = [
        ('reading', '0001_initial'),
        ('stacks', '0014_signed'),
    ]

    operations = [
        migrations.CreateModel(
            name='IndexedText',
            fields=[
                ('page_id', models.BigIntegerField(primary_key=True, serialize=False)),
                ('packed', models.BinaryField()),
            ],
        ),
        migrations.RunSQL(
            "ALTER TABLE reading_search RENAME TO reading_search_before",
            # The way back: all pages are gathered anew into the index as it was.
            [
                """CREATE VIRTUAL TABLE reading_search USING fts5(words, others, tokenize="unicode61 remove_diacritics 2")""",
                "UPDATE stacks_page SET indexed = ''",
            ],
        ),
        # Words as they are compared (core.find), so that nothing is left to fold here.
        migrations.RunSQL(
            """CREATE VIRTUAL TABLE reading_search USING fts5(
                words, parts, others, name, content='',
                tokenize="unicode61 remove_diacritics 0 categories 'L* N* Co M*'"
            )""",
            "DROP TABLE reading_search",
        ),
        migrations.RunPython(taken_over, migrations.RunPython.noop),
    ]
