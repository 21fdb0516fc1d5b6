"""Fields take the field's own terms: skew for tilt, page group for fellows. What was planned before is planned anew."""

from django.db import migrations


def _renamed(value):
    if isinstance(value, dict):
        return {"skew" if key == "tilt" else key: _renamed(held) for key, held in value.items()}
    return [_renamed(held) for held in value] if isinstance(value, list) else value


def _without_plan(changed):
    """Plans kept with changes are of the old form: they are made anew when a change is undone."""
    pages = changed.get("pages")
    if isinstance(pages, dict):
        changed = {**changed, "pages": {key: {k: v for k, v in held.items() if k != "plan"} for key, held in pages.items()}}
    return changed


def forward(apps, schema_editor):
    page = apps.get_model("stacks", "Page")
    for one in page.objects.exclude(override={}).iterator():
        page.objects.filter(pk=one.pk).update(override=_renamed(one.override))
    page.objects.update(plan=None, measured=None, rendered=None, reading=None)
    change = apps.get_model("stacks", "Change")
    for one in change.objects.iterator():
        change.objects.filter(pk=one.pk).update(
            before=_without_plan(_renamed(one.before)), after=_without_plan(_renamed(one.after))
        )


class Migration(migrations.Migration):
    dependencies = [
        ("stacks", "0003_bench"),
        ("engine", "0001_initial"),
    ]

    operations = [
        migrations.RenameField(model_name="stack", old_name="fellows", new_name="page_group"),
        migrations.RunPython(forward, migrations.RunPython.noop),
    ]
