from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0013_verdicts'),
    ]

    operations = [
        migrations.AddField(
            model_name='stack',
            name='signed_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name='stack',
            name='signed_by',
            field=models.CharField(blank=True, max_length=150),
        ),
    ]
