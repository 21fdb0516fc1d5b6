from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('results', '0002_faults'),
        ('stacks', '0015_stack_collection'),
    ]

    operations = [
        migrations.AddIndex(
            model_name='page',
            index=models.Index(condition=models.Q(('aside', ''), ('removed', False)), fields=['id', 'stack', 'source'], name='pages_to_be_found'),
        ),
    ]
