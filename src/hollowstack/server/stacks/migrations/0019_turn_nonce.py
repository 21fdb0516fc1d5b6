from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0018_cover_sheets'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='change',
            name='turn_nonce',
            field=models.CharField(max_length=40, null=True),
        ),
        migrations.AddConstraint(
            model_name='change',
            constraint=models.UniqueConstraint(fields=('stack', 'turn_nonce'), name='one_turn_a_nonce'),
        ),
    ]
