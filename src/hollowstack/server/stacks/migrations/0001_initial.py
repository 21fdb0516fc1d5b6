
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('engine', '0001_initial'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Master',
            fields=[
                ('sha256', models.CharField(max_length=64, primary_key=True, serialize=False)),
                ('bytes', models.PositiveBigIntegerField()),
                ('added_at', models.DateTimeField(auto_now_add=True)),
            ],
        ),
        migrations.CreateModel(
            name='Load',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('base', models.PositiveBigIntegerField()),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('taken_back', models.BooleanField(default=False)),
                ('record', models.JSONField(default=dict)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='Stack',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=200)),
                ('created_at', models.DateTimeField(auto_now_add=True)),
                ('treatment', models.JSONField()),
                ('language', models.CharField(default='eng', max_length=80)),
                ('change', models.PositiveBigIntegerField(default=0)),
                ('opened_at', models.DateTimeField(null=True)),
                ('order_change', models.PositiveBigIntegerField(default=0)),
                ('arranged', models.PositiveBigIntegerField(default=0)),
                ('open_page', models.PositiveBigIntegerField(null=True)),
                ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='Source',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('index', models.PositiveIntegerField()),
                ('part', models.PositiveIntegerField(default=0)),
                ('name', models.CharField(max_length=255)),
                ('added_at', models.DateTimeField(auto_now_add=True)),
                ('load', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sources', to='stacks.load')),
                ('master', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to='stacks.master')),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sources', to='stacks.stack')),
            ],
        ),
        migrations.CreateModel(
            name='Page',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('frame', models.PositiveIntegerField(default=0)),
                ('position', models.PositiveBigIntegerField()),
                ('override', models.JSONField(default=dict)),
                ('breaks', models.BooleanField(default=False)),
                ('rescan', models.CharField(blank=True, max_length=200)),
                ('removed', models.BooleanField(default=False)),
                ('plan', models.JSONField(null=True)),
                ('aside', models.CharField(blank=True, max_length=20)),
                ('change', models.PositiveBigIntegerField(default=0)),
                ('edited', models.PositiveBigIntegerField(default=0)),
                ('measured', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='pages_measured', to='engine.result')),
                ('opened', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='pages_opened', to='engine.result')),
                ('reading', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='pages_read', to='engine.result')),
                ('rendered', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='pages_rendered', to='engine.result')),
                ('source', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pages', to='stacks.source')),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pages', to='stacks.stack')),
            ],
            options={
                'ordering': ['position', 'pk'],
            },
        ),
        migrations.AddField(
            model_name='load',
            name='stack',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='loads', to='stacks.stack'),
        ),
        migrations.CreateModel(
            name='Change',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('what', models.CharField(max_length=200)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('state', models.CharField(choices=[('done', 'Done'), ('undone', 'Undone'), ('dropped', 'Dropped')], default='done', max_length=10)),
                ('before', models.JSONField(default=dict)),
                ('after', models.JSONField(default=dict)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('load', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='changes', to='stacks.load')),
                ('stack', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='changes', to='stacks.stack')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.AddConstraint(
            model_name='source',
            constraint=models.UniqueConstraint(fields=('load', 'index', 'part'), name='one_file_a_place'),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(fields=['stack', 'change'], name='stacks_page_stack_i_8d34dd_idx'),
        ),
        migrations.AddIndex(
            model_name='page',
            index=models.Index(fields=['stack', 'position'], name='stacks_page_stack_i_fe8fab_idx'),
        ),
    ]
