from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('reviews', '0010_one_club'),
    ]

    operations = [
        migrations.AddField('answer', 'reply', models.CharField(blank=True, default='', help_text='what the coach answered to it', max_length=600), preserve_default=False),
    ]
