
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0008_tus_creation'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='change',
            name='nonce',
            field=models.CharField(max_length=40, null=True),
        ),
        migrations.AddConstraint(
            model_name='change',
            constraint=models.UniqueConstraint(fields=('stack', 'nonce'), name='one_change_a_nonce'),
        ),
    ]
