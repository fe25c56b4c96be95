import accounts.models
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def mute_what_is_new(apps, schema_editor):
    for found in apps.get_model("accounts", "Preferences").objects.all():
        found.muted = [*found.muted, "clip_ready", "joined"]
        found.save(update_fields=["muted"])


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0002_muted'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField('preferences', 'hidden', models.JSONField(default=list, help_text='the notices in the product that are not wanted')),
        migrations.AlterField('preferences', 'muted', models.JSONField(default=accounts.models.usually_muted, help_text='the notices by mail that are not wanted')),
        migrations.RunPython(mute_what_is_new, migrations.RunPython.noop),
        migrations.CreateModel(
            name='Notice',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=20)),
                ('text', models.CharField(max_length=300)),
                ('path', models.CharField(help_text='the page where it is seen', max_length=200)),
                ('read', models.BooleanField(default=False)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='notices', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-pk'],
                'indexes': [models.Index(fields=['user', 'read'], name='unread_notices')],
            },
        ),
    ]
