
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('documents', '0003_pages_as_rows'),
    ]

    operations = [
        migrations.AddField(
            model_name='document',
            name='original',
            field=models.JSONField(default=dict),
        ),
    ]
