from django.db import migrations, models


_NOW = (("{number}", "{counter}"), ("{year}", "{written}"))


def rename_placeholders(apps, schema_editor):
    """Names of stacks are made by the same rule as names of files, and what is filled in is called the same."""
    for slip in apps.get_model("capture", "OrderSlip").objects.all():
        for before, after in _NOW:
            slip.naming = slip.naming.replace(before, after)
        slip.save(update_fields=["naming"])


class Migration(migrations.Migration):

    dependencies = [
        ('capture', '0014_quality'),
    ]

    operations = [
        migrations.AddField(
            model_name='orderslip',
            name='send_to',
            field=models.JSONField(default=list),
        ),
        migrations.AddField(
            model_name='run',
            name='send_to',
            field=models.JSONField(default=list),
        ),
        migrations.AlterField(
            model_name='orderslip',
            name='naming',
            field=models.CharField(max_length=400),
        ),
        migrations.RunPython(rename_placeholders, migrations.RunPython.noop),
    ]
