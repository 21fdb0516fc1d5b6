
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0007_bin'),
    ]

    operations = [
        migrations.AddField(
            model_name='upload',
            name='at_once',
            field=models.BooleanField(default=False),
        ),
    ]
