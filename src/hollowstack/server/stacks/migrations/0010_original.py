
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0009_change_nonce'),
    ]

    operations = [
        migrations.AddField(
            model_name='stack',
            name='original',
            field=models.JSONField(default=dict),
        ),
    ]
