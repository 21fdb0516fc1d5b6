import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('results', '0002_faults'),
        ('stacks', '0017_closed'),
    ]

    operations = [
        migrations.CreateModel(
            name='CoverSheet',
            fields=[
                ('page', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='cover_sheet', serialize=False, to='stacks.page')),
                ('filed', models.PositiveIntegerField(default=0)),
                ('left', models.PositiveIntegerField(default=0)),
                ('done', models.BooleanField(default=False)),
            ],
        ),
        migrations.AddField(
            model_name='page',
            name='under_cover',
            field=models.BooleanField(default=False),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(condition=models.Q(('aside', 'cover sheet'), ('removed', False)), fields=['stack'], name='pages_that_are_covers'),
        ),
        migrations.AddField(
            model_name='coversheet',
            name='of',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='cover_sheets', to='stacks.stack'),
        ),
    ]
