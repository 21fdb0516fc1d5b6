import django.db.models.deletion
from django.db import migrations, models


def to_rows(apps, schema_editor):
    Document, DocumentPage = apps.get_model("documents", "Document"), apps.get_model("documents", "DocumentPage")
    for document in Document.objects.order_by("pk").iterator(chunk_size=50):
        DocumentPage.objects.bulk_create(
            DocumentPage(
                document=document,
                number=number,
                rendered=page["rendered"],
                reading=page["reading"] or "",
                x_ppi=page["ppi"][0],
                y_ppi=page["ppi"][1],
            )
            for number, page in enumerate(document.listed, 1)
        )
        Document.objects.filter(pk=document.pk).update(page_count=len(document.listed))


def to_list(apps, schema_editor):
    Document = apps.get_model("documents", "Document")
    for document in Document.objects.order_by("pk").iterator(chunk_size=50):
        document.listed = [
            {"rendered": page.rendered, "reading": page.reading or None, "ppi": [page.x_ppi, page.y_ppi]}
            for page in document.pages.order_by("number")
        ]
        document.save(update_fields=["listed"])


class Migration(migrations.Migration):
    dependencies = [("documents", "0002_bin")]

    operations = [
        migrations.RenameField("document", "pages", "listed"),
        migrations.AlterField("document", "listed", models.JSONField(default=list)),
        migrations.AddField("document", "page_count", models.PositiveIntegerField(default=0)),
        migrations.CreateModel(
            name="DocumentPage",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.PositiveIntegerField()),
                ("rendered", models.CharField(db_index=True, max_length=64)),
                ("reading", models.CharField(blank=True, db_index=True, max_length=64)),
                ("x_ppi", models.FloatField()),
                ("y_ppi", models.FloatField()),
                (
                    "document",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="pages", to="documents.document"
                    ),
                ),
            ],
            options={
                "ordering": ["number"],
                "constraints": [models.UniqueConstraint(fields=("document", "number"), name="one_page_a_number")],
            },
        ),
        migrations.RunPython(to_rows, to_list),
        migrations.RemoveField("document", "listed"),
    ]
