
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('stacks', '0001_initial'),
    ]

    operations = [
        migrations.AddField(
            model_name='source',
            name='modified_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.CreateModel(
            name='Upload',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('index', models.PositiveIntegerField()),
                ('name', models.CharField(max_length=255)),
                ('bytes', models.PositiveBigIntegerField()),
                ('modified_at', models.DateTimeField(null=True)),
                ('announced_at', models.DateTimeField(auto_now_add=True)),
                ('load', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='uploads', to='stacks.load')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('load', 'index'), name='one_upload_a_place')],
            },
        ),
    ]
