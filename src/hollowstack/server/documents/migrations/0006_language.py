from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('documents', '0005_words'),
    ]

    operations = [
        migrations.AddField(
            model_name='document',
            name='language',
            field=models.CharField(blank=True, max_length=80),
        ),
    ]
