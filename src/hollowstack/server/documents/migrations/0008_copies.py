
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('documents', '0007_orders'),
    ]

    operations = [
        migrations.AddField(
            model_name='document',
            name='kind',
            field=models.CharField(choices=[('archive', 'Archive'), ('access', 'Access'), ('export', 'Export')], default='archive', max_length=10),
        ),
        migrations.AddField(
            model_name='document',
            name='passwords',
            field=models.TextField(blank=True),
        ),
        migrations.AddField(
            model_name='documentpage',
            name='label',
            field=models.CharField(blank=True, max_length=80),
        ),
        migrations.AddField(
            model_name='documentpage',
            name='marks',
            field=models.JSONField(default=list),
        ),
    ]
