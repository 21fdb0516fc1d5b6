import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('collections', '0001_initial'),
        ('stacks', '0014_signed'),
    ]

    operations = [
        migrations.AddField(
            model_name='stack',
            name='collection',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='stacks', to='collections.collection'),
        ),
    ]
