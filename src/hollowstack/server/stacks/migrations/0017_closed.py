from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0016_pages_to_be_found'),
    ]

    operations = [
        migrations.AddField(
            model_name='stack',
            name='closed_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name='stack',
            name='closed_by',
            field=models.CharField(blank=True, max_length=150),
        ),
    ]
