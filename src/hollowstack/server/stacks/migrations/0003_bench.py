
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0002_uploads'),
    ]

    operations = [
        migrations.AddField(
            model_name='stack',
            name='fellows',
            field=models.JSONField(default=dict),
        ),
    ]
