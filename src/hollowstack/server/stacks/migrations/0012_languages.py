from django.db import migrations, models


def leave_to_treatment(apps, schema_editor):
    """Until now every stack had a language of its own, English where nobody had said otherwise; treatments say that now."""
    apps.get_model("stacks", "Stack").objects.filter(language="eng").update(language="")


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0011_words'),
    ]

    operations = [
        migrations.AddField(
            model_name='page',
            name='language',
            field=models.CharField(blank=True, max_length=80),
        ),
        migrations.AddField(
            model_name='stack',
            name='read_later',
            field=models.BooleanField(default=False),
        ),
        migrations.AlterField(
            model_name='stack',
            name='language',
            field=models.CharField(blank=True, max_length=80),
        ),
        migrations.RunPython(leave_to_treatment, migrations.RunPython.noop),
    ]
